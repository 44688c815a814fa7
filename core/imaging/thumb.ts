import type { Finding } from '../finding/finding'
import type { ImageRule } from '../notice/file-rules'
import { imageFinding } from './image-finding'
import { lumaOf, type RgbPixels } from './pixels'

/** What the pixels of a thumb impression show, in percent of the picture or of its printed part. */
export interface ThumbMeasures {
  /** Of the picture, what is printed on. */
  area: number
  /** Of the printed part, where lines run side by side in one direction, as ridges do. */
  ridges: number
  /** Of the printed part, what is nearly solid: too much ink, or a slip of the finger. */
  smudge: number
}

const piece = 16
/** Gradient energy per pixel that tells print from paper, in squared levels. */
const printed = 40
const coherent = 0.4

/**
 * Ridges by the coherence of local orientation, from the structure tensor of each piece (Bazen, Gerez, "Systematic methods for the
 * computation of the directional fields and singular points of fingerprints", 2002, from memory): 1 where all gradients share one line,
 * 0 where they go every way. A solid piece has hardly any gradient and is dark.
 */
export function readThumb(pixels: RgbPixels): ThumbMeasures {
  const luma = lumaOf(pixels)
  const [columns, rows] = [Math.floor(pixels.width / piece), Math.floor(pixels.height / piece)]
  let [print, ridged, solid] = [0, 0, 0]
  for (let row = 0; row < rows; row += 1) {
    for (let column = 0; column < columns; column += 1) {
      const { energy, coherence, mean } = tensorOf(luma, pixels.width, pixels.height, column * piece, row * piece)
      if (energy >= printed && mean > 45) {
        print += 1
        if (coherence >= coherent) ridged += 1
      } else if (mean < 110) {
        print += 1
        solid += 1
      }
    }
  }
  const all = Math.max(1, columns * rows)
  return { area: 100 * print / all, ridges: 100 * ridged / Math.max(1, print), smudge: 100 * solid / Math.max(1, print) }
}

function tensorOf(
  luma: Float32Array,
  width: number,
  height: number,
  left: number,
  top: number,
): { energy: number, coherence: number, mean: number } {
  let [xx, yy, xy, sum, n] = [0, 0, 0, 0, 0]
  for (let y = Math.max(1, top); y < Math.min(height - 1, top + piece); y += 1) {
    for (let x = Math.max(1, left); x < Math.min(width - 1, left + piece); x += 1) {
      const i = y * width + x
      const gx = ((luma[i + 1] ?? 0) - (luma[i - 1] ?? 0)) / 2
      const gy = ((luma[i + width] ?? 0) - (luma[i - width] ?? 0)) / 2
      xx += gx * gx
      yy += gy * gy
      xy += gx * gy
      sum += luma[i] ?? 0
      n += 1
    }
  }
  const energy = (xx + yy) / Math.max(1, n)
  return { energy, coherence: xx + yy === 0 ? 0 : Math.hypot(xx - yy, 2 * xy) / (xx + yy), mean: sum / Math.max(1, n) }
}

/** Findings on a thumb impression: each measure for which the notice sets a bound. */
export function measureThumb(pixels: RgbPixels, rule: ImageRule): Finding[] {
  const measures = readThumb(pixels)
  const findings: Finding[] = []
  if (rule.printArea) findings.push(imageFinding('thumb', 'printArea', measures.area, 0, 'percent', rule.printArea, { margin: 1 }))
  // On blank paper there is nothing to look for ridges in.
  const blank = measures.area < 1
  if (rule.ridges && !blank) findings.push(imageFinding('thumb', 'ridges', measures.ridges, 0, 'percent', rule.ridges, { margin: 5 }))
  if (rule.smudge && !blank) findings.push(imageFinding('thumb', 'smudge', measures.smudge, 0, 'percent', rule.smudge, { margin: 3 }))
  return findings
}
