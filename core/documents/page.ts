import { evenedLuma, median, piecesOf, type Piece } from '../imaging/paper'
import { lumaOf, otsuThreshold, type RgbPixels } from '../imaging/pixels'
import type { Turn } from '../imaging/upright'
import { directionOf, untold } from './direction'
import type { Letter } from './gaps'
import { hiddenWriting } from './hidden'
import { shapesOf, type Shape } from './shapes'

/** What the pixels of one page show. Heights are pixels of the copy that is measured. */
export interface PageMeasures {
  /** Nothing is written or printed on it. */
  blank: boolean
  /** Mean paper less mean ink, after the paper's level was made even; 0 to 255. */
  contrast: number
  /** Percent of the page. */
  inkShare: number
  /** Pieces of ink that may be letters. */
  letters: number
  /** Median height of those pieces: about that of a small letter without strokes above or below. Null with too few to tell. */
  letterHeight: number | null
  /** Standard deviation of the blur at the edges of the ink, in percent of the height of a letter. */
  blur: number | null
  /** Degrees clockwise by which lines of writing fall away; null where no lines can be told. */
  skew: number | null
  /** Lines run from top to bottom; null where the signs are too few or disagree. */
  sideways: boolean | null
  /** The clockwise turn that brings it upright; null where it cannot be told. */
  turn: Turn | null
}

/** On blank paper the threshold parts the paper's own grain: two classes that hardly differ are one. */
const leastContrast = 40
const leastInk = 0.03
/** With fewer pieces than these no height can be told; joined letters of one short line tell which way up it is all the same. */
const fewestLetters = 12
const fewestToAsk = 5
/** Told where letters have run into one another: blurred by the whole height of a letter, or more. */
const beyondMeasure = 100

export function measurePage(pixels: RgbPixels): PageMeasures {
  const { width, height } = pixels
  const { even, ink, inkShare, contrast, darkest } = inkOn(pixels)
  const none = { contrast, inkShare, letters: 0, letterHeight: null, blur: null, ...untold }
  const hidden = () => hiddenWriting(even, width, height)
  if (inkShare < leastInk) {
    const written = hidden()
    return written
      ? { blank: false, ...none, contrast: written.contrast, blur: written.kind === 'blurred' ? beyondMeasure : null }
      : { blank: true, ...none }
  }
  const letters = lettersOf(piecesOf(ink, width, height), height)
  const letterHeight = median(letters.map(heightOf))
  const placed = letters.map((piece): Letter => ({
    x: (piece.left + piece.right) / 2,
    y: (piece.top + piece.bottom) / 2,
    width: widthOf(piece),
    height: heightOf(piece),
  }))
  const direction = letters.length < fewestToAsk ? untold : directionOf(placed, letterHeight, shapesOf(even, width, letters, darkest))
  if (letters.length < fewestLetters) {
    return { blank: false, ...none, letters: letters.length, blur: hidden()?.kind === 'blurred' ? beyondMeasure : null, ...direction }
  }
  const edge = edgeBlur(even, ink, width, letters, letterHeight)
  return {
    blank: false,
    contrast,
    inkShare,
    letters: letters.length,
    letterHeight,
    blur: edge === null ? null : 100 * edge / letterHeight,
    ...direction,
  }
}

/** What a page of text says of itself counts for more than what is seen: how its letters run stands in the file. */
export function asTextRuns(measures: PageMeasures, turn: Turn | null): PageMeasures {
  return turn === null ? measures : { ...measures, turn, sideways: turn % 180 !== 0 }
}

/** Where a page is inked: a one for each pixel that is darker than a level between paper and ink, and how dark ink is. */
function inkOn(pixels: RgbPixels) {
  const { even } = evenedLuma(lumaOf(pixels), pixels.width, pixels.height)
  const { threshold, darkMean, lightMean } = otsuThreshold(even)
  const contrast = lightMean - darkMean
  const ink = new Uint8Array(even.length)
  const inkShare = contrast < leastContrast ? 0 : 100 * markInk(even, threshold + 0.5, ink) / ink.length
  return { even, ink, inkShare, contrast, darkest: darkMean }
}

/** Writes a one wherever it is darker than a level; how often. */
function markInk(even: Float32Array, level: number, ink: Uint8Array): number {
  let inked = 0
  for (let i = 0; i < even.length; i += 1) if (even[i]! < level) inked += ink[i] = 1
  return inked
}

/** The shapes of the letters of a page, as they are asked about which way up they lie. */
export function pageShapes(pixels: RgbPixels): Shape[] {
  const { even, ink, darkest } = inkOn(pixels)
  return shapesOf(even, pixels.width, lettersOf(piecesOf(ink, pixels.width, pixels.height), pixels.height), darkest)
}

const heightOf = ({ top, bottom }: Piece) => bottom - top + 1
const widthOf = ({ left, right }: Piece) => right - left + 1

/** Pieces of the shape of letters or joined words: neither dust nor frames, rules and pictures. */
function lettersOf(pieces: Piece[], height: number): Piece[] {
  return pieces.filter((piece) => {
    const [w, h] = [widthOf(piece), heightOf(piece)]
    return h >= 4 && w >= 2 && h <= height / 14 && w <= 14 * h && h <= 8 * w && piece.area >= w * h * 0.08
  })
}

/**
 * Standard deviation, in pixels, of the blur at the upright edges of letters: an edge blurred by s has a steepest slope of its contrast
 * over s times the root of two pi. Median over edges; null when there are none.
 */
function edgeBlur(even: Float32Array, ink: Uint8Array, width: number, letters: Piece[], letterHeight: number): number | null {
  const reach = Math.max(3, Math.min(12, Math.round(letterHeight * 0.6)))
  const found: number[] = []
  for (const { left, right, top, bottom } of letters) {
    const y = Math.round((top + bottom) / 2)
    for (let x = Math.max(reach + 1, left); x <= Math.min(width - reach - 2, right + 1); x += 1) {
      const i = y * width + x
      if (ink[i] === ink[i - 1]) continue
      let [low, high, slope] = [255, 0, 0]
      for (let k = i - reach; k <= i + reach - 1; k += 1) {
        const level = even[k]!
        if (level < low) low = level
        if (level > high) high = level
        const step = Math.abs(even[k + 1]! - level)
        if (Math.abs(k - i) <= 2 && step > slope) slope = step
      }
      if (high - low >= leastContrast && slope > 0) found.push((high - low) / (slope * Math.sqrt(2 * Math.PI)))
    }
    if (found.length > 4000) break
  }
  return found.length === 0 ? null : median(found)
}
