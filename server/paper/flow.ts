import { mm } from './document'
import { drawQrCode } from './qr'
import { drawLine, drawParagraph, lineWidth, linesOf, type TextStyle } from './typeset'

const page = { left: mm(20), width: mm(170), top: mm(20), bottom: mm(272) }
const label = { width: mm(58), gap: mm(4) }
const [ink, soft, rule] = ['#1d2a33', '#56646d', '#b9b1a0']
const style = (size: number, face: TextStyle['face'] = 'sans', colour = ink): TextStyle => ({ face, size, colour })

/**
 * Text that flows over as many A4 pages as it takes: headings, paragraphs, rows of a label and a value, pictures side by side. Nothing of
 * one row is torn apart.
 */
export class Flow {
  private y = page.top

  constructor(private readonly doc: PDFKit.PDFDocument) {}

  title(text: string): void {
    this.y = drawParagraph(this.doc, text, page.left, this.y, page.width, style(19, 'serif')) + mm(1)
  }

  heading(text: string): void {
    // Never the last line of a page.
    this.room(mm(24))
    this.y = drawParagraph(this.doc, text, page.left, this.y + mm(5), page.width, style(13, 'serif')) + mm(1)
    this.doc.moveTo(page.left, this.y).lineTo(page.left + page.width, this.y).lineWidth(0.6).stroke(rule)
    this.y += mm(2)
  }

  paragraph(text: string, isSoft = false): void {
    for (const line of linesOf(text, page.width, style(10))) {
      this.room(mm(6))
      this.y = drawParagraph(this.doc, line, page.left, this.y, page.width, style(10, 'sans', isSoft ? soft : ink))
    }
    this.y += mm(1)
  }

  row(name: string, value: string, isStrong = false): void {
    const [one, other] = [style(9.5, 'sans', soft), style(10.5, isStrong ? 'strong' : 'sans')]
    const left = page.left + label.width + label.gap
    const width = page.width - label.width - label.gap
    const high = Math.max(linesOf(name, label.width, one).length * one.size, linesOf(value, width, other).length * other.size) * 1.3
    this.room(Math.min(high, page.bottom - page.top))
    const below = drawParagraph(this.doc, name, page.left, this.y + 1, label.width, one)
    this.y = Math.max(below, drawParagraph(this.doc, value, left, this.y, width, other)) + mm(1)
  }

  /** A line of a list with an amount at its end, so that amounts stand below each other. */
  entry(name: string, value: string, amount: string): void {
    const [one, other] = [style(9.5, 'sans', soft), style(10.5)]
    const left = page.left + mm(34)
    const right = page.left + page.width
    const wide = lineWidth(amount, other)
    this.room(mm(6.4))
    drawLine(this.doc, name, page.left, this.y + 1, one, mm(32))
    drawLine(this.doc, value, left, this.y, other, right - wide - mm(4) - left)
    drawLine(this.doc, amount, right - wide, this.y, other, wide + 1)
    this.y += mm(6)
  }

  /**
   * Pictures side by side, each fitted into its width and the height of the row; one that cannot be read is left out, since the rest of the
   * page counts all the same.
   */
  pictures(pictures: readonly { bytes: Buffer, width: number }[], height: number): void {
    this.room(height + mm(2))
    let x = page.left
    for (const { bytes, width } of pictures) {
      try {
        this.doc.image(bytes, x, this.y, { fit: [width, height] })
        x += width + mm(6)
      } catch {
        continue
      }
    }
    this.y += height + mm(2)
  }

  /** A code for machines, with what it holds beside it. */
  code(content: string, says: string): void {
    const size = mm(34)
    this.room(size)
    drawQrCode(this.doc, content, page.left - mm(2), this.y, size)
    drawParagraph(
      this.doc,
      says,
      page.left + label.width + label.gap,
      this.y + mm(4),
      page.width - label.width - label.gap,
      style(9, 'sans', soft),
    )
    this.y += size + mm(1)
  }

  /** Writes what stands below each page, once all are there. */
  foot(text: (of: { page: number, pages: number }) => string): void {
    const { count } = this.doc.bufferedPageRange()
    for (let i = 0; i < count; i += 1) {
      this.doc.switchToPage(i)
      drawParagraph(this.doc, text({ page: i + 1, pages: count }), page.left, mm(281), page.width, style(8.5, 'sans', soft))
    }
  }

  private room(high: number): void {
    if (this.y + high <= page.bottom) return
    this.doc.addPage()
    this.y = page.top
  }
}
