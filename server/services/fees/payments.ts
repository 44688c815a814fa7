import { and, eq, lte } from 'drizzle-orm'
import { product } from '../../../core/access/principal'
import { cheapestOf, payingCosts, type WayCost } from '../../../core/fees/channel'
import { spellAmount } from '../../../core/fees/assess'
import type { FeeSchedule, PayingWay } from '../../../core/notice/schema'
import { ProblemError } from '../../../shared/problem'
import { refusal } from '../../../shared/refusal'
import type { Executor } from '../../database/client'
import { application, payment } from '../../database/schema'
import type { PaymentGateway } from '../../standins/gateway'
import { actingOn, carryOut, carryOutOn } from '../acts/carry-out'
import type { Given } from '../acts/given'
import type { Caller, Context } from '../context'
import type { ApplicationRow } from '../applications/store'
import { currentAssessment, feeStateOf, reassessDraft } from './assessments'
import { moneyOf } from './received'
import { takeEvent, type PaymentRow } from './events'

/** A payment that is open; `page` is where the payer goes. */
export interface OpenedPayment {
  id: string
  order: string
  amount: number
  expiresAt: string
  page: string
}

/**
 * Opens a payment of what is still due, and of what the way of paying costs on top. While one is open the same one is given again: a double
 * press on Pay opens no second payment. A payment whose time has run out is settled with the gateway first.
 *
 * @throws ProblemError `payment.way` for a way that the notice does not offer; where none is named, the one that costs least is taken.
 */
export async function openPayment(
  caller: Caller,
  gateway: PaymentGateway,
  applicationId: string,
  { way, ...given }: Given & { way?: PayingWay } = {},
): Promise<OpenedPayment> {
  const context = await caller.authorise('fees.collect', { application: applicationId })
  if (!gateway.isSet) throw refusal('payment.no-gateway')
  await askGateway(context, gateway, applicationId, 'overdue')
  const carried = await carryOut<Opened>(caller, 'start-payment', applicationId, given, async (acting) => {
    const { tx, row, notice } = acting
    // Of a form that is still being filled in, the fee is that of this moment.
    const assessed = await reassessDraft(acting, row)
    const due = await stillDue(tx, context, row)
    const cost = costOf(notice.fees, due, way)
    const [charge, tax] = [cost?.charge ?? 0, cost?.tax ?? 0]
    const amount = due + charge + tax
    const id = context.newId()
    const openedAt = context.now()
    const [made] = await tx.insert(payment).values({
      id,
      applicationId,
      amount,
      way: cost?.way,
      charge,
      tax,
      currency: notice.body.currency.code,
      state: 'open',
      gatewayOrder: `${row.number}.${id.slice(0, 8)}`,
      openedAt,
      expiresAt: new Date(openedAt.getTime() + notice.fees.paymentWindowSeconds * 1000),
    }).returning()
    if (!made) throw refusal('payment.not-opened')
    return { result: { open: made, row }, columns: assessed.columns, after: { order: made.gatewayOrder, amount, ...cost } }
  }, async (row, tx) => {
    const [open] = await tx.select().from(payment).where(and(eq(payment.applicationId, applicationId), eq(payment.state, 'open')))
    if (open) return { open, row }
    // Says what is due in amounts, before the rule says it in a word.
    if (row.fee !== 'due') await stillDue(tx, context, row)
    return undefined
  })
  if (!carried.isDone) throw refusal('payment.not-opened')
  return openAtGateway(context, gateway, carried.result)
}

interface AtGateway {
  open: Pick<PaymentRow, 'id' | 'gatewayOrder' | 'currency' | 'way' | 'expiresAt'>
  row: Pick<ApplicationRow, 'id' | 'number' | 'displayName'>
}

/** Opens the order of a payment at the gateway, whole: for all who are paid for together. */
export async function openAtGateway(context: Context, gateway: PaymentGateway, { open, row }: AtGateway): Promise<OpenedPayment> {
  const parts = await context.db.select({ amount: payment.amount, number: application.number }).from(payment).innerJoin(
    application,
    eq(application.id, payment.applicationId),
  ).where(eq(payment.gatewayOrder, open.gatewayOrder)).orderBy(application.number)
  const amount = parts.reduce((sum, part) => sum + part.amount, 0)
  const isAlone = parts.length === 1
  const page = isAlone ? row.id : ''
  // After the commit: the gateway must never hold an order that we do not know. Opening it twice does no harm.
  const description = isAlone ? `${row.number} ${row.displayName}` : parts.map(part => part.number).join(', ').slice(0, 300)
  const returnTo = context.principal.kind === 'candidate' ? `/own/${page}` : isAlone ? `/intake/${page}` : '/fees'
  await gateway.open({
    id: open.gatewayOrder,
    amount,
    currency: open.currency,
    description,
    method: open.way ?? undefined,
    returnTo,
    endsAt: open.expiresAt.toISOString(),
  })
  return { id: open.id, order: open.gatewayOrder, amount, expiresAt: open.expiresAt.toISOString(), page: gateway.pageOf(open.gatewayOrder) }
}

export function costOf(fees: FeeSchedule, due: number, way: PayingWay | undefined): WayCost | null {
  const costs = payingCosts(fees, due)
  const chosen = way === undefined ? cheapestOf(costs) : costs.find(one => one.way === way)
  if (!chosen && (costs.length > 0 || way !== undefined)) throw refusal('payment.way', { way: way ?? '' })
  return chosen ?? null
}

interface Opened {
  open: PaymentRow
  row: ApplicationRow
}

export async function stillDue(tx: Executor, context: Context, row: ApplicationRow): Promise<number> {
  const assessed = await currentAssessment(tx, row.id)
  if (!assessed) throw refusal('payment.not-assessed', { number: row.number })
  const money = (await moneyOf(tx, context, [row.id])).get(row.id)
  const received = money?.received ?? 0
  const due = assessed.assessment.total + (money?.held ?? 0) - received
  const { total, currency } = assessed.assessment
  if (due <= 0) {
    throw refusal('payment.nothing-due', {
      number: row.number,
      received: spellAmount(received, currency),
      total: spellAmount(total, currency),
    })
  }
  return due
}

/**
 * Asks the gateway what became of open payments, all of them or only those whose time has run out. What it charged or
 * declined is taken as if its event had come; an overdue order that it knows nothing final of is given up, and if its
 * money comes later it is still booked.
 */
export async function askGateway(
  asker: Context,
  gateway: PaymentGateway,
  applicationId: string,
  which: 'all' | 'overdue',
): Promise<{ answered: number }> {
  // What the gateway answers is taken by the product, whoever had it asked.
  const context: Context = { ...asker, principal: product }
  const open = await context.db.select().from(payment).where(and(eq(payment.applicationId, applicationId), eq(payment.state, 'open')))
  const now = context.now()
  const asked = open.filter(p => which === 'all' || p.expiresAt <= now)
  let answered = 0
  for (const one of asked) {
    const event = await gateway.query(one.gatewayOrder)
    if (event) {
      await takeEvent(context, event)
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
    await carryOutOn(
      acting,
      'payment-ended',
      {},
      async () => ({
        result: null,
        outcome: { fee: await feeStateOf(tx, context, acting.row.id) },
        before: { state: 'open' },
        after: { order: closed.gatewayOrder, state: 'expired' },
      }),
    )
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
  for (const one of overdue) {
    // A gateway that does not answer has decided nothing: the payment stays open until it says what became of it.
    const isSilent = await askGateway(context, gateway, one.applicationId, 'overdue').then(() => false, (error: unknown) => {
      if (error instanceof ProblemError && error.problem.code === 'payment.gateway-silent') return true
      throw error
    })
    if (isSilent) return 0
  }
  return overdue.length
}
