import { proofSlot } from './proof-slot'
import type { DocumentRule, ImageRule } from '../notice/file-rules'
import type { ImageKind, Notice } from '../notice/schema'
import { imageKindsOf, imageRuleOf } from '../notice/image-rules'
import { conditionHolds, liveAnswers, type Answers } from './answers'
import { followingPapers } from './requests'

/** A place of an application that a file belongs in, by the notice: an image or a document. */
export type Slot =
  | { id: ImageKind, title: string, required: true, as: 'image', rule: ImageRule }
  | {
    id: string,
    title: string,
    required: boolean,
    as: 'document',
    rule: DocumentRule,
    /** Until when it may follow after the form. */
    followsUntil?: string,
  }

/**
 * The slots of an application with these answers that count, images first, then the documents that its answers ask for, in the notice's
 * order.
 */
export function slotsOf(notice: Notice, answers: Answers): Slot[] {
  const following = followingPapers(notice, answers)
  return [...imageKindsOf(notice).map(kind => imageSlot(kind, imageRuleOf(notice, kind))),
    ...documentsAsked(notice, answers).map(rule => documentSlot(rule, following.get(rule.id)))]
}

/**
 * The slots that must hold a file before an application can go on, and hold none. `files` is by the id of the slot; at a moment that is
 * given, what may still follow then is none of them.
 */
export function emptySlots(notice: Notice, answers: Answers, files: Partial<Record<string, unknown>>, at?: Date): Slot[] {
  return slotsOf(notice, answers).filter(slot => slot.required && !files[slot.id] && !(at && mayFollow(slot, at)))
}

/** Whether a document may still come after the form was handed in. */
export const mayFollow = (slot: Slot, at: Date): boolean =>
  slot.as === 'document' && slot.followsUntil !== undefined && at < new Date(slot.followsUntil)

/** The documents that answers ask for; one whose condition hangs on what is not answered yet is not asked for yet. */
export function documentsAsked(notice: Notice, answers: Answers): DocumentRule[] {
  const live = liveAnswers(notice, answers)
  return notice.documents.filter(({ when }) => when === undefined || conditionHolds(when, live) === true)
}

/** The slot of a notice by its id, whatever the answers, or of the paper that comes with a correction; null when there is none. */
export function slotOf(notice: Notice, id: string): Slot | null {
  const kind = imageKindsOf(notice).find(one => one === id)
  if (kind) return imageSlot(kind, imageRuleOf(notice, kind))
  const document = notice.documents.find(rule => rule.id === id)
  if (document) return documentSlot(document)
  const proof = notice.corrections.find(rule => proofSlot(rule) === id)?.proof
  return proof ? documentSlot({ ...proof, id, required: true, identity: false }) : null
}

function documentSlot(rule: DocumentRule, asked?: string): Slot {
  const followsUntil = [rule.followsUntil, asked].filter(until => until !== undefined).sort((a, b) => Date.parse(b) - Date.parse(a))[0]
  return { id: rule.id, title: rule.title, required: rule.required, as: 'document', rule, followsUntil }
}

/** The slot of a kind of image by its rule. */
export const imageSlot = (kind: ImageKind, rule: ImageRule): Slot => ({ id: kind, title: rule.title, required: true, as: 'image', rule })
