import { createHash } from 'node:crypto'
import { and, eq, sql } from 'drizzle-orm'
import { costCarried, type ChannelCharge } from '../../../core/fees/channel'
import { dealtOut } from '../../../core/fees/together'
import { readEvent, type EventFault, type EventReading } from '../../../core/fees/gateway-event'
import { receiptLines, reversed, unmatchedLines } from '../../../core/fees/ledger'
import { openAfter } from '../../../core/fees/order'
import type { Executor } from '../../database/client'
import { inTurn } from '../../database/gate'
import { locks } from '../../database/locks'
import { gatewayEvent, payment } from '../../database/schema'
import type { GatewayDelivery, GatewayEvent, PaymentGateway } from '../../standins/gateway'
import { actingOn, carryOutOn, type Acting } from '../acts/carry-out'
import type { Caller, Context } from '../context'
import { feeStateOf, reassess } from './assessments'
import { movePaidCorrections } from '../corrections/paid'
import { book, type Posting } from './book'
import { lockApplications } from './receive'
import { moneyOf } from './received'

export type PaymentRow = typeof payment.$inferSelect

/**
 * Takes an event of the gateway. Each event counts once, however often it is delivered, and money that was really taken is booked all the
 * same, late, wrong or for an order that nobody knows: never twice, never dropped. What does not fit is listed for accounts.
 */
export async function receiveGatewayEvent(
  caller: Caller,
  gateway: PaymentGateway,
  delivery: GatewayDelivery,
): Promise<{ counted: boolean }> {
  const context = await caller.authorise('clock.act')
  return takeEvent(context, gateway.read(delivery))
}

const digestOf = ({ eventId, order, outcome, amount, currency }: GatewayEvent) =>
  createHash('sha256').update(JSON.stringify([eventId, order, outcome, amount, currency])).digest('hex')

/** Of events from before their content was kept. */
const notKept = 'not kept'

export async function takeEvent(context: Context, event: GatewayEvent): Promise<{ counted: boolean }> {
  const { eventId, order, outcome, amount, currency } = event
  const digest = digestOf(event)
  return inTurn(() =>
    context.db.transaction(async (tx) => {
      await locks.gatewayEvent(tx, eventId)
      const told = await tx.select().from(gatewayEvent).where(eq(gatewayEvent.eventId, eventId))
      const same = told.find(one => one.digest === digest || one.digest === notKept)
      if (same) {
        await tx.update(gatewayEvent).set({ deliveries: sql`${gatewayEvent.deliveries} + 1` })
          .where(and(eq(gatewayEvent.eventId, eventId), eq(gatewayEvent.digest, same.digest)))
        return { counted: false }
      }
      const keep = (fault: EventFault | null) =>
        tx.insert(gatewayEvent).values({ eventId, digest, gatewayOrder: order, outcome, amount, currency, fault, firstAt: context.now() })
      if (told.length > 0) {
        await keep('told otherwise before')
        return { counted: false }
      }
      const parts = await tx.select().from(payment).where(eq(payment.gatewayOrder, order)).orderBy(payment.applicationId)
      await lockApplications(tx, parts.map(part => part.applicationId))
      const [first] = parts
      const reading = readEvent(
        event,
        first
          ? { amount: parts.reduce((sum, part) => sum + part.amount, 0), currency: first.currency, isCharged: await isCharged(tx, order) }
          : null,
      )
      const [came, back] = [await toldOf(tx, order, 'charged'), await toldOf(tx, order, 'charged back')]
      await keep(reading.fault)
      if (reading.money === 'unmatched') {
        await book(tx, context, {
          applicationId: first?.applicationId ?? null,
          source: `gateway-event:${eventId}`,
          kind: 'receipt',
          currency,
          lines: unmatchedLines(amount),
        })
      }
      const shares = reading.money === 'due' || reading.money === 'back'
        ? dealtOut(parts.map(part => part.amount), reading.money === 'due' ? came : back, amount)
        : parts.map(() => 0)
      for (const [place, part] of parts.entries()) {
        const share = { ...event, amount: shares[place] ?? 0 }
        const posting = share.amount > 0 ? postingOf(share, part, parts.length, reading.money === 'back') : null
        await settlePayment(await actingOn(tx, context, part.applicationId), part, share, reading, posting, back + amount >= came)
        if (posting) await movePaidCorrections(tx, context, [part.applicationId])
      }
      return { counted: true }
    })
  )
}

/** What of an order of several parts is booked for one of them. */
function postingOf({ eventId, amount, currency }: GatewayEvent, part: PaymentRow, parts: number, isBack: boolean): Posting {
  return {
    applicationId: part.applicationId,
    source: parts === 1 ? `gateway-event:${eventId}` : `gateway-event:${eventId}:${part.id}`,
    kind: isBack ? 'charge-back' : 'receipt',
    currency,
    lines: isBack ? reversed(receiptLines(amount)) : receiptLines(amount),
  }
}

/** Whether an order was told to be charged, some money and in its own currency. Of older events no amount was kept. */
async function isCharged(tx: Executor, order: string): Promise<boolean> {
  const [row] = await tx.select({ id: gatewayEvent.eventId }).from(gatewayEvent).where(and(
    eq(gatewayEvent.gatewayOrder, order),
    eq(gatewayEvent.outcome, 'charged'),
    sql`coalesce(${gatewayEvent.amount}, 1) > 0`,
    sql`coalesce(${gatewayEvent.fault}, '') not in ('currency', 'told otherwise before')`,
  )).limit(1)
  return row !== undefined
}

/** What was told to be charged for an order in all, or to have gone back, in minor units of its own currency. */
async function toldOf(tx: Executor, order: string, outcome: 'charged' | 'charged back'): Promise<number> {
  const [row] = await tx.select({ sum: sql<string | null>`sum(${gatewayEvent.amount})` }).from(gatewayEvent).where(and(
    eq(gatewayEvent.gatewayOrder, order),
    eq(gatewayEvent.outcome, outcome),
    sql`coalesce(${gatewayEvent.fault}, '') not in ('currency', 'told otherwise before', 'back without charge')`,
  ))
  return Number(row?.sum ?? 0)
}

/**
 * What an event does to one of those whom its order was opened for; the event's amount is theirs. `isAllBack`: nothing of what came for the
 * order is left.
 */
async function settlePayment(
  acting: Acting,
  found: PaymentRow,
  event: GatewayEvent,
  reading: EventReading,
  posting: Posting | null,
  isAllBack: boolean,
): Promise<void> {
  const { tx, context, row } = acting
  if (reading.fault === 'declined after charged' || reading.fault === 'back without charge') return
  if (reading.money === 'back') return posting ? takeChargeBack(acting, event, posting, isAllBack) : undefined
  const [state, act] = posting
    ? ['succeeded', 'payment-settled'] as const
    : ['failed', event.outcome === 'declined' ? 'payment-refused' : 'payment-ended'] as const
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
      result: null,
      outcome: { fee },
      columns: channelCharges ? { channelCharges } : {},
      before: { state: found.state },
      after: { order, amount, event: eventId, ...(reading.fault ? { currency, fault: reading.fault } : {}) },
      tell: { amount, open: openAfter(fee, row.form) },
    }
  })
}

/** All that was paid for ways of paying once this order is charged; null where nothing comes to it. */
async function carriedWith(
  { tx, context, row }: Acting,
  { way, charge, tax, gatewayOrder }: PaymentRow,
  amount: number,
): Promise<ChannelCharge[] | null> {
  if (!way || charge + tax === 0) return null
  const { assessed, held, received } = (await moneyOf(tx, context, [row.id])).get(row.id) ?? { assessed: 0, held: 0, received: 0 }
  const carried = costCarried({ way, charge, tax }, amount, (assessed ?? 0) + held - received)
  return carried.charge + carried.tax > 0 ? [...row.channelCharges, { order: gatewayOrder, ...carried }] : null
}

/** Money that an applicant's bank took again: the fee is due as before, and a card that is out does not hold until somebody lets it go. */
async function takeChargeBack(
  acting: Acting,
  { order, amount, eventId }: GatewayEvent,
  posting: Posting,
  isAllBack: boolean,
): Promise<void> {
  const { tx, context, row } = acting
  await carryOutOn(acting, 'payment-charged-back', {}, async () => {
    await book(tx, context, posting)
    // What was paid for the way of paying went back with all of the money.
    const channelCharges = isAllBack ? row.channelCharges.filter(one => one.order !== order) : row.channelCharges
    if (channelCharges.length < row.channelCharges.length) await reassess(acting, { ...row, channelCharges })
    const fee = await feeStateOf(tx, context, row.id)
    const holdsCard = row.card === 'issued' || row.card === 'replaced'
    return {
      result: null,
      outcome: { fee },
      columns: { channelCharges, ...holdsCard ? { cardHold: 'charged back' } : {} },
      before: { fee: row.fee },
      after: { order, amount, event: eventId, fee },
      tell: { amount },
    }
  })
}
