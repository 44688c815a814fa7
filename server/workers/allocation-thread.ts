import { Worker } from 'node:worker_threads'
import code from 'virtual:allocation-worker'
import { Cancelled } from '../../core/allocation/allocate'
import type { Allocation } from '../../core/allocation/allocation'
import type { Solver } from '../services/centres/solver'

type Message = { done: number, total: number } | { result: Allocation }

/**
 * Places people in a thread of their own, so that this one goes on serving. A watch that says to stop ends the thread at
 * once; one that says so only as the result comes in has it dropped, for somebody who stopped a run must not find it made.
 */
export const solveInThread: Solver = (instance, policy, watch) =>
  new Promise((resolve, reject) => {
    let latest = { done: 0, total: 1 }
    const told = () => watch !== undefined && !watch(latest.done, latest.total)
    const cancelled = () => reject(new Cancelled('stopped before the end'))
    if (told()) return cancelled()
    const worker = new Worker(code, { eval: true, workerData: { instance, policy } })
    // Asked also while nothing is told: building the first state of a large instance takes a moment.
    const timer = setInterval(() => {
      if (told()) end(cancelled)
    }, 250)
    const end = (answer: () => void) => {
      clearInterval(timer)
      answer()
      void worker.terminate()
    }
    worker.on('message', (message: Message) => {
      if ('result' in message) end(told() ? cancelled : () => resolve(message.result))
      else latest = message
    })
    worker.on('error', error => end(() => reject(error)))
    worker.on('exit', status => end(() => reject(new Error(`the thread of the allocation ended with ${status}`))))
  })
