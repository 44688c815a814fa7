import { Random } from '../demo/random'
import type { AllocationCity } from '../core/allocation/instance'
import { distances } from '../core/allocation/option-table'

/** What an instance is like. Shares are of 1. */
export interface Shape {
  people: number
  cities: number
  /** Seats of all cities together, of the number of people. */
  room: number
  /** First choices of the favourite cities (the most wanted quarter) over their seats: 0.25 is a quarter more than there are seats. */
  over: number
  /** People in need of an accessible seat, and accessible seats, of their number. */
  needing: number
  accessibleRoom: number
  /** How many different lists there are of one home; 0: as many as people. */
  alike?: number
}

export const easy = { room: 1.05, over: 0.22, needing: 0.02, accessibleRoom: 3 }
export const hard = { room: 1.02, over: 0.48, needing: 0.02, accessibleRoom: 3 }
export const scarce = { room: 1.05, over: 0.22, needing: 0.05, accessibleRoom: 1.02 }

/** One made-up person; cities by place. */
export interface MadePerson {
  id: string
  home: number
  choices: number[]
  needs: boolean
}
export interface MadeInstance {
  cities: AllocationCity[]
  people: Iterable<MadePerson>
}

/**
 * A made-up instance: cities spread over islands, their demand by Zipf's law, people who want what is near and what is liked.
 * The same seed gives the same instance; people are made one by one, so that a million need no memory.
 */
export function makeInstance(shape: Shape, seed: number): MadeInstance {
  const random = new Random(seed)
  const wide = String(shape.people).length
  const places = Array.from({ length: shape.cities }, (_, k) => ({
    id: `C${String(k + 1).padStart(3, '0')}`,
    lat: Math.round(random.between(-9, 9) * 1e4) / 1e4,
    lon: Math.round(random.between(120, 142) * 1e4) / 1e4,
    capacity: 0,
    accessibleCapacity: 0,
  }))
  const near = nearest(places)
  const liked = zipf(shape.cities)
  const people = {
    *[Symbol.iterator](): Iterator<MadePerson> {
      const own = new Random(seed + 1)
      for (let i = 0; i < shape.people; i += 1) yield makePerson(`P${String(i + 1).padStart(wide, '0')}`, own, near, liked, shape)
    },
  }
  const firsts = new Int32Array(shape.cities)
  const needing = new Int32Array(shape.cities)
  for (const person of people) {
    firsts[person.choices[0]!]! += 1
    if (person.needs) needing[person.choices[0]!]! += 1
  }
  return { cities: withSeats(places, firsts, needing, shape, random), people }
}

function makePerson(id: string, random: Random, near: Uint16Array[], liked: (at: number) => number, shape: Shape): MadePerson {
  const home = liked(random.next())
  const of = shape.alike ? new Random(home * 1000 + random.whole(1, shape.alike)) : random
  const wanted = of.whole(1, Math.min(5, near.length))
  const choices: number[] = []
  for (let tries = 0; choices.length < wanted && tries < 30; tries += 1) {
    const k = of.chance(0.65) ? near[home]![Math.floor(of.next() ** 2 * near[home]!.length)]! : liked(of.next())
    if (!choices.includes(k)) choices.push(k)
  }
  return { id, home, choices, needs: random.chance(shape.needing) }
}

/** The nearest cities of each, itself first. */
function nearest(cities: AllocationCity[]): Uint16Array[] {
  const km = distances(cities)
  return cities.map((_, i) =>
    Uint16Array.from(cities.keys()).sort((a, b) => km[i * cities.length + a]! - km[i * cities.length + b]! || a - b).subarray(0, 12)
  )
}

/** A city by Zipf's law with exponent 1, shifted so that the first is not everything; from a number of 0 to 1. */
function zipf(cities: number): (at: number) => number {
  let sum = 0
  const upTo = Float64Array.from({ length: cities }, (_, k) => sum += 1 / (k + 4))
  return (at) => {
    let low = 0
    let high = cities - 1
    while (low < high) {
      const middle = (low + high) >> 1
      if (upTo[middle]! < at * sum) low = middle + 1
      else high = middle
    }
    return low
  }
}

function withSeats(cities: AllocationCity[], firsts: Int32Array, needing: Int32Array, shape: Shape, random: Random): AllocationCity[] {
  const favourites =
    new Set([...firsts.keys()].sort((a, b) => firsts[b]! - firsts[a]!).slice(0, Math.min(cities.length - 1, Math.ceil(cities.length / 4))))
  const all = Math.round(shape.people * shape.room)
  const capacity = cities.map((_, k) => favourites.has(k) ? Math.floor(firsts[k]! / (1 + shape.over)) : 0)
  const share = cities.map((_, k) => favourites.has(k) ? 0 : (firsts[k]! + 1) * random.between(0.7, 1.3))
  spread(capacity, share, all - capacity.reduce((a, b) => a + b, 0))
  const accessible = cities.map(() => 0)
  spread(
    accessible,
    cities.map((_, k) => (needing[k]! + 0.1) * random.between(0.6, 1.4)),
    Math.round(needing.reduce((a, b) => a + b, 0) * shape.accessibleRoom),
  )
  return cities.map((city, k) => ({ ...city, capacity: capacity[k]!, accessibleCapacity: Math.min(capacity[k]!, accessible[k]!) }))
}

/** Hands out a number of seats by shares, whole and all of them. */
function spread(to: number[], share: number[], seats: number): void {
  const sum = share.reduce((a, b) => a + b, 0)
  let given = 0
  let upTo = 0
  share.forEach((part, k) => {
    upTo += part
    const until = Math.round(Math.max(0, seats) * upTo / sum)
    to[k]! += until - given
    given = until
  })
}
