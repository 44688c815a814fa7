import { readContainer, uprightSize, type ContainerFacts } from '../core/imaging/container'
import { takenAtMost } from '../core/imaging/picture'
import { refusalWords, tooManyBytesWords, tooManyPixelsWords } from '../core/words/en/pictures'
import { ProblemError } from '../shared/problem'

/** Largest file taken, in bytes. */
export const uploadLimitBytes = takenAtMost.bytes

/**
 * Facts of a file that may be a picture, by its content; nothing is decoded.
 *
 * @throws ProblemError `not-an-image` or `too-large`, worded for the person who chose the file.
 */
export function checkContainer(bytes: Uint8Array): ContainerFacts {
  checkBytes(bytes)
  const { facts, refusal } = readContainer(bytes)
  if (refusal) throw new ProblemError('not-an-image', refusalWords[refusal])
  if (facts.width * facts.height > takenAtMost.pixels) throw new ProblemError('too-large', tooManyPixelsWords(facts.width, facts.height, takenAtMost.pixels))
  return { ...facts, ...uprightSize(facts) }
}

/** @throws ProblemError `too-large`. */
export function checkBytes(bytes: Uint8Array): void {
  if (bytes.length > uploadLimitBytes) throw tooLarge(bytes.length)
}

export function tooLarge(bytes: number): ProblemError {
  return new ProblemError('too-large', tooManyBytesWords(bytes, uploadLimitBytes))
}
