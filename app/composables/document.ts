import type { Finding } from '~~/core/finding/finding'
import type { Edit } from '~~/core/imaging/fit'
import type { Turn } from '~~/core/imaging/upright'
import type { DocumentRule } from '~~/core/notice/file-rules'

/** One page of what is put together: of which opened file, which page, turned how by hand. */
export interface ChosenPage {
  source: number
  page: number
  turn?: Turn
}

/** What the page asks of the worker for documents. Opened files are named by numbers that the page gives. */
export type DocumentAsk =
  | { id: number, act: 'open', source: number, file: Blob, rule: DocumentRule }
  | { id: number, act: 'make', pages: ChosenPage[], rule: DocumentRule }
  | { id: number, act: 'close', source: number }

/** What was found on a document, and a small copy of each of its pages. */
export interface Examined {
  findings: Finding[]
  views: Blob[]
}
export interface Opened extends Examined {
  pdf: boolean
}
export interface Bound extends Examined {
  file: Blob
  edits: Edit[]
}

/** The worker for documents of this page. */
export function useDocumentWorker() {
  const send = useAsking<DocumentAsk, Opened | Bound>(
    () => new Worker(new URL('../workers/document.worker.ts', import.meta.url), { type: 'module' }),
    'browser.not-looked',
  )

  /** Opens and measures a file, which stays at hand under its number. @throws FileRefusal */
  function open(source: number, file: Blob, rule: DocumentRule): Promise<Opened> {
    return new Promise((resolve, reject) =>
      send(id => ({ id, act: 'open', source, file, rule: plain(rule) }), (told) => {
        if ('refusal' in told) reject(new FileRefusal(told.refusal, told.sure))
        else if ('pdf' in told) resolve(told)
        return true
      })
    )
  }

  /** Makes one PDF of pages in their order, and measures it. @throws FileRefusal */
  function make(pages: ChosenPage[], rule: DocumentRule): Promise<Bound> {
    return new Promise((resolve, reject) =>
      send(id => ({ id, act: 'make', pages: plain(pages), rule: plain(rule) }), (told) => {
        if ('refusal' in told) reject(new FileRefusal(told.refusal, told.sure))
        else if ('file' in told) resolve(told)
        return true
      })
    )
  }

  /** Lets an opened file go. */
  const close = (source: number) => send(id => ({ id, act: 'close', source }), () => true)

  return { open, make, close }
}
