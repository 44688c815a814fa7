import { and, eq, inArray, isNull, sql } from 'drizzle-orm'
import { unmatchedFaults } from '../../../core/fees/gateway-event'
import { owedBackLines, reversed } from '../../../core/fees/ledger'
import type { RefundInput } from '../../../shared/bank'
import { grouped } from '../../../shared/grouped'
import { refusal } from '../../../shared/refusal'
import type { Executor } from '../../database/client'
import { bankLine, bankMatch, gatewayEvent, refund } from '../../database/schema'
import type { Context } from '../context'
import { bookAlone } from '../fees/book'
import { lockApplications } from '../fees/receive'
import { spelledIn } from './accounts'
import { writeMatches } from './writing'

export type RefundRow = typeof refund.$inferSelect
/** Whose money goes back, how much of it and, where it is known by itself, the way. */
export interface Source extends Pick<RefundRow, 'applicationId' | 'lineId' | 'eventId' | 'amount' | 'currency' | 'gatewayOrder'> {
  cycle: string | null
}

interface Owed extends Record<string, unknown> {
  id: string
  number: string
  name: string
  currency: string
  owed: string
  under: string
}
/** What is owed back, and what of it a refund is on its way for. */
export async function owedBack(tx: Executor, only: string | null): Promise<Owed[]> {
  const { rows } = await tx.execute<Owed>(sql`
    select a.id, a.number, a.display_name as name, t.currency, -sum(l.amount) as owed,
      coalesce((select sum(r.amount) from refund r where r.application_id = a.id and r.currency = t.currency and r.state in ('proposed', 'approved')), 0) as under
    from ledger_line l join ledger_transaction t on t.id = l.transaction_id join application a on a.id = t.application_id
    where l.account = 'refunds payable' ${
    only ? sql`and a.id = ${only}` : sql``
  } group by a.id, t.currency having sum(l.amount) < 0 order by a.number limit 500`)
  return rows
}

interface OrderLeft extends Record<string, unknown> {
  application: string
  order: string
  currency: string
  left: string
  part: string | null
}
/**
 * What the gateway can still give back of what it charged for applications: order by order, the newest first. Of an order that was paid for
 * several, no more than the part of each.
 */
export async function ordersLeft(
  tx: Executor,
  applications: readonly string[],
): Promise<Map<string, { order: string, currency: string, left: number }[]>> {
  if (applications.length === 0) return new Map()
  const { rows } = await tx.execute<OrderLeft>(sql`
    select p.application_id as application, p.gateway_order as "order", p.currency,
      coalesce((select sum(case e.outcome when 'charged' then e.amount else -e.amount end) from gateway_event e where e.gateway_order = p.gateway_order and e.currency = p.currency
        and e.outcome in ('charged', 'charged back') and coalesce(e.fault, '') not in ('told otherwise before', 'currency', 'back without charge')), 0)
      - coalesce((select sum(r.amount) from refund r where r.gateway_order = p.gateway_order and r.state not in ('withdrawn', 'returned')), 0) as left,
      case when exists (select 1 from payment o where o.gateway_order = p.gateway_order and o.application_id <> p.application_id)
        then p.amount - coalesce((select sum(r.amount) from refund r where r.gateway_order = p.gateway_order and r.application_id = p.application_id and r.state not in ('withdrawn', 'returned')), 0) end as part
    from payment p where p.application_id = any(${sql.param([...applications])}::uuid[]) order by p.opened_at desc`)
  const some = rows.map(row => ({
    application: row.application,
    order: row.order,
    currency: row.currency,
    left: row.part === null ? Number(row.left) : Math.min(Number(row.left), Number(row.part)),
  })).filter(row => row.left > 0)
  return grouped(some, row => row.application)
}

/** Where the money of a proposed refund lies. @throws ProblemError where there is not so much of it, or it is nobody's only by name. */
export async function sourceOf(tx: Executor, context: Context, refundId: string, given: RefundInput): Promise<Source> {
  if ('line' in given) return ofLine(tx, context, refundId, given.line)
  return 'event' in given ? ofEvent(tx, given.event) : ofApplication(tx, given)
}

async function ofApplication(tx: Executor, given: Extract<RefundInput, { application: string }>): Promise<Source> {
  const { application: applicationId, amount } = given
  const row = (await lockApplications(tx, [applicationId])).get(applicationId)
  if (!row) throw refusal('application.unknown')
  const [owed] = await owedBack(tx, applicationId)
  const [all, under] = [Number(owed?.owed ?? 0), Number(owed?.under ?? 0)]
  const currency = owed?.currency ?? ''
  if (!owed || amount > all - under) {
    throw refusal('refund.too-much', {
      number: row.number,
      owed: spelledIn(currency, all),
      under: spelledIn(currency, under),
      amount: spelledIn(currency, amount),
    })
  }
  const gatewayOrder = 'order' in given ? given.order : null
  if (gatewayOrder !== null) {
    const left = (await ordersLeft(tx, [applicationId])).get(applicationId)?.find(one =>
      one.order === gatewayOrder && one.currency === currency
    )?.left ?? 0
    if (amount > left) {
      throw refusal('refund.order', { order: gatewayOrder, left: spelledIn(currency, left), amount: spelledIn(currency, amount) })
    }
  }
  return { applicationId, lineId: null, eventId: null, amount, currency, gatewayOrder, cycle: row.cycle }
}

async function ofLine(tx: Executor, context: Context, refundId: string, lineId: string): Promise<Source> {
  const [line] = await tx.select().from(bankLine).where(eq(bankLine.id, lineId)).for('update')
  if (!line) throw refusal('line.unknown')
  if (line.state !== 'open' || line.amount <= 0) throw refusal('refund.line')
  await writeMatches(tx, context, [{
    id: context.newId(),
    lineId,
    explanation: 'sent back',
    step: null,
    score: null,
    reasons: [],
    parts: [],
    settlementId: null,
    refunds: [refundId],
  }])
  return { applicationId: null, lineId, eventId: null, amount: line.amount, currency: line.currency, gatewayOrder: null, cycle: null }
}

async function ofEvent(tx: Executor, eventId: string): Promise<Source> {
  const [event] = await tx.select().from(gatewayEvent)
    .where(and(eq(gatewayEvent.eventId, eventId), eq(gatewayEvent.outcome, 'charged'), inArray(gatewayEvent.fault, [...unmatchedFaults])))
    .for('update')
  const [under] = event
    ? await tx.select({ id: refund.id }).from(refund)
      .where(and(eq(refund.eventId, eventId), sql`${refund.state} not in ('withdrawn', 'returned')`))
    : []
  if (!event?.amount || !event.currency || under) throw refusal('refund.event')
  return {
    applicationId: null,
    lineId: null,
    eventId,
    amount: event.amount,
    currency: event.currency,
    gatewayOrder: event.gatewayOrder,
    cycle: null,
  }
}

/** Money that nobody's due explains is owed back from the moment that this is proposed. */
export async function oweBack(
  tx: Executor,
  context: Context,
  { id, amount, currency }: Pick<RefundRow, 'id' | 'amount' | 'currency'>,
): Promise<void> {
  await bookAlone(tx, context, {
    applicationId: null,
    source: `refund:${id}:unmatched`,
    kind: 'refund',
    currency,
    lines: owedBackLines(amount),
  })
}

/** And it waits for an explanation again once such a refund was laid aside or came back. */
export async function oweNoMore(tx: Executor, context: Context, rows: readonly RefundRow[]): Promise<void> {
  for (const { id, applicationId, lineId, amount, currency } of rows) {
    if (applicationId !== null) continue
    await bookAlone(tx, context, {
      applicationId: null,
      source: `refund:${id}:unmatched:back`,
      kind: 'refund',
      currency,
      lines: reversed(owedBackLines(amount)),
    })
    if (lineId === null) continue
    await tx.update(bankMatch).set({ undoneBy: context.principal.id, undoneAt: context.now() })
      .where(and(eq(bankMatch.lineId, lineId), isNull(bankMatch.undoneAt)))
    await tx.update(bankLine).set({ state: 'open' }).where(eq(bankLine.id, lineId))
  }
}
