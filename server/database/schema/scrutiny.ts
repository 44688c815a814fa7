import { index, integer, jsonb, pgTable, primaryKey, text, timestamp, uniqueIndex, uuid } from 'drizzle-orm/pg-core'
import { sql } from 'drizzle-orm'
import type { Desk } from '../../../core/application/open-matters'
import type { RequestWord } from '../../../core/application/requests'
import type { PrintedWord } from '../../../core/documents/print'
import { application, image } from './applications'
import { principal } from './people'

const at = (name: string) => timestamp(name, { withTimezone: true, mode: 'date' })

/** A question about an application that scrutiny has put to a desk of the office; the case waits for its answer. */
export const referral = pgTable('referral', {
  id: uuid('id').primaryKey(),
  applicationId: uuid('application_id').notNull().references(() => application.id, { onDelete: 'cascade' }),
  cycle: text('cycle').notNull(),
  desk: text('desk').$type<Desk>().notNull(),
  question: text('question').notNull(),
  /** Before when an answer is wanted. */
  until: at('until'),
  by: uuid('by').notNull().references(() => principal.id),
  at: at('at').notNull(),
  answer: text('answer'),
  answeredBy: uuid('answered_by').references(() => principal.id),
  answeredAt: at('answered_at'),
}, t => [
  uniqueIndex('referral_one_open').on(t.applicationId).where(sql`${t.answeredAt} is null`),
  index('referral_by_application').on(t.applicationId, t.at),
  index('referral_by_desk').on(t.cycle, t.desk, t.at).where(sql`${t.answeredAt} is null`),
])

/** What the office said of one request, each time anew; the newest counts. `basis` is what it was decided on. */
export const requestDecision = pgTable('request_decision', {
  id: uuid('id').primaryKey(),
  applicationId: uuid('application_id').notNull().references(() => application.id),
  request: text('request').notNull(),
  word: text('word').$type<RequestWord>().notNull(),
  reason: text('reason').notNull(),
  basis: text('basis').notNull(),
  by: uuid('by').notNull().references(() => principal.id),
  at: at('at').notNull(),
}, t => [index('request_decision_by_application').on(t.applicationId, t.at)])

/** What a machine has read on a page of a paper, kept so that it is read once. A paper that is erased leaves no words behind. */
export const printedPage = pgTable('printed_page', {
  imageId: uuid('image_id').notNull().references(() => image.id, { onDelete: 'cascade' }),
  page: integer('page').notNull(),
  words: jsonb('words').$type<PrintedWord[]>().notNull(),
  at: at('at').notNull(),
}, t => [primaryKey({ columns: [t.imageId, t.page] })])
