import type { ContainerFacts } from '~~/core/imaging/container'
import type { FacesSeen } from '~~/core/imaging/face'
import type { Edit } from '~~/core/imaging/fit'
import type { Measurement } from '~~/core/imaging/image-finding'
import type { ImageKind, ImageRule } from '~~/core/notice/schema'

/** What the page asks of the worker for pictures. */
export type PictureAsk =
  | { id: number, act: 'measure', source: Blob, kind: ImageKind, rule: ImageRule, /** Made here of the one measured before, which stays the one that further ones are made of. */ made: boolean }
  | { id: number, act: 'warm' }
  | { id: number, act: 'fit', kind: ImageKind, rule: ImageRule, turn?: FacesSeen['turn'] }

/** What was measured on a chosen picture; not the `last` word while faces are still looked for. */
export interface Measured extends Measurement { facts: ContainerFacts, turn: FacesSeen['turn'], last: boolean, milliseconds: number }
export interface Fitted { made: Blob, edits: Edit[] }
export type PictureTold = { id: number } & (Measured | Fitted | { refusal: string, /** False where another program may still read it. */ sure: boolean })

/** Why a picture is not taken, in words; `sure` where the office would say the same. */
export class PictureRefusal extends Error {
  constructor(message: string, readonly sure: boolean) { super(message) }
}

// What is reactive cannot be sent to a worker.
const plain = <T>(value: T): T => JSON.parse(JSON.stringify(value)) as T

/** The worker for pictures of this page: one, started with the first picture and ended with the page's part that asked. */
export function usePictureWorker() {
  let worker: Worker | null = null
  let asked = 0
  const waiting = new Map<number, (told: PictureTold) => void>()

  function ask(message: PictureAsk, hear: (told: PictureTold) => void) {
    if (!worker) {
      worker = new Worker(new URL('../workers/picture.worker.ts', import.meta.url), { type: 'module' })
      worker.onmessage = ({ data }: MessageEvent<PictureTold>) => waiting.get(data.id)?.(data)
      worker.onerror = () => {
        for (const [id, tell] of waiting) tell({ id, refusal: 'The picture could not be looked at in this browser. It can still be sent: the office measures it.', sure: false })
        waiting.clear()
      }
    }
    waiting.set(message.id, hear)
    worker.postMessage(message)
  }

  /** Measures a picture; `early` hears what is known before faces are. @throws PictureRefusal */
  function measure(source: Blob, kind: ImageKind, rule: ImageRule, made: boolean, early: (measured: Measured) => void = () => undefined): Promise<Measured> {
    return new Promise((resolve, reject) => {
      const id = asked += 1
      ask({ id, act: 'measure', source, kind, rule: plain(rule), made }, (told) => {
        if ('refusal' in told) reject(new PictureRefusal(told.refusal, told.sure))
        else if ('findings' in told && !told.last) return early(told)
        else if ('findings' in told) resolve(told)
        waiting.delete(id)
      })
    })
  }

  /** Makes the picture that was measured last fit the rules. @throws PictureRefusal */
  function fit(kind: ImageKind, rule: ImageRule, turn?: FacesSeen['turn']): Promise<Fitted> {
    return new Promise((resolve, reject) => {
      const id = asked += 1
      ask({ id, act: 'fit', kind, rule: plain(rule), turn }, (told) => {
        if ('refusal' in told) reject(new PictureRefusal(told.refusal, told.sure))
        else if ('made' in told) resolve(told)
        waiting.delete(id)
      })
    })
  }

  /** Loads what the first picture will need while it is still being chosen. */
  function warm() {
    ask({ id: asked += 1, act: 'warm' }, () => undefined)
  }

  onScopeDispose(() => worker?.terminate())
  return { measure, fit, warm }
}
