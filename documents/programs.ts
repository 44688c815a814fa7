import { PDFArray, PDFDict, PDFDocument, PDFName, PDFRawStream, PDFStream, type PDFObject } from 'pdf-lib'
import { costOf, type PdfCost } from './costs'

/**
 * Actions that run something on the machine of whoever opens the file, send something from it, or open another file: ISO 32000-2, 12.6.4.
 */
const actions = new Set(['/JavaScript', '/Launch', '/Rendition', '/RichMediaExecute', '/ImportData', '/SubmitForm', '/GoToR', '/GoToE',
  '/Thread'])
/** Entries that hold a script or a form that is a program: 12.6.4.17 and annex K (XFA). */
const entries = ['/JS', '/JavaScript', '/XFA']

/**
 * What a PDF holds that keeps it from being opened: a program, or pages that cost too much to draw. Every object is looked at, those packed
 * away in streams of objects among them, whether or not anything leads there; the library reads names as they mean, so that one written in
 * escapes is found, too.
 *
 * @returns null for a good one, `broken` when its structure cannot be read.
 */
export async function harmOf(bytes: Uint8Array): Promise<'program' | 'broken' | PdfCost | null> {
  try {
    const file = await PDFDocument.load(bytes, { updateMetadata: false, throwOnInvalidObject: false })
    if (file.context.enumerateIndirectObjects().some(([, object]) => holdsProgram(object, 0))) return 'program'
    return await costOf(file)
  } catch {
    return 'broken'
  }
}

const depthAtMost = 60

function holdsProgram(object: PDFObject, depth: number): boolean {
  if (depth > depthAtMost) return true
  if (object instanceof PDFArray) return object.asArray().some(member => holdsProgram(member, depth + 1))
  const dict = object instanceof PDFDict ? object : object instanceof PDFRawStream || object instanceof PDFStream ? object.dict : null
  if (!dict) return false
  return dict.entries().some(([name, value]) =>
    entries.includes(name.asString())
    || (name.asString() === '/S' && value instanceof PDFName && actions.has(value.asString())) || holdsProgram(value, depth + 1)
  )
}
