import { sql } from 'drizzle-orm'
import { index, pgTable, text, timestamp, uuid } from 'drizzle-orm/pg-core'
import { application } from './applications'
import { principal } from './people'

const at = (name: string) => timestamp(name, { withTimezone: true, mode: 'date' })

/** What somebody has asked the office about an application, and the answer; `holder` has it in hand meanwhile. */
export const officeQuestion = pgTable(
  'office_question',
  {
    id: uuid('id').primaryKey(),
    applicationId: uuid('application_id').notNull().references(() => application.id, { onDelete: 'cascade' }),
    cycle: text('cycle').notNull(),
    /** The part of the form that it is about; empty for the whole. */
    about: text('about').notNull(),
    text: text('text').notNull(),
    by: uuid('by').notNull().references(() => principal.id),
    at: at('at').notNull(),
    dueAt: at('due_at').notNull(),
    holder: uuid('holder').references(() => principal.id),
    answer: text('answer'),
    answeredBy: uuid('answered_by').references(() => principal.id),
    answeredAt: at('answered_at'),
  },
  t => [index('office_question_of').on(t.applicationId, t.at),
    index('office_question_waiting').on(t.cycle, t.at, t.id).where(sql`${t.answeredAt} is null`)],
)
