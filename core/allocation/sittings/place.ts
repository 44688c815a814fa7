import { Cancelled, solveBestFit, type Watch } from '../best-fit'
import type { Prices } from '../certificate'
import { noCity, type Sittings } from '../instance'
import { totalCost, type OptionTable } from '../option-table'
import { cheapestWays, costOf, noPrices, priceOfWay, pricesOfShortage, provenPrices, wishesAt, type SittingPrices, type SittingShares } from './prices'
import { noWay, SittingSeats } from './seats'

/**
 * People who compete for the same seats: of one kind and, where that sits several papers, one way. With all others where they are, what is
 * left for them in each city is one number, and who of them sits where is the exact problem of a cycle without test papers.
 */
export interface Part { kind: number, /** Of the kind's ways. */ ways: number[], people: Uint32Array, capacity: Int32Array, accessible: Int32Array, prices: Prices }

export interface SittingSolution { cityOf: Uint16Array, seats: SittingSeats, bound: number, prices: SittingPrices, parts: Part[] }

/** How often prices follow what is wanted: the bound hardly rises after that. */
const steps = 400

/**
 * Places people who sit several papers in one city: prices are found that prove a bound, everybody is seated by what a worse place would cost
 * them at those prices, and then part by part is placed anew, exactly, as long as that lowers the cost. Deterministic.
 *
 * @throws Cancelled when `watch` says so.
 */
export function solveSittings(table: OptionTable, sittings: Sittings, watch: Watch = () => true): SittingSolution {
  const all = steps + 5
  const goOn = (done: number) => {
    if (!watch(done, all)) throw new Cancelled('stopped before the end')
    return true
  }
  const empty: State = {
    table, sittings, ofKind: peopleByKind(sittings),
    cityOf: new Uint16Array(table.people).fill(noCity), seats: new SittingSeats(table, sittings),
  }
  const nothing = noPrices(sittings.seats.length)
  const first = seatedByRegret(empty, nothing)
  const start = first.cityOf.includes(noCity) ? pricesOfShortage(table, sittings) : nothing
  const { bound, prices, shares } = provenPrices(table, sittings, totalCost(table, first.cityOf), steps, goOn, start)
  const starts = [first, seatedByRegret(empty, prices), seatedByShares(empty, shares, prices)]
  const placed = starts.map((state, i) => settle(state, () => goOn(steps + i))).sort((a, b) => a.cost - b.cost)
  const best = placed[0]!
  trade(best.state, best.parts, () => goOn(steps + starts.length))
  const { state, parts } = settle(best.state, () => goOn(all - 1))
  watch(all, all)
  return { cityOf: state.cityOf, seats: state.seats, bound, prices, parts }
}

/** The people of each kind, by place. */
export const peopleByKind = ({ kinds, kindOf }: Sittings): Uint32Array[] => kinds.map((_, kind) => Uint32Array.from([...kindOf.keys()].filter(person => kindOf[person] === kind)))

/** Places all parts anew, again and again, as long as that lowers the cost. */
function settle(state: State, goOn: () => boolean): { state: State, parts: Part[], cost: number } {
  for (let before = Infinity; ;) {
    const parts = placedPartByPart(state)
    const cost = totalCost(state.table, state.cityOf)
    if (cost === before || !goOn()) return { state, parts, cost }
    before = cost
  }
}

/** Where everybody is while they are placed. */
interface State { table: OptionTable, sittings: Sittings, /** People by kind. */ ofKind: readonly Uint32Array[], cityOf: Uint16Array, seats: SittingSeats }

/** All seats, of whose ways the cheapest at some prices is taken. */
const seatsAt = ({ table, sittings }: State, prices: SittingPrices) => new SittingSeats(table, sittings, (city, way) => priceOfWay(sittings, prices, city, way, 0))

/** Everybody in turn, those first who would lose most by their second best, where cost and price are least. */
function seatedByRegret(empty: State, prices: SittingPrices): State {
  const { table, sittings } = empty
  const { sum } = cheapestWays(table, sittings, prices)
  const { regret } = wishesAt(table, sittings, sum)
  const seats = seatsAt(empty, prices)
  const cityOf = new Uint16Array(table.people).fill(noCity)
  const order = Uint32Array.from(cityOf.keys()).sort((a, b) => regret[b]! - regret[a]! || a - b)
  for (const person of order) {
    const row = sittings.kindOf[person]! * 2 + table.needs[person]!
    let [at, least] = [noCity, table.unseated]
    const see = (city: number, cost: number) => {
      const price = cost + sum[row * table.cities + city]!
      if (price < least && seats.open(city, person)) [at, least] = [city, price]
    }
    for (let slot = person * table.slots; slot < (person + 1) * table.slots && table.city[slot] !== noCity; slot += 1) see(table.city[slot]!, table.cost[slot]!)
    for (let k = 0; k < table.cities; k += 1) see(k, table.fallback[table.group[person]! * table.cities + k]!)
    cityOf[person] = seats.take(at, person)
  }
  return { ...empty, cityOf, seats }
}

/** Every part in the seats that fall to it when people can be divided: rounded down for all, then up as far as seats go. */
function seatedByShares(empty: State, { wayAt, of }: SittingShares, prices: SittingPrices): State {
  const { table } = empty
  const state = { ...empty, cityOf: new Uint16Array(table.people).fill(noCity), seats: seatsAt(empty, prices) }
  for (const round of [Math.floor, Math.ceil]) {
    placedPartByPart(state, ({ kind, ways }, k) => round(ways.reduce((sum, w) => sum + of[(wayAt[kind]! + w) * 2]![k]! + of[(wayAt[kind]! + w) * 2 + 1]![k]!, 0) + 1e-6))
  }
  return state
}

/** Places every part anew with the others where they are. */
function placedPartByPart(state: State, most?: Most): Part[] {
  return partsOf(state.sittings).map(part => placedAnew(state, part, most))
}

type Most = (part: Pick<Part, 'kind' | 'ways'>, city: number) => number

/** Places one part anew with all others where they are; what costs no less stays. Whoever has no seat is tried with each part of their kind. */
function placedAnew(state: State, { kind, ways }: Pick<Part, 'kind' | 'ways'>, most?: Most): Part {
  const { table, sittings, cityOf, seats } = state
  const people = peopleOf(state.ofKind[kind]!, ways, seats)
  for (const person of people) seats.leave(cityOf[person]!, person)
  const { capacity, accessible } = roomFor(table, sittings, seats, kind, ways)
  if (people.length === 0) return { kind, ways, people, capacity, accessible, prices: noPrices(table.cities) }
  if (most) {
    capacity.forEach((n, k) => { capacity[k] = Math.min(n, most({ kind, ways }, k)) })
    accessible.forEach((n, k) => { accessible[k] = Math.min(n, capacity[k]!) })
  }
  const part = partTable(table, people, capacity, accessible)
  const solution = solveBestFit(part)
  if (most || totalCost(part, solution.cityOf) < costOf(table, cityOf, people)) people.forEach((person, i) => { cityOf[person] = solution.cityOf[i]! })
  sitDown(table, seats, cityOf, people, ways)
  return { kind, ways, people, capacity, accessible, prices: solution.prices }
}

/** Who competes for the seats of a part: of the people of its kind those who have one, and those who have none at all. */
export const peopleOf = (ofKind: Uint32Array, ways: readonly number[], { wayOf }: SittingSeats): Uint32Array => ofKind.filter(person => wayOf[person] === noWay || ways.includes(wayOf[person]!))

/** Seats the people of a part in their cities. Those in need sit down first: the rest fits in whatever way they leave. */
export function sitDown(table: OptionTable, seats: SittingSeats, cityOf: Uint16Array, people: Uint32Array, ways: readonly number[]): void {
  for (const need of [1, 0]) for (const person of people) if (table.needs[person] === need) seats.take(cityOf[person]!, person, ways)
}

/** How many people are placed anew, all told, while parts trade seats: so many and this often everybody. */
const tradedPeople = 3_000_000
const tradedRounds = 6

/**
 * Lets parts trade seats: where one more seat would save a part more than it saves another that sits on it, the other is placed with fewer
 * seats there, the first takes them, and the trade stands when both together cost less.
 */
function trade(state: State, parts: Part[], goOn: () => boolean): void {
  const { table, ofKind, cityOf, seats } = state
  let left = tradedPeople + tradedRounds * table.people
  for (let isBetter = true; isBetter && left > 0;) {
    isBetter = false
    for (const { gains, gives, city } of offers(state, parts)) {
      const [to, from] = [parts[gains]!, parts[gives]!]
      if (left <= 0 || !goOn() || to.prices.seat[city]! <= from.prices.seat[city]!) continue
      const there = ofKind[from.kind]!.reduce((n, person) => n + (cityOf[person] === city && from.ways.includes(seats.wayOf[person]!) ? 1 : 0), 0)
      if (there === 0) continue
      const people = to.kind === from.kind ? ofKind[to.kind]! : Uint32Array.from([...ofKind[to.kind]!, ...ofKind[from.kind]!])
      left -= people.length
      const kept = Array.from(people, person => ({ city: cityOf[person]!, way: seats.wayOf[person]! }))
      const before = costOf(table, cityOf, people)
      placedAnew(state, from, (_, k) => k === city ? there - 1 : Infinity)
      const [gained, gave] = [placedAnew(state, to), placedAnew(state, from)]
      if (costOf(table, cityOf, people) < before) {
        parts[gains] = gained
        parts[gives] = gave
        isBetter = true
        continue
      }
      for (const person of people) seats.leave(cityOf[person]!, person)
      people.forEach((person, i) => {
        cityOf[person] = kept[i]!.city
        if (kept[i]!.city !== noCity) seats.sit(kept[i]!.city, person, kept[i]!.way)
      })
    }
  }
}

/** Who would gain by a seat that another part has, the most first. */
function offers({ table, sittings, seats }: State, parts: readonly Part[]): { gains: number, gives: number, city: number, points: number }[] {
  const sessionsOf = ({ kind, ways }: Part) => new Set(ways.flatMap(w => sittings.kinds[kind]!.ways[w]!))
  const all = parts.map(sessionsOf)
  const found: { gains: number, gives: number, city: number, points: number }[] = []
  parts.forEach((to, gains) => parts.forEach((from, gives) => {
    const shared = gains === gives ? [] : [...all[gains]!].filter(s => all[gives]!.has(s))
    for (let city = 0; city < table.cities; city += 1) {
      const points = to.prices.seat[city]! - from.prices.seat[city]!
      if (points > 0 && shared.some(s => seats.left[city * sittings.sessions.length + s]! < 1)) found.push({ gains, gives, city, points })
    }
  }))
  return found.sort((a, b) => b.points - a.points || a.city - b.city || a.gains - b.gains || a.gives - b.gives)
}

/** Of a kind that sits one paper all ways are one part: whoever has a seat in a city has it in any of the sessions. */
export const partsOf = ({ kinds }: Sittings): Pick<Part, 'kind' | 'ways'>[] => kinds.flatMap(({ papers, ways }, kind) =>
  papers.length === 1 || ways.length === 0 ? [{ kind, ways: [...ways.keys()] }] : ways.map((_, w) => ({ kind, ways: [w] })))

/** What is left in each city for people of a part: of each way the session with the fewest seats counts. */
export function roomFor({ cities }: OptionTable, { kinds, sessions }: Sittings, { left, accessibleLeft }: SittingSeats, kind: number, ways: readonly number[]): Pick<Part, 'capacity' | 'accessible'> {
  const capacity = new Int32Array(cities)
  const accessible = new Int32Array(cities)
  for (const w of ways) {
    for (let k = 0; k < cities; k += 1) {
      const at = kinds[kind]!.ways[w]!.map(s => k * sessions.length + s)
      const seats = Math.min(...at.map(i => left[i]!))
      capacity[k]! += seats
      accessible[k]! += Math.min(seats, ...at.map(i => accessibleLeft[i]!))
    }
  }
  return { capacity, accessible }
}

/** The options of some people alone, with the seats that are there for them. */
export function partTable(table: OptionTable, people: Uint32Array, capacity: Int32Array, accessible: Int32Array): OptionTable {
  const { slots } = table
  const city = new Uint16Array(people.length * slots)
  const cost = new Int32Array(people.length * slots)
  people.forEach((person, i) => {
    city.set(table.city.subarray(person * slots, (person + 1) * slots), i * slots)
    cost.set(table.cost.subarray(person * slots, (person + 1) * slots), i * slots)
  })
  return { ...table, people: people.length, capacity, accessible, city, cost, needs: Uint8Array.from(people, p => table.needs[p]!), group: Uint16Array.from(people, p => table.group[p]!) }
}
