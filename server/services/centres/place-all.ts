import type { Watch } from '../../../core/allocation/allocate'
import type { Allocation } from '../../../core/allocation/allocation'
import { keptOf, sittingsOf, withUnusedOpened, type KeptOfRun } from '../../../core/allocation/kept'
import type { AllocationPolicy } from '../../../core/allocation/policy'
import type { Notice } from '../../../core/notice/schema'
import type { RunInputs } from './inputs'
import { citiesOf } from './sittings'
import type { Solver } from './solver'

/** A run as it was computed: who went in, on which seats, where everybody is, and what was kept for whom. */
export interface Placed { inputs: RunInputs, allocation: Allocation, kept: KeptOfRun[] }

/** Places everybody; once more where kept seats stay over that are to be opened to all then. */
export async function placeAll(notice: Notice, inputs: RunInputs, policy: AllocationPolicy, solve: Solver, watch?: Watch): Promise<Placed> {
  const { kept } = notice.allocation
  const first = await solve(inputs.instance, policy, watch)
  const seats = kept.length === 0 ? null : withUnusedOpened(inputs.instance, first, inputs.free, kept)
  if (!seats) return { inputs, allocation: first, kept: keptOf(kept, inputs.free, inputs.free) }
  const cities = new Map(citiesOf(notice, seats).map(city => [city.id, city]))
  const { instance } = inputs
  const { kinds = [], kindOf = new Uint16Array(0) } = instance.sittings ?? {}
  const again = {
    ...inputs, free: seats,
    instance: { ...instance, cities: instance.cities.map(city => cities.get(city.id) ?? city), sittings: { ...sittingsOf(notice, kinds, seats, kept.length), kindOf } },
  }
  return { inputs: again, allocation: await solve(again.instance, policy, watch), kept: keptOf(kept, inputs.free, seats) }
}
