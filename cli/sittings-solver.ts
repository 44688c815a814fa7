import { parentPort, workerData } from 'node:worker_threads'
import { allocate } from '../core/allocation/allocate'
import type { Allocation } from '../core/allocation/allocation'
import type { Instance } from '../core/allocation/instance'
import type { AllocationPolicy } from '../core/allocation/policy'

export interface SittingsAsk {
  instance: Instance
  policy: AllocationPolicy
  /** Its first place becomes 1 when what is known is enough. */
  enough: Int32Array
}
export type SittingsTold = { done: number, total: number, known: { cost: number, bound: number } } | { result: Allocation }

/** The thread that places people, so that the first one hears when somebody has seen enough. */
if (parentPort) {
  const port = parentPort
  const { instance, policy, enough } = workerData as SittingsAsk
  const tell = (told: SittingsTold) => port.postMessage(told)
  const result = allocate(instance, policy, (done, total, known) => {
    tell({ done, total, known: { ...known } })
    return Atomics.load(enough, 0) === 1 ? 'enough' : true
  }, 'thorough')
  tell({ result })
}
