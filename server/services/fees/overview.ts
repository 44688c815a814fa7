import { and, desc, eq, isNotNull, isNull, or, sql } from 'drizzle-orm'
import { unmatchedFaults } from '../../../core/fees/gateway-event'
import type { LedgerAccount } from '../../../core/fees/ledger'
import type { FeesView } from '../../../shared/fees'
import type { Executor } from '../../database/client'
import { application, gatewayEvent, payment } from '../../database/schema'
import type { Caller } from '../context'
import type { ApplicationRow } from '../applications/store'
import { countsUnder } from '../roster/tally'

/**
 * The accounts' page: balances (which sum to zero), applications by state of the fee, payments that hang, events of the gateway that did
 * not fit.
 */
export async function feesOverview(caller: Caller, cycle: string): Promise<FeesView> {
  const context = await caller.authorise('fees.read', { cycle })
  const [balances, states] = [await countsUnder(context.db, cycle, 'ledger:'), await countsUnder(context.db, cycle, 'fee:')]
  const waiting = await context.db.select().from(payment).innerJoin(application, eq(application.id, payment.applicationId))
    .where(and(eq(application.cycle, cycle), eq(payment.state, 'open'))).orderBy(payment.openedAt).limit(200)
  return {
    accounts: [...balances].map(([tag, balance]) => ({
      account: tag.split(':')[1] as LedgerAccount,
      currency: tag.split(':')[0] ?? '',
      balance,
    })).sort((a, b) => a.currency < b.currency ? -1 : a.currency > b.currency ? 1 : a.account < b.account ? -1 : 1),
    states: [...states].map(([fee, count]) => ({ fee: fee as ApplicationRow['fee'], count })),
    misfits: await misfitsOf(context.db, cycle),
    waiting: waiting.map(w => ({
      applicationId: w.application.id,
      number: w.application.number,
      name: w.application.displayName,
      order: w.payment.gatewayOrder,
      amount: w.payment.amount,
      openedAt: w.payment.openedAt.toISOString(),
    })),
  }
}

/** Events that did not fit, the newest first: of a cycle's orders, and of orders that nobody knows. */
async function misfitsOf(db: Executor, cycle: string): Promise<FeesView['misfits']> {
  const goingBack = sql<
    boolean
  >`exists (select 1 from refund r where r.event_id = ${gatewayEvent.eventId} and r.state not in ('withdrawn', 'returned'))`
  const wanted = sql<string | null>`(select sum(p.amount) from payment p where p.gateway_order = ${gatewayEvent.gatewayOrder})`
  const rows = await db.select({ event: gatewayEvent, wanted, application, isGoingBack: goingBack }).from(gatewayEvent).leftJoin(
    payment,
    sql`${payment.id} = (select p.id from payment p where p.gateway_order = ${gatewayEvent.gatewayOrder} order by p.application_id limit 1)`,
  ).leftJoin(application, eq(application.id, payment.applicationId))
    .where(and(isNotNull(gatewayEvent.fault), or(eq(application.cycle, cycle), isNull(application.id)))).orderBy(desc(gatewayEvent.firstAt))
    .limit(200)
  return rows.flatMap(({ event, wanted: asked, application: of, isGoingBack }) =>
    event.fault === null
      ? []
      : [{
        fault: event.fault,
        event: event.eventId,
        order: event.gatewayOrder,
        outcome: event.outcome as 'charged' | 'declined' | 'charged back',
        amount: event.amount ?? 0,
        currency: event.currency ?? '',
        wanted: asked === null ? null : Number(asked),
        isOpen: event.outcome === 'charged' && (event.amount ?? 0) > 0 && unmatchedFaults.includes(event.fault) && !isGoingBack,
        applicationId: of?.id ?? null,
        name: of?.displayName ?? null,
        at: event.firstAt.toISOString(),
      }]
  )
}
