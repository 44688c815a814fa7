import { bigserial, boolean, index, integer, jsonb, pgTable, primaryKey, text, timestamp, uniqueIndex, uuid } from 'drizzle-orm/pg-core'
import { sql } from 'drizzle-orm'
import type { Verdict } from '../../../core/finding/finding'
import { application, cycle, type FeesOfThoseIn } from './applications'
import { principal } from './people'

const at = (name: string) => timestamp(name, { withTimezone: true, mode: 'date' })

/** What scrutiny found of one claim, each time anew; the newest counts. */
export const claimRuling = pgTable('claim_ruling', {
  id: uuid('id').primaryKey(),
  applicationId: uuid('application_id').notNull().references(() => application.id),
  claim: text('claim').notNull(),
  ruling: text('ruling').$type<'false' | 'stands'>().notNull(),
  reason: text('reason').notNull(),
  by: uuid('by').notNull().references(() => principal.id),
  at: at('at').notNull(),
}, t => [index('claim_ruling_by_application').on(t.applicationId, t.at)])

/** What a verdict was made from, as hashes: equal ones need no second look. */
const sources = { factsSha256: text('facts_sha256').notNull(), rulesSha256: text('rules_sha256').notNull() }

/** One verdict on one post for one submitted application. */
const verdictColumns = {
  applicationId: uuid('application_id').notNull().references(() => application.id),
  post: text('post').notNull(),
  verdict: text('verdict').$type<Verdict>().notNull(),
  /** The clauses that refuse or leave it open, by their place in the notice's text. */
  clauses: text('clauses').notNull(),
  ...sources,
  at: at('at').notNull(),
  /** The version of the notice that it was made under; none for those from before it was kept. */
  noticeVersion: integer('notice_version'),
}

/** Those in force. */
export const postVerdict = pgTable('post_verdict', verdictColumns, t => [primaryKey({ columns: [t.applicationId, t.post] })])

/** Every verdict that was in force at some time: a trigger writes it whenever one is made or becomes another. */
export const verdictHistory = pgTable('verdict_history', {
  id: bigserial('id', { mode: 'number' }).primaryKey(),
  ...verdictColumns,
}, t => [index('verdict_history_by_application').on(t.applicationId, t.post, t.id)])

/** `agreed`: accepted, to hold from a moment that is still to come. */
export type ReviewState = 'running' | 'listed' | 'agreed' | 'accepted' | 'discarded'
/**
 * What a proposed notice would do to fees assessed already: how many and how much more or less (minor units), whose settled fee is due
 * again, to whom money is owed back.
 */
export interface FeeTotals {
  more: number
  moreBy: number
  less: number
  lessBy: number
  dueAgain: number
  owedBack: number
}
export interface ReviewTotals {
  applications: number
  judged: number
  kept: number
  differences: number
  chosen: number
  fees?: FeeTotals
  /** People who hold a seat that would be gone, or stand at another hour. */
  seats?: SeatTotals
}
export interface SeatTotals {
  gone: number
  anotherHour: number
}

/** All applications of a cycle judged again, under the notice in force or a proposed one; its id is its job's. */
export const review = pgTable('review', {
  id: uuid('id').primaryKey(),
  cycle: text('cycle').notNull().references(() => cycle.code),
  serial: integer('serial').notNull(),
  noticeVersion: integer('notice_version').notNull(),
  baseVersion: integer('base_version').notNull(),
  state: text('state').$type<ReviewState>().notNull(),
  totals: jsonb('totals').$type<ReviewTotals>().notNull(),
  by: uuid('by').notNull().references(() => principal.id),
  at: at('at').notNull(),
  settledBy: uuid('settled_by').references(() => principal.id),
  settledAt: at('settled_at'),
  /** Why the notice is amended; none where all are judged again under the one in force. */
  reason: text('reason'),
  /** From when it holds, where that is later than its acceptance. */
  holdsFrom: at('holds_from'),
  fees: text('fees').$type<FeesOfThoseIn>(),
}, t => [index('review_agreed').on(t.holdsFrom).where(sql`${t.state} = 'agreed'`), uniqueIndex('review_serial').on(t.cycle, t.serial)])

/** One verdict of a review that was made anew; `differs` when it is not the one in force. */
export const reviewItem = pgTable(
  'review_item',
  {
    reviewId: uuid('review_id').notNull().references(() => review.id),
    applicationId: uuid('application_id').notNull().references(() => application.id),
    post: text('post').notNull(),
    number: text('number').notNull(),
    chosen: boolean('chosen').notNull(),
    before: text('before').$type<Verdict>(),
    after: text('after').$type<Verdict>().notNull(),
    clauses: text('clauses').notNull(),
    differs: boolean('differs').notNull(),
    ...sources,
  },
  t => [primaryKey({ columns: [t.reviewId, t.applicationId, t.post] }),
    index('review_item_by_number').on(t.reviewId, t.differs, t.number, t.post)],
)

/** A fee that a proposed notice would change; amounts in minor units. */
export const reviewFee = pgTable('review_fee', {
  reviewId: uuid('review_id').notNull().references(() => review.id),
  applicationId: uuid('application_id').notNull().references(() => application.id),
  number: text('number').notNull(),
  before: integer('before').notNull(),
  after: integer('after').notNull(),
  received: integer('received').notNull(),
}, t => [primaryKey({ columns: [t.reviewId, t.applicationId] }), index('review_fee_by_number').on(t.reviewId, t.number)])

/** Somebody who holds a seat that a proposed notice would take away or put at another hour. */
export const reviewSeat = pgTable('review_seat', {
  reviewId: uuid('review_id').notNull().references(() => review.id),
  applicationId: uuid('application_id').notNull().references(() => application.id),
  number: text('number').notNull(),
  fate: text('fate').$type<'another hour' | 'gone'>().notNull(),
}, t => [primaryKey({ columns: [t.reviewId, t.applicationId] }), index('review_seat_by_number').on(t.reviewId, t.number)])
