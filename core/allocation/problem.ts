/**
 * The allocation of candidates to cities, stated so that anyone can check it.
 *
 * Everyone placed in a city counts against its capacity; those who need an accessible seat also against its accessible
 * capacity (others use ordinary seats first and may use accessible ones). One seat each.
 */
export interface AllocationCity { id: string, lat: number, lon: number, capacity: number, accessibleCapacity: number }

export interface AllocationCandidate {
  id: string
  /** City nearest to home; distances of cities off the list are measured from it. */
  home: string
  /** Distinct cities in order of preference, at least one. */
  choices: string[]
  needsAccessible: boolean
}

/** Costs in whole points. They must not fall along the list, and off-list must not be below the last choice. */
export interface AllocationPolicy {
  kind: 'best-fit'
  choiceCosts: number[]
  offListBase: number
  kilometreCap: number
  unseated: number
}

export interface AllocationProblem { cities: AllocationCity[], candidates: AllocationCandidate[], policy: AllocationPolicy }

export interface Placement {
  candidate: string
  /** Null: no seat could be found. */
  city: string | null
  /** 1 for the first choice and so on; null when the city is off the list or there is none. */
  choice: number | null
  cost: number
}

export interface AllocationResult {
  placements: Placement[]
  cost: number
  /** The proven lower bound from the dual prices: no allocation whatever can cost less. */
  bound: number
  /** Whether cost and bound agree, which proves the result to be the best there is. */
  certified: boolean
  /** What one more seat is worth in each city, in points of cost. */
  prices: { city: string, seat: number, accessibleSeat: number }[]
}

const earthRadiusKm = 6371

/** Great-circle distance by the haversine formula, in kilometres, rounded to the nearest integer. */
export function distanceKm(a: { lat: number, lon: number }, b: { lat: number, lon: number }): number {
  const rad = Math.PI / 180
  const h = Math.sin((b.lat - a.lat) * rad / 2) ** 2
    + Math.cos(a.lat * rad) * Math.cos(b.lat * rad) * Math.sin((b.lon - a.lon) * rad / 2) ** 2
  return Math.round(2 * earthRadiusKm * Math.asin(Math.min(1, Math.sqrt(h))))
}

/** Cost of every city for one candidate, in the order of `cities`. */
export function costsOf(candidate: AllocationCandidate, problem: AllocationProblem): number[] {
  const { cities, policy } = problem
  const home = cities.find(c => c.id === candidate.home)
  if (!home) throw new RangeError(`candidate ${candidate.id}: home city "${candidate.home}" is not among the cities`)
  return cities.map((city) => {
    const rank = candidate.choices.indexOf(city.id)
    if (rank >= 0) return policy.choiceCosts[rank] ?? policy.choiceCosts.at(-1) ?? 0
    return policy.offListBase + Math.min(policy.kilometreCap, distanceKm(home, city))
  })
}

/** Every reason why a problem cannot be solved as stated; empty when it can. */
export function problemFaults(problem: AllocationProblem): string[] {
  const faults: string[] = []
  const ids = new Set(problem.cities.map(c => c.id))
  if (ids.size !== problem.cities.length) faults.push('two cities share one id')
  if (new Set(problem.candidates.map(c => c.id)).size !== problem.candidates.length) faults.push('two candidates share one id')
  for (const city of problem.cities) {
    if (!Number.isInteger(city.capacity) || city.capacity < 0) faults.push(`city ${city.id}: capacity ${city.capacity} is not a whole number of 0 or more`)
    if (city.accessibleCapacity > city.capacity) faults.push(`city ${city.id}: ${city.accessibleCapacity} accessible of ${city.capacity} seats`)
  }
  for (const candidate of problem.candidates) {
    const unknown = [candidate.home, ...candidate.choices].find(city => !ids.has(city))
    if (unknown !== undefined) faults.push(`candidate ${candidate.id}: city "${unknown}" is not in the list`)
    if (new Set(candidate.choices).size !== candidate.choices.length) faults.push(`candidate ${candidate.id}: a city twice among the choices`)
  }
  const { choiceCosts, offListBase, kilometreCap, unseated } = problem.policy
  if (choiceCosts.some((cost, i) => i > 0 && cost < (choiceCosts[i - 1] ?? 0))) faults.push('policy: choice costs fall along the list')
  if (offListBase < (choiceCosts.at(-1) ?? 0)) faults.push('policy: off-list cost is below the last choice')
  if (unseated <= offListBase + kilometreCap) faults.push('policy: unseated is not above every distance')
  return faults
}
