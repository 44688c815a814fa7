import type { Allocation } from './allocation'
import { type Instance, noCity, type Sittings } from './instance'
import { partsOfColumn } from './kept'
import { distances } from './option-table'

/** What a placement comes to, in counts. */
export interface Outcome {
  people: number
  /** People by the place of their city on their list, from the first. */
  byChoice: number[]
  offList: number
  unseated: number
  /** People by the distance between home and the city they got, in steps of `kilometreStep`. */
  byDistance: number[]
  cities: CityOutcome[]
}

export interface CityOutcome {
  city: string
  capacity: number
  accessibleCapacity: number
  /** People who name the city first, and at any place. */
  firstChoice: number
  anyChoice: number
  placed: number
  placedInNeed: number
  placedFirst: number
  placedOffList: number
  /** In cycles with test papers: the seats that were given out, and those that all would want who name the city first. */
  taken?: number
  firstSeats?: number
  /** The sessions of the city that are full, by id. */
  full?: string[]
  /** What one more seat would save the best fit, in points; of an accessible seat what it would save more. */
  price: number
  accessiblePrice: number
}

export const kilometreStep = 50

/** Place of a city on a person's list, from 1; null when it is off the list. */
export function choiceOf({ choices, slots }: Instance, person: number, city: number): number | null {
  if (city === noCity) return null
  for (let place = 0; place < slots; place += 1) if (choices[person * slots + place] === city) return place + 1
  return null
}

export function outcomeOf(
  instance: Instance,
  { cityOf, prices, sittings: sat }: Pick<Allocation, 'cityOf' | 'prices' | 'sittings'>,
): Outcome {
  const { cities, choices, slots, home, needs, sittings } = instance
  const km = distances(cities)
  const outcome: Outcome = {
    people: cityOf.length,
    byChoice: Array.from({ length: slots }, () => 0),
    offList: 0,
    unseated: 0,
    byDistance: [],
    cities: cities.map(({ id, capacity, accessibleCapacity }, k) => ({
      city: id,
      capacity,
      accessibleCapacity,
      firstChoice: 0,
      anyChoice: 0,
      placed: 0,
      placedInNeed: 0,
      placedFirst: 0,
      placedOffList: 0,
      price: prices.seat[k]!,
      accessiblePrice: prices.accessibleSeat[k]!,
      ...(sittings && { taken: 0, firstSeats: 0 }),
    })),
  }
  for (let person = 0; person < cityOf.length; person += 1) {
    const papers = sittings?.kinds[sittings.kindOf[person]!]!.papers.length
    for (let place = 0; place < slots && choices[person * slots + place] !== noCity; place += 1) {
      const wanted = outcome.cities[choices[person * slots + place]!]!
      wanted.anyChoice += 1
      if (place === 0) wanted.firstChoice += 1
      if (place === 0 && papers !== undefined) wanted.firstSeats! += papers
    }
    const city = cityOf[person]!
    if (city === noCity) {
      outcome.unseated += 1
      continue
    }
    if (papers !== undefined) outcome.cities[city]!.taken! += papers
    count(outcome, outcome.cities[city]!, choiceOf(instance, person, city), needs[person] === 1)
    const step = Math.floor(km[home[person]! * cities.length + city]! / kilometreStep)
    while (outcome.byDistance.length <= step) outcome.byDistance.push(0)
    outcome.byDistance[step]! += 1
  }
  if (sittings && sat) {
    const left = seatsLeft(instance, sittings, cityOf, sat.wayOf)
    const sessions = sittings.sessions.map(column => partsOfColumn(column).session)
    outcome.cities.forEach((city, k) => {
      city.full = [...new Set(sessions)].filter(session => sessions.every((of, s) => of !== session || left[k * sessions.length + s]! < 1))
    })
  }
  return outcome
}

/** Seats of each city and session that nobody has. */
function seatsLeft({ ids }: Instance, { seats, sessions, kinds, kindOf }: Sittings, cityOf: Uint16Array, wayOf: Uint8Array): Int32Array {
  const left = seats.slice()
  for (let person = 0; person < ids.length; person += 1) {
    if (cityOf[person] !== noCity) {
      for (const s of kinds[kindOf[person]!]!.ways[wayOf[person]!] ?? []) left[cityOf[person]! * sessions.length + s]! -= 1
    }
  }
  return left
}

/** Seats of a city that are given out, and those wanted by all who name it first: one a person, where they sit no test papers. */
export const seatsTaken = ({ taken, placed }: Pick<CityOutcome, 'taken' | 'placed'>): number => taken ?? placed
export const seatsWanted = ({ firstSeats, firstChoice }: Pick<CityOutcome, 'firstSeats' | 'firstChoice'>): number =>
  firstSeats ?? firstChoice

function count(outcome: Outcome, city: CityOutcome, choice: number | null, inNeed: boolean): void {
  city.placed += 1
  if (inNeed) city.placedInNeed += 1
  if (choice === 1) city.placedFirst += 1
  if (choice === null) {
    city.placedOffList += 1
    outcome.offList += 1
  } else {
    outcome.byChoice[choice - 1]! += 1
  }
}
