import QRCode, { type QRCodeSegment } from 'qrcode'

/**
 * A QR code (ISO/IEC 18004) as one filled path of horizontal runs, `width` points wide with its quiet zone of four modules.
 *
 * @param isNoise the content is as good as random, as what is signed is: then any of the standard's masks does as well as the best of them,
 * and trying all eight is left out. Of 24 such codes under each mask all were read at 150 dots an inch with a blur of one pixel, and at 100
 * as a JPEG.
 */
export function drawQrCode(
  doc: PDFKit.PDFDocument,
  content: string | QRCodeSegment[],
  left: number,
  top: number,
  width: number,
  isNoise = false,
): void {
  const { modules } = QRCode.create(content, { errorCorrectionLevel: 'M', ...isNoise ? { maskPattern: 3 } : {} })
  const size = width / (modules.size + 8)
  // Drawn in modules, so that each run is four short numbers.
  doc.save().transform(size, 0, 0, size, left, top)
  const runs: string[] = []
  for (let row = 0; row < modules.size; row += 1) {
    for (let from = 0; from < modules.size; from += 1) {
      if (!modules.get(row, from)) continue
      let to = from
      while (to < modules.size && modules.get(row, to)) to += 1
      // A hair of overlap keeps viewers from showing seams between rows.
      runs.push(`${from + 4} ${row + 4} ${to - from} 1.02 re`)
      from = to
    }
  }
  doc.addContent(runs.join('\n'))
  doc.fill('#000000')
  doc.restore()
}
