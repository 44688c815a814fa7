import type { Watch } from '../../../core/allocation/allocate'
import type { Allocation } from '../../../core/allocation/allocation'
import { keptOf, withUnusedOpened, type KeptOfRun } from '../../../core/allocation/kept'
import type { AllocationPolicy } from '../../../core/allocation/policy'
import type { Notice } from '../../../core/notice/schema'
import type { RunInputs } from './inputs'
import type { Solver } from './solver'

/** A run as it was computed: who went in, on which seats, where everybody is, and what was kept for whom. */
export interface Placed {
  inputs: RunInputs
  allocation: Allocation
  kept: KeptOfRun[]
}

/** Places everybody; once more where kept seats stay over that are to be opened to all then. */
export async function placeAll(notice: Notice, inputs: RunInputs, policy: AllocationPolicy, solve: Solver, watch?: Watch): Promise<Placed> {
  const { kept } = notice.allocation
  const first = await solve(inputs.instance, policy, watch)
  const again = withUnusedOpened(inputs.instance, first, inputs.free, kept)
  const told = keptOf(kept, inputs.free, again?.free ?? inputs.free)
  return again
    ? { inputs: { ...inputs, ...again }, allocation: await solve(again.instance, policy, watch), kept: told }
    : { inputs, allocation: first, kept: told }
}
