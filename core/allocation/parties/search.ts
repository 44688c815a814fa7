import { cheapestWay } from './bound'
import type { PartyModel, PartyPlacement, Way } from './model'

/**
 * A placement within all limits: parties are seated by their regret at given prices, the largest first, each where cost and price are
 * least; then chains of moves are made as long as one lowers the cost; then, again and again, some parties are taken out and seated
 * anew, and the better placement is kept (large neighbourhood search; Shaw 1998; from memory). Deterministic; another `start` draws
 * other orders.
 *
 * @param rounds how often some are taken out and seated anew.
 */
export function searchPlacement(model: PartyModel, prices: Float64Array, rounds: number, start = 0): PartyPlacement {
  const seating = new Seating(model, prices)
  const regret = regretOf(model, prices)
  const inOrder = (parties: number[], draw: number) => parties.map(party => ({ party, weight: regret[party]! * shaken(draw, party) }))
    .sort((a, b) => model.parties[b.party]!.members.length - model.parties[a.party]!.members.length || b.weight - a.weight || a.party - b.party).map(one => one.party)
  const all = [...model.parties.keys()]
  for (const party of inOrder(all, start)) seating.moveTo(party, seating.cheapestOpen(party))
  for (let pass = 0; pass < 12 && seating.improve(all); pass += 1) { /* each pass lowers the cost */ }
  for (let round = 1; round <= rounds; round += 1) {
    const draw = start * 10_007 + round
    const kept = seating.state()
    const out = all.filter(party => shaken(draw, party) < 0.5 + Math.min(0.12, 60 / all.length))
    for (const party of out) seating.moveTo(party, -1)
    for (const party of inOrder(out, draw + 1)) seating.moveTo(party, seating.cheapestOpen(party))
    seating.improve(out)
    if (seating.cost() > kept.cost) seating.restore(kept)
  }
  while (seating.improve(all)) { /* the last word */ }
  return { city: seating.city, ways: seating.ways }
}

/** What each party would lose without its best city, at the prices. */
function regretOf({ parties, cities, unseated }: PartyModel, prices: Float64Array): number[] {
  return parties.map((party) => {
    let [best, second] = [unseated * party.members.length, unseated * party.members.length]
    for (let k = 0; k < cities; k += 1) {
      const sum = party.ways.reduce((total, ways) => total + cheapestWay(ways[k]!, prices).sum, party.cost[k]!)
      if (sum < best) [best, second] = [sum, best]
      else if (sum < second) second = sum
    }
    return second - best
  })
}

/** A factor around 1 for a party in a start, drawn by multiplication (Knuth's multiplicative hash; from memory); start 0 shakes nothing. */
function shaken(start: number, party: number): number {
  if (start === 0) return 1
  return 0.5 + (Math.imul(party + 1, Math.imul(start, 2_654_435_761)) >>> 0) / 2 ** 32
}

const deepest = 2
const mostAsked = 16

class Seating {
  readonly city: Int32Array
  readonly ways: Way[][]
  private readonly left: Int32Array
  private readonly there: Set<number>[]
  /** Cities of each party, the cheapest first, those it may sit in. */
  private readonly byCost: Uint16Array[]

  constructor(private readonly model: PartyModel, private readonly prices: Float64Array) {
    this.city = new Int32Array(model.parties.length).fill(-1)
    this.ways = model.parties.map(() => [])
    this.left = model.limits.slice()
    this.there = Array.from({ length: model.cities }, () => new Set())
    this.byCost = model.parties.map(({ cost }) => Uint16Array.from([...cost.keys()].filter(k => cost[k]! < Infinity).sort((a, b) => cost[a]! - cost[b]! || a - b)))
  }

  private costAt(party: number, city: number): number {
    const { parties, unseated } = this.model
    return city < 0 ? unseated * parties[party]!.members.length : parties[party]!.cost[city]!
  }

  /** The ways of all members in a city, each the cheapest that is open after those before; null when they do not fit. */
  private fit(party: number, city: number): Way[] | null {
    const { left, prices } = this
    const chosen: Way[] = []
    for (const ofCity of this.model.parties[party]!.ways) {
      const open = ofCity[city]!.filter(way => way.uses.every(limit => left[limit]! > 0))
      const way = open[cheapestWay(open, prices).at]
      if (!way) break
      for (const limit of way.uses) left[limit]! -= 1
      chosen.push(way)
    }
    for (const way of chosen) for (const limit of way.uses) left[limit]! += 1
    return chosen.length === this.model.parties[party]!.members.length ? chosen : null
  }

  /** Seats a party in a city, or nowhere for -1; whether it fits. */
  moveTo(party: number, city: number): boolean {
    this.leave(party)
    if (city < 0) return true
    const ways = this.fit(party, city)
    if (ways) this.sit(party, city, ways)
    return ways !== null
  }

  private sit(party: number, city: number, ways: Way[]): void {
    for (const way of ways) for (const limit of way.uses) this.left[limit]! -= 1
    this.journal.push({ party, city: -1, ways: [] })
    this.city[party] = city
    this.ways[party] = ways
    this.there[city]!.add(party)
  }

  private leave(party: number): void {
    const from = this.city[party]!
    if (from < 0) return
    this.journal.push({ party, city: from, ways: this.ways[party]! })
    this.stand(party, from)
  }

  private stand(party: number, from: number): void {
    for (const way of this.ways[party]!) for (const limit of way.uses) this.left[limit]! += 1
    this.there[from]!.delete(party)
    this.city[party] = -1
    this.ways[party] = []
  }

  /** What was done since a point, to be undone from the end. */
  private readonly journal: { party: number, city: number, ways: Way[] }[] = []

  private undo(to: number): void {
    while (this.journal.length > to) {
      const { party, city, ways } = this.journal.pop()!
      if (city < 0) {
        this.stand(party, this.city[party]!)
        continue
      }
      this.sit(party, city, ways)
      this.journal.pop()
    }
  }

  /** The city where a party fits at the least cost with prices; -1 for none. */
  cheapestOpen(party: number): number {
    const { cost, ways } = this.model.parties[party]!
    let [least, best] = [this.costAt(party, -1), -1]
    for (let k = 0; k < this.model.cities; k += 1) {
      let sum = cost[k]!
      for (const ofCity of ways) if (sum < least) sum += cheapestWay(ofCity[k]!, this.prices).sum
      if (sum < least && this.fit(party, k)) [least, best] = [sum, k]
    }
    return best
  }

  cost(): number {
    return this.city.reduce((sum, city, party) => sum + this.costAt(party, city), 0)
  }

  state() {
    return { cost: this.cost(), city: this.city.slice(), ways: this.ways.slice() }
  }

  restore({ city, ways }: { city: Int32Array, ways: Way[][] }): void {
    const changed = [...city.keys()].filter(party => this.city[party] !== city[party] || this.ways[party] !== ways[party])
    for (const party of changed) this.leave(party)
    for (const party of changed) if (city[party]! >= 0) this.sit(party, city[party]!, ways[party]!)
    this.journal.length = 0
  }

  /** Tries to bring people to a better city, if need be with others giving way; whether anything got better. */
  improve(parties: readonly number[]): boolean {
    let better = false
    for (const party of parties) {
      const now = this.costAt(party, this.city[party]!)
      this.journal.length = 0
      for (const city of this.byCost[party]!) {
        if (this.costAt(party, city) >= now) break
        this.leave(party)
        if (this.enter(party, city, now - this.costAt(party, city), deepest) !== null) {
          better = true
          break
        }
        this.undo(0)
      }
    }
    return better
  }

  /** Seats a party in a city, asking others to go elsewhere; what they lose together, below `gain`, or null when it cannot be had. */
  private enter(party: number, city: number, gain: number, depth: number): number | null {
    if (gain <= 0) return null
    if (this.moveTo(party, city)) return 0
    if (depth === 0) return null
    for (const { other, to, loss } of this.candidates(city, gain)) {
      const mark = this.journal.length
      this.leave(other)
      // One seat may not be enough for a party: then somebody else gives way, too.
      const here = this.enter(party, city, gain - loss, depth - 1)
      const there = here === null ? null : this.enter(other, to, gain - loss - here, depth - 1)
      if (here !== null && there !== null) return loss + here + there
      this.undo(mark)
    }
    return null
  }

  /** Who could give way in a city and where they would go: the smallest losses, in their order. */
  private candidates(city: number, gain: number): Candidate[] {
    const found: Candidate[] = []
    let most = gain
    for (const other of this.there[city]!) {
      const { cost } = this.model.parties[other]!
      for (const to of this.byCost[other]!) {
        const loss = cost[to]! - cost[city]!
        if (loss >= most) break
        if (to === city) continue
        insert(found, { other, to, loss })
        if (found.length < mostAsked) continue
        found.length = mostAsked
        most = found[mostAsked - 1]!.loss
      }
    }
    return found
  }
}

interface Candidate { other: number, to: number, loss: number }

/** Puts a candidate in its place by loss; of equal losses the earlier party and city come first. */
function insert(list: Candidate[], one: Candidate): void {
  let at = list.length
  while (at > 0 && (list[at - 1]!.loss - one.loss || list[at - 1]!.other - one.other || list[at - 1]!.to - one.to) > 0) at -= 1
  list.splice(at, 0, one)
}
