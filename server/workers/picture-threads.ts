import { Worker } from 'node:worker_threads'
import type { Slot } from '../../core/application/slots'
import type { Inspection, Inspector } from '../../pictures/inspect'
import { ProblemError, type Problem } from '../../shared/problem'

export interface PictureQuestion { id: number, bytes: Uint8Array, slot: Slot }
export type PictureAnswer = { id: number, inspection: Inspection } | { id: number, inspection?: undefined, problem: Problem | null, message: string }

interface Waiting { resolve: (inspection: Inspection) => void, reject: (error: Error) => void, timer: NodeJS.Timeout }

/** Longest look at one picture. One that takes longer ends its thread: the next gets a fresh one. */
const patienceMilliseconds = 30_000
const heapMegabytes = 512

/**
 * An inspector in threads of its own, so that this one goes on serving whatever a picture costs. Threads start with the first
 * picture; one that dies takes only the pictures with it that it had, and those are asked again by whoever waits for them.
 */
export class PictureThreads {
  private readonly threads: (Thread | null)[]

  /** @param code the bundled text of `picture.worker.ts`. */
  constructor(private readonly code: string, count = 2) {
    this.threads = Array.from({ length: count }, () => null)
  }

  /** Asks the thread with the least to do: taken in turns, one would get two pictures while the other stands idle. */
  readonly inspect: Inspector = (bytes, slot) => {
    const load = this.threads.map(thread => thread?.alive ? thread.asked : 0)
    const at = load.indexOf(Math.min(...load))
    const thread = this.threads[at]?.alive ? this.threads[at] : new Thread(this.code)
    this.threads[at] = thread
    return thread.ask(bytes, slot)
  }

  async close(): Promise<void> {
    await Promise.all(this.threads.map(thread => thread?.end()))
  }
}

class Thread {
  alive = true
  private last = 0
  private readonly waiting = new Map<number, Waiting>()
  private readonly worker: Worker

  constructor(code: string) {
    this.worker = new Worker(code, { eval: true, resourceLimits: { maxOldGenerationSizeMb: heapMegabytes } })
    this.worker.on('message', (answer: PictureAnswer) => this.settle(answer))
    this.worker.on('error', error => this.fail(error))
    this.worker.on('exit', status => this.fail(new Error(`the thread of the pictures ended with ${status}`)))
    this.worker.unref()
  }

  /** Pictures that it has been asked about and has not answered. */
  get asked(): number {
    return this.waiting.size
  }

  ask(bytes: Uint8Array, slot: Slot): Promise<Inspection> {
    return new Promise((resolve, reject) => {
      const id = this.last += 1
      const timer = setTimeout(() => {
        this.fail(new Error(`a look at a file of ${bytes.length} bytes took longer than ${patienceMilliseconds / 1000} s`))
        void this.end()
      }, patienceMilliseconds)
      this.waiting.set(id, { resolve, reject, timer })
      this.worker.ref()
      this.worker.postMessage({ id, bytes, slot } satisfies PictureQuestion)
    })
  }

  async end(): Promise<void> {
    this.alive = false
    await this.worker.terminate()
  }

  private settle(answer: PictureAnswer): void {
    const asker = this.waiting.get(answer.id)
    if (!asker) return
    clearTimeout(asker.timer)
    this.waiting.delete(answer.id)
    if (this.waiting.size === 0) this.worker.unref()
    if (answer.inspection) asker.resolve(answer.inspection)
    else asker.reject(answer.problem ? new ProblemError(answer.problem) : new Error(answer.message))
  }

  private fail(error: Error): void {
    this.alive = false
    for (const { reject, timer } of this.waiting.values()) {
      clearTimeout(timer)
      reject(error)
    }
    this.waiting.clear()
  }
}
