import { degrees, PDFDocument } from 'pdf-lib'
import type { Turn } from '../core/imaging/upright'

/** One page of a document that is put together: a JPEG, or a page of a PDF, turned clockwise. */
export type Leaf = { jpeg: Uint8Array } | { pdf: Uint8Array, page: number, turn: Turn }

/** A4 in points, 72 to the inch: ISO 216. */
const a4 = { short: 595.28, long: 841.89 }

/** One PDF of leaves in their order. A picture fills an A4 page of its own shape's direction, as far as its shape lets it. */
export async function assemble(leaves: readonly Leaf[]): Promise<Uint8Array> {
  const made = await PDFDocument.create({ updateMetadata: false })
  const sources = new Map<Uint8Array, PDFDocument>()
  for (const leaf of leaves) {
    if ('jpeg' in leaf) {
      const picture = await made.embedJpg(leaf.jpeg)
      const lying = picture.width > picture.height
      const [width, height] = lying ? [a4.long, a4.short] : [a4.short, a4.long]
      const times = Math.min(width / picture.width, height / picture.height)
      const [w, h] = [picture.width * times, picture.height * times]
      made.addPage([width, height]).drawImage(picture, { x: (width - w) / 2, y: (height - h) / 2, width: w, height: h })
    } else {
      const source = sources.get(leaf.pdf) ?? await PDFDocument.load(leaf.pdf, { updateMetadata: false })
      sources.set(leaf.pdf, source)
      const [page] = await made.copyPages(source, [leaf.page])
      if (!page) throw new RangeError(`page ${leaf.page + 1} is not in the file`)
      page.setRotation(degrees((page.getRotation().angle + leaf.turn) % 360))
      made.addPage(page)
    }
  }
  return made.save()
}
