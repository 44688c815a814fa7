import { and, eq, inArray, lte, sql } from 'drizzle-orm'
import { product } from '../../../core/access/principal'
import { receiptLines } from '../../../core/fees/ledger'
import { spellAmount } from '../../../core/fees/assess'
import type { FeesView } from '../../../shared/fees'
import { refusal } from '../../../shared/problem'
import type { Executor } from '../../database/client'
import { application, gatewayEvent, ledgerLine, ledgerTransaction, payment } from '../../database/schema'
import type { GatewayEvent, PaymentGateway } from '../../standins/gateway'
import { actingOn, carryOut, carryOutOn } from '../acts/carry-out'
import type { Given } from '../acts/given'
import type { Caller, Context } from '../context'
import type { ApplicationRow } from '../applications/store'
import { book, currentAssessment, feeStateOf } from './assessments'
import { receivedFor } from './received'

export interface OpenedPayment { id: string, order: string, amount: number, expiresAt: string }

/**
 * Opens a payment of what is still due. While one is open the same one is given again: a double press on Pay opens no
 * second payment. A payment whose time has run out is settled with the gateway first.
 */
export async function openPayment(caller: Caller, gateway: PaymentGateway, applicationId: string, given: Given = {}): Promise<OpenedPayment> {
  const context = await caller.authorise('fees.collect', { application: applicationId })
  await askGateway(context, gateway, applicationId, 'overdue')
  const carried = await carryOut<Opened>(caller, 'start-payment', applicationId, given, async ({ tx, row, notice }) => {
    const amount = await stillDue(tx, row)
    const id = context.newId()
    const openedAt = context.now()
    const [made] = await tx.insert(payment).values({
      id, applicationId, amount, currency: notice.body.currency.code, state: 'open', gatewayOrder: `${row.number}.${id.slice(0, 8)}`,
      openedAt, expiresAt: new Date(openedAt.getTime() + notice.fees.paymentWindowSeconds * 1000),
    }).returning()
    if (!made) throw refusal('payment.not-opened')
    return { result: { open: made, row }, after: { order: made.gatewayOrder, amount } }
  }, async (row, tx) => {
    const [open] = await tx.select().from(payment).where(and(eq(payment.applicationId, applicationId), eq(payment.state, 'open')))
    if (open) return { open, row }
    // Says what is due in amounts, before the rule says it in a word.
    if (row.fee !== 'due') await stillDue(tx, row)
    return undefined
  })
  if (!carried.isDone) throw refusal('payment.not-opened')
  // After the commit: the gateway must never hold an order that we do not know. Opening it twice does no harm.
  const { open, row } = carried.result
  await gateway.open({ id: open.gatewayOrder, amount: open.amount, currency: open.currency, description: `${row.number} ${row.displayName}`, returnTo: context.principal.kind === 'candidate' ? `/own/${row.id}` : `/intake/${row.id}` })
  return { id: open.id, order: open.gatewayOrder, amount: open.amount, expiresAt: open.expiresAt.toISOString() }
}

interface Opened { open: typeof payment.$inferSelect, row: ApplicationRow }

async function stillDue(tx: Executor, row: ApplicationRow): Promise<number> {
  const assessed = await currentAssessment(tx, row.id)
  if (!assessed) throw refusal('payment.not-assessed', { number: row.number })
  const received = await receivedFor(tx, row.id)
  const due = assessed.assessment.total - received
  const { total, currency } = assessed.assessment
  if (due <= 0) throw refusal('payment.nothing-due', { number: row.number, received: spellAmount(received, currency), total: spellAmount(total, currency) })
  return due
}

/**
 * Takes an event of the gateway. Each event counts once, however often it is delivered, and money that comes in after
 * the time has run out is booked all the same: never twice, never dropped.
 */
export async function receiveGatewayEvent(caller: Caller, gateway: PaymentGateway, event: GatewayEvent): Promise<{ counted: boolean }> {
  return takeEvent(await caller.authorise('clock.act'), gateway, event)
}

async function takeEvent(context: Context, gateway: PaymentGateway, event: GatewayEvent): Promise<{ counted: boolean }> {
  if (!gateway.isGenuine(event)) throw refusal('payment.unsigned')
  return context.db.transaction(async (tx) => {
    const [found] = await tx.select().from(payment).where(eq(payment.gatewayOrder, event.order))
    if (!found) throw refusal('payment.order-unknown', { order: event.order })
    const acting = await actingOn(tx, context, found.applicationId)
    const { row } = acting
    const [seen] = await tx.insert(gatewayEvent)
      .values({ eventId: event.eventId, gatewayOrder: event.order, outcome: event.outcome, firstAt: context.now() })
      .onConflictDoUpdate({ target: gatewayEvent.eventId, set: { deliveries: sql`${gatewayEvent.deliveries} + 1` } }).returning()
    if ((seen?.deliveries ?? 1) > 1) return { counted: false }
    const isCharged = event.outcome === 'charged'
    await carryOutOn(acting, isCharged ? 'payment-settled' : 'payment-refused', {}, async () => {
      if (isCharged) await book(tx, context, row.id, `gateway:${event.order}`, receiptLines(event.amount))
      await tx.update(payment).set({ state: isCharged ? 'succeeded' : 'failed', closedAt: context.now() }).where(eq(payment.id, found.id))
      return { result: null, outcome: { fee: await feeStateOf(tx, context, row.id) }, before: { state: found.state }, after: { order: event.order, amount: event.amount, event: event.eventId }, tell: { amount: event.amount } }
    })
    return { counted: true }
  })
}

/**
 * Asks the gateway what became of open payments, all of them or only those whose time has run out. What it charged or
 * declined is taken as if its event had come; an overdue order that it knows nothing final of is given up, and if its
 * money comes later it is still booked.
 */
async function askGateway(asker: Context, gateway: PaymentGateway, applicationId: string, which: 'all' | 'overdue'): Promise<{ answered: number }> {
  // What the gateway answers is taken by the product, whoever had it asked.
  const context: Context = { ...asker, principal: product }
  const open = await context.db.select().from(payment).where(and(eq(payment.applicationId, applicationId), eq(payment.state, 'open')))
  const now = context.now()
  const asked = open.filter(p => which === 'all' || p.expiresAt <= now)
  let answered = 0
  for (const one of asked) {
    const event = await gateway.query(one.gatewayOrder)
    if (event) {
      await takeEvent(context, gateway, event)
      answered += 1
    } else if (one.expiresAt <= now) await expire(context, one)
  }
  return { answered }
}

async function expire(context: Context, overdue: { id: string, applicationId: string }): Promise<void> {
  await context.db.transaction(async (tx) => {
    const acting = await actingOn(tx, context, overdue.applicationId)
    const [closed] = await tx.update(payment).set({ state: 'expired', closedAt: context.now() })
      .where(and(eq(payment.id, overdue.id), eq(payment.state, 'open'))).returning()
    if (!closed) return
    await carryOutOn(acting, 'payment-ended', {}, async () => ({ result: null, outcome: { fee: await feeStateOf(tx, context, acting.row.id) }, before: { state: 'open' }, after: { order: closed.gatewayOrder, state: 'expired' } }))
  })
}

/** The desk's question about one application. */
export async function reconcilePayments(caller: Caller, gateway: PaymentGateway, applicationId: string): Promise<{ answered: number }> {
  return askGateway(await caller.authorise('fees.reconcile'), gateway, applicationId, 'all')
}

/** Settles every overdue payment of all cycles with the gateway; for the timer. At most `limit` at a time. */
export async function sweepOverduePayments(caller: Caller, gateway: PaymentGateway, limit = 500): Promise<number> {
  const context = await caller.authorise('clock.act')
  const overdue = await context.db.select({ applicationId: payment.applicationId }).from(payment)
    .where(and(eq(payment.state, 'open'), lte(payment.expiresAt, context.now()))).limit(limit)
  for (const one of overdue) await askGateway(context, gateway, one.applicationId, 'overdue')
  return overdue.length
}

/** The accounts' page: balances (which sum to zero), applications by state of the fee, payments that hang. */
export async function feesOverview(caller: Caller, cycle: string): Promise<FeesView> {
  const context = await caller.authorise('fees.read', { cycle })
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
