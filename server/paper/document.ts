import PDFDocument from 'pdfkit'

/** Points of a length on paper. */
export const mm = (millimetres: number) => millimetres * 72 / 25.4

/** One printed document, A4 or of a size in points, as bytes. Its dates are those of what it shows, so that equal content gives equal bytes. */
export async function documentOf(about: { title: string, author: string, at: Date, size?: [number, number], /** Something is written on every page once all are there. */ hasFoot?: boolean }, draw: (doc: PDFKit.PDFDocument) => void): Promise<Buffer> {
  const doc = new PDFDocument({
    size: about.size ?? 'A4', margin: 0, bufferPages: about.hasFoot ?? false, pdfVersion: '1.7', lang: 'en', displayTitle: true, info: { Title: about.title, Author: about.author, CreationDate: about.at, ModDate: about.at },
  })
  const parts: Buffer[] = []
  doc.on('data', (part: Buffer) => parts.push(part))
  const ended = new Promise<void>((done, fail) => doc.on('end', done).on('error', fail))
  draw(doc)
  doc.end()
  await ended
  return Buffer.concat(parts)
}
