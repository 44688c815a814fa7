import PDFDocument from 'pdfkit'
import { Tags } from './tags'

/** Points of a length on paper. */
export const mm = (millimetres: number) => millimetres * 72 / 25.4

interface About {
  title: string
  author: string
  at: Date
  size?: [number, number]
  /** Something is written on every page once all are there. */
  hasFoot?: boolean
}

/**
 * One printed document, A4 or of a size in points, as bytes. Its dates are those of what it shows, so that equal content gives equal bytes.
 */
export async function documentOf(about: About, draw: (doc: PDFKit.PDFDocument) => void): Promise<Buffer> {
  return made(new PDFDocument(settings(about)), draw)
}

/** One that also says what each of its parts is, for whoever has it read aloud (ISO 14289-1); `lang` is its language. */
export async function taggedDocumentOf(
  about: About & { lang: string },
  draw: (doc: PDFKit.PDFDocument, tags: Tags) => void,
): Promise<Buffer> {
  return made(new PDFDocument({ ...settings(about), lang: about.lang, tagged: true, subset: accessible }), (doc) => {
    const tags = new Tags(doc)
    draw(doc, tags)
    tags.end()
  })
}

/** Known to pdfkit, not to its types. */
const accessible = 'PDF/UA' as unknown as PDFKit.Mixins.PDFSubsets

/** Else pdfkit reads its own Helvetica for each document, which none of ours uses. */
const noFont = null as unknown as undefined

/**
 * One document of as many pages as are drawn, given away while it grows: no more of it is held than one page and what ends it. Whoever
 * draws a page may add more.
 */
export async function* pagesOf(about: About, pages: AsyncIterable<(doc: PDFKit.PDFDocument) => void>): AsyncGenerator<Buffer> {
  const doc = new PDFDocument({ ...settings(about), autoFirstPage: false })
  const ready = () => doc.read() as unknown as Buffer | null
  for await (const draw of pages) {
    doc.addPage()
    draw(doc)
    const part = ready()
    if (part) yield part
  }
  doc.end()
  for (let part = ready(); part; part = ready()) yield part
}

const settings = (about: About): PDFKit.PDFDocumentOptions => ({
  size: about.size ?? 'A4',
  margin: 0,
  bufferPages: about.hasFoot ?? false,
  pdfVersion: '1.7',
  font: noFont,
  lang: 'en',
  displayTitle: true,
  info: { Title: about.title, Author: about.author, CreationDate: about.at, ModDate: about.at },
})

async function made(doc: PDFKit.PDFDocument, draw: (doc: PDFKit.PDFDocument) => void): Promise<Buffer> {
  const parts: Buffer[] = []
  doc.on('data', (part: Buffer) => parts.push(part))
  const ended = new Promise<void>((done, fail) => doc.on('end', done).on('error', fail))
  draw(doc)
  doc.end()
  await ended
  return Buffer.concat(parts)
}
