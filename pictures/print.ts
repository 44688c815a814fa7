import { createRequire } from 'node:module'
import { join } from 'node:path'
import type { PrintedWord } from '../core/documents/print'

/** A page as it lies in the store: its number from 1, and its size in pixels. */
export interface PageSize {
  page: number
  width: number
  height: number
}
/** Reads the print on one page, given as JPEG. */
export type PrintReader = (jpeg: Uint8Array, size: PageSize) => Promise<PrintedWord[]>

/** The reader did not get to it or did not end in time; it may be asked again later. */
export class PrintWaits extends Error {}

interface Word {
  text: string
  confidence: number
  bbox: { x0: number, y0: number, x1: number, y1: number }
}
interface Engine {
  recognize: (
    image: Buffer,
    options: object,
    output: { blocks: true },
  ) => Promise<{ data: { blocks: { paragraphs: { lines: { words: Word[] }[] }[] }[] | null } }>
  terminate: () => Promise<unknown>
}

/** Longest reading of one page, readings that may wait, and for how long an idle engine is kept, in milliseconds. */
const limits = { reading: 60_000, waiting: 12, idle: 120_000 }

/**
 * A reader of print in a thread of its own, out of packages that bring its data: nothing is fetched. The engine holds about 300 MB, so it
 * is opened with the first page, reads one at a time, and is let go when nobody has asked for a while.
 */
export class PrintEngine {
  #engine: Promise<Engine> | null = null
  #turn: Promise<unknown> = Promise.resolve()
  #waiting = 0
  #idle: NodeJS.Timeout | undefined

  constructor(private readonly root = process.cwd()) {}

  readonly read: PrintReader = (jpeg, size) => {
    if (this.#waiting >= limits.waiting) return Promise.reject(new PrintWaits('too many pages wait to be read'))
    this.#waiting += 1
    clearTimeout(this.#idle)
    const mine = this.#turn.then(() => this.#readNow(jpeg, size))
    this.#turn = mine.catch(() => undefined).then(() => {
      this.#waiting -= 1
      if (this.#waiting === 0) this.#idle = setTimeout(() => void this.close(), limits.idle).unref()
    })
    return mine
  }

  async close(): Promise<void> {
    clearTimeout(this.#idle)
    const open = this.#engine
    this.#engine = null
    await open?.then(engine => engine.terminate()).catch(() => undefined)
  }

  async #readNow(jpeg: Uint8Array, { page, width, height }: PageSize): Promise<PrintedWord[]> {
    this.#engine ??= this.#open()
    const engine = await this.#engine
    let late: NodeJS.Timeout | undefined
    const tooLong = new Promise<never>((_, reject) => {
      late = setTimeout(() => reject(new PrintWaits('a page took too long to be read')), limits.reading)
    })
    try {
      const { data } = await Promise.race([engine.recognize(Buffer.from(jpeg), {}, { blocks: true }), tooLong])
      const lines = (data.blocks ?? []).flatMap(block => block.paragraphs.flatMap(paragraph => paragraph.lines))
      return lines.flatMap((line, nth) =>
        line.words.map(({ text, confidence, bbox: { x0, y0, x1, y1 } }) => ({
          page,
          line: nth,
          text,
          sure: Math.round(confidence),
          box: [x0 / width, y0 / height, x1 / width, y1 / height] as const,
        }))
      )
    } catch (error) {
      // An engine that failed in the middle of a page is not asked again.
      await this.close()
      throw error
    } finally {
      clearTimeout(late)
    }
  }

  #open(): Promise<Engine> {
    const load = createRequire(join(this.root, 'package.json'))
    const { createWorker } = load('tesseract.js') as { createWorker: (language: string, mode: number, options: object) => Promise<Engine> }
    return createWorker('eng', 1, {
      langPath: join(this.root, 'node_modules/@tesseract.js-data/eng/4.0.0_best_int'),
      gzip: true,
      cacheMethod: 'none',
      errorHandler: () => undefined,
    })
  }
}
