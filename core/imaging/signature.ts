import { asOnWhite, inkColours, type InkName } from './ink'
import { evenedLuma, paperLevels, piecesOf } from './paper'
import { around, largestEnclosed, partsOf } from './parts'
import { lumaOf, otsuThreshold, saturationOf, type Box, type RgbPixels } from './pixels'
import { rulingsOf } from './rulings'
import { strangeShare } from './strange'
import type { Turn } from './upright'

/** What the pixels of a signature show. Shares are percent, levels 0 to 255, widths pixels of the measured copy. */
export interface SignatureMeasures {
  /** A box around all ink, specks left out; null when there is none. */
  box: Box | null
  /** Nothing stands out from the paper. */
  blank: boolean
  /** Mean paper less mean ink, after the paper's level was made even. */
  contrast: number
  inkShare: number
  /** Of the picture, the part that a box around all ink takes. */
  boxShare: number
  /** Connected pieces of ink, specks left out. */
  pieces: number
  /** Twice the ink's area over its outline: the width of a stroke, and much more for blocks and pictures. */
  strokeWidth: number
  /** Of the ink, what lies in pieces that reach an edge of the picture. */
  cutOff: number
  /** Level of the paper, and how far its darkest part lies under its lightest: grey paper, shadow. */
  paper: number
  shade: number
  /**
   * Mean difference between the strongest and the weakest colour, the paper taken for white: pen on paper is nearly grey, a portrait is
   * not.
   */
  saturation: number
  /** Straight lines that run across the picture, and the share of it that the surest covers, 0 to 1. */
  rulings: { count: number, longest: number }
  /** Shares of the ink by its colour; null without ink. */
  inks: Record<InkName, number> | null
  /** Percent of the picture that is neither paper nor ink. */
  strange: number
  /** Things of about one weight that lie apart. */
  parts: number
  /** Of the box around all ink, percent that lies enclosed by ink in one stretch. */
  enclosed: number
  /** Width over height of the box; 0 without ink. */
  inkAspect: number
}

/** On blank paper the threshold parts noise: two classes that hardly differ are one. */
const leastContrast = 20

export function measureSignature(pixels: RgbPixels): SignatureMeasures {
  const { width, height } = pixels
  const { even, level, shade } = evenedLuma(lumaOf(pixels), width, height)
  const { contrast, blank, ink } = inkOf(even)
  const shape = shapeOf(ink, width, height)
  const white = asOnWhite(pixels, ink)
  return {
    blank,
    contrast,
    ...shape,
    paper: level,
    shade,
    saturation: saturationOf(white),
    rulings: rulingsOf(even, width, height),
    inks: inkColours(white, ink, even),
    strange: strangeShare(pixels),
  }
}

/** A box of ink that is so much higher than wide is a signature that lies on its side. */
export const onItsSide = 0.8

/**
 * The turn that lays a signature level which stands on its side; null for one that lies. Names begin with a large letter and end in a
 * stroke, so the end whose ink reaches farther becomes the left one: a guess, which whoever signed sees and may turn twice.
 */
export function layingTurn(pixels: RgbPixels): Turn | null {
  const { width, height } = pixels
  const { even } = evenedLuma(lumaOf(pixels), width, height)
  const { ink } = inkOf(even)
  const { box, inkAspect } = shapeOf(ink, width, height)
  if (!box || inkAspect >= onItsSide) return null
  const third = Math.floor(box.height / 3)
  const reach = (top: number) => {
    let [left, right] = [width, -1]
    for (let y = top; y < top + third; y += 1) {
      for (let x = box.left; x < box.left + box.width; x += 1) {
        if (ink[y * width + x] === 1) [left, right] = [Math.min(left, x), Math.max(right, x)]
      }
    }
    return right - left
  }
  return reach(box.top) > reach(box.top + box.height - third) ? 270 : 90
}

/** One where there is ink; nothing on blank paper. */
function inkOf(even: Float32Array) {
  const { threshold, darkMean, lightMean } = otsuThreshold(even)
  const contrast = lightMean - darkMean
  const blank = contrast < leastContrast
  return { contrast, blank, ink: Uint8Array.from(even, light => !blank && Math.round(light) <= threshold ? 1 : 0) }
}

/**
 * The same signature on white paper: every pixel is lightened by what its own paper lacks, so that shadow and grey go and ink keeps its
 * share of the light. `most` is the largest change, in levels.
 */
export function whitenPaper(pixels: RgbPixels): { pixels: RgbPixels, most: number } {
  const { width, height, data } = pixels
  const paper = paperLevels(lumaOf(pixels), width, height)
  const made = new Uint8Array(data.length)
  let most = 0
  for (let i = 0, line = paper.along(0); i < width * height; i += 1) {
    if (i % width === 0) line = paper.along(i / width)
    // A little over white, so that the grain of the paper goes as well.
    const times = Math.max(1, 262 / Math.max(60, line[i % width] ?? 0))
    for (let c = i * 3; c < i * 3 + 3; c += 1) {
      made[c] = Math.min(255, Math.round((data[c] ?? 0) * times))
      most = Math.max(most, (made[c] ?? 0) - (data[c] ?? 0))
    }
  }
  return { pixels: { width, height, data: made }, most }
}

type Shape = Pick<
  SignatureMeasures,
  'box' | 'inkShare' | 'boxShare' | 'pieces' | 'strokeWidth' | 'cutOff' | 'parts' | 'enclosed' | 'inkAspect'
>

function shapeOf(ink: Uint8Array, width: number, height: number): Shape {
  const area = ink.reduce((sum, v) => sum + v, 0)
  if (area === 0) return { box: null, inkShare: 0, boxShare: 0, pieces: 0, strokeWidth: 0, cutOff: 0, parts: 0, enclosed: 0, inkAspect: 0 }
  const pieces = piecesOf(ink, width, height)
  // A speck is less than a thirtieth of a thousandth of the picture: dust, not a dot over a letter.
  const real = pieces.filter(piece => piece.area >= Math.max(4, ink.length / 30_000))
  const cutPieces = real.filter(p => p.left === 0 || p.top === 0 || p.right === width - 1 || p.bottom === height - 1)
  const ofAll = {
    inkShare: 100 * area / ink.length,
    pieces: real.length,
    strokeWidth: 2 * area / Math.max(1, outlineOf(ink, width, height)),
    cutOff: 100 * cutPieces.reduce((sum, p) => sum + p.area, 0) / area,
  }
  if (real.length === 0) return { box: null, ...ofAll, boxShare: 0, parts: 0, enclosed: 0, inkAspect: 0 }
  const { left, right, top, bottom } = around(real)
  const box = { left, top, width: right - left + 1, height: bottom - top + 1 }
  const boxArea = box.width * box.height
  return {
    box,
    ...ofAll,
    boxShare: 100 * boxArea / ink.length,
    parts: partsOf(real),
    enclosed: 100 * largestEnclosed(ink, width, height) / boxArea,
    inkAspect: box.width / box.height,
  }
}

/** Sides of ink pixels that border on paper or on the edge. */
function outlineOf(ink: Uint8Array, width: number, height: number): number {
  let sides = 0
  for (let y = 0; y < height; y += 1) {
    for (let x = 0; x < width; x += 1) {
      const i = y * width + x
      if (ink[i] === 0) continue
      if (x === 0 || ink[i - 1] === 0) sides += 1
      if (x === width - 1 || ink[i + 1] === 0) sides += 1
      if (y === 0 || ink[i - width] === 0) sides += 1
      if (y === height - 1 || ink[i + width] === 0) sides += 1
    }
  }
  return sides
}
