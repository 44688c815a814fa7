import { allocate } from '../allocation/allocate'
import { InstanceBuilder, noCity, type Instance } from '../allocation/instance'
import { setApart, sittingsOf, withUnusedOpened, type SeatRow } from '../allocation/kept'
import { choiceOf } from '../allocation/outcome'
import type { AllocationPolicy } from '../allocation/policy'
import { RestrictedClasses } from '../allocation/restrictions'
import type { Answers } from '../application/answers'
import { mostChoices, placeableOf } from '../application/sheet'
import type { Notice } from '../notice/schema'
import { SittingKinds } from '../seating/kinds'
import { venueSeats } from '../seating/seats'

/** Where invented people would sit. */
export interface Places {
  cities: { id: string, title: string, first: number, seats: number, placed: number }[]
  /** Placed in their first city, another of theirs, one that they did not name, none. */
  choices: { first: number, other: number, offList: number, none: number }
}

/**
 * Places invented people as a run of the notice's policy would, each of whom stands for `scale` real ones; cities are counted in real
 * people.
 */
export function places(notice: Notice, people: readonly Answers[], scale: number): Places {
  const free = venueSeats(notice)
  const { instance, cityOf } = placed(notice, people, free.map(row => scaled(row, scale)))
  const cities = notice.cities.map(({ id, title }) => ({
    id,
    title,
    first: 0,
    seats: free.reduce((n, row) => row.city === id ? n + row.seats : n, 0),
    placed: 0,
  }))
  const byId = new Map(cities.map(city => [city.id, city]))
  const choices = { first: 0, other: 0, offList: 0, none: 0 }
  cityOf.forEach((k, person) => {
    const at = (place: number) => byId.get(instance.cities[place]?.id ?? '')
    const wanted = at(instance.choices[person * instance.slots] ?? noCity)
    if (wanted) wanted.first += scale
    const city = k === noCity ? undefined : at(k)
    if (city) city.placed += scale
    const choice = choiceOf(instance, person, k)
    choices[!city ? 'none' : choice === null ? 'offList' : choice === 1 ? 'first' : 'other'] += 1
  })
  return { cities: cities.map(city => ({ ...city, first: Math.round(city.first), placed: Math.round(city.placed) })), choices }
}

/** Seats as so many invented people see them. Of few step-free ones none may get lost. */
function scaled({ seats, accessibleSeats, ...row }: SeatRow, scale: number): SeatRow {
  const own = Math.floor(seats / scale)
  return { ...row, seats: own, accessibleSeats: Math.min(own, Math.ceil(accessibleSeats / scale)) }
}

function placed(notice: Notice, people: readonly Answers[], free: readonly SeatRow[]): { instance: Instance, cityOf: Uint16Array } {
  const { kept, restrictions, ...costs } = notice.allocation
  const policy: AllocationPolicy = { kind: 'best-fit', seed: 0, ...costs, staying: 0 }
  const kinds = SittingKinds.matterIn(notice) ? new SittingKinds(notice) : null
  const classes = new RestrictedClasses(restrictions)
  const rows = setApart(free, kept)
  const sum = (id: string, of: 'seats' | 'accessibleSeats') => rows.reduce((n, row) => row.city === id ? n + row[of] : n, 0)
  const builder = new InstanceBuilder(
    notice.cities.map(({ id, lat, lon }) => ({ id, lat, lon, capacity: sum(id, 'seats'), accessibleCapacity: sum(id, 'accessibleSeats') })),
    mostChoices(notice),
    'row',
  )
  const at = (id: string) => builder.cityAt(id) ?? 0
  people.forEach((answers, turn) => {
    const one = placeableOf(notice, answers)
    if (!one) return
    builder.add({
      id: String(turn).padStart(8, '0'),
      home: at(one.home),
      choices: one.choices.map(at),
      needs: one.needsAccessible,
      turn,
      class: classes.classOf(one.held, one.home),
      ...(kinds && { kind: kinds.kindOf(answers, one.kept) }),
    })
  })
  const instance = builder.build(classes.bars(builder.cities), kinds ? sittingsOf(notice, kinds.all, rows, kept.length) : undefined)
  if (instance.ids.length === 0) return { instance, cityOf: new Uint16Array(0) }
  const first = allocate(instance, policy)
  const again = withUnusedOpened(instance, first, rows, kept)
  return again ? { instance: again.instance, cityOf: allocate(again.instance, policy).cityOf } : { instance, cityOf: first.cityOf }
}
