import { faceMean } from './face-mean'

/** How many numbers describe a face, and into how many signs and bands of signs they are made. */
export const descriptorLength = 1024
export const faceBits = 576
const bands = 48
const bandBits = faceBits / bands

/**
 * Two faces whose signs differ in no more than this may be one person's: an angle of 49 degrees between what describes them. On
 * photographs at hand, the same picture cropped, turned, darkened or blurred differs in far fewer, different people in more (the bench
 * and the tests tell how many). It is a hint for a person, never a verdict.
 */
export const facesAlikeAtMost = 157

/**
 * Signs of a face's descriptor, as `0` and `1`: on which side of each of 576 planes it lies, as seen from the mean of faces. The share of
 * signs in which two differ is the angle between them over 180 degrees (M. Charikar, "Similarity Estimation Techniques from Rounding
 * Algorithms", 2002; planes of plus and minus ones after Achlioptas, 2003; both from memory).
 *
 * @throws RangeError when the descriptor has another length.
 */
export function faceSigns(descriptor: readonly number[]): string {
  if (descriptor.length !== descriptorLength) {
    throw new RangeError(`a descriptor of ${descriptor.length} numbers; ${descriptorLength} are expected`)
  }
  const from = Float64Array.from(descriptor, (value, i) => value - (faceMean[i] ?? 0))
  const half = from.reduce((sum, value) => sum + value) / 2
  const sums = sumsByByte(from)
  let signs = ''
  for (let plane = 0; plane < faceBits; plane += 1) {
    // What a plane takes with a plus lies above half of all just when it outweighs what it takes with a minus.
    let plus = 0
    for (let word = 0; word < descriptorLength / 32; word += 1) {
      const sides = mixed(plane * 32 + word)
      for (let byte = 0; byte < 4; byte += 1) plus += sums[(word * 4 + byte) * 256 + ((sides >>> byte * 8) & 255)]!
    }
    signs += plus > half ? '1' : '0'
  }
  return signs
}

/** Of each eight numbers the sum of those that a byte's bits pick, for all bytes: planes share them, so that none adds number by number. */
function sumsByByte(numbers: Float64Array): Float64Array {
  const sums = new Float64Array(numbers.length / 8 * 256)
  for (let eight = 0; eight < numbers.length / 8; eight += 1) {
    for (let picked = 1; picked < 256; picked += 1) {
      const lowest = 31 - Math.clz32(picked & -picked)
      sums[eight * 256 + picked] = sums[eight * 256 + (picked & (picked - 1))]! + numbers[eight * 8 + lowest]!
    }
  }
  return sums
}

/** Thirty-two bits that look like chance and are the same everywhere: the finishing of MurmurHash3 (public domain). */
function mixed(n: number): number {
  let h = Math.imul(n + 0x9e3779b9, 0x85ebca6b)
  h = Math.imul(h ^ (h >>> 16), 0x85ebca6b)
  h = Math.imul(h ^ (h >>> 13), 0xc2b2ae35)
  return h ^ (h >>> 16)
}

/**
 * The keys under which a face is looked up: one number for each band of twelve signs. Two faces at 30 degrees share a band in 99 of
 * 100 cases, at 45 degrees in 76: not all that are alike are found, the more surely the more they are.
 */
export function faceKeys(signs: string): number[] {
  return Array.from(
    { length: bands },
    (_, band) => band * 2 ** bandBits + Number.parseInt(signs.slice(band * bandBits, (band + 1) * bandBits), 2),
  )
}
