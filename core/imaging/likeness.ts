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
  const luma = lumaOf(pixels)
  const [sums, counts] = [new Float64Array(side * side), new Float64Array(side * side)]
  const columns = Uint8Array.from({ length: pixels.width }, (_, x) => Math.floor((x + 0.5) * side / pixels.width))
  for (let y = 0; y < pixels.height; y += 1) {
    const row = Math.floor((y + 0.5) * side / pixels.height) * side
    for (let x = 0; x < pixels.width; x += 1) {
      const cell = row + columns[x]!
      sums[cell]! += luma[y * pixels.width + x]!
      counts[cell]! += 1
    }
  }
  return sums.map((sum, cell) => sum / Math.max(1, counts[cell] ?? 0))
}

const frequencies = (at: (i: number) => number) => Array.from({ length: kept + 1 }, (_, k) => frequency(k, at))

const cosines = Float64Array.from({ length: (kept + 1) * side }, (_, at) => Math.cos(Math.PI * (at % side + 0.5) * Math.floor(at / side) / side))

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
