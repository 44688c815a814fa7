import { init, type WrappedPdfiumModule } from '@embedpdf/pdfium'
import type { DocumentRefusal } from '../core/documents/container'
import type { RgbPixels } from '../core/imaging/pixels'
import type { Turn } from '../core/imaging/upright'

/** A PDF that cannot be taken, and why. */
export class PdfRefusal extends Error {
  constructor(readonly refusal: DocumentRefusal) {
    super(refusal)
  }
}

/** What stands on one page of a PDF, and its drawing. Sizes in points, 72 to the inch, as the page is shown. */
export interface PdfPage {
  width: number
  height: number
  characters: number
  /** The clockwise turn that brings its text upright, as most of it runs; null with too little text, or text that runs many ways. */
  textTurn: Turn | null
  /** The largest picture: percent of the page that it covers, its pixels an inch. */
  scan: { share: number, dpi: number } | null
  /** The page on white, its longer side of so many pixels. */
  draw: (longSide: number) => RgbPixels
}

export interface OpenPdf {
  pages: number
  locked: boolean
  mended: boolean
  attachments: number
  /** Gives one page to whoever wants it, and closes it again. */
  page: <T>(index: number, use: (page: PdfPage) => T) => T
  /** The same file, and without its lock where it has one. */
  unlocked: () => Uint8Array
}

/** Opens a PDF, lets it be used, and gives its memory back. @throws PdfRefusal when it cannot be read. */
export type PdfReader = <T>(bytes: Uint8Array, use: (pdf: OpenPdf) => T) => T

const object = { image: 3, form: 5 }
const flags = { annotations: 1, reverseColours: 0x10 }
const passwordWanted = 4
/** Objects of a page that are looked at, and how deep forms within forms are followed: files may be made to have no end. */
const objectsAtMost = 5000
const depthAtMost = 4

/** PDFium, as WebAssembly without its script engine: the same drawing in browser and Node. `wasm` is the file of its package. */
export async function openPdfReader(wasm: ArrayBuffer): Promise<PdfReader> {
  const engine = await init({ wasmBinary: wasm })
  engine.PDFiumExt_Init()
  return (bytes, use) => {
    const at = malloc(engine, bytes.length)
    engine.pdfium.HEAPU8.set(bytes, at)
    const file = engine.FPDF_LoadMemDocument(at, bytes.length, '')
    const filling = file ? engine.PDFiumExt_OpenFormFillInfo() : 0
    const form = file ? engine.PDFiumExt_InitFormFillEnvironment(file, filling) : 0
    try {
      if (!file) throw new PdfRefusal(engine.FPDF_GetLastError() === passwordWanted ? 'pdf-secret' : 'pdf-broken')
      return use(opened(engine, file, form, bytes))
    } finally {
      if (form) engine.PDFiumExt_ExitFormFillEnvironment(form)
      if (filling) engine.PDFiumExt_CloseFormFillInfo(filling)
      if (file) engine.FPDF_CloseDocument(file)
      free(engine, at)
    }
  }
}

function opened(engine: WrappedPdfiumModule, file: number, form: number, bytes: Uint8Array): OpenPdf {
  const locked = engine.EPDF_IsEncrypted(file)
  return {
    pages: engine.FPDF_GetPageCount(file),
    locked,
    mended: !engine.FPDF_DocumentHasValidCrossReferenceTable(file),
    attachments: Math.max(0, engine.FPDFDoc_GetAttachmentCount(file)),
    page: (index, use) => {
      const page = engine.FPDF_LoadPage(file, index)
      if (!page) throw new PdfRefusal('pdf-broken')
      try {
        return use(readPage(engine, page, form))
      } finally {
        engine.FPDF_ClosePage(page)
      }
    },
    unlocked: () => locked ? savedWithoutLock(engine, file) : bytes,
  }
}

function readPage(engine: WrappedPdfiumModule, page: number, form: number): PdfPage {
  const [width, height] = [engine.FPDF_GetPageWidthF(page), engine.FPDF_GetPageHeightF(page)]
  const text = engine.FPDFText_LoadPage(page)
  const characters = text ? Math.max(0, engine.FPDFText_CountChars(text)) : 0
  const textTurn = turnOfText(engine, page, text, characters)
  if (text) engine.FPDFText_ClosePage(text)
  return {
    width,
    height,
    characters,
    textTurn,
    scan: largestPicture(engine, page, width * height),
    draw: longSide => draw(engine, page, form, { width, height }, longSide),
  }
}

/** Letters that are asked which way they run, at most; with fewer than the least, or a smaller share one way, nothing is said. */
const [lettersAsked, fewestAsked, shareOneWay] = [1000, 12, 0.8]

function turnOfText(engine: WrappedPdfiumModule, page: number, text: number, characters: number): Turn | null {
  const asked = Math.min(characters, lettersAsked)
  if (asked < fewestAsked) return null
  const counts = [0, 0, 0, 0]
  for (let i = 0; i < asked; i += 1) {
    // Clockwise, on the page as it is stored; the page's own turn is in quarters, clockwise too.
    const quarters = engine.FPDFText_GetCharAngle(text, Math.floor(i * characters / asked)) / (Math.PI / 2)
      + engine.FPDFPage_GetRotation(page)
    if (Math.abs(quarters - Math.round(quarters)) < 0.1) counts[Math.round(quarters) % 4] = (counts[Math.round(quarters) % 4] ?? 0) + 1
  }
  const most = counts.indexOf(Math.max(...counts))
  return (counts[most] ?? 0) < shareOneWay * asked ? null : ([0, 270, 180, 90] as const)[most] ?? null
}

function draw(
  engine: WrappedPdfiumModule,
  page: number,
  form: number,
  size: { width: number, height: number },
  longSide: number,
): RgbPixels {
  const times = longSide / Math.max(size.width, size.height, 1)
  const [width, height] = [Math.max(1, Math.round(size.width * times)), Math.max(1, Math.round(size.height * times))]
  // Format 2 holds three bytes a pixel; the flag turns their order to red, green, blue.
  const bitmap = engine.FPDFBitmap_CreateEx(width, height, 2, 0, 0)
  if (!bitmap) throw new PdfRefusal('pdf-broken')
  try {
    engine.FPDFBitmap_FillRect(bitmap, 0, 0, width, height, 0xFFFFFFFF)
    engine.FPDF_RenderPageBitmap(bitmap, page, 0, 0, width, height, 0, flags.annotations | flags.reverseColours)
    // What people filled into a form is drawn apart from the page.
    if (form) engine.FPDF_FFLDraw(form, bitmap, page, 0, 0, width, height, 0, flags.annotations | flags.reverseColours)
    const [from, stride] = [engine.FPDFBitmap_GetBuffer(bitmap), engine.FPDFBitmap_GetStride(bitmap)]
    const data = new Uint8Array(width * height * 3)
    for (let y = 0; y < height; y += 1) {
      data.set(engine.pdfium.HEAPU8.subarray(from + y * stride, from + y * stride + width * 3), y * width * 3)
    }
    return { width, height, data }
  } finally {
    engine.FPDFBitmap_Destroy(bitmap)
  }
}

/** The picture that covers most of a page, pictures in forms among them. */
function largestPicture(engine: WrappedPdfiumModule, page: number, area: number): PdfPage['scan'] {
  const place = malloc(engine, 24)
  let [found, left]: [PdfPage['scan'], number] = [null, objectsAtMost]
  const look = (one: number, times: number, depth: number) => {
    if ((left -= 1) < 0) return
    const kind = engine.FPDFPageObj_GetType(one)
    if (kind === object.form && depth < depthAtMost) {
      // What stands in a form is drawn in the form's own measure.
      const scale = times * scaleOf(engine, one, place)
      for (let i = 0; i < engine.FPDFFormObj_CountObjects(one); i += 1) look(engine.FPDFFormObj_GetObject(one, i), scale, depth + 1)
    }
    if (kind !== object.image) return
    const [width, height] = sidesOf(engine, one, place).map(side => side * times)
    if (!width || !height || !engine.FPDFImageObj_GetImagePixelSize(one, place, place + 4)) return
    const across = engine.pdfium.getValue(place, 'i32')
    const share = Math.min(100, 100 * width * height / area)
    if (!found || share > found.share) found = { share, dpi: across / (width / 72) }
  }
  try {
    for (let i = 0; i < engine.FPDFPage_CountObjects(page); i += 1) look(engine.FPDFPage_GetObject(page, i), 1, 0)
    return found
  } finally {
    free(engine, place)
  }
}

/** The six numbers of an object's matrix, ISO 32000-2, 8.3.3. */
function matrixOf(engine: WrappedPdfiumModule, one: number, place: number): number[] {
  if (!engine.FPDFPageObj_GetMatrix(one, place)) return [1, 0, 0, 1, 0, 0]
  return Array.from({ length: 6 }, (_, i) => engine.pdfium.getValue(place + i * 4, 'float'))
}

/** A picture fills the unit square of its matrix: the lengths of the square's sides. */
function sidesOf(engine: WrappedPdfiumModule, one: number, place: number): [number, number] {
  const [a = 0, b = 0, c = 0, d = 0] = matrixOf(engine, one, place)
  return [Math.hypot(a, b), Math.hypot(c, d)]
}

function scaleOf(engine: WrappedPdfiumModule, one: number, place: number): number {
  const [a = 1, b = 0, c = 0, d = 1] = matrixOf(engine, one, place)
  return Math.sqrt(Math.abs(a * d - b * c)) || 1
}

function savedWithoutLock(engine: WrappedPdfiumModule, file: number): Uint8Array {
  engine.EPDF_RemoveEncryption(file)
  const writer = engine.PDFiumExt_OpenFileWriter()
  try {
    engine.PDFiumExt_SaveAsCopy(file, writer)
    const size = engine.PDFiumExt_GetFileWriterSize(writer)
    const at = malloc(engine, size)
    engine.PDFiumExt_GetFileWriterData(writer, at, size)
    const copy = engine.pdfium.HEAPU8.slice(at, at + size)
    free(engine, at)
    return copy
  } finally {
    engine.PDFiumExt_CloseFileWriter(writer)
  }
}

interface Memory {
  wasmExports: { malloc: (bytes: number) => number, free: (at: number) => void }
}

function malloc(engine: WrappedPdfiumModule, bytes: number): number {
  return (engine.pdfium as unknown as Memory).wasmExports.malloc(bytes)
}

function free(engine: WrappedPdfiumModule, at: number): void {
  ;(engine.pdfium as unknown as Memory).wasmExports.free(at)
}
