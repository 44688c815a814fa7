/** Interleaved 8-bit RGB, row by row from the top left: `data.length === width * height * 3`. */
export interface RgbPixels {
  width: number
  height: number
  data: Uint8Array
}

/** A place in a picture, in pixels from the top left. */
export interface Point {
  x: number
  y: number
}

export const middle = (a: Point, b: Point): Point => ({ x: (a.x + b.x) / 2, y: (a.y + b.y) / 2 })

/** A part of a picture in whole pixels. */
export interface Box {
  left: number
  top: number
  width: number
  height: number
}

// Several measures ask for the luma of one picture, whose pixels never change: it is worked out once.
const known = new WeakMap<RgbPixels, Float32Array>()

/** Luma by the weights of ITU-R BT.601, 0 to 255, one number a pixel. Not to be written to. */
export function lumaOf(pixels: RgbPixels): Float32Array {
  const before = known.get(pixels)
  if (before) return before
  const luma = lumaFrom(pixels)
  known.set(pixels, luma)
  return luma
}

function lumaFrom(pixels: RgbPixels): Float32Array {
  const { data } = pixels
  const luma = new Float32Array(pixels.width * pixels.height)
  for (let i = 0, p = 0; i < luma.length; i += 1, p += 3) {
    luma[i] = 0.299 * data[p]! + 0.587 * data[p + 1]! + 0.114 * data[p + 2]!
  }
  return luma
}

/** Mean and variance (population) of luma inside a box. */
export function statistics(luma: Float32Array, width: number, box: Box): { mean: number, variance: number } {
  let sum = 0
  let squares = 0
  for (let y = box.top; y < box.top + box.height; y += 1) {
    for (let x = box.left; x < box.left + box.width; x += 1) {
      const v = luma[y * width + x] ?? 0
      sum += v
      squares += v * v
    }
  }
  const n = Math.max(1, box.width * box.height)
  const mean = sum / n
  return { mean, variance: Math.max(0, squares / n - mean * mean) }
}

/**
 * Variance of the Laplacian (kernel 0 1 0 / 1 -4 1 / 0 1 0) inside a box, a common measure of focus
 * (Pech-Pacheco et al. 2000, from memory). Border pixels of the picture are left out.
 */
export function laplacianVariance(luma: Float32Array, width: number, height: number, box: Box): number {
  let sum = 0
  let squares = 0
  let n = 0
  for (let y = Math.max(1, box.top); y < Math.min(height - 1, box.top + box.height); y += 1) {
    for (let x = Math.max(1, box.left); x < Math.min(width - 1, box.left + box.width); x += 1) {
      const i = y * width + x
      const v = luma[i - 1]! + luma[i + 1]! + luma[i - width]! + luma[i + width]! - 4 * luma[i]!
      sum += v
      squares += v * v
      n += 1
    }
  }
  if (n === 0) return 0
  const mean = sum / n
  return squares / n - mean * mean
}

/**
 * The level that parts dark from light best: N. Otsu, "A Threshold Selection Method from Gray-Level Histograms",
 * 1979. Pixels at or below it are the dark class.
 */
export function otsuThreshold(luma: Float32Array): { threshold: number, darkMean: number, lightMean: number } {
  const histogram = new Float64Array(256)
  for (let i = 0; i < luma.length; i += 1) {
    const bin = (luma[i]! + 0.5) | 0
    histogram[bin < 255 ? bin : 255]! += 1
  }
  const total = luma.length
  let sumAll = 0
  histogram.forEach((count, level) => {
    sumAll += count * level
  })
  // A picture of one single level has no two classes: both means are that level.
  const mean = sumAll / Math.max(1, total)
  let best = { threshold: 0, darkMean: mean, lightMean: mean, between: -1 }
  let weight = 0
  let sum = 0
  for (let level = 0; level < 255; level += 1) {
    weight += histogram[level] ?? 0
    sum += (histogram[level] ?? 0) * level
    if (weight === 0 || weight === total) continue
    const darkMean = sum / weight
    const lightMean = (sumAll - sum) / (total - weight)
    const between = weight * (total - weight) * (lightMean - darkMean) ** 2
    if (between > best.between) best = { threshold: level, darkMean, lightMean, between }
  }
  return { threshold: best.threshold, darkMean: best.darkMean, lightMean: best.lightMean }
}

/** Mean difference between the strongest and the weakest colour of a pixel, of every third one: 0 for grey, 0 to 255. */
export function saturationOf({ data }: RgbPixels): number {
  let sum = 0
  for (let i = 0; i < data.length; i += 9) {
    const [r, g, b] = [data[i]!, data[i + 1]!, data[i + 2]!]
    // Of three numbers the steps from each to the next add up to twice the way from the least to the most.
    sum += Math.abs(r - g) + Math.abs(g - b) + Math.abs(b - r)
  }
  return sum / 2 / Math.max(1, Math.ceil(data.length / 9))
}

/** A part of a picture by shares of its size. */
export function part(pixels: { width: number, height: number }, left: number, top: number, width: number, height: number): Box {
  return {
    left: Math.round(left * pixels.width),
    top: Math.round(top * pixels.height),
    width: Math.round(width * pixels.width),
    height: Math.round(height * pixels.height),
  }
}

/** What of a box lies on the picture, in whole pixels; at least one. */
export function clip(box: Box, { width, height }: { width: number, height: number }): Box {
  const [left, top] = [Math.min(width - 1, Math.max(0, Math.round(box.left))), Math.min(height - 1, Math.max(0, Math.round(box.top)))]
  return {
    left,
    top,
    width: Math.max(1, Math.min(width, Math.round(box.left + box.width)) - left),
    height: Math.max(1, Math.min(height, Math.round(box.top + box.height)) - top),
  }
}

/** The whole level that a share of all pixels does not pass. */
export function percentile(luma: Float32Array, share: number): number {
  const histogram = new Uint32Array(256)
  for (let i = 0; i < luma.length; i += 1) histogram[(luma[i]! + 0.5) | 0]! += 1
  let [level, below] = [0, histogram[0] ?? 0]
  while (level < 255 && below <= luma.length * share) below += histogram[level += 1] ?? 0
  return level
}

/** Percent of the pixels of a box that lie above a level. */
export function shareAbove(luma: Float32Array, width: number, box: Box, level: number): number {
  let above = 0
  for (let y = box.top; y < box.top + box.height; y += 1) {
    for (let x = box.left; x < box.left + box.width; x += 1) if ((luma[y * width + x] ?? 0) > level) above += 1
  }
  return 100 * above / Math.max(1, box.width * box.height)
}
