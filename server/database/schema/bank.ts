import { bigint, boolean, index, integer, jsonb, pgTable, text, timestamp, uniqueIndex, uuid } from 'drizzle-orm/pg-core'
import { sql } from 'drizzle-orm'
import type { MatchPart, MatchReason, MatchStep } from '../../../core/bank/match'
import type { SlipState } from '../../../core/bank/slip'
import type { Gap, StatementFormat } from '../../../core/bank/statement'
import type { ClosingView, CsvMapping, SettlementFault } from '../../../shared/bank'
import type { MadeStatement } from '../../../statements/made'
import { application, file } from './applications'
import { principal } from './people'

const at = (name: string) => timestamp(name, { withTimezone: true, mode: 'date' })
const minorUnits = (name: string) => bigint(name, { mode: 'number' })

/** An account of the office at a bank. */
export const bankAccount = pgTable('bank_account', {
  id: uuid('id').primaryKey(),
  title: text('title').notNull(),
  holder: text('holder').notNull(),
  bank: text('bank').notNull(),
  /** Without blanks: an account number by ISO 13616, or a bank's own. */
  number: text('number').notNull().unique(),
  bic: text('bic').notNull(),
  currency: text('currency').notNull(),
  /** Deposit slips name it. */
  takesDeposits: boolean('takes_deposits').notNull(),
  /** What the columns of its CSV mean. */
  mapping: jsonb('mapping').$type<CsvMapping | null>(),
  by: uuid('by').notNull().references(() => principal.id),
  at: at('at').notNull(),
})

/** A statement as it was read. Its lines stand for ever; the file is kept. */
export const bankStatement = pgTable('bank_statement', {
  id: uuid('id').primaryKey(),
  accountId: uuid('account_id').notNull().references(() => bankAccount.id),
  format: text('format').$type<StatementFormat>().notNull(),
  identification: text('identification').notNull(),
  sequence: integer('sequence'),
  /** SHA-256 of what it says: the same again is the statement that is there. */
  digest: text('digest').notNull(),
  sha256: text('sha256').notNull().references(() => file.sha256),
  name: text('name').notNull(),
  firstOn: text('first_on').notNull(),
  lastOn: text('last_on').notNull(),
  opening: minorUnits('opening'),
  closing: minorUnits('closing'),
  lines: integer('lines').notNull(),
  /** Lines that an earlier CSV had already. */
  known: integer('known').notNull(),
  /** What is missing between it and the one before. */
  gaps: jsonb('gaps').$type<Gap[]>().notNull(),
  by: uuid('by').notNull().references(() => principal.id),
  at: at('at').notNull(),
}, t => [uniqueIndex('bank_statement_once').on(t.accountId, t.digest), index('bank_statement_by_day').on(t.accountId, t.lastOn)])

export type LineState = 'open' | 'explained'

/** One movement on an account. What it is explained by stands in `bank_match`. */
export const bankLine = pgTable('bank_line', {
  id: uuid('id').primaryKey(),
  statementId: uuid('statement_id').notNull().references(() => bankStatement.id),
  accountId: uuid('account_id').notNull().references(() => bankAccount.id),
  position: integer('position').notNull(),
  bookedOn: text('booked_on').notNull(),
  valueOn: text('value_on'),
  amount: minorUnits('amount').notNull(),
  currency: text('currency').notNull(),
  reference: text('reference'),
  text: text('text').notNull(),
  name: text('name'),
  counterAccount: text('counter_account'),
  bankReference: text('bank_reference'),
  isReversal: boolean('is_reversal').notNull(),
  /** Of a CSV, whose periods may overlap: what it says, and the how manieth of its day that says so. */
  digest: text('digest'),
  state: text('state').$type<LineState>().notNull().default('open'),
  /** How sure the best match was when matching last looked, in hundredths; null before, and where there was none. */
  best: integer('best'),
}, t => [
  index('bank_line_by_statement').on(t.statementId, t.position),
  uniqueIndex('bank_line_once').on(t.accountId, t.digest),
  index('bank_line_open').on(t.bookedOn, t.id).where(sql`${t.state} = 'open'`),
  index('bank_line_by_day').on(t.accountId, t.bookedOn),
])

/** How a line was explained: by matching, or by a person who says what it was. */
export const explanations = ['dues', 'bank charge', 'settlement', 'refund', 'refund returned', 'sent back'] as const
export type Explanation = typeof explanations[number]

/**
 * An explanation of a line, in force until it is taken back. `step` and `score` (hundredths) are those of matching; none where a person
 * chose.
 */
export const bankMatch = pgTable(
  'bank_match',
  {
    id: uuid('id').primaryKey(),
    lineId: uuid('line_id').notNull().references(() => bankLine.id),
    explanation: text('explanation').$type<Explanation>().notNull(),
    step: text('step').$type<MatchStep>(),
    score: integer('score'),
    reasons: jsonb('reasons').$type<MatchReason[]>().notNull(),
    parts: jsonb('parts').$type<MatchPart[]>().notNull(),
    /** The settlement that a line brings. */
    settlementId: uuid('settlement_id'),
    /** The refunds that left, or came back, with a line. */
    refunds: jsonb('refunds').$type<string[]>().notNull().default([]),
    by: uuid('by').notNull().references(() => principal.id),
    at: at('at').notNull(),
    undoneBy: uuid('undone_by').references(() => principal.id),
    undoneAt: at('undone_at'),
  },
  t => [uniqueIndex('bank_match_in_force').on(t.lineId).where(sql`${t.undoneAt} is null`), index('bank_match_by_step').on(t.step),
    index('bank_match_by_settlement').on(t.settlementId).where(sql`${t.settlementId} is not null`)],
)

/** A payout of the gateway, as its settlement file tells it. */
export const settlement = pgTable('settlement', {
  id: uuid('id').primaryKey(),
  reference: text('reference').notNull().unique(),
  on: text('settled_on').notNull(),
  currency: text('currency').notNull(),
  gross: minorUnits('gross').notNull(),
  charges: minorUnits('charges').notNull(),
  net: minorUnits('net').notNull(),
  lines: integer('lines').notNull(),
  digest: text('digest').notNull(),
  sha256: text('sha256').notNull().references(() => file.sha256),
  by: uuid('by').notNull().references(() => principal.id),
  at: at('at').notNull(),
})

/** One order within a payout. */
export const settlementLine = pgTable('settlement_line', {
  settlementId: uuid('settlement_id').notNull().references(() => settlement.id),
  position: integer('position').notNull(),
  gatewayOrder: text('gateway_order').notNull(),
  gross: minorUnits('gross').notNull(),
  charge: minorUnits('charge').notNull(),
  fault: text('fault').$type<SettlementFault>(),
}, t => [uniqueIndex('settlement_line_place').on(t.settlementId, t.position), index('settlement_line_by_order').on(t.gatewayOrder)])

/** A payment file that was made for the bank. */
export const paymentFile = pgTable('payment_file', {
  id: uuid('id').primaryKey(),
  accountId: uuid('account_id').notNull().references(() => bankAccount.id),
  /** Named in the file, and by the bank on its statement. */
  reference: text('reference').notNull().unique(),
  currency: text('currency').notNull(),
  payments: integer('payments').notNull(),
  sum: minorUnits('sum').notNull(),
  sha256: text('sha256').notNull().references(() => file.sha256),
  by: uuid('by').notNull().references(() => principal.id),
  at: at('at').notNull(),
})

export const refundStates = ['proposed', 'approved', 'withdrawn', 'sent', 'left', 'returned'] as const
export type RefundState = typeof refundStates[number]

/** Where what is owed back to an applicant may go, as they have said it last. */
export const refundAccount = pgTable('refund_account', {
  applicationId: uuid('application_id').primaryKey().references(() => application.id, { onDelete: 'cascade' }),
  payee: text('payee').notNull(),
  number: text('number').notNull(),
  by: uuid('by').notNull().references(() => principal.id),
  at: at('at').notNull(),
})

/**
 * Money that goes back to whoever paid too much: proposed by one person, approved by another, and sent through the gateway, or in a file
 * until a statement shows that it has left.
 */
export const refund = pgTable(
  'refund',
  {
    id: uuid('id').primaryKey(),
    /** Named in the payment file, and by the bank on its statement. */
    reference: text('reference').notNull().unique(),
    /** Whose money it is; nobody's where it came on a line, or with an event of the gateway, that nobody's due explains. */
    applicationId: uuid('application_id').references(() => application.id),
    lineId: uuid('line_id').references(() => bankLine.id),
    eventId: text('event_id'),
    amount: minorUnits('amount').notNull(),
    currency: text('currency').notNull(),
    /** The order that it goes back to, where it goes back through the gateway; else payee and number say to whom. */
    gatewayOrder: text('gateway_order'),
    payee: text('payee').notNull(),
    number: text('number').notNull(),
    reason: text('reason').notNull(),
    state: text('state').$type<RefundState>().notNull(),
    by: uuid('by').notNull().references(() => principal.id),
    at: at('at').notNull(),
    /** Who approved it or laid it aside. */
    settledBy: uuid('settled_by').references(() => principal.id),
    settledAt: at('settled_at'),
    fileId: uuid('file_id').references(() => paymentFile.id),
  },
  t => [index('refund_by_application').on(t.applicationId), index('refund_by_state').on(t.state, t.at),
    index('refund_by_order').on(t.gatewayOrder),
    uniqueIndex('refund_of_event').on(t.eventId).where(sql`${t.state} not in ('withdrawn', 'returned')`)],
)

/** A day that was closed, one for each currency: what was on the accounts then, and what explained it. */
export const dayClosing = pgTable('day_closing', {
  id: uuid('id').primaryKey(),
  on: text('day').notNull(),
  currency: text('currency').notNull(),
  view: jsonb('view').$type<ClosingView>().notNull(),
  note: text('note').notNull(),
  by: uuid('by').notNull().references(() => principal.id),
  at: at('at').notNull(),
}, t => [uniqueIndex('day_closing_once').on(t.on, t.currency)])

/** The simulated bank's own book: what each day brought. */
export const standinBankDay = pgTable('standin_bank_day', {
  account: text('account').notNull(),
  sequence: integer('sequence').notNull(),
  made: jsonb('made').$type<MadeStatement>().notNull(),
  at: at('at').notNull(),
}, t => [uniqueIndex('standin_bank_day_once').on(t.account, t.sequence)])

/**
 * A paid deposit slip as its payer has handed it in: where, when and how much, with the picture of the paper. `arrived` of its money stands
 * on statements since; one that waits and whose money came first has arrived, too.
 */
export const depositSlip = pgTable('deposit_slip', {
  id: uuid('id').primaryKey(),
  applicationId: uuid('application_id').notNull().references(() => application.id),
  cycle: text('cycle').notNull(),
  amount: minorUnits('amount').notNull(),
  currency: text('currency').notNull(),
  branch: text('branch').notNull(),
  /** The bank's own number of the deposit; empty where the paper has none. */
  bankReference: text('bank_reference').notNull(),
  paidOn: text('paid_on').notNull(),
  sha256: text('sha256').notNull(),
  pages: jsonb('pages').$type<{ sha256: string, width: number, height: number }[]>().notNull(),
  state: text('state').$type<SlipState>().notNull(),
  arrived: minorUnits('arrived').notNull().default(0),
  by: uuid('by').notNull().references(() => principal.id),
  at: at('at').notNull(),
  decidedBy: uuid('decided_by').references(() => principal.id),
  decidedAt: at('decided_at'),
  reason: text('reason'),
}, t => [
  uniqueIndex('deposit_slip_one_waiting').on(t.applicationId).where(sql`${t.state} = 'waiting'`),
  index('deposit_slip_by_application').on(t.applicationId, t.at),
  index('deposit_slip_waiting').on(t.cycle, t.at, t.id).where(sql`${t.state} = 'waiting'`),
  index('deposit_slip_awaited').on(t.applicationId).where(sql`${t.state} = 'confirmed' and ${t.arrived} < ${t.amount}`),
  index('deposit_slip_same').on(t.sha256),
  index('deposit_slip_alike').on(t.paidOn, t.amount),
])
