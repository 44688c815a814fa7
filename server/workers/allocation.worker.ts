import { parentPort, workerData } from 'node:worker_threads'
import { allocate } from '../../core/allocation/allocate'
import type { Instance } from '../../core/allocation/instance'
import type { AllocationPolicy } from '../../core/allocation/policy'

/** The other thread of `solveInThread`: places people and tells how far it is. It is ended from outside when it is to stop. */
const { instance, policy } = workerData as { instance: Instance, policy: AllocationPolicy }
let told = 0
const result = allocate(instance, policy, (done, total) => {
  const now = performance.now()
  if (now - told > 200) {
    told = now
    parentPort?.postMessage({ done, total })
  }
  return true
})
parentPort?.postMessage({ result })
