import { bigint, boolean, index, integer, jsonb, pgTable, text, timestamp, uniqueIndex, uuid } from 'drizzle-orm/pg-core'
import type { AllocationPolicy, AllocationResult } from '../../../core/allocation/problem'
import { application, bytea, cycle } from './applications'

const at = (name: string) => timestamp(name, { withTimezone: true, mode: 'date' })

export interface RunSummary {
  candidates: number
  byChoice: number[]
  offList: number
  unseated: number
  cities: { city: string, capacity: number, firstChoice: number, placed: number, price: number }[]
}

/** One execution of the allocation, with all that went in and came out; never overwritten. */
export const allocationRun = pgTable('allocation_run', {
  id: uuid('id').primaryKey(),
  cycle: text('cycle').notNull().references(() => cycle.code),
  serial: integer('serial').notNull(),
  policy: jsonb('policy').$type<AllocationPolicy>().notNull(),
  inputsSha256: text('inputs_sha256').notNull(),
  cost: bigint('cost', { mode: 'number' }).notNull(),
  bound: bigint('bound', { mode: 'number' }).notNull(),
  certified: boolean('certified').notNull(),
  prices: jsonb('prices').$type<AllocationResult['prices']>().notNull(),
  summary: jsonb('summary').$type<RunSummary>().notNull(),
  by: text('by').notNull(),
  at: at('at').notNull(),
  publishedAt: at('published_at'),
  publishedBy: text('published_by'),
}, t => [uniqueIndex('allocation_run_serial').on(t.cycle, t.serial)])

export const runPlacement = pgTable('run_placement', {
  runId: uuid('run_id').notNull().references(() => allocationRun.id),
  applicationId: uuid('application_id').notNull().references(() => application.id),
  city: text('city'),
  choice: integer('choice'),
  cost: integer('cost').notNull(),
}, t => [
  uniqueIndex('run_placement_key').on(t.runId, t.applicationId),
  index('run_placement_by_city').on(t.runId, t.city),
])

/** Seats given out. The keys make a double seat or a double roll number impossible, whatever the code does. */
export const seat = pgTable('seat', {
  applicationId: uuid('application_id').primaryKey().references(() => application.id),
  cycle: text('cycle').notNull(),
  runId: uuid('run_id').notNull().references(() => allocationRun.id),
  city: text('city').notNull(),
  venue: text('venue').notNull(),
  room: text('room').notNull(),
  session: text('session').notNull(),
  seat: integer('seat').notNull(),
  accessible: boolean('accessible').notNull(),
  roll: text('roll').notNull(),
}, t => [
  uniqueIndex('seat_place').on(t.cycle, t.venue, t.room, t.session, t.seat),
  uniqueIndex('seat_roll').on(t.cycle, t.roll),
])

/** Keys that sign cards. Old ones stay so that cards signed with them can be checked. */
export const cardKey = pgTable('card_key', {
  id: text('id').primaryKey(),
  seed: bytea('seed').notNull(),
  publicKey: bytea('public_key').notNull(),
  createdAt: at('created_at').notNull(),
})

/** One version of one person's card. The PDF is made from the row whenever it is wanted. */
export const admitCard = pgTable('admit_card', {
  id: uuid('id').primaryKey(),
  applicationId: uuid('application_id').notNull().references(() => application.id),
  version: integer('version').notNull(),
  code: text('code').notNull(),
  photographSha256: text('photograph_sha256').notNull(),
  signatureSha256: text('signature_sha256').notNull(),
  by: text('by').notNull(),
  at: at('at').notNull(),
  replacedAt: at('replaced_at'),
}, t => [uniqueIndex('admit_card_version').on(t.applicationId, t.version)])
