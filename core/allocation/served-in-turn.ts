import { Cancelled, type Watch } from './best-fit'
import { type Instance, noCity } from './instance'
import { distances, groupsOf, type OptionTable } from './option-table'

/**
 * Serves people one after the other: each gets the first open choice of the list, else the nearest open city with room (equal
 * distances by the city's id), else no seat. People in need sit on accessible seats only; others take ordinary seats while there
 * are any. Those who keep the city they were told are served before everyone else.
 *
 * @param order places of the people, the first served first.
 * @param keeping whether the told cities count.
 * @param seats what is left while people are served.
 * @throws Cancelled when `watch` says so.
 */
export function serveInTurn(
  instance: Instance,
  table: OptionTable,
  order: Uint32Array,
  keeping: boolean,
  seats: Seats,
  watch: Watch = () => true,
): Uint16Array {
  const byDistance = nearestOfGroups(instance, table)
  const cityOf = new Uint16Array(table.people).fill(noCity)
  const told = keeping ? instance.told : undefined
  if (told) {
    for (const person of order) if (seats.open(told[person]!, person)) cityOf[person] = seats.take(told[person]!, person)
  }
  for (let i = 0; i < order.length; i += 1) {
    if (i % 65_536 === 0 && !watch(i, order.length)) throw new Cancelled('stopped before the end')
    const person = order[i]!
    if (cityOf[person] !== noCity) continue
    cityOf[person] = seats.take(firstOpenChoice(table, seats, person) ?? nearestOpen(table, seats, byDistance, person), person)
  }
  watch(order.length, order.length)
  return cityOf
}

/** Seats that are left while people are served; none is ever given back. */
export interface Seats {
  open: (city: number, person: number) => boolean
  /** Gives somebody a seat in a city, which must be open; none for no city. */
  take: (city: number, person: number) => number
  /** Of each row of people, for whom the same cities are full: how many of the nearest cities are known to be. */
  skipped: Uint16Array
  rowOf: (person: number) => number
}

/** Seats of cities in which everybody sits once. */
export class CitySeats implements Seats {
  private readonly left: Int32Array
  private readonly accessibleLeft: Int32Array
  readonly skipped: Uint16Array

  constructor(private readonly table: OptionTable) {
    this.left = table.capacity.slice()
    this.accessibleLeft = table.accessible.slice()
    this.skipped = new Uint16Array(2 * table.groups)
  }

  rowOf(person: number): number {
    return 2 * this.table.group[person]! + this.table.needs[person]!
  }

  open(city: number, person: number): boolean {
    return city !== noCity && this.left[city]! > 0 && (this.table.needs[person] === 0 || this.accessibleLeft[city]! > 0)
  }

  take(city: number, person: number): number {
    if (city === noCity) return city
    this.left[city]! -= 1
    if (this.table.needs[person] === 1) this.accessibleLeft[city]! -= 1
    return city
  }
}

function firstOpenChoice(table: OptionTable, seats: Seats, person: number): number | undefined {
  for (let slot = person * table.slots; slot < (person + 1) * table.slots; slot += 1) {
    const city = table.city[slot]!
    if (city === noCity) return undefined
    if (seats.open(city, person)) return city
  }
  return undefined
}

function nearestOpen(table: OptionTable, seats: Seats, byDistance: Uint16Array[], person: number): number {
  const cities = byDistance[table.group[person]!]!
  const row = seats.rowOf(person)
  let at = seats.skipped[row]!
  while (at < cities.length && !seats.open(cities[at]!, person)) at += 1
  seats.skipped[row] = at
  return at < cities.length ? cities[at]! : noCity
}

/** The cities open to each group, the nearest first. */
function nearestOfGroups(instance: Instance, table: OptionTable): Uint16Array[] {
  const { cities } = table
  const km = distances(instance.cities)
  return groupsOf(instance).rows.map(({ home }, group) =>
    Uint16Array.from(instance.cities.keys()).filter(k => table.fallback[group * cities + k]! < table.unseated).sort((a, b) =>
      km[home * cities + a]! - km[home * cities + b]! || a - b
    )
  )
}
