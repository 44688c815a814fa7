import { sql } from 'drizzle-orm'
import { bigint, index, integer, jsonb, pgTable, primaryKey, text, timestamp, uniqueIndex, uuid } from 'drizzle-orm/pg-core'
import type { Assessment } from '../../../core/fees/assess'
import type { EventFault } from '../../../core/fees/gateway-event'
import type { PayingWay } from '../../../core/notice/schema'
import type { LedgerAccount, TransactionKind } from '../../../core/fees/ledger'
import type { GatewayAct, GatewayMethod } from '../../standins/gateway-acts'
import { application } from './applications'

const at = (name: string) => timestamp(name, { withTimezone: true, mode: 'date' })
const minorUnits = (name: string) => bigint(name, { mode: 'number' })

/** What was assessed, each time it changed; the newest version is in force. */
export const feeAssessment = pgTable('fee_assessment', {
  id: uuid('id').primaryKey(),
  applicationId: uuid('application_id').notNull().references(() => application.id),
  version: integer('version').notNull(),
  assessment: jsonb('assessment').$type<Assessment>().notNull(),
  at: at('at').notNull(),
  /** The version of the notice whose schedule it is by; none for those from before it was kept. */
  noticeVersion: integer('notice_version'),
}, t => [uniqueIndex('fee_assessment_version').on(t.applicationId, t.version)])

export type PaymentState = 'open' | 'succeeded' | 'failed' | 'expired'

/**
 * One attempt to pay through the gateway, for one application. At most one is open for each; several that are paid together share an order
 * of the gateway.
 */
export const payment = pgTable('payment', {
  id: uuid('id').primaryKey(),
  applicationId: uuid('application_id').notNull().references(() => application.id),
  /** What the gateway is to charge: what is due, and what the way of paying costs on top. */
  amount: minorUnits('amount').notNull(),
  way: text('way').$type<PayingWay>(),
  charge: minorUnits('charge').notNull().default(0),
  tax: minorUnits('tax').notNull().default(0),
  currency: text('currency').notNull(),
  state: text('state').$type<PaymentState>().notNull(),
  gatewayOrder: text('gateway_order').notNull(),
  openedAt: at('opened_at').notNull(),
  expiresAt: at('expires_at').notNull(),
  closedAt: at('closed_at'),
}, t => [
  index('payment_by_application').on(t.applicationId, t.openedAt),
  index('payment_open').on(t.openedAt).where(sql`${t.state} = 'open'`),
  uniqueIndex('payment_by_order').on(t.gatewayOrder, t.applicationId),
  uniqueIndex('payment_one_open').on(t.applicationId).where(sql`${t.state} = 'open'`),
])

/** What the gateway told, as it came: one row for each different content of an event, however often it was delivered. */
export const gatewayEvent = pgTable('gateway_event', {
  eventId: text('event_id').notNull(),
  /** SHA-256 of what was told. A second content under one id is a fault. */
  digest: text('digest').notNull(),
  gatewayOrder: text('gateway_order').notNull(),
  outcome: text('outcome').notNull(),
  amount: minorUnits('amount'),
  currency: text('currency'),
  /** What did not fit; accounts look at it. */
  fault: text('fault').$type<EventFault>(),
  deliveries: integer('deliveries').notNull().default(1),
  firstAt: at('first_at').notNull(),
}, t => [
  primaryKey({ columns: [t.eventId, t.digest] }),
  index('gateway_event_by_order').on(t.gatewayOrder),
  index('gateway_event_with_fault').on(t.firstAt).where(sql`${t.fault} is not null`),
])

/** Money moved: lines of one transaction sum to zero (held by a trigger), one transaction per source (held by a key). */
export const ledgerTransaction = pgTable(
  'ledger_transaction',
  {
    id: uuid('id').primaryKey(),
    /** Whom it concerns; nobody as long as nobody's due explains the money. */
    applicationId: uuid('application_id').references(() => application.id),
    source: text('source').notNull(),
    kind: text('kind').$type<TransactionKind>().notNull(),
    currency: text('currency').notNull(),
    at: at('at').notNull(),
  },
  t => [uniqueIndex('ledger_transaction_source').on(t.source), index('ledger_transaction_by_application').on(t.applicationId),
    index('ledger_transaction_by_time').on(t.at, t.id)],
)

export const ledgerLine = pgTable('ledger_line', {
  id: uuid('id').primaryKey(),
  transactionId: uuid('transaction_id').notNull().references(() => ledgerTransaction.id),
  account: text('account').$type<LedgerAccount>().notNull(),
  amount: minorUnits('amount').notNull(),
}, t => [index('ledger_line_by_transaction').on(t.transactionId), index('ledger_line_by_account').on(t.account)])

/** What the simulated gateway has given back of its orders: asked for by the office, or taken again by a payer's bank. */
export const standinGatewayRefund = pgTable('standin_gateway_refund', {
  reference: text('reference').primaryKey(),
  gatewayOrder: text('gateway_order').notNull(),
  amount: minorUnits('amount').notNull(),
  currency: text('currency').notNull(),
  state: text('state').$type<'paid back' | 'refused'>().notNull(),
  at: at('at').notNull(),
  /** The payout that was less by it. */
  payout: text('payout'),
}, t => [index('standin_gateway_refund_by_order').on(t.gatewayOrder)])

/** The simulated gateway's own book: what it would know if it were a company elsewhere. */
export const standinGatewayOrder = pgTable('standin_gateway_order', {
  id: text('id').primaryKey(),
  amount: minorUnits('amount').notNull(),
  currency: text('currency').notNull(),
  description: text('description').notNull(),
  returnTo: text('return_to').notNull(),
  state: text('state').$type<'open' | 'charged' | 'declined' | 'expired'>().notNull(),
  eventId: text('event_id'),
  /** Before when it has to be paid, where the office said so. */
  endsAt: at('ends_at'),
  /** What was really taken, where that is not what was asked for. */
  charged: minorUnits('charged'),
  method: text('method').$type<GatewayMethod>(),
  /** What becomes of it once the payer's bank has asked for its word, that word, and how often it was wrong. */
  pending: text('pending').$type<GatewayAct>(),
  bankWord: text('bank_word'),
  wrongWords: integer('wrong_words').notNull().default(0),
  at: at('at').notNull(),
  /** The payout that it went into. */
  payout: text('payout'),
})

/** Calls that the simulated gateway still has to make at the office, or has made. */
export const standinGatewayCall = pgTable('standin_gateway_call', {
  id: uuid('id').primaryKey(),
  gatewayOrder: text('gateway_order').notNull(),
  body: text('body').notNull(),
  signature: text('signature').notNull(),
  dueAt: at('due_at').notNull(),
  tries: integer('tries').notNull().default(0),
  doneAt: at('done_at'),
}, t => [index('standin_gateway_call_due').on(t.dueAt).where(sql`${t.doneAt} is null`)])
