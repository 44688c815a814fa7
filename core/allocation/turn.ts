import { sha256 } from '@noble/hashes/sha2.js'
import { utf8ToBytes } from '@noble/hashes/utils.js'
import type { Instance } from './instance'

/** Places of the people in the order of a drawn lottery: anybody can draw it again from the published seed. */
export function lotteryOrder(instance: Instance, seed: number): Uint32Array {
  return inOrderOf(Float64Array.from(instance.ids, id => lotteryNumber(seed, id)))
}

/**
 * The number drawn for a person, smallest first: the first 48 bits, as a whole number, of SHA-256 (FIPS 180-4) of the text
 * `seed:id` in UTF-8. Equal numbers, one pair in 560 draws of a million people, go by id.
 */
export function lotteryNumber(seed: number, id: string): number {
  const digest = sha256(utf8ToBytes(`${seed}:${id}`))
  let number = 0
  for (let i = 0; i < 6; i += 1) number = number * 256 + digest[i]!
  return number
}

/** Places of the people by when they came; equals by id. */
export function arrivalOrder(instance: Instance): Uint32Array {
  return inOrderOf(instance.turn)
}

function inOrderOf(turn: Float64Array): Uint32Array {
  const order = Uint32Array.from(turn.keys())
  let sorted = true
  for (let i = 1; i < turn.length && sorted; i += 1) sorted = turn[i - 1]! <= turn[i]!
  return sorted ? order : order.sort((a, b) => turn[a]! - turn[b]! || a - b)
}
