import { Random } from '../../random'
import { noCity, sessionOf } from '../instance'
import { closed, costAt } from '../option-table'
import { cheapestWays, priceOfWay, type SittingPrices } from './prices'
import { rowOf, type Party, type Problem } from './problem'
import { noWay } from './seats'

/** How many places are thought of for everybody: those that cost least with their prices. */
const placesEach = 8
/** Moves tried for each person, of few and of many people; at most so many in all. */
const [triesOfFew, triesOfMany, mostTries] = [6000, 600, 300_000_000]
const few = 7_500
/** Heat at first and at last, and in how many steps it falls; in what a worse city usually costs more. */
const [hot, cold] = [0.4, 0.03]
export const coolingSteps = 200
/** One too many costs so many times the price of a seat, and a little more: with less crowds stay, with more nobody moves past another. */
const [finePart, fineMore] = [1.03, 0.03]

/**
 * A first placement near the best one: everybody begins where cost and price are least, whoever else is there, and then people move about
 * at random between their good places, the less often the dearer a move is, and ever less so (simulated annealing; Kirkpatrick, Gelatt and
 * Vecchi, "Optimization by Simulated Annealing", Science 220, 1983; from memory). A seat too many costs somewhat more than its price, which
 * brings the crowds down to the seats there are, all but a few; those have to be placed anew. Deterministic.
 *
 * @param seed another one draws other moves; `part` of all moves are tried.
 * @param goOn asked as often as it gets colder.
 * @returns city and way of everybody; some sessions may have a few people too many.
 */
export function cooled(
  problem: Problem,
  prices: SittingPrices,
  { seed, part }: { seed: number, part: number },
  goOn: () => boolean,
): { cityOf: Uint16Array, wayOf: Uint8Array } {
  const { people } = problem.table
  const crowd = new Crowd(problem, prices)
  crowd.cool(Math.min(mostTries, Math.max(triesOfFew * Math.min(people, few), triesOfMany * people)) * part, new Random(seed), goOn)
  return crowd.placed()
}

interface Place {
  city: number
  cost: number
  price: number
  ways: number
}

/** In place of the number of a way: the ways of people who have no seat. */
const nowhere = noWay

class Crowd {
  private readonly units: ArrayLike<number>[] = []
  /**
   * Good places of all units one after the other, `placesEach` a unit or fewer: the city, what it costs without prices, and how members
   * sit.
   */
  private readonly city: Uint16Array
  private readonly cost: Float64Array
  private readonly ways: Uint32Array
  /** How members sit, by number: one who comes alone by the way's own, up to `nowhere`; people together by numbers above. */
  private readonly waysOf: ArrayLike<number>[] = Array.from({ length: nowhere + 1 }, (_, way) => [way])
  private readonly counts: Uint8Array
  /** Where each unit is among its places. */
  private readonly now: Uint8Array
  /** How many people too many there are in each session of a city, and behind those in need; below 0 where seats are left. */
  private readonly over: Int32Array
  /** What one too many costs there. */
  private readonly fine: Float64Array
  /** What each place takes up of these, those of one after those of the other, and where they begin. */
  private readonly uses: number[] = []
  private readonly usesFrom: Uint32Array
  private readonly cheapest: ReturnType<typeof cheapestWays>
  private readonly good: Place[] = []

  constructor(private readonly problem: Problem, private readonly prices: SittingPrices) {
    const { alone, parties, sittings: { seats, accessible } } = problem
    const size = alone.length + parties.length
    this.city = new Uint16Array(size * placesEach)
    this.cost = new Float64Array(size * placesEach)
    this.ways = new Uint32Array(size * placesEach)
    this.counts = new Uint8Array(size)
    this.now = new Uint8Array(size)
    this.usesFrom = new Uint32Array(size * placesEach + 1)
    this.over = Int32Array.from([...seats, ...accessible], n => -n)
    this.fine = Float64Array.from([...prices.seat, ...prices.accessibleSeat])
    this.cheapest = cheapestWays(problem, prices)
    for (const person of alone) {
      this.findPlaces(person)
      this.add([person])
    }
    for (const party of parties) {
      this.findPlacesTogether(party)
      this.add(party.members)
    }
  }

  /** Adds a unit with the places that were found, where cost and price are least. */
  private add(members: ArrayLike<number>): void {
    const unit = this.units.push(members) - 1
    this.good.forEach(({ city, cost, ways }, i) => {
      const at = unit * placesEach + i
      ;[this.city[at], this.cost[at], this.ways[at]] = [city, cost, ways]
      if (city !== noCity) this.addUses(members, city, this.waysOf[ways]!)
      this.usesFrom[at + 1] = this.uses.length
    })
    this.counts[unit] = this.good.length
    this.usesFrom.fill(this.uses.length, unit * placesEach + this.good.length + 1, (unit + 1) * placesEach + 1)
    this.good.length = 0
    this.count(unit, 1)
  }

  /** Keeps a place while it is among the best; of equal ones the earlier city and way. */
  private see(city: number, cost: number, price: number, ways: number): void {
    const { good } = this
    const worst = good[placesEach - 1]
    if (worst && price >= worst.price && (price > worst.price || city >= worst.city)) return
    let at = good.length
    while (at > 0 && (good[at - 1]!.price > price || (good[at - 1]!.price === price && good[at - 1]!.city > city))) at -= 1
    good.splice(at, 0, { city, cost, price, ways })
    if (good.length > placesEach) good.length = placesEach
  }

  /** Every city and way of one who comes alone; nowhere, too. */
  private findPlaces(person: number): void {
    const { table, sittings } = this.problem
    this.see(noCity, table.unseated, table.unseated, nowhere)
    for (let city = 0; city < table.cities; city += 1) {
      const cost = costAt(table, person, city)
      if (cost >= closed) continue
      sittings.kinds[sittings.kindOf[person]!]!.ways.forEach((way, w) =>
        this.see(city, cost, cost + priceOfWay(sittings, this.prices, city, way, table.needs[person]!), w)
      )
    }
  }

  /** Every city of people who come together, each in the way that is cheapest there; nowhere, too. */
  private findPlacesTogether({ members, cost, unseated }: Party): void {
    const { problem, cheapest: { sum, way } } = this
    const at = (person: number, city: number) => rowOf(problem, person) * problem.table.cities + city
    const add = (ways: ArrayLike<number>) => this.waysOf.push(ways) - 1
    this.see(noCity, unseated, unseated, add(Array.from(members, () => noWay)))
    cost.forEach((own, city) => {
      const price = members.reduce((all, person) => all + sum[at(person, city)]!, own)
      if (price < Infinity) this.see(city, own, price, add(Array.from(members, person => way[at(person, city)]!)))
    })
  }

  private addUses(members: ArrayLike<number>, city: number, ways: ArrayLike<number>): void {
    const { table, sittings } = this.problem
    const base = city * sittings.sessions.length
    for (let i = 0; i < members.length; i += 1) {
      const person = members[i]!
      for (const s of sittings.kinds[sittings.kindOf[person]!]!.ways[ways[i]!]!) {
        this.uses.push(base + s)
        if (table.needs[person] === 1) this.uses.push(sittings.seats.length + base + sessionOf(sittings, s))
      }
    }
  }

  /** Counts a unit's seats in, or out for -1; what that adds to the fines. */
  private count(unit: number, by: 1 | -1): number {
    const { uses, usesFrom, over, fine } = this
    const place = unit * placesEach + this.now[unit]!
    let fines = 0
    for (let i = usesFrom[place]!; i < usesFrom[place + 1]!; i += 1) {
      const at = uses[i]!
      // One who comes is fined where there are too many now, one who leaves is let off where there were.
      if (by > 0 ? over[at]! >= 0 : over[at]! > 0) fines += by * fine[at]!
      over[at]! += by
    }
    return fines
  }

  /** Tries so many moves while it gets cold. */
  cool(tries: number, random: Random, goOn: () => boolean): void {
    const movable = Uint32Array.from(this.units.keys()).filter(unit => this.counts[unit]! > 1)
    if (movable.length === 0) return
    const usual = this.usualDifference(movable)
    this.fine.forEach((price, i) => {
      this.fine[i] = price * finePart + usual * fineMore
    })
    const cooling = (cold / hot) ** (1 / coolingSteps)
    for (let [step, heat] = [0, hot * usual]; step < coolingSteps && goOn(); step += 1, heat *= cooling) {
      for (let i = 0; i < tries / coolingSteps; i += 1) {
        const unit = movable[Math.floor(random.next() * movable.length)]!
        const from = this.now[unit]!
        const to = Math.floor(random.next() * this.counts[unit]!)
        if (to === from) continue
        const first = unit * placesEach
        let dearer = this.cost[first + to]! - this.cost[first + from]! + this.count(unit, -1)
        this.now[unit] = to
        dearer += this.count(unit, 1)
        if (dearer <= 0 || random.next() < Math.exp(-dearer / heat)) continue
        this.count(unit, -1)
        this.now[unit] = from
        this.count(unit, 1)
      }
    }
  }

  /** The middle of what it costs people more to be in the next worse city, without prices. */
  private usualDifference(units: Uint32Array): number {
    const found = Float64Array.from(units, (unit) => {
      const costs = this.cost.subarray(unit * placesEach, unit * placesEach + this.counts[unit]!)
      const least = Math.min(...costs)
      return Math.min(...costs.filter(cost => cost > least)) - least
    }).filter(more => more < Infinity).sort()
    return found[Math.floor(found.length / 2)] ?? 1
  }

  placed(): { cityOf: Uint16Array, wayOf: Uint8Array } {
    const cityOf = new Uint16Array(this.problem.table.people).fill(noCity)
    const wayOf = new Uint8Array(cityOf.length).fill(noWay)
    this.units.forEach((members, unit) => {
      const at = unit * placesEach + this.now[unit]!
      const ways = this.waysOf[this.ways[at]!]!
      for (let i = 0; i < members.length; i += 1) [cityOf[members[i]!], wayOf[members[i]!]] = [this.city[at]!, ways[i]!]
    })
    return { cityOf, wayOf }
  }
}
