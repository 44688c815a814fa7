import { noCity, sessionOf, type Sittings } from '../instance'
import { costAt, type OptionTable } from '../option-table'
import { rowOf, type Party, type Problem } from './problem'

/** What a seat of each city and session is worth, and how much more an accessible one is; 0 or more. */
export interface SittingPrices {
  seat: Float64Array
  accessibleSeat: Float64Array
}

/** What sitting in one way costs in a city at some prices. */
export const priceOfWay = (
  sittings: Sittings,
  { seat, accessibleSeat }: SittingPrices,
  city: number,
  way: readonly number[],
  need: number,
): number =>
  way.reduce(
    (sum, s) =>
      sum + seat[city * sittings.sessions.length + s]! + need * accessibleSeat[city * sittings.sessions.length + sessionOf(sittings, s)]!,
    0,
  )

/**
 * The cheapest way of each kind and need in each city, `[(kind * 2 + need) * cities + city]`, and what it costs; Infinity where there is
 * none.
 */
export function cheapestWays({ table: { cities }, sittings }: Problem, prices: SittingPrices): { sum: Float64Array, way: Uint8Array } {
  const sum = new Float64Array(sittings.kinds.length * 2 * cities).fill(Infinity)
  const way = new Uint8Array(sum.length)
  sittings.kinds.forEach(({ ways }, kind) =>
    ways.forEach((one, w) => {
      for (let row = kind * 2; row < kind * 2 + 2; row += 1) {
        for (let k = 0; k < cities; k += 1) {
          const price = priceOfWay(sittings, prices, k, one, row % 2)
          if (price < sum[row * cities + k]!) [sum[row * cities + k], way[row * cities + k]] = [price, w]
        }
      }
    })
  )
  return { sum, way }
}

/** What is cheapest for everybody at some prices: the city, what it comes to with them, and how much dearer the next best is. */
export interface Wishes {
  city: Uint16Array
  sum: Float64Array
  regret: Float64Array
}

/** The cheapest option of everybody who comes alone at some prices, whatever others take. */
export function wishesAt(problem: Problem, ways: Float64Array): Wishes {
  const { table, alone, sittings: { kinds } } = problem
  const { cities, slots, people, unseated } = table
  const found: Wishes = { city: new Uint16Array(people), sum: new Float64Array(people), regret: new Float64Array(people) }
  const offLists = new OffLists(table, kinds.length * 2, ways)
  // At each step everybody is gone through: nothing is made for a single person.
  for (const person of alone) {
    const row = rowOf(problem, person)
    const offList = offLists.at(table.group[person]!, row)
    let [best, least, second] = [noCity, unseated, unseated]
    for (let i = 0; i < slots + 2; i += 1) {
      const isOwn = i < slots
      const city = isOwn ? table.city[person * slots + i]! : offLists.city[offList + i - slots]!
      if (city === noCity) continue
      const price = isOwn ? table.cost[person * slots + i]! + ways[row * cities + city]! : offLists.sum[offList + i - slots]!
      if (price < least) {
        if (city !== best) second = least
        best = city
        least = price
      } else if (price < second && city !== best) second = price
    }
    found.city[person] = best
    found.sum[person] = least
    found.regret[person] = second - least
  }
  return found
}

/** The two cheapest cities of people of one group, kind and need off anybody's own list; worked out when somebody needs them. */
class OffLists {
  /** From the place that `at` gives the cheapest and the next; no city where there is none at less than no seat. */
  readonly city: Uint16Array
  readonly sum: Float64Array
  private readonly known: Uint8Array

  constructor(private readonly table: OptionTable, private readonly rows: number, private readonly ways: Float64Array) {
    this.city = new Uint16Array(table.groups * rows * 2).fill(noCity)
    this.sum = new Float64Array(this.city.length).fill(table.unseated)
    this.known = new Uint8Array(table.groups * rows)
  }

  at(group: number, row: number): number {
    const place = (group * this.rows + row) * 2
    if (this.known[place / 2] === 0) this.find(group, row, place)
    return place
  }

  private find(group: number, row: number, place: number): void {
    const { city, sum, ways, table: { cities, fallback } } = this
    this.known[place / 2] = 1
    for (let k = 0; k < cities; k += 1) {
      const price = fallback[group * cities + k]! + ways[row * cities + k]!
      if (price >= sum[place + 1]!) continue
      const isBest = price < sum[place]!
      if (isBest) {
        city[place + 1] = city[place]!
        sum[place + 1] = sum[place]!
      }
      city[place + (isBest ? 0 : 1)] = k
      sum[place + (isBest ? 0 : 1)] = price
    }
  }
}

/** A bound that is proven, and the prices that prove it. */
export interface Proven {
  bound: number
  prices: SittingPrices
}
/** People by kind, way, need and city, fractions too: `of[(wayAt[kind] + way) * 2 + need][city]`. */
interface SittingShares {
  wayAt: number[]
  of: Float64Array[]
}

/**
 * A lower bound on any placement's cost, with the prices that prove it: seats are given prices of 0 or more, everybody takes what is
 * cheapest with them, and the value of all seats is taken off. What people take is averaged over the steps; prices follow where the average
 * takes too many seats (the volume algorithm; Barahona and Anbil, "The volume algorithm: producing primal solutions with a subgradient
 * method", Mathematical Programming 87, 2000; from memory). The bound is worked out anew from prices in whole 4096ths, so that every sum is
 * exact, and rounded up, as costs are whole.
 *
 * @param upper cost of a placement that is known.
 * @param goOn asked before each step, with the bound so far.
 * @param start prices to begin with.
 */
export function provenPrices(
  problem: Problem,
  upper: number,
  steps: number,
  goOn: (bound: number) => boolean,
  start = noPrices(problem.sittings.seats.length),
): Proven {
  const { sittings } = problem
  const wayAt = firstWays(sittings)
  const first = relaxed(problem, start, wayAt)
  const best = { value: first.value, prices: start }
  const shares = { wayAt, of: first.taken }
  let [factor, still] = [0.1, 0]
  for (let step = 0; step < steps && Math.ceil(best.value - 1e-6) < upper && goOn(Math.ceil(best.value - 1e-6)); step += 1) {
    const excess = excessOf(problem, shares)
    const norm = lengthOf(best.prices.seat, excess.all) + lengthOf(best.prices.accessibleSeat, excess.inNeed)
    if (norm < 1e-9) break
    const length = factor * Math.max(0.5, (upper - best.value) / 2) / norm
    const prices = {
      seat: moved(best.prices.seat, excess.all, length),
      accessibleSeat: moved(best.prices.accessibleSeat, excess.inNeed, length),
    }
    const next = relaxed(problem, prices, wayAt)
    const share = step < steps / 2 ? 0.1 : 0.04
    shares.of.forEach((old, way) =>
      old.forEach((n, k) => {
        old[k] = n + share * (next.taken[way]![k]! - n)
      })
    )
    if (next.value > best.value) {
      best.value = next.value
      best.prices = prices
      factor = Math.min(2, factor * 1.1)
      still = 0
    } else if (++still >= 8) {
      factor *= 0.66
      still = 0
    }
  }
  const prices = { seat: best.prices.seat.map(exact), accessibleSeat: best.prices.accessibleSeat.map(exact) }
  return { bound: Math.ceil(relaxed(problem, prices, wayAt).value), prices }
}

const exact = (price: number) => Math.round(price * 4096) / 4096

/**
 * Prices to begin with where a session has fewer seats than people who must sit it: there a seat is worth what it costs to leave somebody
 * without. From nothing the prices would have far to go. A session is priced so only if that raises the bound.
 */
export function pricesOfShortage(problem: Problem): SittingPrices {
  const { table, sittings } = problem
  const { sessions } = sittings
  const wayAt = firstWays(sittings)
  let best = noPrices(sittings.seats.length)
  let { value } = relaxed(problem, best, wayAt)
  for (const  of of['seat', 'accessibleSeat'] as const) {
    sessions.forEach((_, session) => {
      const next = { ...best, [of]: best[of].map((price, i) => i % sessions.length === session ? Math.max(price, table.unseated) : price) }
      const raised = relaxed(problem, next, wayAt).value
      if (raised > value) [best, value] = [next, raised]
    })
  }
  return best
}

/** Where the ways of each kind begin, when all stand one after the other. */
const firstWays = ({ kinds }: Sittings): number[] =>
  kinds.map((_, kind) => kinds.slice(0, kind).reduce((n, { ways }) => n + ways.length, 0))

/** Everything for nothing. */
export const noPrices = (size: number): SittingPrices => ({ seat: new Float64Array(size), accessibleSeat: new Float64Array(size) })
const moved = (price: Float64Array, excess: Float64Array, length: number) => price.map((p, i) => Math.max(0, p + length * excess[i]!))

// What is free already and not wanted cannot get cheaper: it does not count for the length of a step.
const lengthOf = (price: Float64Array, excess: Float64Array): number =>
  excess.reduce((sum, e, i) => sum + (price[i] === 0 && e < 0 ? 0 : e * e), 0)

/** Everybody takes what is cheapest at some prices: what that comes to without the value of all seats, and who takes what. */
function relaxed(problem: Problem, prices: SittingPrices, wayAt: readonly number[]): { value: number, taken: Float64Array[] } {
  const { table, sittings: { kinds, kindOf, seats, accessible }, alone, parties } = problem
  const { sum, way } = cheapestWays(problem, prices)
  const wishes = wishesAt(problem, sum)
  const taken = kinds.flatMap(({ ways }) => ways.flatMap(() => [new Float64Array(table.cities), new Float64Array(table.cities)]))
  const take = (person: number, city: number) => {
    taken[(wayAt[kindOf[person]!]! + way[rowOf(problem, person) * table.cities + city]!) * 2 + table.needs[person]!]![city]! += 1
  }
  let value = 0
  for (const person of alone) {
    value += wishes.sum[person]!
    if (wishes.city[person] !== noCity) take(person, wishes.city[person]!)
  }
  for (const party of parties) {
    const wish = wishOf(problem, party, sum)
    value += wish.sum
    if (wish.city !== noCity) { for (const person of party.members) take(person, wish.city) }
  }
  prices.seat.forEach((price, i) => {
    value -= price * seats[i]!
  })
  prices.accessibleSeat.forEach((price, i) => {
    value -= price * accessible[i]!
  })
  return { value, taken }
}

/** What is cheapest for people who come together at some prices, and how much dearer the next best is. */
export function wishOf(
  problem: Problem,
  { members, cost, unseated }: Party,
  ways: Float64Array,
): { city: number, sum: number, regret: number } {
  let [city, sum, second] = [noCity, unseated, unseated]
  for (let k = 0; k < problem.table.cities; k += 1) {
    let price = cost[k]!
    if (price >= second) continue
    for (const person of members) price += ways[rowOf(problem, person) * problem.table.cities + k]!
    if (price < sum) [city, sum, second] = [k, price, sum]
    else if (price < second) second = price
  }
  return { city, sum, regret: second - sum }
}

/** By how much shares take more than the seats there are; below 0 where seats are left. */
function excessOf({ table: { cities }, sittings }: Problem, { wayAt, of }: SittingShares): { all: Float64Array, inNeed: Float64Array } {
  const { kinds, sessions, seats, accessible } = sittings
  const all = Float64Array.from(seats, n => -n)
  const inNeed = Float64Array.from(accessible, n => -n)
  kinds.forEach(({ ways }, kind) =>
    ways.forEach((way, w) => {
      const [ordinary, needing] = [of[(wayAt[kind]! + w) * 2]!, of[(wayAt[kind]! + w) * 2 + 1]!]
      for (let k = 0; k < cities; k += 1) {
        for (const s of way) {
          all[k * sessions.length + s]! += ordinary[k]! + needing[k]!
          inNeed[k * sessions.length + sessionOf(sittings, s)]! += needing[k]!
        }
      }
    })
  )
  return { all, inNeed }
}

/** Cost of what somebody got; the table's for no city. */
export const costOf = (table: OptionTable, cityOf: Uint16Array, people: Iterable<number>): number => {
  let sum = 0
  for (const person of people) sum += costAt(table, person, cityOf[person]!)
  return sum
}
