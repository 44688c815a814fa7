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
  const [within, across] = [{ sum: 0, count: 0 }, { sum: 0, count: 0 }]
  for (let y = 0; y < height; y += 1) {
    const line = y * width
    const borders = steps(luma, line + 7, line + width - 1, 8, 1)
    across.sum += borders
    within.sum += steps(luma, line, line + width - 1, 1, 1) - borders
    if (y + 1 === height) break
    const down = y % 8 === 7 ? across : within
    down.sum += steps(luma, line, line + width, 1, width)
    down.count += width
  }
  const borders = Math.floor((width - 1) / 8)
  across.count += height * borders
  within.count += height * (width - 1 - borders)
  const mean = ({ sum, count }: { sum: number, count: number }) => sum / Math.max(1, count)
  // A step of a fifth of a level on either side, so that a smooth picture is not a ratio of two nothings.
  return (mean(across) + 0.2) / (mean(within) + 0.2)
}

/** Sum of the steps from every `every`-th pixel, from the first up to an end, to the one that lies `away` after it. */
function steps(luma: Float32Array, first: number, end: number, every: number, away: number): number {
  let sum = 0
  for (let i = first; i < end; i += every) sum += Math.abs(luma[i]! - luma[i + away]!)
  return sum
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
    if (losesMore(luma, pixels.width, pixels.height, by, lossless)) break
    share = 100 / by
  }
  return share
}

/** Whether the root of the mean squared loss by a reduction reaches a level. */
function losesMore(luma: Float32Array, width: number, height: number, by: number, level: number): boolean {
  const [w, h] = [Math.floor(width / by), Math.floor(height / by)]
  if (w < 2 || h < 2) return true
  const small = new Float32Array(w * h)
  for (let y = 0; y < h * by; y += 1) addShrunk(luma, y * width, by, small, Math.floor(y / by) * w, w)
  // Where each pixel across lies between the small ones is the same in every line.
  const places = Float64Array.from({ length: w * by }, (_, x) => placeOf(x, by, w))
  const enough = level ** 2 * w * by * h * by
  let squares = 0
  // A picture with detail has lost enough long before its last line.
  for (let y = 0; y < h * by && squares < enough; y += 1) {
    const v = placeOf(y, by, h)
    const above = Math.floor(v)
    const below = Math.min(h - 1, above + 1)
    squares += lossAlong(luma, y * width, places, small, above * w, below * w, w, v - above)
  }
  return squares >= enough
}

/** Place of a pixel's middle among the middles of pixels `by` times as large, of which there are `count`. */
const placeOf = (at: number, by: number, count: number) => Math.min(count - 1, Math.max(0, (at + 0.5) / by - 0.5))

function addShrunk(luma: Float32Array, line: number, by: number, small: Float32Array, to: number, count: number): void {
  for (let column = 0, i = line; column < count; column += 1) {
    let sum = 0
    for (const end = i + by; i < end; i += 1) sum += luma[i]!
    small[to + column]! += sum / by ** 2
  }
}

/** Sum of the squares of what a line loses when it is made again from the small lines above and below it. */
function lossAlong(
  luma: Float32Array,
  line: number,
  places: Float64Array,
  small: Float32Array,
  above: number,
  below: number,
  count: number,
  down: number,
): number {
  let squares = 0
  for (let x = 0; x < places.length; x += 1) {
    const u = places[x]!
    const left = u | 0
    const right = left + 1 < count ? left + 1 : left
    const high = small[above + left]! + (small[above + right]! - small[above + left]!) * (u - left)
    const low = small[below + left]! + (small[below + right]! - small[below + left]!) * (u - left)
    const lost = luma[line + x]! - high - (low - high) * down
    squares += lost * lost
  }
  return squares
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

interface Line {
  from: number
  step: number
  count: number
}

function isFlat(luma: Float32Array, { from, step, count }: Line): boolean {
  for (let i = 1; i < count; i += 1) if (Math.abs((luma[from + i * step] ?? 0) - (luma[from] ?? 0)) > 1.5) return false
  return true
}

function differs(luma: Float32Array, bar: Line, next: Line): boolean {
  let unlike = 0
  for (let i = 0; i < bar.count; i += 1) {
    if (Math.abs((luma[bar.from + i * bar.step] ?? 0) - (luma[next.from + i * next.step] ?? 0)) > 12) unlike += 1
  }
  return unlike > bar.count * 0.7
}
