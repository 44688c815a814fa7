import { isPdf } from '../../core/documents/container'
import { pageSide, type DocumentFacts } from '../../core/documents/document'
import { measureDocument } from '../../core/documents/measure'
import type { RgbPixels } from '../../core/imaging/pixels'
import { makeDocument, type Draft } from '../../documents/make'
import { openPdfReader, type PdfReader } from '../../documents/pdf'
import { DocumentProblem, readDocument } from '../../documents/read'
import type { Told } from '../composables/asking'
import type { Bound, DocumentAsk, Examined, Opened } from '../composables/document'
import { encode, imageOf, NoCanvas, openPicture, Refused, shrunk } from './canvas'

/** Reads, measures and puts together documents beside the page, before anything is sent. */
const tell = (told: Told<Opened | Bound>) => postMessage(told)

/** Files that were opened, by the page's number for them: pages are made of them again with every change. */
const sources = new Map<number, Uint8Array>()
let reader: Promise<PdfReader> | null = null

self.onmessage = async ({ data: ask }: MessageEvent<DocumentAsk>) => {
  try {
    if (ask.act === 'open') await open(ask)
    else if (ask.act === 'make') await make(ask)
    else sources.delete(ask.source)
  } catch (error) {
    const sure = error instanceof DocumentProblem || error instanceof Refused
    const refusal = sure
      ? error.reason
      : { code: error instanceof NoCanvas ? 'browser.no-canvas' as const : 'browser.not-looked' as const, parameters: {} }
    tell({ id: ask.id, refusal, sure })
  }
}

async function open({ id, source, file, rule }: Extract<DocumentAsk, { act: 'open' }>): Promise<void> {
  const bytes = new Uint8Array(await file.arrayBuffer())
  const examined = await examine(bytes, rule)
  sources.set(source, bytes)
  tell({ id, ...examined, pdf: isPdf(bytes) })
}

async function make({ id, pages, rule }: Extract<DocumentAsk, { act: 'make' }>): Promise<void> {
  const drafts = pages.map(({ source, page, turn }): Draft => {
    const bytes = sources.get(source) ?? new Uint8Array()
    return isPdf(bytes) ? { kind: 'pdf', source: bytes, page, turn } : { kind: 'picture', source: bytes, turn }
  })
  const made = await makeDocument(drafts, rule, {
    picture: async (bytes, side) => (await decode(bytes, side)).pixels,
    encode,
    pdf: openReader,
  })
  if (!made) throw new DocumentProblem({ code: 'document.too-heavy', parameters: { most: (rule.bytes.max ?? 0) / 1024 } })
  const file = new Blob([Uint8Array.from(made.bytes)], { type: 'application/pdf' })
  tell({ id, file, edits: made.edits, ...await examine(made.bytes, rule) })
}

async function examine(bytes: Uint8Array, rule: Extract<DocumentAsk, { act: 'open' }>['rule']): Promise<Examined> {
  const views: Blob[] = []
  const facts: DocumentFacts = await readDocument(
    bytes,
    { pdf: openReader, picture: content => decode(content, pageSide) },
    async (pixels) => {
      views.push(await viewOf(pixels))
    },
  )
  return { findings: measureDocument(facts, rule), views }
}

/** A small copy of a page for the screen. */
async function viewOf(pixels: RgbPixels): Promise<Blob> {
  const { width, height } = pixels
  const times = Math.min(1, 900 / Math.max(width, height))
  const bitmap = await createImageBitmap(imageOf(pixels), {
    resizeWidth: Math.max(1, Math.round(width * times)),
    resizeHeight: Math.max(1, Math.round(height * times)),
    resizeQuality: 'high',
  })
  const canvas = new OffscreenCanvas(bitmap.width, bitmap.height)
  canvas.getContext('2d')?.drawImage(bitmap, 0, 0)
  bitmap.close()
  return canvas.convertToBlob({ type: 'image/jpeg', quality: 0.8 })
}

/** A picture of a paper, upright, its longer side at most `side`. */
async function decode(bytes: Uint8Array, side: number) {
  const { facts, bitmap } = await openPicture(bytes)
  const pixels = await shrunk(bitmap, side)
  bitmap.close()
  return { facts, pixels }
}

/** Comes from our own server, with the first PDF. */
function openReader(): Promise<PdfReader> {
  reader ??= fetch(`${self.location.origin}/documents/pdfium.wasm`).then(async (answer) => {
    if (!answer.ok) throw new Error(`the reader of PDFs did not come: ${answer.status}`)
    return openPdfReader(await answer.arrayBuffer())
  })
  reader.catch(() => {
    reader = null
  })
  return reader
}
