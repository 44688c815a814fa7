import type { Bound, Finding, Verdict } from '../core/finding/finding'
import type { Desk } from '../core/application/open-matters'
import type { Headline, Tracks } from '../core/application/tracks'
import type { Identity, PairReason } from '../core/identity/likely-pair'
import type { PrintHint } from '../core/documents/print'
import { lanes, type Lane } from '../core/scrutiny/doubts'
import type { Outlook } from '../core/scrutiny/pace'
import { z } from 'zod'
import type { Answer } from '../core/application/answers'
import type { RequestWord } from '../core/application/requests'
import type { RequestRule } from '../core/notice/schema'

/** One item of an application and why it was returned or refused. */
export const reasonSchema = z.object({
  item: z.string().min(1).max(60),
  reason: z.string().trim().min(3, 'at least 3 characters').max(1000),
})
export type ItemReason = z.infer<typeof reasonSchema>

/** How one check has done against people's decisions: of files accepted and returned, how many it had passed, doubted and failed. */
export interface CheckRecord {
  /** Slot and code, as `photograph/photograph.roll`. */
  id: string
  code: string
  /** The slot: a kind of image, or the id of a document. */
  kind: string
  accepted: Record<Verdict, number>
  returned: Record<Verdict, number>
  /** One of its findings, for words, unit and bound; the bound is that of the notice in force. */
  sample: Finding
}
export interface CheckRecords {
  decisions: number
  since: string | null
  checks: CheckRecord[]
}

/** Values of one check on files that people accepted and returned, in bins of one width. */
export interface CheckValues {
  id: string
  bound: Bound | null
  from: number
  width: number
  accepted: number[]
  returned: number[]
}

/** A question to a desk of the office, and its answer. */
export interface ReferralView {
  desk: Desk
  question: string
  until: string | null
  by: string
  at: string
  answer: string | null
  answeredBy: string | null
  answeredAt: string | null
}

/** One side of a likely pair. */
export interface PairSide {
  id: string
  number: string
  name: string
  headline: Headline
  fee: Tracks['fee']
  submittedAt: string | null
  identity: Identity
  posts: string[]
}
/** Two applications that are likely of one person; `stands` is the one that stands, of a pair judged to be the same. */
export interface PairView {
  id: string
  score: number
  reasons: PairReason[]
  state: 'open' | 'same' | 'different' | 'moot'
  first: PairSide
  second: PairSide
  stands: string | null
  reason: string | null
  by: string | null
  at: string | null
}
export interface PairPage {
  pairs: PairView[]
  next: string | null
}
const why = z.string().trim().min(3).max(1000)
export const pairInputSchema = z.discriminatedUnion('result', [
  z.strictObject({ result: z.literal('same'), stands: z.uuid(), reason: why }),
  z.strictObject({ result: z.literal('different'), stands: z.undefined().optional(), reason: why }),
])
export type PairInput = z.infer<typeof pairInputSchema>

/** The queues of a cycle, who has what in hand, and when the work will be done. */
export interface QueueView {
  lanes: { lane: Lane, count: number, oldest: string | null, until: string | null }[]
  /** Cases that the machine has not looked at yet. */
  unsorted: number
  people: { id: string, name: string, inHand: number, today: number, lastHour: number, days: number[] }[]
  /** Decided on each day of work looked back on, the oldest first. */
  days: { day: string, decided: number, came: number }[]
  outlook: Outlook | null
  /** Cases that the reader has in hand. */
  own: { id: string, number: string, name: string, lane: Lane, until: string }[]
  handMinutes: number
}
export const takeSchema = z.strictObject({ lane: z.enum(lanes).optional(), passed: z.array(z.uuid()).max(300).default([]) })
/** A case in hand, and until when. */
export interface Taken {
  id: string
  until: string
}

/** An answer held against a file by eye. */
export const readingSchema = z.strictObject({
  question: z.string().min(1).max(60),
  image: z.uuid(),
  result: z.enum(['agrees', 'differs', 'cannot be read']),
})
export type ReadingInput = z.infer<typeof readingSchema>
/** What somebody asks for, what it rests on, and every word of the office on it, the newest first; `word` is the one that holds. */
export interface RequestView {
  id: string
  title: string
  kind: RequestRule['kind']
  word: RequestWord | null
  proof: string
  papers: string[]
  said: { question: string, answer: Answer }[]
  decisions: { word: RequestWord, reason: string, by: string, at: string }[]
}

export interface ReadingView {
  question: string
  image: string
  answer: string
  result: ReadingInput['result']
  by: string
  at: string
}
/** What a machine read on a paper, held against the answers: a hint. `pages` says how many of its pages were read. */
export interface PrintView {
  image: string
  pages: number
  hints: PrintHint[]
}
/** A wording that the office keeps for an item. */
export interface KeptReason {
  id: string
  item: string
  reason: string
  uses: number
}
export const keptReasonSchema = z.strictObject({ item: z.string().min(1).max(60), reason: why })
