import type { ContainerFacts } from '~~/core/imaging/container'
import type { FacesSeen } from '~~/core/imaging/face'
import type { Edit } from '~~/core/imaging/fit'
import type { Measurement } from '~~/core/imaging/image-finding'
import type { ImageKind } from '~~/core/notice/schema'
import type { ImageRule } from '~~/core/notice/file-rules'

/** What the page asks of the worker for pictures. */
export type PictureAsk =
  | { id: number, act: 'measure', source: Blob, kind: ImageKind, rule: ImageRule }
  | { id: number, act: 'warm' }
  | { id: number, act: 'fit', kind: ImageKind, rule: ImageRule, turn?: FacesSeen['turn'] }

/** What was measured on a chosen picture; not the `last` word while faces are still looked for. */
export interface Measured extends Measurement {
  facts: ContainerFacts
  turn: FacesSeen['turn']
  last: boolean
  milliseconds: number
}
export interface Fitted {
  made: Blob
  edits: Edit[]
  measured: Measured
}

/** The worker for pictures of this page. */
export function usePictureWorker() {
  const send = useAsking<PictureAsk, Measured | Fitted>(
    () => new Worker(new URL('../workers/picture.worker.ts', import.meta.url), { type: 'module' }),
    'browser.picture-not-looked',
  )

  /** Measures a picture; `early` hears what is known before faces are. @throws FileRefusal */
  function measure(
    source: Blob,
    kind: ImageKind,
    rule: ImageRule,
    early: (measured: Measured) => void = () => undefined,
  ): Promise<Measured> {
    return new Promise((resolve, reject) =>
      send(id => ({ id, act: 'measure', source, kind, rule: plain(rule) }), (told) => {
        if ('refusal' in told) reject(new FileRefusal(told.refusal, told.sure))
        else if ('findings' in told && !told.last) {
          early(told)
          return false
        } else if ('findings' in told) resolve(told)
        return true
      })
    )
  }

  /** Makes the picture that was measured last fit the rules. @throws FileRefusal */
  function fit(kind: ImageKind, rule: ImageRule, turn?: FacesSeen['turn']): Promise<Fitted> {
    return new Promise((resolve, reject) =>
      send(id => ({ id, act: 'fit', kind, rule: plain(rule), turn }), (told) => {
        if ('refusal' in told) reject(new FileRefusal(told.refusal, told.sure))
        else if ('made' in told) resolve(told)
        return true
      })
    )
  }

  /** Loads what the first picture will need while it is still being chosen. */
  const warm = () => send(id => ({ id, act: 'warm' }), () => true)

  return { measure, fit, warm }
}
