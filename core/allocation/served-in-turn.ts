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
 * @throws Cancelled when `watch` says so.
 */
export function serveInTurn(instance: Instance, table: OptionTable, order: Uint32Array, keeping: boolean, watch: Watch = () => true): Uint16Array {
  const seats = new Seats(table)
  const byDistance = nearestOfGroups(instance, table)
  const cityOf = new Uint16Array(table.people).fill(noCity)
  const told = keeping ? instance.told : undefined
  if (told) {
    for (const person of order) if (seats.open(told[person]!, table.needs[person]!)) cityOf[person] = seats.take(told[person]!, table.needs[person]!)
  }
  for (let i = 0; i < order.length; i += 1) {
    if (i % 65_536 === 0 && !watch(i, order.length)) throw new Cancelled('stopped before the end')
    const person = order[i]!
    if (cityOf[person] !== noCity) continue
    cityOf[person] = seats.take(firstOpenChoice(table, seats, person) ?? nearestOpen(table, seats, byDistance, person), table.needs[person]!)
  }
  watch(order.length, order.length)
  return cityOf
}

class Seats {
  private readonly left: Int32Array
  private readonly accessibleLeft: Int32Array
  /** How many of the nearest cities of a group, by need, are known to be full: seats are never given back. */
  readonly skipped: Uint16Array

  constructor({ capacity, accessible, groups }: OptionTable) {
    this.left = capacity.slice()
    this.accessibleLeft = accessible.slice()
    this.skipped = new Uint16Array(2 * groups)
  }

  open(city: number, need: number): boolean {
    return city !== noCity && this.left[city]! > 0 && (need === 0 || this.accessibleLeft[city]! > 0)
  }

  take(city: number, need: number): number {
    if (city === noCity) return city
    this.left[city]! -= 1
    if (need === 1) this.accessibleLeft[city]! -= 1
    return city
  }
}

function firstOpenChoice(table: OptionTable, seats: Seats, person: number): number | undefined {
  for (let slot = person * table.slots; slot < (person + 1) * table.slots; slot += 1) {
    const city = table.city[slot]!
    if (city === noCity) return undefined
    if (seats.open(city, table.needs[person]!)) return city
  }
  return undefined
}

function nearestOpen(table: OptionTable, seats: Seats, byDistance: Uint16Array[], person: number): number {
  const group = table.group[person]!
  const need = table.needs[person]!
  const cities = byDistance[group]!
  const row = 2 * group + need
  let at = seats.skipped[row]!
  while (at < cities.length && !seats.open(cities[at]!, need)) at += 1
  seats.skipped[row] = at
  return at < cities.length ? cities[at]! : noCity
}

/** The cities open to each group, the nearest first. */
function nearestOfGroups(instance: Instance, table: OptionTable): Uint16Array[] {
  const { cities } = table
  const km = distances(instance.cities)
  return groupsOf(instance).rows.map(({ home }, group) => Uint16Array.from(instance.cities.keys())
    .filter(k => table.fallback[group * cities + k]! < table.unseated)
    .sort((a, b) => km[home * cities + a]! - km[home * cities + b]! || a - b))
}
