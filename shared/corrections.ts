import { z } from 'zod'
import type { Answer } from '../core/application/answers'
import { answerSchema } from '../core/application/answer-schema'
import type { CorrectionEffects } from '../core/application/correction-effects'
import type { CorrectionState } from '../core/application/corrections'
import type { Finding } from '../core/finding/finding'
import type { Headline } from '../core/application/tracks'
import type { ImageView } from './applications'

/**
 * What is to be corrected, as it is being written: what was typed since it was sent last. Nothing stands for a question that is left as it
 * is in the form after all.
 */
export const correctionDraftSchema = z.strictObject({
  changes: z.record(z.string().max(60), answerSchema.nullable()),
  reason: z.string().trim().max(1000).default(''),
  outsideDates: z.boolean().optional(),
})
export type CorrectionDraft = z.input<typeof correctionDraftSchema>

/** A rule of corrections that is open to the reader now. */
export interface OpenRule {
  id: string
  title: string
  items: string[]
  closes: string
  charge: number
  proof: string | null
  takesEffect: 'handed in' | 'looked at'
}

/** A correction under way or the last one, and what may be corrected now. */
export interface CorrectionView {
  id: string | null
  state: CorrectionState | null
  rules: OpenRule[]
  /** Items that it may change: of the open rules, and what these bring up; `null` where an officer may change anything. */
  openItems: string[] | null
  changes: { item: string, before: Answer, after: Answer }[]
  /** By slot, what was put forward, papers of proof with it. */
  files: Partial<Record<string, ImageView>>
  reason: string
  until: string | null
  /** Money wanted before it goes on, what of it has come, and what it is made of; in minor units. */
  owes: { total: number, open: number, charge: number }
  /** What it would do, or did; null while it cannot be told. */
  effects: CorrectionEffects | null
  /** Why it cannot be handed in yet. */
  faults: Finding[]
  lacks: string[]
  handed: { by: string, at: string, isOwn: boolean } | null
  decided: { by: string, at: string, reason: string } | null
}

/** A correction that waits for the office, in the list of all. */
export interface WaitingCorrection {
  applicationId: string
  number: string
  name: string
  headline: Headline
  handedAt: string
  view: CorrectionView
}
export interface CorrectionPage {
  rows: WaitingCorrection[]
  next: string | null
}
