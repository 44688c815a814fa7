import { noCity } from './instance'
import { costAt, type OptionTable } from './option-table'
import { PairHeaps } from './pair-heaps'

/**
 * Who sits where, and what it costs to move somebody on: the residual graph of the allocation, contracted onto cities.
 *
 * Nodes, for K cities and G groups: `seats` of city k is k, where everybody there counts; `accessible` of city k is K + k, in
 * front of it, where those in need enter; 2K + g and 2K + G + g stand for "any city", at the price of group g, for people
 * without and with need; `unseated` is the last and takes everybody. A placed person is an arc from the own city's node to each
 * own option, and to the node of the group; of all who could make a move the cheapest is at hand, in a heap for each arc.
 *
 * Heaps are kept only for nodes that are full: nobody has to leave a city that has room.
 */
export class ResidualGraph {
  readonly nodes: number
  readonly unseated: number
  readonly groupsAt: number
  /** Arcs of a node of a city: K cities, then G groups. */
  readonly width: number
  readonly cityOf: Uint16Array
  /** People at the node of each city, by need. */
  readonly present: Int32Array
  /** Of those in need in a city, how many hold one of its accessible seats; the rest are too many. */
  readonly through: Int32Array
  readonly heaps: PairHeaps
  readonly full: Uint8Array
  private readonly costNow: Int32Array
  /** People at nodes that are not full, as lists. */
  private readonly newest: Int32Array
  private readonly before: Int32Array

  constructor(readonly table: OptionTable) {
    const { cities, groups, people, slots } = table
    this.groupsAt = 2 * cities
    this.unseated = 2 * cities + 2 * groups
    this.nodes = this.unseated + 1
    this.width = cities + groups
    this.cityOf = new Uint16Array(people).fill(noCity)
    this.costNow = new Int32Array(people)
    this.present = new Int32Array(2 * cities)
    this.through = new Int32Array(cities)
    this.full = new Uint8Array(2 * cities)
    this.newest = new Int32Array(2 * cities).fill(-1)
    this.before = new Int32Array(people)
    this.heaps = new PairHeaps(2 * cities * this.width, people * (slots + 1))
    const ofGroup = cheapestOfGroups(table)
    for (let person = 0; person < people; person += 1) this.enter(person, this.cheapest(person, ofGroup))
    for (let k = 0; k < cities; k += 1) this.through[k] = Math.min(this.present[cities + k]!, table.accessible[k]!)
    for (let k = 0; k < cities; k += 1) this.noteFull(k)
  }

  /** Seats of a city that are free; negative when too many people are there. */
  room(k: number): number {
    return this.table.capacity[k]! - this.present[k]! - this.through[k]!
  }

  /** How many people must still leave the node of a city. */
  excess(node: number): number {
    const { cities } = this.table
    return node < cities ? -this.room(node) : this.present[node]! - this.through[node - cities]!
  }

  /** The person who can go from a city's node by an arc at the least cost. */
  mover(node: number, arc: number): number {
    return Math.floor(this.heaps.top[node * this.width + arc]! / (this.table.slots + 1))
  }

  move(person: number, to: number): void {
    const { slots, cities, city, group, needs } = this.table
    const from = this.cityOf[person]!
    const node = needs[person] === 1 ? cities + from : from
    const base = node * this.width
    const entries = person * (slots + 1)
    const options = person * slots
    for (let slot = 0; slot < slots; slot += 1) {
      const target = city[options + slot]!
      if (target === noCity) break
      if (target !== from) this.heaps.remove(base + target, entries + slot)
    }
    this.heaps.remove(base + cities + group[person]!, entries + slots)
    this.present[node]! -= 1
    this.enter(person, to)
  }

  /** Marks the nodes of a city that have no room any more: from now on people can be asked to leave them. */
  noteFull(k: number): void {
    const { cities, accessible } = this.table
    if (this.room(k) <= 0) this.open(k)
    if (this.room(k) <= 0 || this.present[cities + k]! >= accessible[k]!) this.open(cities + k)
  }

  private open(node: number): void {
    if (this.full[node] === 1) return
    this.full[node] = 1
    for (let person = this.newest[node]!; person >= 0; person = this.before[person]!) this.offer(person, node)
  }

  private enter(person: number, city: number): void {
    const { table } = this
    this.cityOf[person] = city
    this.costNow[person] = costAt(table, person, city)
    if (city === noCity) return
    const node = table.needs[person] === 1 ? table.cities + city : city
    this.present[node]! += 1
    if (this.full[node] === 1) return this.offer(person, node)
    this.before[person] = this.newest[node]!
    this.newest[node] = person
  }

  /**
   * The least cost of every move from every node, also from those with room, and from "no seat" (two more rows, without and
   * with need): `(node) * width + arc`, `PairHeaps.nothing` where nobody could go.
   */
  leastCosts(): Int32Array {
    const { people, slots, cities, city, cost, group, needs } = this.table
    const result = new Int32Array((2 * cities + 2) * this.width).fill(PairHeaps.nothing)
    result.set(this.heaps.least)
    for (let person = 0; person < people; person += 1) {
      const here = this.cityOf[person]!
      const node = here === noCity ? 2 * cities + needs[person]! : needs[person] === 1 ? cities + here : here
      if (here !== noCity && this.full[node] === 1) continue
      const row = node * this.width
      const now = this.costNow[person]!
      for (let slot = person * slots; slot < (person + 1) * slots; slot += 1) {
        const target = city[slot]!
        if (target === noCity) break
        if (target !== here && cost[slot]! - now < result[row + target]!) result[row + target] = cost[slot]! - now
      }
      const any = row + cities + group[person]!
      if (-now < result[any]!) result[any] = -now
    }
    return result
  }

  /** Puts every way on of a person into the heaps of a node. */
  private offer(person: number, node: number): void {
    const { slots, cities, city, cost, group } = this.table
    const here = node < cities ? node : node - cities
    const base = node * this.width
    const entries = person * (slots + 1)
    const options = person * slots
    const now = this.costNow[person]!
    for (let slot = 0; slot < slots; slot += 1) {
      const target = city[options + slot]!
      if (target === noCity) break
      if (target !== here) this.heaps.insert(base + target, entries + slot, cost[options + slot]! - now)
    }
    this.heaps.insert(base + cities + group[person]!, entries + slots, -now)
  }

  /** Everyone's cheapest city before anybody has to give way; no seat when none is open. */
  private cheapest(person: number, ofGroup: Uint16Array): number {
    const { table } = this
    const { slots, city, cost, cities } = table
    let best = ofGroup[table.group[person]!]!
    let least = best === noCity ? table.unseated : table.fallback[table.group[person]! * cities + best]!
    for (let slot = person * slots; slot < (person + 1) * slots && city[slot] !== noCity; slot += 1) {
      if (cost[slot]! >= least) continue
      best = city[slot]!
      least = cost[slot]!
    }
    return best
  }
}

/** The cheapest city of each group; none where all are closed. */
function cheapestOfGroups({ groups, cities, fallback, unseated }: OptionTable): Uint16Array {
  return Uint16Array.from({ length: groups }, (_, group) => {
    let best = noCity
    let least = unseated
    for (let k = 0; k < cities; k += 1) {
      const cost = fallback[group * cities + k]!
      if (cost >= least) continue
      best = k
      least = cost
    }
    return best
  })
}
