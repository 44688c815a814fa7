import { hasPdfEnd, headOfPdf } from '../core/documents/container'
import { isScan, pageSide, pagesAtMost, type DocumentFacts, type PageFacts } from '../core/documents/document'
import { asTextRuns, measurePage } from '../core/documents/page'
import type { ContainerFacts } from '../core/imaging/container'
import type { RgbPixels } from '../core/imaging/pixels'
import type { RefusalReason } from '../core/refusal/codes'
import { PdfRefusal, type PdfReader } from './pdf'
import { harmOf } from './programs'

const millimetresAPoint = 25.4 / 72

/** A file that cannot be taken as a document, and why. */
export class DocumentProblem extends Error {
  constructor(readonly reason: RefusalReason) {
    super(reason.code)
  }
}

/** What reading needs from outside: PDFs read, and pictures decoded to at most `pageSide` on the longer side, upright. */
export interface ReadingRoom {
  pdf: () => Promise<PdfReader>
  picture: (bytes: Uint8Array) => Promise<{ facts: ContainerFacts, pixels: RgbPixels }>
}

/**
 * Reads a document page by page and measures each.
 *
 * @param see is handed each page as it was drawn, for whoever keeps a copy; awaited, so that pages do not pile up.
 * @throws DocumentProblem; whatever `picture` throws is passed on.
 */
export async function readDocument(
  bytes: Uint8Array,
  room: ReadingRoom,
  see: (pixels: RgbPixels, page: number) => Promise<void> = async () => undefined,
): Promise<DocumentFacts> {
  const head = headOfPdf(bytes)
  if (head !== null) return { ...await readPdf(head === 0 ? bytes : bytes.slice(head), await room.pdf(), see), bytes: bytes.length }
  const { facts, pixels } = await room.picture(bytes)
  await see(pixels, 0)
  const page: PageFacts = {
    paper: null,
    characters: 0,
    scan: null,
    zoom: Math.max(1, facts.width / pixels.width),
    measures: measurePage(pixels),
  }
  return { format: facts.format, bytes: bytes.length, pages: [page], locked: false, mended: false, attachments: 0 }
}

async function readPdf(
  bytes: Uint8Array,
  reader: PdfReader,
  see: (pixels: RgbPixels, page: number) => Promise<void>,
): Promise<DocumentFacts> {
  if (!hasPdfEnd(bytes)) throw refused('pdf-broken-off')
  try {
    const { unlocked, ...facts } = reader(
      bytes,
      ({ pages, locked, mended, attachments, unlocked }) => ({ pages, locked, mended, attachments, unlocked: unlocked() }),
    )
    if (facts.pages === 0) throw new PdfRefusal('pdf-empty')
    if (facts.pages > pagesAtMost) {
      throw new DocumentProblem({ code: 'document.too-many-pages', parameters: { pages: facts.pages, most: pagesAtMost } })
    }
    const harm = await harmOf(unlocked)
    if (harm) throw new PdfRefusal(`pdf-${harm}`)
    const pages: PageFacts[] = []
    for (let i = 0; i < facts.pages; i += 1) {
      // Opened anew for each page: nothing of one may stay in memory while the copy of it is made.
      const { pixels, textTurn, ...page } = reader(bytes, pdf =>
        pdf.page(i, ({ width, height, characters, textTurn, scan, draw }) => ({
          pixels: draw(sideOf(scan)),
          characters,
          textTurn,
          scan,
          paper: { width: width * millimetresAPoint, height: height * millimetresAPoint },
        })))
      await see(pixels, i)
      const drawnDpi = sideOf(page.scan) / (Math.max(page.paper.width, page.paper.height) / 25.4)
      pages.push({
        ...page,
        zoom: page.scan ? page.scan.dpi / drawnDpi : 1,
        measures: asTextRuns(measurePage(pixels), isScan(page.scan) ? null : textTurn),
      })
    }
    return { format: 'pdf', bytes: bytes.length, ...facts, pages }
  } catch (error) {
    throw error instanceof PdfRefusal ? refused(error.refusal) : error
  }
}

/** Where no scan covers the page its writing is not measured, and a coarser drawing shows all that is looked for. */
const sideOf = (scan: PageFacts['scan']) => isScan(scan) ? pageSide : pageSide * 0.4

const refused = (refusal: PdfRefusal['refusal']) => new DocumentProblem({ code: `document.${refusal}`, parameters: {} })
