import { solveBestFit, type Solution } from '../best-fit'
import type { Prices } from '../certificate'
import { sessionOf, type Sittings } from '../instance'
import { totalCost, type OptionTable } from '../option-table'
import { costOf, noPrices } from './prices'
import type { State } from './problem'
import { noWay, type SittingSeats } from './seats'

/**
 * People who compete for the same seats: of one kind and, where that sits several papers, one way. With all others where they are, what is
 * left for them in each city is one number, and who of them sits where is the exact problem of a cycle without test papers.
 */
export interface Part {
  kind: number
  /** Of the kind's ways. */
  ways: number[]
  people: Uint32Array
  capacity: Int32Array
  accessible: Int32Array
  prices: Prices
}

/** Places every part anew with the others where they are. */
export function placedPartByPart(state: State): Placed[] {
  return partsOf(state.sittings).map(part => placedAnew(state, part))
}

/**
 * Places one part anew with all others where they are; what costs no less stays, unless seats are taken from it. Whoever has no seat is
 * tried with each part of their kind.
 *
 * @param kept seats of a city that the part is not to use any more, by the sessions.
 */
export function placedAnew(
  state: State,
  { kind, ways }: Pick<Part, 'kind' | 'ways'>,
  kept?: { city: number, sessions: readonly number[] },
): Placed {
  const { table, sittings, cityOf, seats } = state
  const people = peopleOf(state.ofKind[kind]!, ways, seats)
  for (const person of people) seats.leave(cityOf[person]!, person)
  if (kept) { for (const s of kept.sessions) seats.keep(kept.city, s, 1) }
  const { capacity, accessible } = roomFor(table, sittings, seats, kind, ways)
  if (people.length === 0) {
    return {
      kind,
      ways,
      people,
      capacity,
      accessible,
      prices: noPrices(table.cities),
      losses: () => new Float64Array(table.cities),
    }
  }
  const part = partTable(table, people, capacity, accessible)
  const solution = solveBestFit(part)
  if (kept || totalCost(part, solution.cityOf) < costOf(table, cityOf, people)) {
    people.forEach((person, i) => {
      cityOf[person] = solution.cityOf[i]!
    })
  }
  sitDown(table, seats, cityOf, people, ways)
  return { kind, ways, people, capacity, accessible, prices: solution.prices, losses: solution.losses }
}

/** A part as it is placed, and what one seat less in each city would cost it. */
export type Placed = Part & Pick<Solution, 'losses'>

/** Who competes for the seats of a part: of the people of its kind those who have one, and those who have none at all. */
export const peopleOf = (ofKind: Uint32Array, ways: readonly number[], { wayOf }: SittingSeats): Uint32Array =>
  ofKind.filter(person => wayOf[person] === noWay || ways.includes(wayOf[person]!))

/** Seats the people of a part in their cities. Those in need sit down first: the rest fits in whatever way they leave. */
export function sitDown(table: OptionTable, seats: SittingSeats, cityOf: Uint16Array, people: Uint32Array, ways: readonly number[]): void {
  for (const need of [1, 0]) for (const person of people) if (table.needs[person] === need) seats.take(cityOf[person]!, person, ways)
}

/** Of a kind that sits one paper all ways are one part: whoever has a seat in a city has it in any of the sessions. */
export const partsOf = ({ kinds }: Sittings): Pick<Part, 'kind' | 'ways'>[] =>
  kinds.flatMap(({ papers, ways }, kind) =>
    papers.length === 1 || ways.length === 0 ? [{ kind, ways: [...ways.keys()] }] : ways.map((_, w) => ({ kind, ways: [w] }))
  )

/**
 * What is left in each city for people of a part: of each way the session with the fewest seats counts. Ways of one paper that lead to
 * seats of one session share its accessible ones.
 */
export function roomFor(
  { cities }: OptionTable,
  sittings: Sittings,
  { left, accessibleLeft }: SittingSeats,
  kind: number,
  ways: readonly number[],
): Pick<Part, 'capacity' | 'accessible'> {
  const { kinds, sessions } = sittings
  const capacity = new Int32Array(cities)
  const accessible = new Int32Array(cities)
  for (let k = 0; k < cities; k += 1) {
    const bySession = new Map<number, { seats: number, accessible: number }>()
    for (const w of ways) {
      const way = kinds[kind]!.ways[w]!
      const seats = Math.min(...way.map(s => left[k * sessions.length + s]!))
      const known = bySession.get(sessionOf(sittings, way[0]!))
      bySession.set(sessionOf(sittings, way[0]!), {
        seats: seats + (known?.seats ?? 0),
        accessible: known?.accessible ?? Math.min(...way.map(s => accessibleLeft[k * sessions.length + sessionOf(sittings, s)]!)),
      })
    }
    for (const of of bySession.values()) {
      capacity[k]! += of.seats
      accessible[k]! += Math.min(of.seats, of.accessible)
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
  return {
    ...table,
    people: people.length,
    capacity,
    accessible,
    city,
    cost,
    needs: Uint8Array.from(people, p => table.needs[p]!),
    group: Uint16Array.from(people, p => table.group[p]!),
  }
}
