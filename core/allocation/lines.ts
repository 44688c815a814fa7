import type { Prices } from './certificate'
import { type Instance, noCity } from './instance'
import { costAt, optionTable, type OptionTable } from './option-table'
import type { AllocationPolicy } from './policy'

/**
 * The line of people for one city, by the policy's own measure: enough to tell anybody later why they did or did not get in.
 *
 * Served together: everyone's stake is what losing the city would cost, in points: the best of the other options at its price,
 * less the city's own cost. Those with more at stake than the price of a seat sit there, those with less do not.
 * Served in turn: the city closed to newcomers when the person with number `closedAt` took the last seat.
 */
export type Line =
  | { by: 'stake', bar: number, steps: StakeStep[] }
  | { by: 'turn', closedAt: number | null, waiting: number }

/** How many people with one stake sit in the city, and how many would rather have than what they got. */
export interface StakeStep {
  stake: number
  seated: number
  waiting: number
}

export interface CityLine {
  city: string
  ordinary: Line
  inNeed: Line
}

/** What of a placement its lines are made from. */
interface Placement {
  cityOf: Uint16Array
  prices: Prices
  order: Uint32Array | null
}

/**
 * The lines of all cities of a placement.
 *
 * @param places number of each person in the order of being served, where that is not the placement's own.
 */
export function linesOf(
  instance: Instance,
  policy: AllocationPolicy,
  placement: Placement,
  places = placement.order && placesInOrder(placement.order),
): CityLine[] {
  const table = optionTable(instance, policy)
  return places ? turnLines(instance, table, placement.cityOf, places) : stakeLines(instance, table, placement)
}

/** Number of each person in the order of being served, from 1. */
export function placesInOrder(order: Uint32Array): Uint32Array {
  const places = new Uint32Array(order.length)
  order.forEach((person, i) => {
    places[person] = i + 1
  })
  return places
}

function stakeLines(instance: Instance, table: OptionTable, { cityOf, prices }: Omit<Placement, 'order'>): CityLine[] {
  const found = [0, 1].map(() => instance.cities.map(() => new Map<number, StakeStep>()))
  const stakes = new Stakes(table, prices)
  for (let person = 0; person < table.people; person += 1) {
    const here = cityOf[person]!
    const cost = costAt(table, person, here)
    const note = (city: number, kind: 'seated' | 'waiting') => {
      const steps = found[table.needs[person]!]![city]!
      const stake = stakes.of(person, city)
      const step = steps.get(stake) ?? { stake, seated: 0, waiting: 0 }
      step[kind] += 1
      steps.set(stake, step)
    }
    if (here !== noCity) note(here, 'seated')
    for (let slot = person * table.slots; slot < (person + 1) * table.slots && table.city[slot] !== noCity; slot += 1) {
      if (table.city[slot] !== here && table.cost[slot]! < cost) note(table.city[slot]!, 'waiting')
    }
  }
  const line = (need: 0 | 1, k: number): Line => ({
    by: 'stake',
    bar: prices.seat[k]! + (need === 1 ? prices.accessibleSeat[k]! : 0),
    steps: [...found[need]![k]!.values()].sort((a, b) => b.stake - a.stake),
  })
  return instance.cities.map((city, k) => ({ city: city.id, ordinary: line(0, k), inNeed: line(1, k) }))
}

/** What each person would lose with a city, at the prices of a placement. */
export class Stakes {
  private readonly prices: Float64Array[]
  /** The two best cities of each group by need, cheapest first: the second counts where the first is the city in question. */
  private readonly best: { city: number, sum: number }[][]

  constructor(private readonly table: OptionTable, prices: Prices) {
    this.prices = [prices.seat, prices.seat.map((price, k) => price + prices.accessibleSeat[k]!)]
    this.best = Array.from({ length: 2 * table.groups }, (_, row) => {
      const price = this.prices[row % 2]!
      const group = row >> 1
      return Array.from({ length: table.cities }, (_, city) => ({ city, sum: table.fallback[group * table.cities + city]! + price[city]! }))
        .sort((a, b) => a.sum - b.sum).slice(0, 2)
    })
  }

  of(person: number, city: number): number {
    const { table } = this
    const need = table.needs[person]!
    let least = table.unseated
    for (const option of this.best[2 * table.group[person]! + need]!) if (option.city !== city && option.sum < least) least = option.sum
    for (let slot = person * table.slots; slot < (person + 1) * table.slots; slot += 1) {
      const other = table.city[slot]!
      if (other === noCity) break
      const sum = table.cost[slot]! + this.prices[need]![other]!
      if (other !== city && sum < least) least = sum
    }
    return least - costAt(table, person, city)
  }
}

function turnLines(instance: Instance, table: OptionTable, cityOf: Uint16Array, places: Uint32Array): CityLine[] {
  const closing = closings(table, cityOf, places)
  const waiting = [0, 1].map(() => new Int32Array(table.cities))
  for (let person = 0; person < table.people; person += 1) {
    const cost = costAt(table, person, cityOf[person]!)
    for (let slot = person * table.slots; slot < (person + 1) * table.slots && table.city[slot] !== noCity; slot += 1) {
      if (table.city[slot] !== cityOf[person] && table.cost[slot]! < cost) waiting[table.needs[person]!]![table.city[slot]!]! += 1
    }
  }
  const line = (need: 0 | 1, k: number): Line => ({ by: 'turn', closedAt: closing[need]![k]!, waiting: waiting[need]![k]! })
  return instance.cities.map((city, k) => ({ city: city.id, ordinary: line(0, k), inNeed: line(1, k) }))
}

/** For each need and city the number with which it closed; null when it has room to the end. */
function closings(table: OptionTable, cityOf: Uint16Array, places: Uint32Array): (number | null)[][] {
  const all = new Int32Array(table.cities)
  const needing = new Int32Array(table.cities)
  const last = new Int32Array(table.cities)
  const lastInNeed = new Int32Array(table.cities)
  for (let person = 0; person < table.people; person += 1) {
    const city = cityOf[person]!
    if (city === noCity) continue
    all[city]! += 1
    last[city] = Math.max(last[city]!, places[person]!)
    if (table.needs[person] === 0) continue
    needing[city]! += 1
    lastInNeed[city] = Math.max(lastInNeed[city]!, places[person]!)
  }
  const ordinary = Array.from(all, (count, k) => count >= table.capacity[k]! ? last[k]! : null)
  const inNeed = Array.from(needing, (count, k) => {
    if (count < table.accessible[k]!) return ordinary[k]!
    return ordinary[k] === null ? lastInNeed[k]! : Math.min(lastInNeed[k]!, ordinary[k]!)
  })
  return [ordinary, inNeed]
}
