import { createHash } from 'node:crypto'
import { seeFaces, type FaceDetector } from '../core/imaging/face'
import type { Measurement } from '../core/imaging/image-finding'
import { perceptualHash } from '../core/imaging/likeness'
import { measureImage } from '../core/imaging/measure'
import type { ImageFacts } from '../core/imaging/picture'
import type { ImageKind, ImageRule } from '../core/notice/schema'
import { decodePicture } from './decode'

/** Everything the office keeps of a look at one picture. */
export interface Inspection extends Measurement {
  facts: ImageFacts
  display: Uint8Array
  /** Of the decoded pixels, whatever file held them; and of what they show. */
  pixelsSha256: string
  hash: string
}

/**
 * Decodes and measures one picture by the rules of a notice.
 *
 * @throws ProblemError `not-an-image` or `too-large`, worded for the person who chose the file.
 */
export type Inspector = (bytes: Uint8Array, kind: ImageKind, rule: ImageRule) => Promise<Inspection>

/** An inspector in this thread. Without a detector no face is looked for, and what needs one is not measured. */
export const inspectorWith = (detect?: FaceDetector): Inspector => async (bytes, kind, rule) => {
  const { picture, display } = await decodePicture(bytes)
  const seen = kind === 'photograph' && detect && rule.face ? await seeFaces(picture.pixels, detect) : undefined
  return { ...measureImage(kind, { ...picture, seen }, rule), facts: picture.facts, display, pixelsSha256: createHash('sha256').update(picture.pixels.data).digest('hex'), hash: perceptualHash(picture.pixels) }
}
