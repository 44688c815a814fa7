import { and, eq, inArray, lte, sql } from 'drizzle-orm'
import { receiptLines } from '../../../core/fees/ledger'
import { spellAmount } from '../../../core/fees/assess'
import type { FeesView } from '../../../shared/fees'
import { ProblemError } from '../../../shared/problem'
import type { Executor } from '../../database/client'
import { application, gatewayEvent, ledgerLine, ledgerTransaction, payment } from '../../database/schema'
import type { GatewayEvent, PaymentGateway } from '../../standins/gateway'
import { audit, demand, type Context } from '../context'
import { lockApplication, saveTracks, type ApplicationRow } from '../applications/store'
import { currentNotice } from '../notice/notices'
import { book, currentAssessment, feeStateOf, receivedFor } from './assessments'

export interface OpenedPayment { id: string, order: string, amount: number, expiresAt: string }

/**
 * Opens a payment of what is still due. While one is open the same one is given again: a double press on Pay opens no
 * second payment. A payment whose time has run out is settled with the gateway first.
 */
export async function openPayment(context: Context, gateway: PaymentGateway, applicationId: string): Promise<OpenedPayment> {
  demand(context, 'fees.collect')
  await askGateway(context, gateway, applicationId, 'overdue')
  const opened = await context.db.transaction(async (tx) => {
    const row = await lockApplication(tx, applicationId)
    const [open] = await tx.select().from(payment).where(and(eq(payment.applicationId, applicationId), eq(payment.state, 'open')))
    if (open) return { open, row }
    const amount = await stillDue(tx, row)
    const { notice } = await currentNotice(tx, row.cycle)
    const id = context.newId()
    const openedAt = context.now()
    const [made] = await tx.insert(payment).values({
      id, applicationId, amount, currency: notice.body.currency.code, state: 'open', gatewayOrder: `${row.number}.${id.slice(0, 8)}`,
      openedAt, expiresAt: new Date(openedAt.getTime() + notice.fees.paymentWindowSeconds * 1000),
    }).returning()
    if (!made) throw new ProblemError('fault', 'The payment could not be opened. Nothing was charged; try again.')
    await saveTracks(tx, context, row, { fee: 'confirming' })
    await audit(tx, context, 'open payment', `application:${row.number}`, null, { order: made.gatewayOrder, amount })
    return { open: made, row }
  })
  // After the commit: the gateway must never hold an order that we do not know. Opening it twice does no harm.
  const { open, row } = opened
  await gateway.open({ id: open.gatewayOrder, amount: open.amount, currency: open.currency, description: `${row.number} ${row.displayName}`, returnTo: `/intake/${row.id}` })
  return { id: open.id, order: open.gatewayOrder, amount: open.amount, expiresAt: open.expiresAt.toISOString() }
}

async function stillDue(tx: Executor, row: ApplicationRow): Promise<number> {
  const assessed = await currentAssessment(tx, row.id)
  if (!assessed) throw new ProblemError('not-now', `${row.number} has no assessed fee yet. Submit the form first.`)
  const received = await receivedFor(tx, row.id)
  const due = assessed.assessment.total - received
  if (due <= 0) {
    throw new ProblemError('not-now', `Nothing is due for ${row.number}: ${spellAmount(received, assessed.assessment.currency)} of ${spellAmount(assessed.assessment.total, assessed.assessment.currency)} is in.`)
  }
  return due
}

/**
 * Takes an event of the gateway. Each event counts once, however often it is delivered, and money that comes in after
 * the time has run out is booked all the same: never twice, never dropped.
 */
export async function receiveGatewayEvent(context: Context, gateway: PaymentGateway, event: GatewayEvent): Promise<{ counted: boolean }> {
  if (!gateway.isGenuine(event)) throw new ProblemError('not-allowed', 'The event is not signed by the gateway; it was not counted.')
  return context.db.transaction(async (tx) => {
    const [found] = await tx.select().from(payment).where(eq(payment.gatewayOrder, event.order))
    if (!found) throw new ProblemError('not-found', `No payment has the order "${event.order}".`)
    const row = await lockApplication(tx, found.applicationId)
    const [seen] = await tx.insert(gatewayEvent)
      .values({ eventId: event.eventId, gatewayOrder: event.order, outcome: event.outcome, firstAt: context.now() })
      .onConflictDoUpdate({ target: gatewayEvent.eventId, set: { deliveries: sql`${gatewayEvent.deliveries} + 1` } }).returning()
    if ((seen?.deliveries ?? 1) > 1) return { counted: false }
    if (event.outcome === 'charged') await book(tx, context, row.id, `gateway:${event.order}`, receiptLines(event.amount))
    await tx.update(payment).set({ state: event.outcome === 'charged' ? 'succeeded' : 'failed', closedAt: context.now() }).where(eq(payment.id, found.id))
    await saveTracks(tx, context, row, { fee: await feeStateOf(tx, context, row.id) })
    await audit(tx, context, `payment ${event.outcome}`, `application:${row.number}`, { state: found.state }, { order: event.order, amount: event.amount, event: event.eventId })
    return { counted: true }
  })
}

/**
 * Asks the gateway what became of open payments, all of them or only those whose time has run out. What it charged or
 * declined is taken as if its event had come; an overdue order that it knows nothing final of is given up, and if its
 * money comes later it is still booked.
 */
export async function askGateway(context: Context, gateway: PaymentGateway, applicationId: string, which: 'all' | 'overdue'): Promise<{ answered: number }> {
  const open = await context.db.select().from(payment).where(and(eq(payment.applicationId, applicationId), eq(payment.state, 'open')))
  const now = context.now()
  const asked = open.filter(p => which === 'all' || p.expiresAt <= now)
  let answered = 0
  for (const one of asked) {
    const event = await gateway.query(one.gatewayOrder)
    if (event) {
      await receiveGatewayEvent(context, gateway, event)
      answered += 1
    } else if (one.expiresAt <= now) await expire(context, one)
  }
  return { answered }
}

async function expire(context: Context, overdue: { id: string, applicationId: string }): Promise<void> {
  await context.db.transaction(async (tx) => {
    // The application first, as everywhere: two acts that lock in different orders would wait for each other for ever.
    const row = await lockApplication(tx, overdue.applicationId)
    const [closed] = await tx.update(payment).set({ state: 'expired', closedAt: context.now() })
      .where(and(eq(payment.id, overdue.id), eq(payment.state, 'open'))).returning()
    if (!closed) return
    await saveTracks(tx, context, row, { fee: await feeStateOf(tx, context, row.id) })
    await audit(tx, context, 'payment expired', `application:${row.number}`, { state: 'open' }, { order: closed.gatewayOrder, state: 'expired' })
  })
}

/** The desk's question about one application. */
export async function reconcilePayments(context: Context, gateway: PaymentGateway, applicationId: string): Promise<{ answered: number }> {
  demand(context, 'fees.reconcile')
  return askGateway(context, gateway, applicationId, 'all')
}

/** Settles every overdue payment of all cycles with the gateway; for the timer. At most `limit` at a time. */
export async function sweepOverduePayments(context: Context, gateway: PaymentGateway, limit = 500): Promise<number> {
  const overdue = await context.db.select({ applicationId: payment.applicationId }).from(payment)
    .where(and(eq(payment.state, 'open'), lte(payment.expiresAt, context.now()))).limit(limit)
  for (const one of overdue) await askGateway(context, gateway, one.applicationId, 'overdue')
  return overdue.length
}

/** The accounts' page: balances (which sum to zero), applications by state of the fee, payments that hang. */
export async function feesOverview(context: Context, cycle: string): Promise<FeesView> {
  demand(context, 'read')
  const accounts = await context.db.select({ account: ledgerLine.account, balance: sql<string>`sum(${ledgerLine.amount})` }).from(ledgerLine)
    .innerJoin(ledgerTransaction, eq(ledgerTransaction.id, ledgerLine.transactionId)).innerJoin(application, eq(application.id, ledgerTransaction.applicationId))
    .where(eq(application.cycle, cycle)).groupBy(ledgerLine.account)
  const states = await context.db.select({ fee: application.fee, count: sql<string>`count(*)` }).from(application).where(eq(application.cycle, cycle)).groupBy(application.fee)
  const waiting = await context.db.select().from(payment).innerJoin(application, eq(application.id, payment.applicationId))
    .where(and(eq(application.cycle, cycle), inArray(payment.state, ['open']))).orderBy(payment.openedAt).limit(200)
  return {
    accounts: accounts.map(a => ({ account: a.account, balance: Number(a.balance) })),
    states: states.map(s => ({ fee: s.fee, count: Number(s.count) })),
    waiting: waiting.map(w => ({
      applicationId: w.application.id, number: w.application.number, name: w.application.displayName,
      order: w.payment.gatewayOrder, amount: w.payment.amount, openedAt: w.payment.openedAt.toISOString(),
    })),
  }
}
