import { z } from 'zod'
import type { EndorsementState } from '../core/application/endorsements'
import { channels, type Channel } from '../core/identity/address'
import type { EndorsementRule } from '../core/notice/schema'
import { permit } from './acts'

const name = z.string().trim().min(2).max(140)

/** Somebody is asked, by a link to their address. */
export const askEndorsementSchema = z.strictObject({
  ...permit,
  rule: z.string().min(1).max(60),
  name,
  channel: z.enum(channels),
  address: z.string().trim().min(1).max(254),
})
/** What came on paper, as an officer has read it. */
export const recordEndorsementSchema = z.strictObject({
  ...permit,
  rule: z.string().min(1).max(60),
  name,
  word: z.enum(['given', 'declined']),
})
/** The link's secret comes in the body, so that no log of addresses holds it. */
export const openEndorsementSchema = z.strictObject({ token: z.string().min(1).max(100) })
export const giveEndorsementSchema = z.strictObject({
  token: z.string().min(1).max(100),
  /** The version of the notice that they read. */
  version: z.int().min(1),
  word: z.enum(['given', 'declined']),
  signed: name,
  said: z.record(z.string().max(60), z.string().max(4000)).default({}),
})
export type GivenEndorsement = z.infer<typeof giveEndorsementSchema>

/** Somebody who was asked, as the sheet shows them. */
export interface EndorsementView {
  id: string
  rule: string
  name: string
  state: EndorsementState
  at: string
  settledAt: string | null
  remindedAt: string | null
  /** Where the link went; null where it came on paper. */
  channel: Channel | null
  address: string | null
  /** The name given, and answers by the label of the question; null where the reader may not see them, or nobody has answered. */
  signed: string | null
  said: { label: string, answer: string }[] | null
  /** The version of the notice whose text they read. */
  version: number
  /** What they read, where the notice has another text now. */
  otherText: string | null
}

/** What somebody reads who was sent a link. */
export interface EndorsementAsked {
  office: string
  examination: string
  candidate: string
  number: string
  name: string
  rule: Pick<EndorsementRule, 'kind' | 'title' | 'text' | 'questions' | 'shownToCandidate'>
  /** The version of the notice that it is read from. */
  version: number
  /** In words, by the office's clock. */
  until: string | null
  state: EndorsementState
  /** It can be answered now. */
  isOpen: boolean
}
