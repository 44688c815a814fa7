import { z } from 'zod'
import type { Answer, Answers } from '../core/application/answers'
import { answerSchema } from '../core/application/answer-schema'
import type { SignedBy } from '../core/notice/asked'
import type { Endorsed } from '../core/application/endorsements'
import type { RequestDecisions } from '../core/application/requests'
import type { Zone } from '../core/calendar/zone'
import type { Headline, Tracks } from '../core/application/tracks'
import type { OpenCorrectionState } from '../core/application/corrections'
import type { ActStanding } from '../core/application/acts/judge'
import type { ActId } from '../core/application/acts/rule'
import type { KeyingState } from '../core/application/keying'
import type { MatterKind, MatterOwner, OpenMatter } from '../core/application/open-matters'
import type { ClaimWeight } from '../core/eligibility/claims'
import type { PostVerdict } from '../core/eligibility/evaluate'
import type { Assessment } from '../core/fees/assess'
import type { Finding } from '../core/finding/finding'
import type { Edit } from '../core/imaging/fit'
import type { Mark } from '../core/imaging/image-finding'
import type { Sitting } from '../core/seating/sittings'
import type { LogAct } from '../core/records/log'
import type { Doubt, Lane } from '../core/scrutiny/doubts'
import type { ProposalView } from './acts'
import type { ReadingView, ReferralView, RequestView } from './scrutiny'
import type { RulingView } from './eligibility'

export const saveSheetSchema = z.object({
  revision: z.int().min(0).max(2 ** 31 - 1),
  changes: z.record(z.string().max(60), answerSchema),
  reason: z.string().trim().max(1000).optional(),
  outsideDates: z.boolean().optional(),
})

export type { AnswerDifference, SavedSheet, SheetConflict } from '../core/application/saving'

/** A tag that applications are found by: `fee:due`, `q:category=general`, `matter:scrutiny|scrutineer`. */
const tagSchema = z.string()
  .regex(/^(at|form|fee|scrutiny|placement|card|from|q|first|false|asked|matter|doubt|lane|by|found|unread):.{1,120}$/u)
/** Everything that stands before the value of a tag. Values of one facet are alternatives; facets are joined. */
export const facetOf = (tag: string): string => /^(?:(?:q|first):[^=]*=|found:|[a-z]+:)/u.exec(tag)?.[0] ?? tag

const many = <T extends z.ZodType>(of: T, most: number) => z.union([z.array(of).max(most), of.transform(one => [one])]).default([])
const filterShape = {
  is: many(tagSchema, 24),
  search: z.string().max(100).optional(),
  /** Moments between which the present point of the flow was reached. */
  from: z.iso.datetime({ offset: true }).optional(),
  before: z.iso.datetime({ offset: true }).optional(),
  /** The letter to many that they have not read. */
  unread: z.uuid().optional(),
}
export const rosterFilterSchema = z.object(filterShape)
/** The same as a table to take along. */
export const rosterTableSchema = z.object({ ...filterShape, format: z.enum(['csv', 'xlsx', 'ods', 'jsonl']).default('csv') })
export type RosterFilter = Partial<z.infer<typeof rosterFilterSchema>>
export const rosterQuerySchema = z.object({
  ...filterShape,
  sort: z.enum(['number', 'waiting']).default('number'),
  after: z.string().max(200).optional(),
  limit: z.coerce.number().int().min(1).max(500).default(100),
})
export type RosterQuery = RosterFilter & Pick<z.infer<typeof rosterQuerySchema>, 'sort' | 'after' | 'limit'>

export interface RosterRow {
  id: string
  number: string
  name: string
  mobile: string
  category: string
  posts: string[]
  headline: Headline
  since: string
  submittedAt: string | null
  fee: Tracks['fee']
  tags: string[]
}
/** A page of the roster; `next` is the key to ask for the following one, null at the end. */
export interface RosterPage {
  rows: RosterRow[]
  next: string | null
}
/** How many match. Exact, or an estimate with the range that holds in nineteen cases of twenty. */
export interface RosterCount {
  n: number
  isExact: boolean
  low: number
  high: number
}
export const facetSchema = z.object({
  facet: z.string()
    .regex(/^(at|form|fee|scrutiny|placement|card|from|false|asked|matter|doubt|lane|by|found|unread|q:[a-zA-Z0-9]{1,60}|first:[a-zA-Z0-9]{1,60})$/),
})
/** The values of a facet with the number of applications of the whole cycle that have each. */
export interface FacetValue {
  tag: string
  n: number
  /** Of a person: the name. */
  name?: string
}
export interface RosterView {
  id: string
  title: string
  query: string
  by: string
  isOwn: boolean
  isShared: boolean
}
export const rosterViewSchema = z.strictObject({
  title: z.string().trim().min(1).max(80),
  query: z.string().max(2000),
  isShared: z.boolean(),
})

export interface Band {
  cycle: string
  title: string
  zone: Zone
  now: string
  clock: { code: string, instant: string } | null
  points: { headline: Headline, count: number, today: number }[]
}

export interface ImageView {
  id: string
  /** The slot it stands in: a kind of image, or the id of a document. */
  kind: string
  version: number
  format: string
  bytes: number
  width: number
  height: number
  at: string
  by: string
  /** False while it is kept but not yet measured: findings, marks and the copy to be shown follow. */
  measured: boolean
  findings: Finding[]
  marks: Mark[]
  /** What was done before it was sent, and how many of the files that it was made from are kept, too. */
  edits: Edit[]
  originals: number
  /** Of a document: the sizes of the copies of its pages. */
  pages: { width: number, height: number }[]
}

/** Another application of the cycle that has the same picture, or one that shows the same: for a person to judge, never a verdict. */
export interface Lookalike {
  applicationId: string
  number: string
  name: string
  kind: string
  imageId: string
  version: number
  /**
   * The very same pixels; a picture that shows the same, in how many of 256 bits it differs; or a face alike, in how many of 576 signs it
   * differs.
   */
  by: 'pixels' | 'picture' | 'face'
  differing: number
}

export interface PaymentView {
  id: string
  amount: number
  state: 'open' | 'succeeded' | 'failed' | 'expired'
  order: string
  openedAt: string
  expiresAt: string
  deliveries: number
  /** How many other applications the same payment is for. */
  others: number
}

export interface DecisionView {
  decision: 'accept' | 'return' | 'refuse'
  reasons: { item: string, reason: string }[]
  answerUntil: string | null
  by: string
  at: string
}

/** A text of the notice that is accepted in so many words; the declaration has no title. */
export interface TextView {
  id: string
  title: string
  text: string
  /** Of the UTF-8 bytes of `text`: by it the page says what was read. */
  sha256: string
  signed: SignedBy
  /** The form opens only once it is accepted. */
  isFirst: boolean
  /** Accepted as it is now. What is declared is declared anew each time. */
  isAccepted: boolean
  /** Another wording of it was accepted. */
  isChanged: boolean
}
/** What was accepted once, as it read then; `by` is empty where the reader is not told. */
export interface AcceptedView {
  signed: SignedBy
  id: string
  title: string
  text: string
  sha256: string
  noticeVersion: number
  language: string
  by: string
  at: string
}
export interface TextsOfApplication {
  texts: TextView[]
  accepted: AcceptedView[]
}

/** Everything a screen says about one application, computed by the same core everywhere. */
export interface Dossier {
  id: string
  cycle: string
  number: string
  name: string
  revision: number
  answers: Answers
  tracks: Tracks
  headline: Headline
  since: string
  submittedAt: string | null
  /** The last change of it, in milliseconds of UTC. */
  changedAt: string
  /** The newest version in each slot, by its id; what the answers ask for no longer stays, and counts for nothing. */
  files: Partial<Record<string, ImageView>>
  faults: Finding[]
  doubts: Finding[]
  /** Judged on `counted`: the answers after claims found false have fallen back. */
  verdicts: PostVerdict[]
  counted: Answers
  /** The office's words on requests, as they are kept beside the answers. */
  decided: RequestDecisions
  /** How many others were asked for something, and have said what. */
  endorsed: Endorsed
  /** Texts of the notice have to be accepted before the form opens. */
  hasTextsFirst: boolean
  /** The account of whoever writes this draft has handed in another form, from which answers can be taken over. */
  hasEarlier: boolean
  claims: ClaimWeight[]
  rulings: RulingView[]
  requests: RequestView[]
  /** Answers changed since the newest decision, each with what stood there then. */
  changed: { question: string, before: Answer, by: string, at: string }[]
  assessment: Assessment | null
  assessed: boolean
  received: number
  /** Something was asked of the office about it. */
  hasQuestions: boolean
  payments: PaymentView[]
  decisions: DecisionView[]
  matters: OpenMatter[]
  /** Every act as it stands for the reader now; what waits for a second person. */
  acts: ActStanding[]
  proposals: ProposalView[]
  /** Until when it is kept open, and what a correction may change; null while the whole form is open. */
  openUntil: string | null
  openedItems: string[] | null
  cardHold: string | null
  /** False where the reader's role needs no photographs and papers. */
  seesFiles: boolean
  /** One seat for each test paper, or one in all where the cycle has none. */
  placement: { sittings: Sitting[], roll: string, choice: number | null, run: number, runId: string } | null
  /** Of a paper form: how far its keying by two people is, whether the reader keyed any of it the first time, and when it came in. */
  keying: { state: KeyingState, isOwnFirst: boolean, receivedAt: string } | null
  /** Numbers of one's own other applications for the same examination; of others' nothing is told. */
  ownOthers: string[]
  /** Where a correction stands that is under way. */
  correction: OpenCorrectionState | null
  card: { version: number, code: string, at: string, voidAt: string | null } | null
  /** Of a candidate's own: something was told that they have not looked at here. */
  hasNews: boolean
  /** Somebody has it in an account of theirs. */
  hasAccount: boolean
  /** What its people were told, for the office; the newest first. */
  told: ToldView[]
  history: HistoryRow[]
  /** Where it stands in the queue of scrutiny, and who has it in hand; null where it does not wait. */
  hand: { lane: Lane | null, doubts: Doubt[], by: string | null, isOwn: boolean, until: string | null, isOwnFirst: boolean } | null
  /** What desks were asked, and what was held against files by eye. */
  referrals: ReferralView[]
  readings: ReadingView[]
}

/** Something that the people of an application were told. */
export interface ToldView {
  kind: ActId | 'announce'
  /** Of a letter to many: its subject. */
  subject: string | null
  at: string
  /** Letters about it were written, where there is an address. */
  isWritten: boolean
  isUnread: boolean
  /** Null while it is unread, and where it was never noted. */
  seenAt: string | null
}

/** One row of the log of an application. */
export interface HistoryRow {
  at: string
  actor: string
  act: LogAct
  reason: string | null
  outsideDates: boolean
  before: unknown
  after: unknown
  /** The version of the notice that it was judged under, where that was kept. */
  noticeVersion: number | null
}

/** What needs the office today. */
export interface Desk {
  waits: { headline: Headline, count: number, oldest: string }[]
  /** Applications whose people have not read that this was done, by the act; `no-account` where nobody could read it here. */
  unread: { of: string, count: number }[]
  hangingPayments: { count: number, oldest: string | null }
  /** What candidates have asked and nobody has answered. */
  questions: { count: number, oldest: string | null }
  unpublishedRun: { id: string, serial: number, at: string } | null
  /** What is open in the cycle, by kind and by who must act; the nearest last moment of each. */
  matters: { kind: MatterKind, owner: MatterOwner, count: number, nearest: string | null }[]
  /** Acts of officers outside the dates of the notice. */
  outsideDates: { count: number, latest: string | null }
  /** Acts that wait for a second person. */
  proposals: number
}
