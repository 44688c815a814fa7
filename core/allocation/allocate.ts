import { Cancelled, solveBestFit, type Solution, type Watch } from './best-fit'
import type { Allocation } from './allocation'
import { brokenLimit, lowerBound } from './certificate'
import { fairAmongEquals } from './fair-among-equals'
import type { Instance } from './instance'
import { optionTable, putBackForStaying, totalCost, type OptionTable } from './option-table'
import { policyFaults, type AllocationPolicy, type PolicyKind } from './policy'
import { CitySeats, serveInTurn } from './served-in-turn'
import { allocateSittings } from './sittings/allocate'
import type { Effort, WatchSittings } from './sittings/place'
import { arrivalOrder, lotteryOrder } from './turn'

export { Cancelled, type Watch }

/** One way to place people: who goes by it, in what order. Another policy is one more line in `policies`. */
type Place = (
  instance: Instance,
  table: OptionTable,
  policy: AllocationPolicy,
  best: Solution,
  watch: Watch,
) => { cityOf: Uint16Array, order: Uint32Array | null }

const policies: Record<PolicyKind, Place> = {
  'best-fit': (instance, table, _, best) => {
    const { turn, turnIs } = instance
    // Rows that tell no instants may come in any order: then ids decide.
    fairAmongEquals(table, best.cityOf, turnIs === 'instant' ? (a, b) => turn[a]! - turn[b]! || a - b : (a, b) => a - b)
    return { cityOf: best.cityOf, order: null }
  },
  'first-come': (instance, table, policy, _, watch) => inTurn(arrivalOrder(instance), instance, table, policy, watch),
  'lottery': (instance, table, policy, _, watch) => inTurn(lotteryOrder(instance, policy.seed), instance, table, policy, watch),
}

function inTurn(order: Uint32Array, instance: Instance, table: OptionTable, policy: AllocationPolicy, watch: Watch) {
  return { cityOf: serveInTurn(instance, table, order, policy.staying > 0, new CitySeats(table), watch), order }
}

/**
 * Places everyone by a policy, with the bound that any placement can be held against. The same instance and policy give the same
 * result, bit by bit.
 *
 * @param effort how long is looked for a placement where people sit several test papers, which none is known to be the best of; others take
 * what they take.
 * @throws RangeError with every fault of the policy; Cancelled when `watch` says to stop.
 */
export function allocate(
  instance: Instance,
  policy: AllocationPolicy,
  watch: WatchSittings = () => true,
  effort: Effort = 'quick',
): Allocation {
  const faults = policyFaults(policy)
  if (faults.length > 0) throw new RangeError(faults.join('; '))
  const table = optionTable(instance, policy)
  if (instance.sittings) return allocateSittings(instance, instance.sittings, table, policy, watch, effort)
  const goOn: Watch = (done, total) => watch(done, total, { cost: Infinity, bound: 0 }) !== false
  const best = solveBestFit(table, goOn)
  const { cityOf, order } = policies[policy.kind](instance, table, policy, best, goOn)
  const putBack = putBackForStaying(instance, policy)
  const cost = totalCost(table, cityOf) + putBack
  const bound = lowerBound(table, best.prices) + putBack
  return { cityOf, cost, bound, prices: best.prices, order, standing: standingOf(table, cityOf, cost, bound, order !== null) }
}

/** Found from the input and the result alone, so that a fault of a solver cannot hide itself. */
function standingOf(table: OptionTable, cityOf: Uint16Array, cost: number, bound: number, inTurn: boolean): Allocation['standing'] {
  if (brokenLimit(table, cityOf) !== null) return 'not certified'
  if (cost === bound) return 'certified'
  return inTurn && cost > bound ? 'by policy' : 'not certified'
}
