import type { Prices } from './certificate'
import { type AllocationCity, type Bars, InstanceBuilder, noCity } from './instance'
import { Stakes, type CityLine, type Line } from './lines'
import { closed, costAt, distances, optionTable } from './option-table'
import { choiceCost, type AllocationPolicy } from './policy'

/** One person of a run as it was kept. `place` is the number in the order of being served, from 1; null when all were served together. */
export interface PlacedPerson {
  id: string
  home: string
  choices: string[]
  needs: boolean
  city: string | null
  place: number | null
  /** The city told before this run, if any. */
  told?: string | null
  class?: number
}

/** What a run knows of itself when somebody asks. Cities as in the run, with the seats it counted on. */
export interface RunFacts {
  cities: AllocationCity[]
  policy: AllocationPolicy
  prices: Prices
  lines: CityLine[]
  placed: Map<string, { all: number, inNeed: number }>
  bars?: Omit<Bars, 'classOf'>
}

/** Why somebody is where they are. */
export interface Why {
  city: string | null
  choice: number | null
  /** From home to the city, in km; null without a city. */
  km: number | null
  cost: number
  needs: boolean
  policy: AllocationPolicy['kind']
  /** The choices that come before the city, in the order of the list, and why each could not be. */
  before: PassedOver[]
  /**
   * The city told before, when the run moves the person away from it, and why it could not be kept; its place on the list is 0 when it is
   * not on it.
   */
  movedFrom: PassedOver | null
  /** Cities off the list that had seats left and would have come before what the person got, the nearest first; at most three. */
  hadTheyNamed: { city: string, km: number }[]
}

export interface PassedOver {
  city: string
  choice: number
  seats: number
  /** Seats that count here: all, or the accessible ones of somebody in need. */
  kind: 'all' | 'accessible'
  why: { by: 'closed' } | { by: 'stake', own: number, bar: number, seated: number, ahead: number, alongside: number } | {
    by: 'turn',
    own: number,
    closedAt: number,
    waiting: number,
  } | { by: 'room' }
}

/**
 * Explains one placement from what the run kept: the choices that were full, the line for each by the policy's own measure, and
 * what would have brought another outcome.
 *
 * @throws RangeError when the person names a city that the run does not know.
 */
export function whyHere(person: PlacedPerson, run: RunFacts): Why {
  const { instance, at } = alone(person, run)
  const table = optionTable(instance, run.policy)
  const km = distances(instance.cities)
  const home = instance.home[0]!
  const here = person.city === null ? noCity : at(person.city)
  const cost = costAt(table, 0, here)
  const stakes = new Stakes(table, run.prices)
  const choice = person.city === null ? -1 : person.choices.indexOf(person.city)
  const passedOver = (city: string, place: number): PassedOver => {
    const { capacity, accessibleCapacity } = instance.cities[at(city)]!
    const line = run.lines.find(l => l.city === city)
    const isClosed = table.fallback[at(city)] === closed
    const why = isClosed
      ? { by: 'closed' as const }
      : !line
      ? { by: 'room' as const }
      : lineWhy(person.needs ? line.inNeed : line.ordinary, stakes.of(0, at(city)), person.place ?? 0)
    return { city, choice: place, seats: person.needs ? accessibleCapacity : capacity, kind: person.needs ? 'accessible' : 'all', why }
  }
  const before = (choice < 0 ? person.choices : person.choices.slice(0, choice)).map((city, i) => passedOver(city, i + 1))
  const movedFrom = person.told && person.told !== person.city ? passedOver(person.told, person.choices.indexOf(person.told) + 1) : null
  return {
    city: person.city,
    choice: choice < 0 ? null : choice + 1,
    km: here === noCity ? null : km[home * instance.cities.length + here]!,
    cost,
    needs: person.needs,
    policy: run.policy.kind,
    before,
    movedFrom,
    hadTheyNamed: person.choices.length < 5 && choice < 0
      ? openCities(person, run, cost, city => table.fallback[at(city)] === closed ? null : km[home * instance.cities.length + at(city)]!)
      : [],
  }
}

/** An instance of one person, so that costs and stakes are worked out by the same code as in the run. */
function alone(person: PlacedPerson, run: RunFacts) {
  const builder = new InstanceBuilder(run.cities, Math.max(1, person.choices.length), 'row')
  const at = (id: string): number => {
    const place = builder.cityAt(id)
    if (place === undefined) throw new RangeError(`${person.id}: city "${id}" is not among the cities of the run`)
    return place
  }
  builder.add({
    id: person.id,
    home: at(person.home),
    choices: person.choices.map(at),
    needs: person.needs,
    turn: 0,
    class: person.class,
    ...(person.told && { told: at(person.told) }),
  })
  return { instance: builder.build(run.bars), at }
}

function lineWhy(line: Line, own: number, place: number): PassedOver['why'] {
  if (line.by === 'turn') {
    return line.closedAt === null
      ? { by: 'room' }
      : { by: 'turn', own: place, closedAt: line.closedAt, waiting: line.waiting }
  }
  const count = (kind: 'seated' | 'waiting', keep: (stake: number) => boolean) =>
    line.steps.reduce((n, step) => n + (keep(step.stake) ? step[kind] : 0), 0)
  return {
    by: 'stake',
    own,
    bar: line.bar,
    seated: count('seated', () => true),
    ahead: count('waiting', stake => stake > own),
    alongside: Math.max(0, count('waiting', stake => stake === own) - 1),
  }
}

/** Cities off the list where the person would sit, had they named one more: open ones with seats left that cost less as a choice. */
function openCities(person: PlacedPerson, run: RunFacts, cost: number, km: (city: string) => number | null): Why['hadTheyNamed'] {
  if (choiceCost(run.policy, person.choices.length) >= cost) return []
  return run.cities.filter((city) => {
    const placed = run.placed.get(city.id) ?? { all: 0, inNeed: 0 }
    return city.id !== person.city && !person.choices.includes(city.id) && placed.all < city.capacity
      && (!person.needs || placed.inNeed < city.accessibleCapacity)
  }).flatMap((city) => {
    const distance = km(city.id)
    return distance === null ? [] : [{ city: city.id, km: distance }]
  }).sort((a, b) => a.km - b.km).slice(0, 3)
}
