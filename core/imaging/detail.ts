import { lumaOf, type Box, type RgbPixels } from './pixels'

/** How many native pixels are looked at: the middle, in whole blocks of a JPEG. */
export const detailSide = 256

/** Rounds down to the grid of a JPEG's blocks, so that a part cut out begins where a block begins. */
export const onBlockGrid = (value: number) => Math.floor(value / 8) * 8

/** The native middle of a picture that is looked at: from the grid of blocks, `detailSide` wide and high or less. */
export function detailBox({ width, height }: { width: number, height: number }): Box {
  const [w, h] = [Math.min(detailSide, width), Math.min(detailSide, height)]
  return { left: onBlockGrid((width - w) / 2), top: onBlockGrid((height - h) / 2), width: w, height: h }
}

/**
 * How much rougher the steps across block borders are than those beside them: the trace of strong compression. 1 where there is no
 * trace. `pixels` are native, and begin on the grid of 8 x 8 blocks (ITU-T T.81).
 */
export function blockiness(pixels: RgbPixels): number {
  const luma = lumaOf(pixels)
  const { width, height } = pixels
  // Sums and counts of steps within blocks, and across their borders.
  const [sums, counts] = [new Float64Array(2), new Float64Array(2)]
  for (let y = 0; y < height; y += 1) {
    for (let x = 0; x < width; x += 1) {
      const i = y * width + x
      if (x + 1 < width) add(sums, counts, luma, i, i + 1, x % 8 === 7 ? 1 : 0)
      if (y + 1 < height) add(sums, counts, luma, i, i + width, y % 8 === 7 ? 1 : 0)
    }
  }
  const mean = (kind: 0 | 1) => (sums[kind] ?? 0) / Math.max(1, counts[kind] ?? 0)
  // A step of a fifth of a level on either side, so that a smooth picture is not a ratio of two nothings.
  return (mean(1) + 0.2) / (mean(0) + 0.2)
}

function add(sums: Float64Array, counts: Float64Array, luma: Float32Array, first: number, second: number, kind: 0 | 1): void {
  sums[kind]! += Math.abs(luma[first]! - luma[second]!)
  counts[kind]! += 1
}

/** Reductions that are tried, the mildest first; a picture that loses nothing by one of them was enlarged at least so much. */
const reductions = [2, 3, 4, 6] as const
/** Root of the mean squared loss, in levels, up to which nothing is lost: above the noise of a fine JPEG, below a camera's grain. */
const lossless = 1.1

/**
 * Percent of the pixels across that carry detail: 100, or less when the native pixels can be shrunk and enlarged again without
 * loss, as those of a picture that was enlarged several times can. A blurred picture shows the same; one enlarged by less than about four
 * times keeps edges that are too sharp to be told.
 */
export function detailShare(pixels: RgbPixels): number {
  const luma = lumaOf(pixels)
  let share = 100
  for (const by of reductions) {
    if (lossOf(luma, pixels.width, pixels.height, by) >= lossless) break
    share = 100 / by
  }
  return share
}

function lossOf(luma: Float32Array, width: number, height: number, by: number): number {
  const [w, h] = [Math.floor(width / by), Math.floor(height / by)]
  if (w < 2 || h < 2) return Infinity
  const small = new Float32Array(w * h)
  for (let y = 0; y < h * by; y += 1) {
    const row = Math.floor(y / by) * w
    for (let x = 0; x < w * by; x += 1) {
      const to = row + Math.floor(x / by)
      small[to]! += luma[y * width + x]! / by ** 2
    }
  }
  let squares = 0
  for (let y = 0; y < h * by; y += 1) {
    const v = Math.min(h - 1, Math.max(0, (y + 0.5) / by - 0.5))
    const [above, below] = [Math.floor(v) * w, Math.min(h - 1, Math.floor(v) + 1) * w]
    const down = v - Math.floor(v)
    for (let x = 0; x < w * by; x += 1) {
      const u = Math.min(w - 1, Math.max(0, (x + 0.5) / by - 0.5))
      const left = Math.floor(u)
      const right = Math.min(w - 1, left + 1)
      const across = u - left
      const made = (small[above + left]! * (1 - across) + small[above + right]! * across) * (1 - down) + (small[below + left]! * (1 - across) + small[below + right]! * across) * down
      squares += (luma[y * width + x]! - made) ** 2
    }
  }
  return Math.sqrt(squares / (w * by * h * by))
}

/**
 * Percent of the picture that is bars of one flat colour along its edges, as a screenshot or a scan of a smaller print has them.
 * A white wall may be as flat: a bar ends where most of the next line differs at once.
 */
export function barShare(pixels: RgbPixels): number {
  const luma = lumaOf(pixels)
  const { width, height } = pixels
  const row = (y: number): Line => ({ from: y * width, step: 1, count: width })
  const column = (x: number): Line => ({ from: x, step: width, count: height })
  const bar = (count: number, line: (i: number) => Line) => {
    let deep = 0
    while (deep < count && isFlat(luma, line(deep))) deep += 1
    return deep > 0 && deep < count && differs(luma, line(deep - 1), line(deep)) ? deep : 0
  }
  const rows = bar(height, row) + bar(height, i => row(height - 1 - i))
  const columns = bar(width, column) + bar(width, i => column(width - 1 - i))
  return 100 * (1 - (1 - rows / height) * (1 - columns / width))
}

interface Line { from: number, step: number, count: number }

function isFlat(luma: Float32Array, { from, step, count }: Line): boolean {
  for (let i = 1; i < count; i += 1) if (Math.abs((luma[from + i * step] ?? 0) - (luma[from] ?? 0)) > 1.5) return false
  return true
}

function differs(luma: Float32Array, bar: Line, next: Line): boolean {
  let unlike = 0
  for (let i = 0; i < bar.count; i += 1) if (Math.abs((luma[bar.from + i * bar.step] ?? 0) - (luma[next.from + i * next.step] ?? 0)) > 12) unlike += 1
  return unlike > bar.count * 0.7
}
