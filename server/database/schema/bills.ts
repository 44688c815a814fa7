import { bigint, index, integer, pgTable, primaryKey, text, timestamp, uuid } from 'drizzle-orm/pg-core'
import { application, cycle } from './applications'
import { principal } from './people'

const at = (name: string) => timestamp(name, { withTimezone: true, mode: 'date' })

/**
 * A bill for the fees of several, paid in one sum at a bank under a number of its own. What is still owed on it is never kept: it follows
 * from those who stand on it.
 */
export const bill = pgTable('bill', {
  id: uuid('id').primaryKey(),
  cycle: text('cycle').notNull().references(() => cycle.code),
  /** From the same row as the numbers of applications, so that a reference never means two things. */
  number: text('number').notNull().unique(),
  /** Who pays, and the code of the payer whom the notice names, where it is one. */
  payer: text('payer').notNull(),
  payerCode: text('payer_code'),
  currency: text('currency').notNull(),
  by: uuid('by').notNull().references(() => principal.id),
  at: at('at').notNull(),
  withdrawnBy: uuid('withdrawn_by').references(() => principal.id),
  withdrawnAt: at('withdrawn_at'),
}, t => [index('bill_by_time').on(t.cycle, t.at, t.id), index('bill_by_principal').on(t.by, t.at)])

/** Who stands on a bill, and what they owed when it was made, in minor units. */
export const billPart = pgTable('bill_part', {
  billId: uuid('bill_id').notNull().references(() => bill.id),
  ordinal: integer('ordinal').notNull(),
  applicationId: uuid('application_id').notNull().references(() => application.id),
  amount: bigint('amount', { mode: 'number' }).notNull(),
}, t => [primaryKey({ columns: [t.billId, t.ordinal] }), index('bill_part_by_application').on(t.applicationId)])
