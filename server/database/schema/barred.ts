import { sql } from 'drizzle-orm'
import { bigint, index, integer, jsonb, pgTable, primaryKey, text, timestamp, uniqueIndex, uuid } from 'drizzle-orm/pg-core'
import type { PairReason } from '../../../core/identity/likely-pair'
import { application } from './applications'
import { principal } from './people'

const at = (name: string) => timestamp(name, { withTimezone: true, mode: 'date' })

/** Somebody who may not take part, in any cycle, until a day or until it is lifted. Empty texts where nothing is known. */
export const barredPerson = pgTable(
  'barred_person',
  {
    id: uuid('id').primaryKey(),
    name: text('name').notNull(),
    bornOn: text('born_on').notNull(),
    identityNumber: text('identity_number').notNull(),
    mobile: text('mobile').notNull(),
    email: text('email').notNull(),
    /** Why, with the decision that it rests on. */
    reason: text('reason').notNull(),
    /** The first day on which it holds no more. */
    until: text('until'),
    by: uuid('by').notNull().references(() => principal.id),
    at: at('at').notNull(),
    liftedBy: uuid('lifted_by').references(() => principal.id),
    liftedAt: at('lifted_at'),
    liftReason: text('lift_reason'),
  },
  t => [uniqueIndex('barred_person_once').on(t.name, t.bornOn, t.identityNumber).where(sql`${t.liftedAt} is null`),
    index('barred_person_by_time').on(t.at, t.id)],
)

/** What somebody barred is found by: keys of core's `identityKeys`. */
export const barredKey = pgTable('barred_key', {
  key: bigint('key', { mode: 'bigint' }).notNull(),
  barredId: uuid('barred_id').notNull().references(() => barredPerson.id, { onDelete: 'cascade' }),
}, t => [primaryKey({ columns: [t.key, t.barredId] })])

export type BarredState = 'open' | 'same' | 'different'

/** An application that is likely of somebody barred: asked about once. */
export const barredMatch = pgTable('barred_match', {
  id: uuid('id').primaryKey(),
  applicationId: uuid('application_id').notNull().references(() => application.id, { onDelete: 'cascade' }),
  cycle: text('cycle').notNull(),
  barredId: uuid('barred_id').notNull().references(() => barredPerson.id),
  /** From 0 to 100. */
  score: integer('score').notNull(),
  reasons: jsonb('reasons').$type<PairReason[]>().notNull(),
  state: text('state').$type<BarredState>().notNull().default('open'),
  foundAt: at('found_at').notNull(),
  reason: text('reason'),
  by: uuid('by').references(() => principal.id),
  at: at('at'),
}, t => [
  uniqueIndex('barred_match_one').on(t.applicationId, t.barredId),
  index('barred_match_of').on(t.barredId),
  index('barred_match_open').on(t.cycle, t.score, t.id).where(sql`${t.state} = 'open'`),
])
