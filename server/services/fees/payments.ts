import { createHash } from 'node:crypto'
import { and, desc, eq, isNotNull, isNull, lte, or, sql } from 'drizzle-orm'
import { product } from '../../../core/access/principal'
import { cheapestOf, costCarried, payingCosts, type ChannelCharge, type WayCost } from '../../../core/fees/channel'
import { dealtOut } from '../../../core/fees/together'
import { readEvent, unmatchedFaults, type EventFault, type EventReading } from '../../../core/fees/gateway-event'
import { receiptLines, reversed, unmatchedLines, type LedgerAccount } from '../../../core/fees/ledger'
import { spellAmount } from '../../../core/fees/assess'
import { openAfter } from '../../../core/fees/order'
import type { FeeSchedule, PayingWay } from '../../../core/notice/schema'
import type { FeesView } from '../../../shared/fees'
import { ProblemError, refusal } from '../../../shared/problem'
import type { Executor } from '../../database/client'
import { inTurn } from '../../database/gate'
import { locks } from '../../database/locks'
import { application, gatewayEvent, payment } from '../../database/schema'
import type { GatewayDelivery, GatewayEvent, PaymentGateway } from '../../standins/gateway'
import { actingOn, carryOut, carryOutOn, type Acting } from '../acts/carry-out'
import type { Given } from '../acts/given'
import type { Caller, Context } from '../context'
import type { ApplicationRow } from '../applications/store'
import { currentAssessment, feeStateOf, reassess, reassessDraft } from './assessments'
import { movePaidCorrections } from '../corrections/paid'
import { countsUnder } from '../roster/tally'
import { book, type Posting } from './book'
import { lockApplications } from './receive'
import { moneyOf } from './received'

/** A payment that is open; `page` is where the payer goes. */
export interface OpenedPayment { id: string, order: string, amount: number, expiresAt: string, page: string }

/**
 * Opens a payment of what is still due, and of what the way of paying costs on top. While one is open the same one is given again: a double press on Pay opens no
 * second payment. A payment whose time has run out is settled with the gateway first.
 *
 * @throws ProblemError `payment.way` for a way that the notice does not offer; where none is named, the one that costs least is taken.
 */
export async function openPayment(caller: Caller, gateway: PaymentGateway, applicationId: string, { way, ...given }: Given & { way?: PayingWay } = {}): Promise<OpenedPayment> {
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
      id, applicationId, amount, way: cost?.way, charge, tax, currency: notice.body.currency.code, state: 'open', gatewayOrder: `${row.number}.${id.slice(0, 8)}`,
      openedAt, expiresAt: new Date(openedAt.getTime() + notice.fees.paymentWindowSeconds * 1000),
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

interface AtGateway { open: Pick<PaymentRow, 'id' | 'gatewayOrder' | 'currency' | 'way' | 'expiresAt'>, row: Pick<ApplicationRow, 'id' | 'number' | 'displayName'> }

/** Opens the order of a payment at the gateway, whole: for all who are paid for together. */
export async function openAtGateway(context: Context, gateway: PaymentGateway, { open, row }: AtGateway): Promise<OpenedPayment> {
  const parts = await context.db.select({ amount: payment.amount, number: application.number }).from(payment).innerJoin(application, eq(application.id, payment.applicationId)).where(eq(payment.gatewayOrder, open.gatewayOrder)).orderBy(application.number)
  const amount = parts.reduce((sum, part) => sum + part.amount, 0)
  const isAlone = parts.length === 1
  const page = isAlone ? row.id : ''
  // After the commit: the gateway must never hold an order that we do not know. Opening it twice does no harm.
  const description = isAlone ? `${row.number} ${row.displayName}` : parts.map(part => part.number).join(', ').slice(0, 300)
  const returnTo = context.principal.kind === 'candidate' ? `/own/${page}` : isAlone ? `/intake/${page}` : '/fees'
  await gateway.open({ id: open.gatewayOrder, amount, currency: open.currency, description, method: open.way ?? undefined, returnTo, endsAt: open.expiresAt.toISOString() })
  return { id: open.id, order: open.gatewayOrder, amount, expiresAt: open.expiresAt.toISOString(), page: gateway.pageOf(open.gatewayOrder) }
}

export function costOf(fees: FeeSchedule, due: number, way: PayingWay | undefined): WayCost | null {
  const costs = payingCosts(fees, due)
  const chosen = way === undefined ? cheapestOf(costs) : costs.find(one => one.way === way)
  if (!chosen && (costs.length > 0 || way !== undefined)) throw refusal('payment.way', { way: way ?? '' })
  return chosen ?? null
}

type PaymentRow = typeof payment.$inferSelect
interface Opened { open: PaymentRow, row: ApplicationRow }

export async function stillDue(tx: Executor, context: Context, row: ApplicationRow): Promise<number> {
  const assessed = await currentAssessment(tx, row.id)
  if (!assessed) throw refusal('payment.not-assessed', { number: row.number })
  const money = (await moneyOf(tx, context, [row.id])).get(row.id)
  const received = money?.received ?? 0
  const due = assessed.assessment.total + (money?.held ?? 0) - received
  const { total, currency } = assessed.assessment
  if (due <= 0) throw refusal('payment.nothing-due', { number: row.number, received: spellAmount(received, currency), total: spellAmount(total, currency) })
  return due
}

/**
 * Takes an event of the gateway. Each event counts once, however often it is delivered, and money that was really taken is booked all the same, late, wrong or for
 * an order that nobody knows: never twice, never dropped. What does not fit is listed for accounts.
 */
export async function receiveGatewayEvent(caller: Caller, gateway: PaymentGateway, delivery: GatewayDelivery): Promise<{ counted: boolean }> {
  const context = await caller.authorise('clock.act')
  return takeEvent(context, gateway.read(delivery))
}

const digestOf = ({ eventId, order, outcome, amount, currency }: GatewayEvent) => createHash('sha256').update(JSON.stringify([eventId, order, outcome, amount, currency])).digest('hex')
/** Of events from before their content was kept. */
const notKept = 'not kept'

async function takeEvent(context: Context, event: GatewayEvent): Promise<{ counted: boolean }> {
  const { eventId, order, outcome, amount, currency } = event
  const digest = digestOf(event)
  return inTurn(() => context.db.transaction(async (tx) => {
    await locks.gatewayEvent(tx, eventId)
    const told = await tx.select().from(gatewayEvent).where(eq(gatewayEvent.eventId, eventId))
    const same = told.find(one => one.digest === digest || one.digest === notKept)
    if (same) {
      await tx.update(gatewayEvent).set({ deliveries: sql`${gatewayEvent.deliveries} + 1` }).where(and(eq(gatewayEvent.eventId, eventId), eq(gatewayEvent.digest, same.digest)))
      return { counted: false }
    }
    const keep = (fault: EventFault | null) => tx.insert(gatewayEvent).values({ eventId, digest, gatewayOrder: order, outcome, amount, currency, fault, firstAt: context.now() })
    if (told.length > 0) {
      await keep('told otherwise before')
      return { counted: false }
    }
    const parts = await tx.select().from(payment).where(eq(payment.gatewayOrder, order)).orderBy(payment.applicationId)
    await lockApplications(tx, parts.map(part => part.applicationId))
    const [first] = parts
    const reading = readEvent(event, first ? { amount: parts.reduce((sum, part) => sum + part.amount, 0), currency: first.currency, isCharged: await isCharged(tx, order) } : null)
    const [came, back] = [await toldOf(tx, order, 'charged'), await toldOf(tx, order, 'charged back')]
    await keep(reading.fault)
    if (reading.money === 'unmatched') await book(tx, context, { applicationId: first?.applicationId ?? null, source: `gateway-event:${eventId}`, kind: 'receipt', currency, lines: unmatchedLines(amount) })
    const shares = reading.money === 'due' || reading.money === 'back' ? dealtOut(parts.map(part => part.amount), reading.money === 'due' ? came : back, amount) : parts.map(() => 0)
    for (const [place, part] of parts.entries()) {
      const share = shares[place] ?? 0
      const lines = reading.money === 'back' ? reversed(receiptLines(share)) : receiptLines(share)
      const posting: Posting | null = share > 0 ? { applicationId: part.applicationId, source: parts.length === 1 ? `gateway-event:${eventId}` : `gateway-event:${eventId}:${part.id}`, kind: reading.money === 'back' ? 'charge-back' : 'receipt', currency, lines } : null
      await settlePayment(await actingOn(tx, context, part.applicationId), part, { ...event, amount: share }, reading, posting, back + amount >= came)
      if (posting) await movePaidCorrections(tx, context, [part.applicationId])
    }
    return { counted: true }
  }))
}

/** Whether an order was told to be charged, some money and in its own currency. Of older events no amount was kept. */
async function isCharged(tx: Executor, order: string): Promise<boolean> {
  const [row] = await tx.select({ id: gatewayEvent.eventId }).from(gatewayEvent).where(and(
    eq(gatewayEvent.gatewayOrder, order), eq(gatewayEvent.outcome, 'charged'), sql`coalesce(${gatewayEvent.amount}, 1) > 0`,
    sql`coalesce(${gatewayEvent.fault}, '') not in ('currency', 'told otherwise before')`,
  )).limit(1)
  return row !== undefined
}

/** What was told to be charged for an order in all, or to have gone back, in minor units of its own currency. */
async function toldOf(tx: Executor, order: string, outcome: 'charged' | 'charged back'): Promise<number> {
  const [row] = await tx.select({ sum: sql<string | null>`sum(${gatewayEvent.amount})` }).from(gatewayEvent).where(and(eq(gatewayEvent.gatewayOrder, order), eq(gatewayEvent.outcome, outcome), sql`coalesce(${gatewayEvent.fault}, '') not in ('currency', 'told otherwise before', 'back without charge')`))
  return Number(row?.sum ?? 0)
}

/** What an event does to one of those whom its order was opened for; the event's amount is theirs. `isAllBack`: nothing of what came for the order is left. */
async function settlePayment(acting: Acting, found: PaymentRow, event: GatewayEvent, reading: EventReading, posting: Posting | null, isAllBack: boolean): Promise<void> {
  const { tx, context, row } = acting
  if (reading.fault === 'declined after charged' || reading.fault === 'back without charge') return
  if (reading.money === 'back') return posting ? takeChargeBack(acting, event, posting, isAllBack) : undefined
  const [state, act] = posting ? ['succeeded', 'payment-settled'] as const : ['failed', event.outcome === 'declined' ? 'payment-refused' : 'payment-ended'] as const
  await carryOutOn(acting, act, {}, async () => {
    const channelCharges = posting && reading.fault !== 'charged again' ? await carriedWith(acting, found, event.amount) : null
    // What is kept for the way of paying becomes due with the money that carries it.
    if (channelCharges) await reassess(acting, { ...row, channelCharges })
    if (posting) await book(tx, context, posting)
    // What was charged once stays charged, whatever else is told of the order.
    if (found.state !== 'succeeded') await tx.update(payment).set({ state, closedAt: context.now() }).where(eq(payment.id, found.id))
    const fee = await feeStateOf(tx, context, row.id)
    const { order, amount, currency, eventId } = event
    return {
      result: null, outcome: { fee }, columns: channelCharges ? { channelCharges } : {}, before: { state: found.state },
      after: { order, amount, event: eventId, ...(reading.fault ? { currency, fault: reading.fault } : {}) }, tell: { amount, open: openAfter(fee, row.form) },
    }
  })
}

/** All that was paid for ways of paying once this order is charged; null where nothing comes to it. */
async function carriedWith({ tx, context, row }: Acting, { way, charge, tax, gatewayOrder }: PaymentRow, amount: number): Promise<ChannelCharge[] | null> {
  if (!way || charge + tax === 0) return null
  const { assessed, held, received } = (await moneyOf(tx, context, [row.id])).get(row.id) ?? { assessed: 0, held: 0, received: 0 }
  const carried = costCarried({ way, charge, tax }, amount, (assessed ?? 0) + held - received)
  return carried.charge + carried.tax > 0 ? [...row.channelCharges, { order: gatewayOrder, ...carried }] : null
}

/** Money that an applicant's bank took again: the fee is due as before, and a card that is out does not hold until somebody lets it go. */
async function takeChargeBack(acting: Acting, { order, amount, eventId }: GatewayEvent, posting: Posting, isAllBack: boolean): Promise<void> {
  const { tx, context, row } = acting
  await carryOutOn(acting, 'payment-charged-back', {}, async () => {
    await book(tx, context, posting)
    // What was paid for the way of paying went back with all of the money.
    const channelCharges = isAllBack ? row.channelCharges.filter(one => one.order !== order) : row.channelCharges
    if (channelCharges.length < row.channelCharges.length) await reassess(acting, { ...row, channelCharges })
    const fee = await feeStateOf(tx, context, row.id)
    const holdsCard = row.card === 'issued' || row.card === 'replaced'
    return { result: null, outcome: { fee }, columns: { channelCharges, ...holdsCard ? { cardHold: 'charged back' } : {} }, before: { fee: row.fee }, after: { order, amount, event: eventId, fee }, tell: { amount } }
  })
}

/**
 * Asks the gateway what became of open payments, all of them or only those whose time has run out. What it charged or
 * declined is taken as if its event had come; an overdue order that it knows nothing final of is given up, and if its
 * money comes later it is still booked.
 */
export async function askGateway(asker: Context, gateway: PaymentGateway, applicationId: string, which: 'all' | 'overdue'): Promise<{ answered: number }> {
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

/** The accounts' page: balances (which sum to zero), applications by state of the fee, payments that hang, events of the gateway that did not fit. */
export async function feesOverview(caller: Caller, cycle: string): Promise<FeesView> {
  const context = await caller.authorise('fees.read', { cycle })
  const [balances, states] = [await countsUnder(context.db, cycle, 'ledger:'), await countsUnder(context.db, cycle, 'fee:')]
  const waiting = await context.db.select().from(payment).innerJoin(application, eq(application.id, payment.applicationId))
    .where(and(eq(application.cycle, cycle), eq(payment.state, 'open'))).orderBy(payment.openedAt).limit(200)
  return {
    accounts: [...balances].map(([tag, balance]) => ({ account: tag.split(':')[1] as LedgerAccount, currency: tag.split(':')[0] ?? '', balance })).sort((a, b) => a.currency < b.currency ? -1 : a.currency > b.currency ? 1 : a.account < b.account ? -1 : 1),
    states: [...states].map(([fee, count]) => ({ fee: fee as ApplicationRow['fee'], count })),
    misfits: await misfitsOf(context.db, cycle),
    waiting: waiting.map(w => ({
      applicationId: w.application.id, number: w.application.number, name: w.application.displayName,
      order: w.payment.gatewayOrder, amount: w.payment.amount, openedAt: w.payment.openedAt.toISOString(),
    })),
  }
}

/** Events that did not fit, the newest first: of a cycle's orders, and of orders that nobody knows. */
async function misfitsOf(db: Executor, cycle: string): Promise<FeesView['misfits']> {
  const goingBack = sql<boolean>`exists (select 1 from refund r where r.event_id = ${gatewayEvent.eventId} and r.state not in ('withdrawn', 'returned'))`
  const wanted = sql<string | null>`(select sum(p.amount) from payment p where p.gateway_order = ${gatewayEvent.gatewayOrder})`
  const rows = await db.select({ event: gatewayEvent, wanted, application, isGoingBack: goingBack }).from(gatewayEvent)
    .leftJoin(payment, sql`${payment.id} = (select p.id from payment p where p.gateway_order = ${gatewayEvent.gatewayOrder} order by p.application_id limit 1)`).leftJoin(application, eq(application.id, payment.applicationId))
    .where(and(isNotNull(gatewayEvent.fault), or(eq(application.cycle, cycle), isNull(application.id)))).orderBy(desc(gatewayEvent.firstAt)).limit(200)
  return rows.flatMap(({ event, wanted: asked, application: of, isGoingBack }) => event.fault === null
    ? []
    : [{
        fault: event.fault, event: event.eventId, order: event.gatewayOrder, outcome: event.outcome as 'charged' | 'declined' | 'charged back', amount: event.amount ?? 0, currency: event.currency ?? '',
        wanted: asked === null ? null : Number(asked), isOpen: event.outcome === 'charged' && (event.amount ?? 0) > 0 && unmatchedFaults.includes(event.fault) && !isGoingBack, applicationId: of?.id ?? null, name: of?.displayName ?? null, at: event.firstAt.toISOString(),
      }])
}
