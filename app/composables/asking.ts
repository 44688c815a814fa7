import type { RefusalCode, RefusalReason } from '~~/core/refusal/codes'

/** What a worker says: an answer to the asking of a number, or why there is none. */
export type Told<T> =
  & { id: number }
  & (T | { refusal: RefusalReason, /** False where another program may still read the file. */ sure: boolean })

/** Why a file is not taken, in words; `sure` where the office would say the same. */
export class FileRefusal extends Error {
  constructor({ code, parameters }: RefusalReason, readonly sure: boolean) {
    super(useWords().refusals.refusalText(code, parameters))
  }
}

// What is reactive cannot be sent to a worker.
export const plain = <T>(value: T): T => JSON.parse(JSON.stringify(value)) as T

/**
 * Asks a worker of the page, which is started with the first asking and ended with the part of the page that asked.
 *
 * @param start makes the worker.
 * @param broken what is told when it fails as a whole.
 */
export function useAsking<Ask extends { id: number }, Answer extends object>(start: () => Worker, broken: RefusalCode) {
  let worker: Worker | null = null
  let asked = 0
  const waiting = new Map<number, (told: Told<Answer>) => void>()

  function open(): Worker {
    const made = start()
    made.onmessage = ({ data }: MessageEvent<Told<Answer>>) => waiting.get(data.id)?.(data)
    made.onerror = () => {
      for (const [id, tell] of waiting) tell({ id, refusal: { code: broken, parameters: {} }, sure: false })
      waiting.clear()
    }
    return made
  }

  /** Sends an asking; `hear` hears each answer, and says whether it was the last. */
  function send(ask: (id: number) => Ask, hear: (told: Told<Answer>) => boolean): void {
    const id = asked += 1
    worker ??= open()
    waiting.set(id, (told) => {
      if (hear(told)) waiting.delete(id)
    })
    worker.postMessage(ask(id))
  }

  onScopeDispose(() => worker?.terminate())
  return send
}
