import { lumaOf, type RgbPixels } from './pixels'

/** The picture is blurred again by this much, in pixels, and compared with itself. */
const again = 1
/** The steepest places, by share: the edges of eyes, brows and lips. The rest of a face is smooth however sharp the picture is. */
const steepest = 0.02

/**
 * Standard deviation, in pixels, of the blur at the steepest edges of a picture; Infinity where nothing on it has an edge.
 *
 * An edge blurred by s has a slope in proportion to 1 / s; blurred again by s0, to 1 / sqrt(s² + s0²). The ratio R of the two slopes tells
 * s, whatever the contrast: s = s0 / sqrt(R² - 1). Zhuo and Sim, "Defocus map estimation from a single image", Pattern Recognition 44(9),
 * 2011 (the formula from memory). Their method takes each edge by itself; here all the steepest together, so that grain counts for little.
 */
export function edgeSpread(pixels: RgbPixels): number {
  const { width, height } = pixels
  const luma = lumaOf(pixels)
  const [before, after] = [slopes(luma, width, height), slopes(blurred(luma, width, height), width, height)]
  const least = Float32Array.from(before).sort()[Math.floor(before.length * (1 - steepest))] ?? 0
  let [sharp, soft] = [0, 0]
  for (let i = 0; i < before.length; i += 1) {
    if (before[i]! < least) continue
    sharp += before[i]!
    soft += after[i]!
  }
  return sharp > soft ? again / Math.sqrt((sharp / soft) ** 2 - 1) : Infinity
}

/** How steep the luma is at each pixel; nothing at the edge of the picture. */
function slopes(luma: Float32Array, width: number, height: number): Float32Array {
  const found = new Float32Array(luma.length)
  for (let y = 1; y < height - 1; y += 1) {
    for (let i = y * width + 1, end = (y + 1) * width - 1; i < end; i += 1) {
      found[i] = Math.sqrt((luma[i + 1]! - luma[i - 1]!) ** 2 + (luma[i + width]! - luma[i - width]!) ** 2)
    }
  }
  return found
}

const reach = Math.ceil(3 * again)
const weights = ((values: number[]) => values.map(value => value / values.reduce((a, b) => a + b)))(Array.from(
  { length: 2 * reach + 1 },
  (_, i) => Math.exp(-((i - reach) ** 2) / (2 * again ** 2)),
))

/** Blurred by a Gauss of `again` pixels, across and down; the edge is continued. */
function blurred(luma: Float32Array, width: number, height: number): Float32Array {
  const along = (from: Float32Array, lines: number, line: number, count: number, step: number) => {
    const made = new Float32Array(from.length)
    for (let n = 0; n < lines; n += 1) {
      for (let at = 0; at < count; at += 1) {
        let sum = 0
        for (let k = -reach; k <= reach; k += 1) {
          sum += weights[k + reach]! * from[n * line + Math.min(count - 1, Math.max(0, at + k)) * step]!
        }
        made[n * line + at * step] = sum
      }
    }
    return made
  }
  return along(along(luma, height, width, width, 1), width, 1, height, width)
}
