import { readContainer, uprightSize, type ContainerFacts } from '../core/imaging/container'
import { takenAtMost } from '../core/imaging/picture'
import { tooManyBytes, tooManyPixels } from '../core/imaging/too-large'
import type { ProblemError } from '../shared/problem'
import { refusal, refusalOf } from '../shared/refusal'

/** Largest file taken, in bytes. */
export const uploadLimitBytes = takenAtMost.bytes

/**
 * Facts of a file that may be a picture, by its content; nothing is decoded.
 *
 * @throws ProblemError `not-an-image` or `too-large`, worded for the person who chose the file.
 */
export function checkContainer(bytes: Uint8Array): ContainerFacts {
  checkBytes(bytes)
  const { facts, refusal: refused } = readContainer(bytes)
  if (refused) throw refusal(`picture.${refused}`)
  if (facts.width * facts.height > takenAtMost.pixels) throw refusalOf(tooManyPixels(facts.width, facts.height))
  return { ...facts, ...uprightSize(facts) }
}

/** @throws ProblemError `too-large`. */
export function checkBytes(bytes: Uint8Array): void {
  if (bytes.length > uploadLimitBytes) throw tooLarge(bytes.length)
}

export function tooLarge(bytes: number): ProblemError {
  return refusalOf(tooManyBytes(bytes))
}
