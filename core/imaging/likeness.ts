import { lumaOf, type RgbPixels } from './pixels'

/** Bits of a hash, and the bands into which they are dealt for looking up. */
export const hashBits = 256
const bands = 16
const side = 32
const kept = 16
/**
 * Two hashes that differ in no more bits than this are of one picture: saved again, made smaller, brightened. Any two such agree wholly
 * in at least two bands of sixteen, since fewer bits differ than there are bands. Different people's photographs differ in about half
 * of all bits; a copy that was cropped differs in more than this and is not found.
 */
export const alikeAtMost = 14

/**
 * A hash of what a picture shows, as 256 signs `0` and `1`: those of the lower frequencies, 1 to 16 each way, of the discrete cosine
 * transform (type II) of its lightness at 32 x 32. After Zauner, "Implementation and Benchmarking of Perceptual Image Hash Functions",
 * 2010 (from memory), but with the sign of each frequency instead of its place about the median, so that no bit depends on the others.
 */
export function perceptualHash(pixels: RgbPixels): string {
  const small = cellMeans(pixels)
  const across = Array.from({ length: side }, (_, y) => frequencies(x => small[y * side + x] ?? 0))
  let hash = ''
  for (let v = 1; v <= kept; v += 1) for (let u = 1; u <= kept; u += 1) hash += frequency(v, y => across[y]?.[u] ?? 0) > 0 ? '1' : '0'
  return hash
}

/** Mean lightness of each cell of a grid laid over the picture; a pixel counts for the cell its middle lies in. */
function cellMeans(pixels: RgbPixels): Float64Array {
  const { width, height } = pixels
  const luma = lumaOf(pixels)
  const means = new Float64Array(side * side)
  const [columns, rows] = [cellEnds(width), cellEnds(height)]
  for (let row = 0, y = 0; row < side; row += 1) {
    const top = y
    for (; y < rows[row]!; y += 1) addCells(luma, y * width, columns, means, row * side)
    for (let column = 0; column < side; column += 1) {
      means[row * side + column]! /= Math.max(1, (y - top) * (columns[column]! - (columns[column - 1] ?? 0)))
    }
  }
  return means
}

/** Where each cell of a length ends: the first pixel whose middle lies beyond it. */
const cellEnds = (length: number) => Uint32Array.from({ length: side }, (_, cell) => Math.ceil((cell + 1) * length / side - 0.5))

function addCells(luma: Float32Array, line: number, ends: Uint32Array, sums: Float64Array, row: number): void {
  for (let cell = 0, i = line; cell < side; cell += 1) {
    let sum = 0
    for (const end = line + ends[cell]!; i < end; i += 1) sum += luma[i]!
    sums[row + cell]! += sum
  }
}

const frequencies = (at: (i: number) => number) => Array.from({ length: kept + 1 }, (_, k) => frequency(k, at))

const cosines = Float64Array.from(
  { length: (kept + 1) * side },
  (_, at) => Math.cos(Math.PI * (at % side + 0.5) * Math.floor(at / side) / side),
)

function frequency(k: number, at: (i: number) => number): number {
  let sum = 0
  for (let i = 0; i < side; i += 1) sum += at(i) * (cosines[k * side + i] ?? 0)
  return sum
}

/**
 * The keys under which a hash is looked up: one number for each band. Bits are dealt to the bands in turn, so that each holds high
 * frequencies as well as low ones, which many portraits share.
 */
export function bandKeys(hash: string): number[] {
  return Array.from({ length: bands }, (_, band) => {
    let key = band
    for (let i = band; i < hashBits; i += bands) key = key * 2 + (hash[i] === '1' ? 1 : 0)
    return key
  })
}

/** In how many bits two hashes of one length differ. */
export function differingBits(one: string, two: string): number {
  let differing = 0
  for (let i = 0; i < one.length; i += 1) if (one[i] !== two[i]) differing += 1
  return differing
}
