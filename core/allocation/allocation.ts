import type { Prices } from './certificate'
import type { AllocationCity } from './instance'
import type { CityLine } from './lines'

/**
 * Where everyone is placed, and what that is worth. `certified`: cost and bound agree, which proves that no placement costs
 * less. `by policy`: people were served in the policy's order, within all limits; the bound tells what the best fit would cost.
 * `bounded`: nothing cheaper is known, and the bound tells how much cheaper it might be at most: so where people sit several test papers.
 */
export interface Allocation {
  /** City of each person by place, `noCity` for no seat. */
  cityOf: Uint16Array
  /** Points by the policy, with those for moving people who were told. */
  cost: number
  /** No placement within the limits costs less. */
  bound: number
  standing: 'certified' | 'by policy' | 'bounded' | 'not certified'
  /** What one more seat in each city would save the best fit, in points. */
  prices: Prices
  /** The order in which people were served, by place; null when all were served together. */
  order: Uint32Array | null
  /** In cycles with test papers: how each sits, and what was left for those who sit alike. */
  sittings?: SittingOutcome
}

/**
 * People who sit the same test papers and so compete for the same seats: what was left for them in each city with everybody else where they
 * are, and who of them got in. Of several papers each way through the sessions is a part of its own.
 */
export interface SittingPart {
  /** Number of what is sat, from 0: parts of one kind differ in their ways. */ kind: number
  papers: string[]
  /** Of each way the session of each paper. */
  ways: string[][]
  cities: AllocationCity[]
  prices: { seat: number[], accessibleSeat: number[] }
  lines: CityLine[]
  placed: { all: number, inNeed: number }[]
}

/** `wayOf` is the way of each person among those of their kind, `partOf` the part. */
export interface SittingOutcome {
  wayOf: Uint8Array
  partOf: Uint16Array
  parts: SittingPart[]
}
