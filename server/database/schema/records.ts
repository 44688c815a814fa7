import { bigserial, index, integer, jsonb, pgTable, text, timestamp, uuid } from 'drizzle-orm/pg-core'
import { application } from './applications'

const at = (name: string) => timestamp(name, { withTimezone: true, mode: 'date' })

/** Who did what to what, with the state before and after. Rows are only ever added. */
export const auditEvent = pgTable('audit_event', {
  id: bigserial('id', { mode: 'number' }).primaryKey(),
  at: at('at').notNull(),
  actor: text('actor').notNull(),
  action: text('action').notNull(),
  subject: text('subject').notNull(),
  before: jsonb('before'),
  after: jsonb('after'),
  requestId: text('request_id').notNull(),
}, t => [index('audit_event_by_subject').on(t.subject, t.id)])

export interface ItemReason { item: string, reason: string }

export const scrutinyDecision = pgTable('scrutiny_decision', {
  id: uuid('id').primaryKey(),
  applicationId: uuid('application_id').notNull().references(() => application.id),
  /** That of the application: the newest decisions of one cycle are found without those of all later ones. */
  cycle: text('cycle').notNull(),
  decision: text('decision').$type<'accept' | 'return' | 'refuse'>().notNull(),
  reasons: jsonb('reasons').$type<ItemReason[]>().notNull(),
  answerBy: text('answer_by'),
  /** The slots whose files were decided on: those that the answers asked for then. Decisions from before documents have none, and were on all. */
  slots: jsonb('slots').$type<string[]>(),
  by: text('by').notNull(),
  at: at('at').notNull(),
}, t => [index('scrutiny_decision_by_application').on(t.applicationId, t.at), index('scrutiny_decision_by_time').on(t.cycle, t.at)])

export type JobState = 'waiting' | 'running' | 'done' | 'failed' | 'cancelled'

/** Long work as people see it: how far it is, and how it ended. The queue itself is pg-boss's. */
export const job = pgTable('job', {
  id: uuid('id').primaryKey(),
  kind: text('kind').$type<'allocate' | 'issue-cards' | 'review' | 'publish'>().notNull(),
  /** What was asked for, as text: other work of the kind under way is told from the same work pressed twice. */
  request: text('request').notNull().default(''),
  cycle: text('cycle').notNull(),
  state: text('state').$type<JobState>().notNull(),
  done: integer('done').notNull().default(0),
  total: integer('total').notNull().default(0),
  result: jsonb('result').$type<Record<string, string | number> | null>(),
  error: text('error'),
  by: text('by').notNull(),
  createdAt: at('created_at').notNull(),
  updatedAt: at('updated_at').notNull(),
}, t => [index('job_by_time').on(t.cycle, t.createdAt)])
