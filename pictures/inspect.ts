import { createHash } from 'node:crypto'
import type { Slot } from '../core/application/slots'
import { measureDocument } from '../core/documents/measure'
import type { FaceDescriber } from '../core/imaging/detector'
import { turned } from '../core/imaging/cut'
import { theFace, type FaceDetector } from '../core/imaging/face'
import { faceSigns } from '../core/imaging/face-likeness'
import type { Measurement } from '../core/imaging/image-finding'
import { perceptualHash } from '../core/imaging/likeness'
import { measureImage } from '../core/imaging/measure'
import { seeFaces } from '../core/imaging/seeing'
import { decodePicture } from './decode'
import { documentsFrom } from './documents'

/** Everything the office keeps of a look at one file. */
export interface Inspection extends Measurement {
  facts: { format: string, bytes: number, width: number, height: number }
  /** Copies to be shown, upright and without metadata: of a picture one, of a document one a page. */
  copies: { jpeg: Uint8Array, width: number, height: number }[]
  /** Of a picture's decoded pixels, whatever file held them, and of what they show; a document has none. */
  likeness: {
    pixelsSha256: string,
    hash: string,
    /** Signs of the face, where the notice has faces compared and there is just one. */
    face: string | null,
  } | null
}

/**
 * Decodes and measures one file by the rules of a notice for its slot.
 *
 * @throws ProblemError `not-an-image` or `too-large`, worded for the person who chose the file.
 */
export type Inspector = (bytes: Uint8Array, slot: Slot) => Promise<Inspection>

/** A look that its file ended: it cost more than a look may, or the process that looked died of it. */
export class LookEnded extends Error {}

/** A look that has not begun yet, since others are before it. */
export class LookWaits extends Error {
  constructor() {
    super('the look has not begun yet')
  }
}

/**
 * An inspector in this thread. Without a detector no face is looked for, and what needs one is not measured; `describe` is asked for with
 * the first face that is to be compared.
 */
export function inspectorWith(detect?: FaceDetector, describe?: () => Promise<FaceDescriber>): Inspector {
  const readDocument = documentsFrom()
  return async (bytes, slot) => {
    if (slot.as === 'document') {
      const { facts, pages } = await readDocument(bytes)
      const { width = 0, height = 0 } = pages[0] ?? {}
      return {
        findings: measureDocument(facts, slot.rule),
        marks: [],
        facts: { format: facts.format, bytes: facts.bytes, width, height },
        copies: pages,
        likeness: null,
      }
    }
    const { picture, display } = await decodePicture(bytes)
    const seen = slot.id === 'photograph' && detect && slot.rule.face ? await seeFaces(picture.pixels, detect) : undefined
    const { width, height } = picture.facts
    // Of several faces nobody can say whose it is.
    const compared = slot.rule.sameFace && describe && seen && theFace(seen)
      ? await (await describe())(turned(picture.pixels, seen.turn))
      : null
    return {
      ...measureImage(slot.id, { ...picture, seen }, slot.rule),
      facts: picture.facts,
      copies: [{ jpeg: display, width, height }],
      likeness: {
        pixelsSha256: createHash('sha256').update(picture.pixels.data).digest('hex'),
        hash: perceptualHash(picture.pixels),
        face: compared && faceSigns(compared),
      },
    }
  }
}
