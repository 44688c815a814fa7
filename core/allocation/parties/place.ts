import { policyFaults, type Costs } from '../policy'
import { partyBound } from './bound'
import { brokenLimits, partyModel, placementCost, type PartyInstance, type PartyModel, type PartyPlacement } from './model'
import { searchPlacement } from './search'

/** Where every person sits, session by session, with what is proven of it. */
export interface PartyResult {
  /** City of each person by place, -1 for none; the session of each of their papers, in their order. */
  city: Int32Array
  sessions: number[][]
  cost: number
  bound: number
  /** How far the cost can lie above the least there is, as a share of the bound; 0 when it is the least. */
  gap: number
  standing: 'certified' | 'within the gap' | 'not certified'
}

/**
 * Places people who sit several papers, in parties and under reservations: a search from several sets of prices, and the best bound
 * that was proven. Deterministic; whatever the order of the people.
 *
 * @throws RangeError with every fault of the instance or of the costs.
 */
export function placeParties(instance: PartyInstance, costs: Costs): PartyResult {
  const faults = policyFaults({ ...costs, kind: 'best-fit', seed: 0, staying: 0 })
  if (faults.length > 0) throw new RangeError(faults.join('; '))
  const order = [...instance.people.keys()].sort((a, b) => instance.people[a]!.id < instance.people[b]!.id ? -1 : 1)
  const model = partyModel({ ...instance, people: order.map(i => instance.people[i]!) }, costs)
  const parties = model.parties.length
  let best = searchPlacement(model, new Float64Array(model.limits.length), 0)
  let proven = partyBound(model, placementCost(model, best), 300)
  // Small instances are searched from several starts, large ones once and for long.
  const starts = parties < 100 ? 4 : 1
  const rounds = Math.min(10 + 12 * parties, 1000, Math.max(200, Math.round(1_500_000 / parties)))
  for (let start = 0; start < starts && placementCost(model, best) > proven.bound; start += 1) {
    const next = searchPlacement(model, proven.prices, rounds, start)
    if (placementCost(model, next) < placementCost(model, best)) best = next
    const again = partyBound(model, placementCost(model, best), 300, proven.prices)
    if (again.bound > proven.bound) proven = again
  }
  return resultOf(instance, order, model, best, proven.bound)
}

function resultOf(instance: PartyInstance, order: number[], model: PartyModel, placement: PartyPlacement, bound: number): PartyResult {
  const city = new Int32Array(instance.people.length).fill(-1)
  const sessions: number[][] = instance.people.map(() => [])
  model.parties.forEach((party, i) => party.members.forEach((member, m) => {
    city[order[member]!] = placement.city[i]!
    sessions[order[member]!] = placement.city[i]! < 0 ? [] : placement.ways[i]![m]!.sessions
  }))
  const cost = placementCost(model, placement)
  const sound = brokenLimits(model, placement).length === 0 && bound <= cost
  return { city, sessions, cost, bound, gap: cost === bound ? 0 : (cost - bound) / Math.max(1, bound), standing: !sound ? 'not certified' : cost === bound ? 'certified' : 'within the gap' }
}
