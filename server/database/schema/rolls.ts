import { index, integer, jsonb, pgTable, primaryKey, text, timestamp, uuid } from 'drizzle-orm/pg-core'
import type { RollOptions } from '../../../core/roll/judge'
import type { Finding } from '../../../core/finding/finding'
import type { TableKind } from '../../../tables/read'
import { application, cycle, file } from './applications'
import { principal } from './people'

const at = (name: string) => timestamp(name, { withTimezone: true, mode: 'date' })

/** How far it has come; whether it is being worked on is told by its job. */
export type RollState = 'read' | 'tried' | 'entered'
/** What becomes of a row: an application made, changed, as it was, or refused. `gaps` are rows entered in which answers lack. */
export interface RollTotals {
  rows: number
  made: number
  changed: number
  repeated: number
  refused: number
  gaps: number
  /** Pictures and papers that came with it, and how many of them belong to somebody. */
  files?: { all: number, placed: number }
  /** Words that the notice does not know, by field: in how many rows each stands. */
  words?: Record<string, Record<string, number>>
}

/** A nominal roll as it was sent: the table's file, what its columns mean, and what became of its rows. */
export const roll = pgTable('roll', {
  id: uuid('id').primaryKey(),
  cycle: text('cycle').notNull().references(() => cycle.code),
  /** Who sent it: the same person from the same sender is one application. */
  sender: text('sender').notNull(),
  name: text('name').notNull(),
  sha256: text('sha256').notNull().references(() => file.sha256),
  kind: jsonb('kind').$type<TableKind>().notNull(),
  headings: jsonb('headings').$type<string[]>().notNull(),
  /** The first rows, to be seen beside the headings. */
  samples: jsonb('samples').$type<string[][]>().notNull(),
  rows: integer('rows').notNull(),
  /** The field of each column; null where it is left out. */
  columns: jsonb('columns').$type<(string | null)[]>().notNull(),
  options: jsonb('options').$type<RollOptions>().notNull(),
  state: text('state').$type<RollState>().notNull(),
  totals: jsonb('totals').$type<RollTotals | null>(),
  by: uuid('by').notNull().references(() => principal.id),
  at: at('at').notNull(),
}, t => [index('roll_by_time').on(t.cycle, t.at)])

export type RollOutcome = 'made' | 'changed' | 'repeated' | 'refused'

/** Rows of a roll that somebody has to look at: refused ones, and those in which answers lack. Counted from 1 below the heading. */
export const rollRow = pgTable('roll_row', {
  rollId: uuid('roll_id').notNull().references(() => roll.id, { onDelete: 'cascade' }),
  row: integer('row').notNull(),
  outcome: text('outcome').$type<RollOutcome>().notNull(),
  reference: text('reference').notNull(),
  name: text('name').notNull(),
  findings: jsonb('findings').$type<Finding[]>().notNull(),
}, t => [primaryKey({ columns: [t.rollId, t.row] }), index('roll_row_by_outcome').on(t.rollId, t.outcome, t.row)])

/**
 * A picture or paper that came with a roll, by its path in the packing. `finding` says what is wrong with it; row and slot are those of the
 * last pass.
 */
export const rollFile = pgTable('roll_file', {
  rollId: uuid('roll_id').notNull().references(() => roll.id, { onDelete: 'cascade' }),
  name: text('name').notNull(),
  bytes: integer('bytes').notNull(),
  /** Null where it cannot be taken. */
  sha256: text('sha256').references(() => file.sha256),
  row: integer('row'),
  slot: text('slot'),
  finding: jsonb('finding').$type<Finding | null>(),
}, t => [primaryKey({ columns: [t.rollId, t.name] }), index('roll_file_by_file').on(t.sha256)])

/** Whom the rolls of a sender have brought, by what tells them apart: sending a roll again makes nobody twice. */
export const rollEntry = pgTable('roll_entry', {
  cycle: text('cycle').notNull(),
  sender: text('sender').notNull(),
  key: text('key').notNull(),
  applicationId: uuid('application_id').notNull().references(() => application.id, { onDelete: 'cascade' }),
  /** The application's revision when the roll was last entered: a later one means that somebody has worked on it since. */
  revision: integer('revision').notNull(),
}, t => [primaryKey({ columns: [t.cycle, t.sender, t.key] }), index('roll_entry_by_application').on(t.applicationId)])
