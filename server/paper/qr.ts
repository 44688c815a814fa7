import QRCode, { type QRCodeSegment } from 'qrcode'

/** A QR code (ISO/IEC 18004) as one filled path of horizontal runs, `width` points wide with its quiet zone of four modules. */
export function drawQrCode(doc: PDFKit.PDFDocument, content: string | QRCodeSegment[], left: number, top: number, width: number): void {
  const { modules } = QRCode.create(content, { errorCorrectionLevel: 'M' })
  const size = width / (modules.size + 8)
  for (let row = 0; row < modules.size; row += 1) {
    for (let from = 0; from < modules.size; from += 1) {
      if (!modules.get(row, from)) continue
      let to = from
      while (to < modules.size && modules.get(row, to)) to += 1
      // A hair of overlap keeps viewers from showing seams between rows.
      doc.rect(left + (from + 4) * size, top + (row + 4) * size, (to - from) * size, size * 1.02)
      from = to
    }
  }
  doc.fill('#000000')
}
