import { Cancelled } from '../best-fit'
import { noCity, type Sittings } from '../instance'
import { totalCost, type OptionTable } from '../option-table'
import { cooled, coolingSteps } from './cooling'
import { looksFor, makeWay, type Looks } from './moves'
import { placedOnce, type Once } from './once'
import { placedPartByPart, type Part, type Placed } from './parts'
import { cheapestWays, noPrices, priceOfWay, pricesOfShortage, provenPrices, wishesAt, wishOf, type SittingPrices } from './prices'
import { problemOf, rowOf, type Problem, type State } from './problem'
import { SittingSeats } from './seats'
import { trade } from './trade'

export interface SittingSolution {
  cityOf: Uint16Array
  seats: SittingSeats
  bound: number
  prices: SittingPrices
  parts: Part[]
  /** People who come alone, by what they sit. */
  ofKind: Uint32Array[]
}

/**
 * How long a placement is looked for. How often prices follow what is wanted before people are placed, and after (the bound hardly rises
 * with more); how many moves are tried while people come to rest, and how many people are looked at for somebody to make way, in parts of
 * the most that is of use.
 */
const efforts = { quick: { steps: 400, again: 200, part: 0.1 }, thorough: { steps: 400, again: 400, part: 1 } }
export type Effort = keyof typeof efforts

/** Up to so many people are brought to rest so often: a few people more or less at the wrong place weigh more among few. */
const [few, startsOfFew] = [600, 4]

/**
 * Told before each step: how many are done and to come, the least cost and the best bound known. Answers whether to go on, or that what is
 * known is enough.
 */
export type WatchSittings = (done: number, total: number, known: { cost: number, bound: number }) => boolean | 'enough'

/**
 * Places people who sit several papers in one city: prices are found that prove a bound, people come to rest at places that are good at
 * those prices, and then part by part is placed anew, exactly, parts trade seats, and people make way for others, as long as that lowers
 * the cost. Deterministic, as long as `watch` says nothing of enough.
 *
 * @throws Cancelled when `watch` says so.
 */
export function solveSittings(table: OptionTable, sittings: Sittings, watch: WatchSittings, effort: Effort): SittingSolution {
  const { steps, again, part } = efforts[effort]
  const problem = problemOf(table, sittings)
  const starts = table.people <= few ? startsOfFew : 1
  const progress = new Progress(watch, steps + again + starts * coolingSteps)
  const once = placedOnce(problem, () => progress.goOn() || true)
  if (once) return solvedOnce(problem, once, progress)
  const looks = looksFor(table.people * part)
  const nothing = noPrices(sittings.seats.length)
  const first = seatedByRegret(stateOf(problem, nothing))
  progress.cost = totalCost(table, first.cityOf)
  const start = first.cityOf.includes(noCity) ? pricesOfShortage(problem) : nothing
  let proven = provenPrices(problem, progress.cost, steps, bound => progress.step(bound), start)
  progress.bound = proven.bound
  let best = settle(first, progress)
  for (let seed = 1; seed <= starts && best.cost > proven.bound && !progress.isEnough; seed += 1) {
    const next = settle(seatedAtRest(stateOf(problem, proven.prices), proven.prices, { seed, part: part / starts }, progress), progress)
    best = bettered(best, improved(next, looks, progress))
  }
  // Now that a good placement is known, prices find their way from it.
  if (best.cost > proven.bound && !progress.isEnough) {
    const next = provenPrices(problem, best.cost, again, bound => progress.step(Math.max(bound, proven.bound)), proven.prices)
    if (next.bound > proven.bound) proven = next
  }
  progress.end()
  return {
    cityOf: best.state.cityOf,
    seats: best.state.seats,
    bound: proven.bound,
    prices: proven.prices,
    parts: best.parts,
    ofKind: problem.ofKind,
  }
}

/** People who sit once and are placed at the least cost: they sit down, those in need first, and each part is told what it competes for. */
function solvedOnce(problem: Problem, { cityOf, waysOf, prices }: Once, progress: Progress): SittingSolution {
  const state = stateOf(problem, prices)
  for (const need of [1, 0]) {
    for (const person of problem.alone) {
      if (problem.table.needs[person] === need) state.cityOf[person] = state.seats.take(cityOf[person]!, person, waysOf(person))
    }
  }
  const { parts, cost } = settle(state, progress)
  // The prices prove the bound whoever found them.
  const { bound } = provenPrices(problem, cost, 0, () => true, prices)
  progress.bound = bound
  progress.end()
  return { cityOf: state.cityOf, seats: state.seats, bound, prices, parts, ofKind: problem.ofKind }
}

/** Parts trade seats, and people make way for others, as long as that lowers the cost. */
function improved(from: Settled, looks: Looks, progress: Progress): Settled {
  let best = from
  for (let [before, isStuck] = [Infinity, false]; !progress.isEnough && !(isStuck && best.cost === before);) {
    // What nothing lowers any more may be lowered once the dearer seats are free.
    isStuck = best.cost === before
    before = best.cost
    if (isStuck) sitCheaper(best.state)
    trade(best.state, best.parts, () => progress.goOn())
    makeWay(best.state, looks, () => progress.goOn())
    best = settle(best.state, progress)
  }
  return best
}

/** How far the work is, and whether it is to go on. */
class Progress {
  cost = Infinity
  bound = 0
  isEnough = false
  private done = 0

  constructor(private readonly watch: WatchSittings, private readonly total: number) {}

  /** Asks without a step. @throws Cancelled when nothing is wanted any more. */
  goOn(): boolean {
    const said = this.isEnough || this.watch(Math.min(this.done, this.total), this.total, { cost: this.cost, bound: this.bound })
    if (said === false) throw new Cancelled('stopped before the end')
    this.isEnough ||= said === 'enough'
    return !this.isEnough
  }

  step(bound = this.bound): boolean {
    this.done += 1
    this.bound = bound
    return this.goOn()
  }

  end(): void {
    this.watch(this.total, this.total, { cost: this.cost, bound: this.bound })
  }
}

interface Settled {
  state: State
  parts: Placed[]
  cost: number
}
const bettered = (one: Settled, other: Settled): Settled => other.cost < one.cost ? other : one

/** Places all parts anew, and moves who come together, again and again, as long as that lowers the cost. */
function settle(state: State, progress: Progress): Settled {
  for (let before = Infinity;;) {
    moveParties(state)
    const parts = placedPartByPart(state)
    const cost = totalCost(state.table, state.cityOf)
    progress.cost = Math.min(progress.cost, cost)
    if (cost === before || !progress.goOn()) return { state, parts, cost }
    before = cost
  }
}

/**
 * People who sit several papers sit in the way that is worth least of those that are open to them in their city: what it leaves is worth
 * more to others.
 */
function sitCheaper({ cityOf, seats, ofKind, sittings }: State): void {
  ofKind.forEach((people, kind) => {
    const { papers, ways } = sittings.kinds[kind]!
    if (papers.length < 2 || ways.length < 2) return
    for (const person of people) {
      if (cityOf[person] === noCity) continue
      seats.leave(cityOf[person]!, person)
      seats.take(cityOf[person]!, person)
    }
  })
}

/** Nobody has a seat yet; of the ways in a city the cheapest at some prices is taken. */
const stateOf = (problem: Problem, prices: SittingPrices): State => ({
  ...problem,
  cityOf: new Uint16Array(problem.table.people).fill(noCity),
  seats: new SittingSeats(problem.table, problem.sittings, (city, way) => priceOfWay(problem.sittings, prices, city, way, 0)),
})

/**
 * Everybody in turn, those first who would lose most by their second best, each in the cheapest city that has room. People who come
 * together find room the hardest, and go before.
 */
function seatedByRegret(state: State): State {
  const { table, cityOf, seats } = state
  const { sum } = cheapestWays(state, noPrices(seats.left.length))
  seatParties(state, sum)
  for (const person of hardestHitFirst(state, sum)) {
    let [at, least] = [noCity, table.unseated]
    const see = (city: number, cost: number) => {
      if (cost < least && seats.open(city, person)) [at, least] = [city, cost]
    }
    for (let slot = person * table.slots; slot < (person + 1) * table.slots && table.city[slot] !== noCity; slot += 1) {
      see(table.city[slot]!, table.cost[slot]!)
    }
    for (let k = 0; k < table.cities; k += 1) see(k, table.fallback[table.group[person]! * table.cities + k]!)
    cityOf[person] = seats.take(at, person)
  }
  return state
}

/** Those who come alone, first who would lose most by the second best at the prices of ways. */
function hardestHitFirst(problem: Problem, ways: Float64Array): Uint32Array {
  const { regret } = wishesAt(problem, ways)
  return Uint32Array.from(problem.alone).sort((a, b) => regret[b]! - regret[a]! || a - b)
}

/** People who come together, most of them and the hardest hit first, each where cost and price are least and there is room for all. */
function seatParties(state: State, ways: Float64Array): void {
  const { parties, table, cityOf, seats } = state
  const wishes = parties.map(party => ({ party, regret: wishOf(state, party, ways).regret }))
  for (
    const { party } of wishes.sort((a, b) =>
      b.party.members.length - a.party.members.length || b.regret - a.regret || a.party.members[0]! - b.party.members[0]!
    )
  ) {
    const price = party.cost.map((cost, k) =>
      party.members.reduce((sum, person) => sum + ways[rowOf(state, person) * table.cities + k]!, cost)
    )
    const city = citiesBelow(price, party.unseated).find(k => seats.takeAll(k, party.members))
    if (city !== undefined) { for (const person of party.members) cityOf[person] = city }
  }
}

/** Cities below a cost, the cheapest first. */
const citiesBelow = (cost: Float64Array, most: number): number[] =>
  [...cost.keys()].filter(k => cost[k]! < most).sort((a, b) => cost[a]! - cost[b]! || a - b)

/** People who come together go to a cheaper city that has room for all of them. */
function moveParties({ parties, cityOf, seats }: State): void {
  for (const { members, cost, unseated } of parties) {
    const from = cityOf[members[0]!]!
    const had = Array.from(members, person => seats.wayOf[person]!)
    const cheaper = citiesBelow(cost, from === noCity ? unseated : cost[from]!)
    if (cheaper.length === 0) continue
    for (const person of members) seats.leave(from, person)
    const to = cheaper.find(k => seats.takeAll(k, members))
    if (to !== undefined) { for (const person of members) cityOf[person] = to }
    else if (from !== noCity) members.forEach((person, i) => seats.sit(from, person, had[i]!))
  }
}

/** Everybody where they came to rest, the hardest hit first, as far as seats go. */
function seatedAtRest(state: State, prices: SittingPrices, draw: { seed: number, part: number }, progress: Progress): State {
  const { cityOf, seats, parties } = state
  const rest = cooled(state, prices, draw, () => progress.step())
  for (const { members } of parties) {
    const city = rest.cityOf[members[0]!]!
    if (city !== noCity && seats.takeAll(city, members)) { for (const person of members) cityOf[person] = city }
  }
  for (const person of hardestHitFirst(state, cheapestWays(state, prices).sum)) {
    const city = rest.cityOf[person]!
    if (seats.wayIn(city, person, [rest.wayOf[person]!]) < 0) continue
    seats.sit(city, person, rest.wayOf[person]!)
    cityOf[person] = city
  }
  return state
}
