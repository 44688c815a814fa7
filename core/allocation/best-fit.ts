import FlatQueue from 'flatqueue'
import type { Prices } from './certificate'
import { noCity } from './instance'
import type { OptionTable } from './option-table'
import { leastPrices } from './least-prices'
import { mostCost } from './policy'
import { ResidualGraph } from './residual-graph'

/** Told now and then how many of the surplus people have been relieved; answers whether to go on. */
export type Watch = (done: number, total: number) => boolean

/** Thrown when a watch says to stop. */
export class Cancelled extends Error {}

export interface Solution {
  cityOf: Uint16Array
  /** What one more seat in each city would save. */
  prices: Prices
  /** What one seat less in each city would cost; nothing where one is free. */
  losses: () => Float64Array
}

/**
 * The placement of least total cost, exactly, with prices that prove it.
 *
 * Everyone starts at the cheapest option, whoever else wants it. Then all cities with too many people are relieved together:
 * shortest chains of moves to free seats are found from all of them at once (Dijkstra's algorithm with potentials on the graph
 * contracted onto cities), all chains of that length that can be had are gone, and so on with longer ones: the primal-dual
 * method of Ford and Fulkerson with blocking flows of Dinic (Ahuja, Magnanti, Orlin, "Network Flows", 1993, chapters 7 and 9;
 * from memory). The potentials at the end are the prices; the least ones are given, so that the price of a seat is exactly what
 * one more seat in that city would save.
 *
 * Deterministic: the result depends on the table alone. Time grows with the number of moves, memory is about 110 bytes a person.
 *
 * @throws Cancelled when `watch` says so.
 */
export function solveBestFit(table: OptionTable, watch: Watch = () => true): Solution {
  const relief = new Relief(new ResidualGraph(table))
  const total = relief.surplus()
  for (let left = total; left > 0; left = relief.surplus()) {
    if (!watch(total - left, total)) throw new Cancelled('stopped before the end')
    relief.round()
  }
  watch(total, total)
  return { cityOf: relief.graph.cityOf, prices: leastPrices(relief.graph, relief.potential), losses: () => relief.losses() }
}

const far = 4 * mostCost
/** Hops are counted in the fraction of a queue's key: of chains of one cost the shorter comes first. */
const hopShare = 1 / 65_536

class Relief {
  /** What it costs from a node to a free seat, as far as known; reduced costs of all arcs are 0 or more. */
  readonly potential: Int32Array
  private readonly distance: Int32Array
  private readonly hops: Int32Array
  private readonly arcAt: Int32Array
  private readonly queue = new FlatQueue()
  private limit = far

  constructor(readonly graph: ResidualGraph) {
    this.potential = new Int32Array(graph.nodes)
    this.distance = new Int32Array(graph.nodes)
    this.hops = new Int32Array(graph.nodes)
    this.arcAt = new Int32Array(graph.nodes)
    this.groupPotentials()
  }

  /** "Any city" costs what its cheapest city does. */
  private groupPotentials(): void {
    const { table, groupsAt } = this.graph
    for (let group = 0; group < table.groups; group += 1) {
      let least = table.unseated
      for (let k = 0; k < table.cities; k += 1) least = Math.min(least, table.fallback[group * table.cities + k]!)
      this.potential[groupsAt + group] = least
      this.potential[groupsAt + table.groups + group] = least
    }
  }

  /** How many people too many there are at all nodes together. */
  surplus(): number {
    let sum = 0
    for (let node = 0; node < 2 * this.graph.table.cities; node += 1) sum += Math.max(0, this.graph.excess(node))
    return sum
  }

  /** One search from all surplus nodes, then as many chains of the least cost as can be had without another search. */
  round(): void {
    const { graph } = this
    this.search([...Array(2 * graph.table.cities).keys()].filter(node => graph.excess(node) > 0))
    this.arcAt.fill(0)
    for (let node = 0; node < 2 * graph.table.cities; node += 1) {
      while (graph.excess(node) > 0 && this.relieve(node)) { /* one person less each time */ }
    }
    for (let node = 0; node < graph.nodes; node += 1) {
      if (this.distance[node]! < this.limit) this.potential[node]! += this.limit - this.distance[node]!
    }
  }

  private search(sources: readonly number[]): void {
    const { graph, queue, distance, hops } = this
    const { cities } = graph.table
    queue.clear()
    distance.fill(far)
    hops.fill(0)
    this.limit = far - 1
    for (const node of sources) {
      distance[node] = 0
      queue.push(node, 0)
    }
    while (queue.length > 0) {
      const key = queue.peekValue() as number
      const node = queue.pop() as number
      if (key > this.limit + 1) break
      if (key !== distance[node]! + hops[node]! * hopShare) continue
      if (node === graph.unseated || (node < cities && graph.room(node) > 0)) this.limit = Math.min(this.limit, distance[node]!)
      else this.scan(node)
    }
  }

  /** What it costs to bring somebody from each city to a free seat, others moving on between. */
  losses(): Float64Array {
    return Float64Array.from({ length: this.graph.table.cities }, (_, k) => {
      if (this.graph.room(k) > 0) return 0
      this.search([k])
      return this.limit + this.potential[k]!
    })
  }

  private scan(node: number): void {
    const { graph, potential } = this
    const { table, groupsAt, width, heaps } = graph
    const { cities, groups } = table
    const base = this.distance[node]! - potential[node]!
    const hop = this.hops[node]! + 1
    if (node >= groupsAt) {
      const need = node >= groupsAt + groups
      const row = (node - groupsAt - (need ? groups : 0)) * cities
      const first = need ? cities : 0
      for (let k = 0; k < cities; k += 1) this.relax(first + k, base + table.fallback[row + k]! + potential[first + k]!, hop)
      this.relax(graph.unseated, base + table.unseated, hop)
      return
    }
    const need = node >= cities
    if (graph.full[node] === 1) {
      const row = node * width
      const first = need ? cities : 0
      const { least } = heaps
      for (let k = 0; k < cities; k += 1) this.relax(first + k, base + least[row + k]! + potential[first + k]!, hop)
      const groupFirst = groupsAt + (need ? groups : 0)
      for (let g = 0; g < groups; g += 1) this.relax(groupFirst + g, base + least[row + cities + g]! + potential[groupFirst + g]!, hop)
    }
    if (this.mayPass(node)) this.relax(this.otherNode(node), base + potential[this.otherNode(node)]!, hop)
  }

  private relax(node: number, distance: number, hop: number): void {
    if (distance > this.limit) return
    const old = this.distance[node]!
    if (distance > old || (distance === old && hop >= this.hops[node]!)) return
    this.distance[node] = distance
    this.hops[node] = hop
    this.queue.push(node, distance + hop * hopShare)
  }

  /** The other of a city's two nodes. */
  private otherNode(node: number): number {
    const { cities } = this.graph.table
    return node < cities ? node + cities : node - cities
  }

  /** Whether somebody in need may take one more accessible seat, or, from the side of all seats, give one up. */
  private mayPass(node: number): boolean {
    const { table, through } = this.graph
    return node < table.cities ? through[node]! > 0 : through[node - table.cities]! < table.accessible[node - table.cities]!
  }

  private readonly path: number[] = []

  /** Moves one chain of people on from a node to a free seat, along arcs of the search; whether there was one. */
  private relieve(source: number): boolean {
    const { graph, path, hops } = this
    const { cities } = graph.table
    path.length = 0
    path.push(source)
    while (path.length > 0) {
      const node = path[path.length - 1]!
      if (node === graph.unseated || (node < cities && graph.room(node) > 0)) {
        this.shift()
        return true
      }
      const next = this.nextNode(node)
      if (next >= 0) {
        path.push(next)
        continue
      }
      // Nothing leads on from here in this round.
      hops[node] = -1
      path.pop()
    }
    return false
  }

  /** The next node on a shortest way from a node, -1 when there is none left. */
  private nextNode(node: number): number {
    const { graph, arcAt, distance, hops, limit, potential } = this
    const { table, groupsAt, width, heaps } = graph
    const { cities, groups } = table
    const hop = hops[node]! + 1
    const base = distance[node]! - potential[node]!
    const ofGroup = node >= groupsAt
    const need = ofGroup ? node >= groupsAt + groups : node >= cities
    const first = need ? cities : 0
    const arcs = ofGroup ? cities : width
    const row = ofGroup ? (node - groupsAt - (need ? groups : 0)) * cities : node * width
    const costs = ofGroup ? table.fallback : heaps.least
    const groupFirst = groupsAt + (need ? groups : 0) - cities
    if (!ofGroup && graph.full[node] === 0) arcAt[node] = arcs
    for (let arc = arcAt[node]!; arc < arcs; arc += 1) {
      const to = arc < cities ? first + arc : groupFirst + arc
      if (hops[to] !== hop || distance[to]! > limit || base + costs[row + arc]! + potential[to]! !== distance[to]) continue
      arcAt[node] = arc
      return to
    }
    arcAt[node] = arcs
    const last = ofGroup ? graph.unseated : this.otherNode(node)
    const cost = ofGroup ? table.unseated : 0
    if (!ofGroup && !this.mayPass(node)) return -1
    return hops[last] === hop && distance[last]! <= limit && base + cost + potential[last]! === distance[last] ? last : -1
  }

  /** Goes the chain of `path`: from its end, so that each mover is the one the search saw. */
  private shift(): void {
    const { graph, path } = this
    const { cities, groups } = graph.table
    let to = path.length - 1
    while (to > 0) {
      const end = path[to]!
      let from = to - 1
      let node = path[from]!
      let arc = end < cities ? end : end - cities
      if (node >= graph.groupsAt) {
        arc = cities + (node - graph.groupsAt) % groups
        from -= 1
        node = path[from]!
      }
      const k = end < cities ? end : end - cities
      if (end !== graph.unseated && node < 2 * cities && this.otherNode(node) === end && from === to - 1) {
        graph.through[k]! += end < cities
          ? 1
          : -1
      } else graph.move(graph.mover(node, arc), end === graph.unseated ? noCity : k)
      to = from
    }
    const end = path[path.length - 1]!
    if (end !== graph.unseated) graph.noteFull(end)
  }
}
