import { Random } from '../../rehearsal/random'
import { noCity, sessionOf } from '../instance'
import { closed, costAt } from '../option-table'
import { cheapestWays, priceOfWay, type SittingPrices } from './prices'
import { rowOf, type Party, type Problem } from './problem'
import { noWay } from './seats'

/** How many places are thought of for everybody: those that cost least with their prices. */
const placesEach = 8
/** Moves tried for each person, of few and of many people; at most so many in all. */
const [triesOfFew, triesOfMany, mostTries] = [2000, 400, 300_000_000]
const few = 7_500
/** Heat at first and at last, and in how many steps it falls; in what a worse city usually costs more. */
const [hot, cold] = [0.4, 0.03]
export const coolingSteps = 200
/** One too many costs so many times the price of a seat, and a little more: with less crowds stay, with more nobody moves past another. */
const [finePart, fineMore] = [1.03, 0.03]

/**
 * A first placement near the best one: everybody begins where cost and price are least, whoever else is there, and then people move about
 * at random between their good places, the less often the dearer a move is, and ever less so (simulated annealing; Kirkpatrick, Gelatt and Vecchi,
 * "Optimization by Simulated Annealing", Science 220, 1983; from memory). A seat too many costs somewhat more than its price, which brings
 * the crowds down to the seats there are, all but a few; those have to be placed anew. Deterministic.
 *
 * @param seed another one draws other moves.
 * @param goOn asked as often as it gets colder.
 * @returns city and way of everybody; some sessions may have a few people too many.
 */
export function cooled(problem: Problem, prices: SittingPrices, seed: number, goOn: () => boolean): { cityOf: Uint16Array, wayOf: Uint8Array } {
  const { table, alone, parties } = problem
  const crowd = new Crowd(problem, prices)
  for (const person of alone) crowd.add([person], crowd.placesOf(person))
  for (const party of parties) crowd.add(party.members, crowd.placesTogether(party))
  crowd.cool(Math.min(mostTries, Math.max(triesOfFew * Math.min(table.people, few), triesOfMany * table.people)), new Random(seed), goOn)
  return crowd.placed()
}

interface Place { city: number, cost: number, price: number, ways: number[] }

class Crowd {
  private readonly units: ArrayLike<number>[] = []
  /** Good places of all units one after the other; of a unit those from `first` on, up to the next unit's. */
  private readonly places: Place[] = []
  private readonly first: number[] = [0]
  private readonly now: number[] = []
  /** How many people too many there are in each session of a city, and in need; below 0 where seats are left. */
  private readonly over: { seat: Int32Array, accessible: Int32Array }
  /** What one too many costs there. */
  private readonly fine: { seat: Float64Array, accessible: Float64Array }
  private readonly cheapest: ReturnType<typeof cheapestWays>

  constructor(private readonly problem: Problem, private readonly prices: SittingPrices) {
    const { seats, accessible } = problem.sittings
    this.over = { seat: seats.map(n => -n), accessible: accessible.map(n => -n) }
    this.fine = { seat: prices.seat.slice(), accessible: prices.accessibleSeat.slice() }
    this.cheapest = cheapestWays(problem, prices)
  }

  /** One who comes alone, or several who come together, where cost and price are least. */
  add(members: ArrayLike<number>, found: Place[]): void {
    const good = found.sort((a, b) => a.price - b.price || a.city - b.city).slice(0, placesEach)
    this.now.push(this.places.push(...good) - good.length)
    this.units.push(members)
    this.first.push(this.places.length)
    this.count(this.units.length - 1, 1)
  }

  /** Every city and way of one who comes alone; nowhere, too. */
  placesOf(person: number): Place[] {
    const { table, sittings } = this.problem
    const found: Place[] = [{ city: noCity, cost: table.unseated, price: table.unseated, ways: [noWay] }]
    for (let city = 0; city < table.cities; city += 1) {
      const cost = costAt(table, person, city)
      if (cost >= closed) continue
      sittings.kinds[sittings.kindOf[person]!]!.ways.forEach((way, w) => found.push({ city, cost, price: cost + priceOfWay(sittings, this.prices, city, way, table.needs[person]!), ways: [w] }))
    }
    return found
  }

  /** Every city of people who come together, each in the way that is cheapest there; nowhere, too. */
  placesTogether({ members, cost, unseated }: Party): Place[] {
    const { problem, cheapest: { sum, way } } = this
    const at = (person: number, city: number) => rowOf(problem, person) * problem.table.cities + city
    const found: Place[] = [{ city: noCity, cost: unseated, price: unseated, ways: Array.from(members, () => noWay) }]
    cost.forEach((own, city) => {
      const price = members.reduce((all, person) => all + sum[at(person, city)]!, own)
      if (price < Infinity) found.push({ city, cost: own, price, ways: Array.from(members, person => way[at(person, city)]!) })
    })
    return found
  }

  /** Counts a unit's seats in, or out for -1; what that adds to the fines. */
  private count(unit: number, by: 1 | -1): number {
    const { table, sittings } = this.problem
    const place = this.places[this.now[unit]!]!
    if (place.city === noCity) return 0
    const base = place.city * sittings.sessions.length
    const members = this.units[unit]!
    let fines = 0
    for (let i = 0; i < members.length; i += 1) {
      const person = members[i]!
      for (const s of sittings.kinds[sittings.kindOf[person]!]!.ways[place.ways[i]!]!) {
        fines += counted(this.over.seat, this.fine.seat, base + s, by)
        if (table.needs[person] === 1) fines += counted(this.over.accessible, this.fine.accessible, base + sessionOf(sittings, s), by)
      }
    }
    return fines
  }

  /** Tries so many moves while it gets cold. */
  cool(tries: number, random: Random, goOn: () => boolean): void {
    const movable = [...this.units.keys()].filter(unit => this.first[unit + 1]! - this.first[unit]! > 1)
    if (movable.length === 0) return
    const usual = this.usualDifference(movable)
    for (const fine of [this.fine.seat, this.fine.accessible]) fine.forEach((price, i) => { fine[i] = price * finePart + usual * fineMore })
    const cooling = (cold / hot) ** (1 / coolingSteps)
    for (let [step, heat] = [0, hot * usual]; step < coolingSteps && goOn(); step += 1, heat *= cooling) {
      for (let i = 0; i < tries / coolingSteps; i += 1) {
        const unit = movable[Math.floor(random.next() * movable.length)]!
        const from = this.now[unit]!
        const to = this.first[unit]! + Math.floor(random.next() * (this.first[unit + 1]! - this.first[unit]!))
        if (to === from) continue
        let dearer = this.places[to]!.cost - this.places[from]!.cost + this.count(unit, -1)
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
  private usualDifference(units: readonly number[]): number {
    const found = units.map((unit) => {
      const costs = this.places.slice(this.first[unit], this.first[unit + 1]).map(place => place.cost)
      const least = Math.min(...costs)
      return Math.min(...costs.filter(cost => cost > least)) - least
    }).filter(more => more < Infinity).sort((a, b) => a - b)
    return found[Math.floor(found.length / 2)] ?? 1
  }

  placed(): { cityOf: Uint16Array, wayOf: Uint8Array } {
    const cityOf = new Uint16Array(this.problem.table.people).fill(noCity)
    const wayOf = new Uint8Array(cityOf.length).fill(noWay)
    this.units.forEach((members, unit) => {
      const { city, ways } = this.places[this.now[unit]!]!
      for (let i = 0; i < members.length; i += 1) [cityOf[members[i]!], wayOf[members[i]!]] = [city, ways[i]!]
    })
    return { cityOf, wayOf }
  }
}

/** One more or one less in a session; what that adds to the fines. */
function counted(over: Int32Array, fine: Float64Array, at: number, by: 1 | -1): number {
  const before = Math.max(0, over[at]!)
  over[at]! += by
  return (Math.max(0, over[at]!) - before) * fine[at]!
}
