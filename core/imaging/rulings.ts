/**
 * Straight lines that run across a picture of a signature: ruled or squared paper, a printed box. They may be far paler than ink. A pixel
 * counts where it is darker than what lies to both sides of it; pixels that lie on one straight line are counted together, over all angles
 * that a sheet can lean by (a Hough transform by angle and height: R. Duda, P. Hart, 1972; from memory).
 */

/** Of the picture's width or height that a line must cover, and what is still too little to tell. */
export const ruled = { sure: 0.75, perhaps: 0.6 } as const
/** A stroke under a name ends before the paper does: a ruling comes so near to both edges, as a share of the way across. */
const margin = 0.1
/** Tangent of the largest lean that is looked for. */
const steepest = 0.1
/** Half the length over which grain is averaged along a line, and how far to the side a line is compared. */
const [along, aside] = [6, 4] as const
/** A line is darker than its paper by so many levels at least, and by so many times the grain that is left. */
const [leastDepth, timesGrain] = [2, 8] as const
const mostLines = 12

/**
 * How many lines run across, either way, and of the surest one the share of the picture that it covers, 0 to 1. `even` is luma on paper
 * made even.
 */
export function rulingsOf(even: Float32Array, width: number, height: number): { count: number, longest: number } {
  const [across, down] = [linesAcross(even, width, height), linesAcross(transposed(even, width, height), height, width)]
  const shares = [...across, ...down]
  return { count: shares.filter(share => share >= ruled.sure).length, longest: Math.max(0, ...shares) }
}

function transposed(even: Float32Array, width: number, height: number): Float32Array {
  const made = new Float32Array(even.length)
  for (let y = 0; y < height; y += 1) for (let x = 0; x < width; x += 1) made[x * height + y] = even[y * width + x]!
  return made
}

/** Shares of the width that lines cover, the longest first; none below what may be a line. */
function linesAcross(even: Float32Array, width: number, height: number): number[] {
  const ridges = ridgesOf(smoothed(even, width, height), width, height)
  const shares: number[] = []
  for (let left = ridges; shares.length < mostLines;) {
    const { share, slope, at } = longestLine(left, width, height)
    if (share < ruled.perhaps) break
    const of = (ridge: Ridge, reach: number) => Math.abs(ridge.y - at - slope * (ridge.x - width / 2)) <= reach
    const line = left.filter(ridge => of(ridge, 1.5)).map(({ x }) => x)
    if (line.some(x => x < width * margin) && line.some(x => x > width * (1 - margin))) shares.push(share)
    left = left.filter(ridge => !of(ridge, aside))
  }
  return shares
}

interface Ridge {
  x: number
  y: number
}

function longestLine(ridges: readonly Ridge[], width: number, height: number): { share: number, slope: number, at: number } {
  let found = { share: 0, slope: 0, at: 0 }
  const [xs, ys] = [Float32Array.from(ridges, ({ x }) => x - width / 2), Float32Array.from(ridges, ({ y }) => y + height / 2 + 0.5)]
  const counts = new Uint16Array(height * 2)
  for (let slope = -steepest; slope <= steepest; slope += 2 / width) {
    counts.fill(0)
    countAlong(xs, ys, slope, counts)
    for (let at = 1; at < counts.length - 1; at += 1) {
      // A line between two rows of pixels lies in both.
      const share = (counts[at]! + Math.max(counts[at - 1]!, counts[at + 1]!)) / width
      if (share > found.share) found = { share: Math.min(1, share), slope, at: at - height / 2 }
    }
  }
  return found
}

function countAlong(xs: Float32Array, ys: Float32Array, slope: number, counts: Uint16Array): void {
  for (let i = 0; i < xs.length; i += 1) {
    const at = (ys[i]! - slope * xs[i]!) | 0
    if (at >= 0 && at < counts.length) counts[at]! += 1
  }
}

/** One pixel of each line in each column: where it is darkest, if it is darker than both sides by more than grain is. */
function ridgesOf(light: Float32Array, width: number, height: number): Ridge[] {
  const found: (Ridge & { depth: number })[] = []
  const sampled = new Float32Array(Math.ceil(width * height / 7))
  let samples = 0
  for (let y = aside; y < height - aside; y += 1) {
    for (let x = 0; x < width; x += 1) {
      const i = y * width + x
      const [above, below, here] = [light[i - aside * width]!, light[i + aside * width]!, light[i]!]
      const depth = (above < below ? above : below) - here
      if (i % 7 === 0) sampled[samples++] = depth < 0 ? -depth : depth
      if (depth >= leastDepth && isDarkest(light, i, width)) found.push({ x, y, depth })
    }
  }
  // Of the shallower quarter, for lines that lie close together are no grain.
  const grain = sampled.subarray(0, samples).sort()[samples >> 2] ?? 0
  return found.filter(({ depth }) => depth >= timesGrain * grain)
}

function isDarkest(light: Float32Array, i: number, width: number): boolean {
  for (let k = 1; k <= aside; k += 1) if (light[i - k * width]! < light[i]! || light[i + k * width]! <= light[i]!) return false
  return true
}

/** Means along rows, so that grain goes and lines stay. */
function smoothed(even: Float32Array, width: number, height: number): Float32Array {
  const made = new Float32Array(even.length)
  for (let y = 0; y < height; y += 1) {
    let [sum, count] = [0, 0]
    for (let x = -along; x < width; x += 1) {
      if (x + along < width) [sum, count] = [sum + even[y * width + x + along]!, count + 1]
      if (x - along - 1 >= 0) [sum, count] = [sum - even[y * width + x - along - 1]!, count - 1]
      if (x >= 0) made[y * width + x] = sum / count
    }
  }
  return made
}
