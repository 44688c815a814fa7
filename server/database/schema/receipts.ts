import { bigint, index, integer, jsonb, pgTable, text, timestamp, uniqueIndex, uuid } from 'drizzle-orm/pg-core'
import type { FeeItem } from '../../../core/fees/assess'
import { application } from './applications'

const at = (name: string) => timestamp(name, { withTimezone: true, mode: 'date' })

/**
 * What somebody has paid, under a number that no other receipt has and after which none lacks. A receipt is printed as often as anybody
 * likes and issued once.
 */
export const receipt = pgTable('receipt', {
  id: uuid('id').primaryKey(),
  year: integer('year').notNull(),
  serial: integer('serial').notNull(),
  applicationId: uuid('application_id').notNull().references(() => application.id),
  amount: bigint('amount', { mode: 'number' }).notNull(),
  currency: text('currency').notNull(),
  /** The lines of the assessment that it pays, as they were. */
  items: jsonb('items').$type<FeeItem[]>().notNull(),
  /** What only its holder knows: with the number it proves the receipt. */
  code: text('code').notNull(),
  at: at('at').notNull(),
  /** The money was taken back; the number stays. */
  voidAt: at('void_at'),
}, t => [uniqueIndex('receipt_number').on(t.year, t.serial), index('receipt_by_application').on(t.applicationId, t.at)])

/**
 * Applications whose fee has become settled, or is so no longer: their receipts are looked at. Written by a trigger, so that no way to a
 * settled fee can forget it.
 */
export const receiptWanted = pgTable('receipt_wanted', {
  applicationId: uuid('application_id').primaryKey().references(() => application.id, { onDelete: 'cascade' }),
})
