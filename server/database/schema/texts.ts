import { index, integer, pgTable, text, timestamp, uuid } from 'drizzle-orm/pg-core'
import type { SignedBy } from '../../../core/notice/asked'
import { application } from './applications'
import { principal } from './people'

/** A wording that somebody accepted, once for all of them, by the SHA-256 of its UTF-8 bytes. */
export const textWording = pgTable('text_wording', { sha256: text('sha256').primaryKey(), text: text('text').notNull() })

/** Who accepted which text of a notice for an application, in which language and by which act, and when. */
export const acceptedText = pgTable('accepted_text', {
  id: uuid('id').primaryKey(),
  applicationId: uuid('application_id').notNull().references(() => application.id, { onDelete: 'cascade' }),
  /** The notice's text by its id, or `declaration`, and its title as it was read. */
  text: text('text').notNull(),
  title: text('title').notNull(),
  /** Of its wording; not bound to that row, which everybody who hands in at one time would have to hold. */
  sha256: text('sha256').notNull(),
  noticeVersion: integer('notice_version').notNull(),
  language: text('language').notNull(),
  /** What it was signed by: a tick, or the name or initials of the form, which were typed. */
  signed: text('signed').$type<SignedBy>().notNull().default('ticked'),
  act: text('act').$type<'accept-texts' | 'submit' | 'hand-in-correction'>().notNull(),
  by: uuid('by').notNull().references(() => principal.id),
  at: timestamp('at', { withTimezone: true, mode: 'date' }).notNull(),
}, t => [index('accepted_text_of').on(t.applicationId, t.at)])
