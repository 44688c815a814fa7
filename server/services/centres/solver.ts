import { allocate, type Watch } from '../../../core/allocation/allocate'
import type { Allocation } from '../../../core/allocation/allocation'
import type { Instance } from '../../../core/allocation/instance'
import type { AllocationPolicy } from '../../../core/allocation/policy'

/**
 * Something that places people: in this thread, or in another while this one goes on serving. `watch` hears of progress and says
 * whether to go on; without it nothing is told and nothing can be stopped.
 *
 * @throws Cancelled when the watch said to stop.
 */
export type Solver = (instance: Instance, policy: AllocationPolicy, watch?: Watch) => Promise<Allocation>

/** Places people here and now: for tools and tests, where nothing else waits for this thread. */
export const solveHere: Solver = (instance, policy, watch) => Promise.resolve().then(() => allocate(instance, policy, watch))
