import { sql } from 'drizzle-orm'
import { bigint, boolean, index, jsonb, pgTable, text, timestamp, uniqueIndex, uuid } from 'drizzle-orm/pg-core'
import type { Answer } from '../../../core/application/answers'
import type { CorrectionEffects } from '../../../core/application/correction-effects'
import type { CorrectionState } from '../../../core/application/corrections'
import type { CorrectionCharge } from '../../../core/fees/assess'
import { application } from './applications'
import { principal } from './people'

const at = (name: string) => timestamp(name, { withTimezone: true, mode: 'date' })

/**
 * What somebody wants corrected in a form that was submitted: kept beside it until it takes effect. Files put forward lie among those of
 * the application and bear its id until then; they count for nothing else meanwhile.
 */
export const correction = pgTable('correction', {
  id: uuid('id').primaryKey(),
  applicationId: uuid('application_id').notNull().references(() => application.id),
  cycle: text('cycle').notNull(),
  state: text('state').$type<CorrectionState>().notNull(),
  /** By question, the answer when it was begun and the one wanted. */
  changes: jsonb('changes').$type<Record<string, { before: Answer, after: Answer }>>().notNull(),
  /** By slot, the version that counted when the correction was handed in. */
  slots: jsonb('slots').$type<Record<string, { before: number | null }>>().notNull().default({}),
  /** In the words of whoever wants it. */
  reason: text('reason').notNull().default(''),
  /** The rules of the notice that it goes by; none of an officer's outside of them. */
  rules: jsonb('rules').$type<string[]>().notNull().default([]),
  by: uuid('by').notNull().references(() => principal.id),
  begunAt: at('begun_at').notNull(),
  /** Who handed it in, and when. */
  handedBy: uuid('handed_by').references(() => principal.id),
  handedAt: at('handed_at'),
  /** Before when it must be handed in and paid. */
  until: at('until'),
  /** Money beyond the fee that is wanted, and then held, for it; in minor units. */
  holds: bigint('holds', { mode: 'number' }).notNull().default(0),
  charge: jsonb('charge').$type<CorrectionCharge | null>(),
  /** Takes effect without a look. */
  atOnce: boolean('at_once').notNull().default(false),
  decidedBy: uuid('decided_by').references(() => principal.id),
  decidedAt: at('decided_at'),
  decision: text('decision'),
  /** What it did, as it was listed then. */
  effects: jsonb('effects').$type<CorrectionEffects | null>(),
}, t => [
  uniqueIndex('correction_one_open').on(t.applicationId).where(sql`${t.state} in ('drafting', 'unpaid', 'waiting')`),
  index('correction_by_application').on(t.applicationId, t.begunAt),
  index('correction_waiting').on(t.cycle, t.handedAt, t.id).where(sql`${t.state} = 'waiting'`),
  index('correction_to_end').on(t.until).where(sql`${t.state} in ('drafting', 'unpaid')`),
])
