import { Worker } from 'node:worker_threads'
import code from 'virtual:allocation-worker'
import { Cancelled, type Allocation } from '../../core/allocation/allocate'
import type { Solver } from '../services/centres/solver'

type Message = { done: number, total: number } | { result: Allocation }

/** Places people in a thread of their own, so that this one goes on serving. A watch that says to stop ends the thread at once. */
export const solveInThread: Solver = (instance, policy, watch) => new Promise((resolve, reject) => {
  const worker = new Worker(code, { eval: true, workerData: { instance, policy } })
  let latest = { done: 0, total: 1 }
  // Asked also while nothing is told: building the first state of a large instance takes a moment.
  const timer = setInterval(() => {
    if (watch && !watch(latest.done, latest.total)) end(() => reject(new Cancelled('stopped before the end')))
  }, 250)
  const end = (answer: () => void) => {
    clearInterval(timer)
    answer()
    void worker.terminate()
  }
  worker.on('message', (message: Message) => {
    if ('result' in message) end(() => resolve(message.result))
    else latest = message
  })
  worker.on('error', error => end(() => reject(error)))
  worker.on('exit', status => end(() => reject(new Error(`the thread of the allocation ended with ${status}`))))
})
