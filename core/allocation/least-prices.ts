import FlatQueue from 'flatqueue'
import type { Prices } from './certificate'
import { PairHeaps } from './pair-heaps'
import { mostCost } from './policy'
import type { ResidualGraph } from './residual-graph'

/**
 * The least prices that prove an optimal placement, so that the price of a seat is exactly what one more seat in that city
 * would save: the potentials lowered as far as every arc allows, also the arcs of people at cities with room and of people
 * without a seat, who would come if there were one. One search by Dijkstra's algorithm in which every node starts at its own
 * potential (the least dual solution is a shortest path; Ahuja, Magnanti, Orlin, "Network Flows", 1993, section 9.4; from memory).
 */
export function leastPrices(graph: ResidualGraph, potential: Int32Array): Prices {
  const { cities } = graph.table
  const search = new Lowering(graph, potential)
  search.run()
  const lowered = (node: number) => potential[node]! - search.distance[node]!
  const seat = Float64Array.from({ length: cities }, (_, k) => lowered(k))
  return { seat, accessibleSeat: seat.map((price, k) => Math.max(0, lowered(cities + k) - price)) }
}

/** Nodes as in the residual graph; after them two more for people without a seat, without and with need, where nobody arrives. */
class Lowering {
  readonly distance: Int32Array
  private readonly costs: Int32Array
  private readonly queue = new FlatQueue()

  constructor(private readonly graph: ResidualGraph, private readonly potential: Int32Array) {
    this.distance = new Int32Array(graph.unseated + 2).fill(4 * mostCost)
    this.costs = graph.leastCosts()
  }

  run(): void {
    const { graph, queue } = this
    for (let node = 0; node < 2 * graph.table.cities; node += 1) this.reach(node, this.potential[node]!)
    this.reach(graph.unseated, 0)
    this.reach(graph.unseated + 1, 0)
    while (queue.length > 0) {
      const value = queue.peekValue()!
      const node = queue.pop()!
      if (value !== this.distance[node]) continue
      if (node >= graph.unseated) {
        this.follow(node === graph.unseated ? 2 * graph.table.cities : 2 * graph.table.cities + 1, node > graph.unseated, value)
      } else if (node >= graph.groupsAt) this.followGroup(node, value - this.potential[node]!)
      else this.followCity(node, value - this.potential[node]!)
    }
  }

  private reach(node: number, value: number): void {
    if (value >= this.distance[node]!) return
    this.distance[node] = value
    this.queue.push(node, value)
  }

  private followCity(node: number, base: number): void {
    const { table, through } = this.graph
    const { cities } = table
    const need = node >= cities
    this.follow(node, need, base)
    const k = need ? node - cities : node
    const passes = need ? through[k]! < table.accessible[k]! : through[k]! > 0
    const other = need ? k : cities + k
    if (passes) this.reach(other, base + this.potential[other]!)
  }

  /** The moves of one row of costs: to cities, and to the nodes of groups. */
  private follow(row: number, need: boolean, base: number): void {
    const { table, groupsAt, width } = this.graph
    this.followCosts(this.costs, row * width, table.cities, need ? table.cities : 0, base)
    this.followCosts(this.costs, row * width + table.cities, table.groups, groupsAt + (need ? table.groups : 0), base)
  }

  private followGroup(node: number, base: number): void {
    const { table, groupsAt } = this.graph
    const group = node - groupsAt
    const need = group >= table.groups
    this.followCosts(table.fallback, (need ? group - table.groups : group) * table.cities, table.cities, need ? table.cities : 0, base)
  }

  private followCosts(costs: Int32Array, from: number, length: number, first: number, base: number): void {
    for (let i = 0; i < length; i += 1) {
      const cost = costs[from + i]!
      if (cost < PairHeaps.nothing) this.reach(first + i, base + cost + this.potential[first + i]!)
    }
  }
}
