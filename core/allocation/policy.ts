/** What a run goes by: how people are served, and what each outcome costs in whole points. */
export interface AllocationPolicy extends Costs {
  kind: PolicyKind
  /** Draws the order of a lottery; nothing else goes by it. */
  seed: number
  /** Points for moving somebody away from a city already told; 0 when nobody was told. */
  staying: number
}

export interface Costs {
  /** Of the first choice, the second and so on; a list that is longer goes on at the last. */
  choiceCosts: number[]
  /** Of a city off the list, to which its distance from home is added, up to the cap. */
  offListBase: number
  kilometreCap: number
  unseated: number
}

export const policyKinds = ['best-fit', 'first-come', 'lottery'] as const
export type PolicyKind = typeof policyKinds[number]

/** Costs when nothing else is said. */
export const usualCosts: Costs = { choiceCosts: [0, 1, 3, 6, 10], offListBase: 20, kilometreCap: 1000, unseated: 1_000_000 }

/** Bound on every cost, so that sums along a chain of moves stay exact in 32 bits. */
export const mostCost = 50_000_000

/** Everything wrong with a policy, naming value and bound; empty when it can be used. */
export function policyFaults(policy: AllocationPolicy): string[] {
  const { choiceCosts, offListBase, kilometreCap, unseated, seed, staying } = policy
  const faults: string[] = []
  const whole = (name: string, value: number, most: number) => {
    if (!Number.isInteger(value) || value < 0 || value > most) faults.push(`${name} is ${value}; give a whole number from 0 to ${most}`)
  }
  if (!policyKinds.includes(policy.kind)) faults.push(`policy "${policy.kind}" is not known; there are ${policyKinds.join(', ')}`)
  if (choiceCosts.length === 0) faults.push('no choice costs are given; the first choice needs one')
  choiceCosts.forEach((cost, i) => whole(`the cost of choice ${i + 1}`, cost, mostCost))
  choiceCosts.forEach((cost, i) => {
    const before = choiceCosts[i - 1] ?? 0
    if (cost < before) {
      faults.push(`choice costs fall: choice ${i + 1} costs ${cost}, choice ${i} costs ${before}; let them stay or rise along the list`)
    }
  })
  whole('the off-list base', offListBase, mostCost)
  whole('the kilometre cap', kilometreCap, 20_037)
  whole('the cost of no seat', unseated, mostCost)
  whole('the seed', seed, Number.MAX_SAFE_INTEGER)
  whole('the weight on staying', staying, mostCost)
  const last = choiceCosts.at(-1) ?? 0
  if (offListBase < last) faults.push(`the off-list base ${offListBase} is below the last choice's cost ${last}; give ${last} or more`)
  if (unseated <= offListBase + kilometreCap) {
    faults.push(`no seat costs ${unseated}, which is not above the farthest city off the list, ${offListBase + kilometreCap}; give more`)
  }
  return faults
}

const earthRadiusKm = 6371
interface Place {
  lat: number
  lon: number
}

/** Great-circle distance by the haversine formula, in kilometres, rounded to the nearest integer; degrees in. */
export function distanceKm(a: Place, b: Place): number {
  const rad = Math.PI / 180
  const h = Math.sin((b.lat - a.lat) * rad / 2) ** 2
    + Math.cos(a.lat * rad) * Math.cos(b.lat * rad) * Math.sin((b.lon - a.lon) * rad / 2) ** 2
  return Math.round(2 * earthRadiusKm * Math.asin(Math.min(1, Math.sqrt(h))))
}

/** Cost of a choice by its place on the list, from 0. */
export function choiceCost(costs: Costs, place: number): number {
  return costs.choiceCosts[Math.min(place, costs.choiceCosts.length - 1)] ?? 0
}

/** Cost of a placement: by its place on the list from 1, else by its distance from home, else of no seat (both null). */
export function placementCost(costs: Costs, choice: number | null, km: number | null): number {
  if (km === null) return costs.unseated
  return choice === null ? offListCost(costs, km) : choiceCost(costs, choice - 1)
}

/** Cost of a city off the list, by its distance from home. */
export function offListCost(costs: Costs, km: number): number {
  return costs.offListBase + Math.min(costs.kilometreCap, km)
}
