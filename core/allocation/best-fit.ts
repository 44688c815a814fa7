import { costsOf, problemFaults, type AllocationProblem, type AllocationResult, type Placement } from './problem'

/**
 * The least total cost, exactly: a minimum-cost flow solved by successive shortest paths on the residual graph
 * contracted onto cities (Ahuja, Magnanti, Orlin, "Network Flows", 1993, chapter 9; from memory).
 *
 * A city is two nodes: T takes everybody up to the capacity, A in front of it takes those in need up to the accessible
 * capacity. Candidates are seated one after the other in the order of their ids; when a city is full, the cheapest
 * chain of moves that ends at a free seat is found by Bellman-Ford. "No seat" is one more city without limit.
 * The result depends on the input only, not on the order of its rows.
 *
 * @throws RangeError with every fault when the problem is not well stated.
 */
export function solveBestFit(problem: AllocationProblem): AllocationResult {
  const faults = problemFaults(problem)
  if (faults.length > 0) throw new RangeError(faults.join('; '))
  const state = new SeatingState(ordered(problem))
  for (let person = 0; person < state.costs.length; person += 1) state.seat(person)
  return resultOf(problem, state)
}

function ordered(problem: AllocationProblem): AllocationProblem {
  const byId = (a: { id: string }, b: { id: string }) => a.id < b.id ? -1 : a.id > b.id ? 1 : 0
  return { ...problem, cities: [...problem.cities].sort(byId), candidates: [...problem.candidates].sort(byId) }
}

interface Arc { to: number, cost: number, mover: number }
const none = -1

/** Who sits where, and the cheapest chain of moves that frees a seat. Nodes: T of city k is 2k, A of city k is 2k+1. */
class SeatingState {
  readonly costs: number[][]
  readonly cityOf: Int32Array
  readonly cities: number
  private readonly members: Set<number>[]
  private readonly needs: boolean[]
  private readonly capacity: number[]
  private readonly accessible: number[]

  constructor(readonly problem: AllocationProblem) {
    const unseated = problem.policy.unseated
    this.costs = problem.candidates.map(c => [...costsOf(c, problem), unseated])
    this.needs = problem.candidates.map(c => c.needsAccessible)
    this.cities = problem.cities.length + 1
    this.capacity = [...problem.cities.map(c => c.capacity), Infinity]
    this.accessible = [...problem.cities.map(c => c.accessibleCapacity), Infinity]
    this.cityOf = new Int32Array(problem.candidates.length).fill(none)
    this.members = Array.from({ length: this.cities * 2 }, () => new Set<number>())
  }

  private count(city: number): number {
    return this.set(2 * city).size + this.set(2 * city + 1).size
  }

  private set(node: number): Set<number> {
    return this.members[node] ?? new Set()
  }

  /** Node at which a person enters a city. */
  private entry(person: number, city: number): number {
    return this.needs[person] ? 2 * city + 1 : 2 * city
  }

  seat(person: number): void {
    const { distance, next } = this.distancesToFreeSeat()
    let best = this.cities - 1
    let bestCost = Infinity
    for (let city = 0; city < this.cities; city += 1) {
      const cost = this.cost(person, city) + (distance[this.entry(person, city)] ?? Infinity)
      if (cost < bestCost) [best, bestCost] = [city, cost]
    }
    this.moveAlong(person, best, next)
  }

  private moveAlong(person: number, city: number, next: (Arc | null)[]): void {
    let node = this.entry(person, city)
    this.put(person, city)
    for (let arc = next[node]; arc; arc = next[node]) {
      if (arc.mover !== none) this.put(arc.mover, Math.floor(arc.to / 2))
      node = arc.to
    }
  }

  private put(person: number, city: number): void {
    const old = this.cityOf[person] ?? none
    if (old !== none) this.set(this.entry(person, old)).delete(person)
    this.cityOf[person] = city
    this.set(this.entry(person, city)).add(person)
  }

  cost(person: number, city: number): number {
    return this.costs[person]?.[city] ?? Infinity
  }

  /** Cheapest way from each node to a city with room, and the arc to take first. Nodes with no way are Infinity. */
  distancesToFreeSeat(): { distance: number[], next: (Arc | null)[] } {
    const nodes = this.cities * 2
    const distance = new Array<number>(nodes).fill(Infinity)
    const next = new Array<Arc | null>(nodes).fill(null)
    for (let city = 0; city < this.cities; city += 1) {
      if (this.count(city) < (this.capacity[city] ?? 0)) distance[2 * city] = 0
    }
    const arcs = Array.from({ length: nodes }, (_, node) => this.arcsFrom(node))
    for (let changed = true; changed;) {
      changed = false
      for (let node = 0; node < nodes; node += 1) {
        for (const arc of arcs[node] ?? []) {
          const through = arc.cost + (distance[arc.to] ?? Infinity)
          if (through < (distance[node] ?? Infinity)) {
            distance[node] = through
            next[node] = arc
            changed = true
          }
        }
      }
    }
    return { distance, next }
  }

  private arcsFrom(node: number): Arc[] {
    const city = Math.floor(node / 2)
    const inNeed = node % 2 === 1
    const arcs: Arc[] = []
    if (inNeed && this.set(node).size < (this.accessible[city] ?? 0)) arcs.push({ to: 2 * city, cost: 0, mover: none })
    // Someone in need who leaves the city frees an ordinary place too: the arc back from T to A.
    if (!inNeed && this.set(node + 1).size > 0) arcs.push({ to: node + 1, cost: 0, mover: none })
    for (let other = 0; other < this.cities; other += 1) {
      if (other === city) continue
      // Of people who could move at equal cost the later applicant does.
      let mover = none
      let cost = Infinity
      for (const person of this.set(node)) {
        const change = this.cost(person, other) - this.cost(person, city)
        if (change < cost || (change === cost && person > mover)) [mover, cost] = [person, change]
      }
      if (mover !== none) arcs.push({ to: 2 * other + (inNeed ? 1 : 0), cost, mover })
    }
    return arcs
  }
}

function resultOf(problem: AllocationProblem, state: SeatingState): AllocationResult {
  const { candidates, cities } = state.problem
  const placements = candidates.map((candidate, person): Placement => {
    const city = cities[state.cityOf[person] ?? none]
    const rank = city ? candidate.choices.indexOf(city.id) : none
    return { candidate: candidate.id, city: city?.id ?? null, choice: rank < 0 ? null : rank + 1, cost: state.cost(person, state.cityOf[person] ?? none) }
  })
  const cost = placements.reduce((sum, p) => sum + p.cost, 0)
  // The distance to a free seat is the dual price: what it costs to find room for one more there.
  const { distance } = state.distancesToFreeSeat()
  const finite = (value: number | undefined) => value === undefined || value === Infinity ? problem.policy.unseated : value
  const seat = cities.map((_, k) => finite(distance[2 * k]))
  const accessibleSeat = cities.map((_, k) => Math.max(0, finite(distance[2 * k + 1]) - (seat[k] ?? 0)))
  const bound = lowerBound(state, seat, accessibleSeat)
  return {
    placements, cost, bound, certified: bound === cost,
    prices: cities.map((city, k) => ({ city: city.id, seat: seat[k] ?? 0, accessibleSeat: accessibleSeat[k] ?? 0 })),
  }
}

/** Weak duality: for any prices of 0 or more, each at its cheapest price-inclusive option less the value of all seats. */
function lowerBound(state: SeatingState, seat: number[], accessibleSeat: number[]): number {
  const { candidates, cities, policy } = state.problem
  let bound = 0
  candidates.forEach((candidate, person) => {
    let least = policy.unseated
    cities.forEach((_, k) => {
      least = Math.min(least, state.cost(person, k) + (seat[k] ?? 0) + (candidate.needsAccessible ? accessibleSeat[k] ?? 0 : 0))
    })
    bound += least
  })
  cities.forEach((city, k) => { bound -= city.capacity * (seat[k] ?? 0) + city.accessibleCapacity * (accessibleSeat[k] ?? 0) })
  return bound
}
