import PDFDocument from 'pdfkit'
import { Tags } from './tags'

/** Points of a length on paper. */
export const mm = (millimetres: number) => millimetres * 72 / 25.4

interface About { title: string, author: string, at: Date, size?: [number, number], /** Something is written on every page once all are there. */ hasFoot?: boolean }

/** One printed document, A4 or of a size in points, as bytes. Its dates are those of what it shows, so that equal content gives equal bytes. */
export async function documentOf(about: About, draw: (doc: PDFKit.PDFDocument) => void): Promise<Buffer> {
  return made(new PDFDocument(settings(about)), draw)
}

/** One that also says what each of its parts is, for whoever has it read aloud (ISO 14289-1); `lang` is its language. */
export async function taggedDocumentOf(about: About & { lang: string }, draw: (doc: PDFKit.PDFDocument, tags: Tags) => void): Promise<Buffer> {
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

const settings = (about: About): PDFKit.PDFDocumentOptions => ({
  size: about.size ?? 'A4', margin: 0, bufferPages: about.hasFoot ?? false, pdfVersion: '1.7', font: noFont, lang: 'en', displayTitle: true, info: { Title: about.title, Author: about.author, CreationDate: about.at, ModDate: about.at },
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
