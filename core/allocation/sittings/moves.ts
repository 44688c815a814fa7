import { noCity } from '../instance'
import { closed, costAt } from '../option-table'
import type { State } from './problem'

/** How many others one makes room by, one after the other, and how many are asked at each place. */
const deepest = 3
const mostAsked = 16
/** How many people may be looked at in all while a cycle is placed: everybody so often, and of many not more than that. */
export const looksFor = (people: number): Looks => ({ left: Math.min(8_000_000, 4000 * people) + 20 * people })
export interface Looks {
  left: number
}

/** One who comes alone, by place, or people who come together, by the number of all people and their own. */
type Unit = number
interface Option {
  city: number
  cost: number
}
interface Candidate {
  other: Unit
  to: number
  loss: number
}

/**
 * Brings people to a better city where others who lose less by it give way, alone or together, in chains. Where everybody is placed part by
 * part, exactly, this is what moves people past each other who sit different papers. Deterministic.
 *
 * @param looks what is left of them; it ends when none are.
 * @param goOn asked now and then.
 */
export function makeWay(state: State, looks: Looks, goOn: () => boolean): void {
  const units = [...state.parties.keys()].map(at => state.table.people + at)
  for (const person of state.alone) units.push(person)
  const moves = new Moves(state, units, looks)
  while (moves.improve(units, goOn)) { /* as long as somebody moves */ }
}

class Moves {
  private readonly there: Set<Unit>[]
  /** Of each group the cities that cost less than no seat, the cheapest first. */
  private readonly fallbacks = new Map<number, Option[]>()
  /** The cheapest option of each unit, where it is, and the next: whoever asks for its seat cannot have it for less. */
  private readonly cheapest = new Map<Unit, { city: number, cost: number, next: number }>()
  /** What was done since a point, to be undone from the end: who left or came, and how they had sat. */
  private readonly journal: { unit: Unit, from: number, ways: number[] }[] = []

  constructor(private readonly state: State, units: readonly Unit[], private readonly looks: Looks) {
    this.there = Array.from({ length: state.table.cities }, () => new Set())
    for (const unit of units) {
      this.there[this.cityAt(unit)]?.add(unit)
      const [first, second] = this.optionsBelow(unit, Infinity)
      this.cheapest.set(unit, { city: first!.city, cost: first!.cost, next: second?.cost ?? Infinity })
    }
  }

  /** Everybody once, who could gain most first; whether anything got better. */
  improve(units: readonly Unit[], goOn: () => boolean): boolean {
    let isBetter = false
    const gain = new Map(units.map(unit => [unit, this.costOf(unit) - this.cheapest.get(unit)!.cost]))
    const inTurn = units.filter(unit => gain.get(unit)! > 0).sort((a, b) => gain.get(b)! - gain.get(a)! || a - b)
    for (const [i, unit] of inTurn.entries()) {
      if (this.looks.left <= 0 || (i % 1024 === 0 && !goOn())) return false
      const now = this.costOf(unit)
      for (const { city, cost } of this.optionsBelow(unit, now)) {
        if (city === noCity) break
        this.journal.length = 0
        this.leave(unit)
        if (this.enter(unit, city, now - cost, deepest) !== null) {
          isBetter = true
          break
        }
        this.undo(0)
      }
    }
    return isBetter
  }

  private members(unit: Unit): ArrayLike<number> {
    return unit < this.state.table.people ? [unit] : this.state.parties[unit - this.state.table.people]!.members
  }

  private cityAt(unit: Unit): number {
    return this.state.cityOf[this.members(unit)[0]!]!
  }

  private costOf(unit: Unit): number {
    const { table, parties } = this.state
    const city = this.cityAt(unit)
    if (unit < table.people) return costAt(table, unit, city)
    const party = parties[unit - table.people]!
    return city === noCity ? party.unseated : party.cost[city]!
  }

  /** Where somebody could be at less than a cost, the cheapest first; nowhere is the last. */
  private optionsBelow(unit: Unit, most: number): Option[] {
    const { table, parties } = this.state
    const found: Option[] = []
    const see = (city: number, cost: number) => {
      if (cost < most) found.push({ city, cost })
    }
    if (unit >= table.people) {
      const party = parties[unit - table.people]!
      party.cost.forEach((cost, city) => see(city, cost))
      see(noCity, party.unseated)
    } else {
      for (let slot = unit * table.slots; slot < (unit + 1) * table.slots && table.city[slot] !== noCity; slot += 1) {
        see(table.city[slot]!, table.cost[slot]!)
      }
      const own = found.length
      for (const { city, cost } of this.fallbackOf(table.group[unit]!)) {
        if (cost >= most) break
        if (!found.slice(0, own).some(option => option.city === city)) see(city, cost)
      }
      see(noCity, table.unseated)
    }
    return found.sort((a, b) => a.cost - b.cost || a.city - b.city)
  }

  private fallbackOf(group: number): Option[] {
    const known = this.fallbacks.get(group)
    if (known) return known
    const { cities, fallback } = this.state.table
    const found = Array.from({ length: cities }, (_, city) => ({ city, cost: fallback[group * cities + city]! })).filter(({ cost }) =>
      cost < closed
    ).sort((a, b) => a.cost - b.cost || a.city - b.city)
    this.fallbacks.set(group, found)
    return found
  }

  /** Seats somebody in a city, asking others to go elsewhere; what they lose together, below `gain`, or null when it cannot be had. */
  private enter(unit: Unit, city: number, gain: number, depth: number): number | null {
    if (gain <= 0) return null
    if (this.sit(unit, city)) return 0
    if (depth === 0) return null
    for (const { other, to, loss } of this.candidates(unit, city, gain)) {
      const mark = this.journal.length
      this.leave(other)
      // One seat may not be enough: then somebody else gives way, too.
      const here = this.enter(unit, city, gain - loss, depth - 1)
      const there = here === null ? null : this.enter(other, to, gain - loss - here, depth - 1)
      if (here !== null && there !== null) return loss + here + there
      this.undo(mark)
    }
    return null
  }

  /** Who has a seat that somebody wants in a city, and where they would go: the smallest losses, in their order. */
  private candidates(unit: Unit, city: number, gain: number): Candidate[] {
    const wanted = this.fullFor(unit, city)
    const found: Candidate[] = []
    let most = gain
    this.looks.left -= this.there[city]!.size
    for (const other of this.there[city]!) {
      const now = this.costOf(other)
      const cheapest = this.cheapest.get(other)!
      if (
        (cheapest.city === city ? cheapest.next : cheapest.cost) - now >= most
        || !this.waysOf(other).some(way => way.some(column => wanted.has(column)))
      ) continue
      for (const { city: to, cost } of this.optionsBelow(other, now + most)) {
        const loss = cost - now
        if (to === city || loss >= most) continue
        insert(found, { other, to, loss })
        if (found.length < mostAsked) continue
        found.length = mostAsked
        most = found[mostAsked - 1]!.loss
      }
    }
    return found
  }

  /** Columns of seats in a city that somebody could sit in and that are full, or too full for all who come together. */
  private fullFor(unit: Unit, city: number): Set<number> {
    const { sittings } = this.state
    const full = new Set<number>()
    const members = Array.from(this.members(unit))
    for (const person of members) {
      for (const way of this.state.seats.ways(person)) {
        for (const column of way) if (!this.state.seats.hasRoom(city, column, person, members.length)) full.add(column)
      }
    }
    // Whoever wants an accessible seat of a session may have it from any of its columns.
    if (sittings.within) {
      for (const column of [...full]) {
        sittings.within.forEach((session, other) => {
          if (session === sittings.within![column]) full.add(other)
        })
      }
    }
    return full
  }

  private waysOf(unit: Unit): number[][] {
    return Array.from(this.members(unit), person => this.state.seats.ways(person)[this.state.seats.wayOf[person]!] ?? [])
  }

  private sit(unit: Unit, city: number): boolean {
    const members = this.members(unit)
    if (city !== noCity && !this.state.seats.takeAll(city, members)) return false
    this.journal.push({ unit, from: noCity, ways: [] })
    this.put(unit, city)
    return true
  }

  private leave(unit: Unit): void {
    const members = Array.from(this.members(unit))
    const from = this.cityAt(unit)
    this.journal.push({ unit, from, ways: members.map(person => this.state.seats.wayOf[person]!) })
    this.stand(unit, from)
  }

  private stand(unit: Unit, from: number): void {
    for (const person of Array.from(this.members(unit))) this.state.seats.leave(from, person)
    this.put(unit, noCity)
  }

  private put(unit: Unit, city: number): void {
    this.there[this.cityAt(unit)]?.delete(unit)
    for (const person of Array.from(this.members(unit))) this.state.cityOf[person] = city
    this.there[city]?.add(unit)
  }

  private undo(to: number): void {
    while (this.journal.length > to) {
      const { unit, from, ways } = this.journal.pop()!
      if (ways.length === 0) this.stand(unit, this.cityAt(unit))
      else if (from !== noCity) {
        Array.from(this.members(unit)).forEach((person, i) => this.state.seats.sit(from, person, ways[i]!))
        this.put(unit, from)
      }
    }
  }
}

/** Puts a candidate in its place by loss; of equal losses the earlier one and the earlier city come first. */
function insert(list: Candidate[], one: Candidate): void {
  let at = list.length
  while (at > 0 && (list[at - 1]!.loss - one.loss || list[at - 1]!.other - one.other || list[at - 1]!.to - one.to) > 0) at -= 1
  list.splice(at, 0, one)
}
