/**
 * Writing on a page that shows no ink: too pale to be told from the paper's grain pixel by pixel, or run out by blur. Grain is alike to
 * both sides of the paper's level and vanishes when pixels are averaged; writing is darker only, and stays.
 */
export interface HiddenWriting {
  kind: 'pale' | 'blurred'
  /** By how much the darkest hundredth of the page lies below the paper, 0 to 255, grain averaged away. */
  contrast: number
}

/** Sides of the cells that are averaged, in pixels: about a stroke and about a small letter of a page that is 2000 pixels high. */
const [stroke, letter] = [3, 6] as const
/** Below this nothing can be told from a fold, or from what shows through from the other side. */
const leastDark = 4
/** Blank paper is as far above its level as below; measured on drawn pages, blank ones come to 1.1 and written ones to 2 and more. */
const leastLopsided = 1.8
/** Strokes that are there are darker in small cells than in large ones by a quarter and more; in blur they are alike. */
const sharpFrom = 1.2

/** Whether something is written that no ink shows, and why it cannot be read; null on a page that is blank. */
export function hiddenWriting(even: Float32Array, width: number, height: number): HiddenWriting | null {
  const coarse = tailsOf(even, width, height, letter)
  if (!coarse || coarse.dark < leastDark || coarse.dark < leastLopsided * coarse.bright) return null
  const fine = tailsOf(even, width, height, stroke)
  // Of the small cells the part that is grain is known from the bright side, where nothing is written.
  const [fineDark, coarseDark] = [(fine?.dark ?? 0) - (fine?.bright ?? 0), coarse.dark - coarse.bright]
  return { kind: fineDark >= sharpFrom * coarseDark ? 'pale' : 'blurred', contrast: coarse.dark }
}

/**
 * How far the darkest and the brightest hundredth of the cells lie from their median; margins, where shadows of edges fall, do not count.
 */
function tailsOf(even: Float32Array, width: number, height: number, side: number): { dark: number, bright: number } | null {
  const [columns, rows] = [Math.floor(width / side), Math.floor(height / side)]
  const [left, top] = [Math.ceil(columns * 0.04), Math.ceil(rows * 0.04)]
  const means: number[] = []
  for (let row = top; row < rows - top; row += 1) {
    for (let column = left; column < columns - left; column += 1) means.push(meanOf(even, width, column * side, row * side, side))
  }
  if (means.length < 1000) return null
  const sorted = Float32Array.from(means).sort()
  const at = (share: number) => sorted[Math.floor(share * (sorted.length - 1))] ?? 0
  return { dark: at(0.5) - at(0.01), bright: at(0.99) - at(0.5) }
}

function meanOf(even: Float32Array, width: number, left: number, top: number, side: number): number {
  let sum = 0
  for (let y = top; y < top + side; y += 1) for (let x = left; x < left + side; x += 1) sum += even[y * width + x]!
  return sum / (side * side)
}
