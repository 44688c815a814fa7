import { createHash } from 'node:crypto'
import { desc, eq, inArray, sql } from 'drizzle-orm'
import { settlementLines } from '../../../core/fees/ledger'
import type { SettlementFault, SettlementView, TakenSettlements } from '../../../shared/bank'
import { refusal } from '../../../shared/refusal'
import { readSettlements, type Payout } from '../../../statements/settlement'
import type { Executor } from '../../database/client'
import { locks } from '../../database/locks'
import { bankMatch, settlement, settlementLine } from '../../database/schema'
import { log, type Caller, type Context } from '../context'
import { bringFile, keepFile } from '../files/bytes'
import { namesOf } from '../people/names'
import { book } from '../fees/book'

type SettlementRow = typeof settlement.$inferSelect

/**
 * Takes a settlement file of the gateway: each payout is booked once, from what the gateway holds to what the bank is to bring, and every
 * order in it is compared with what the gateway told. What does not fit is booked as it was paid out, and listed.
 */
export async function takeSettlements(caller: Caller, bytes: Buffer): Promise<TakenSettlements> {
  const context = await caller.authorise('bank.work')
  const payouts = await readSettlements(bytes)
  const brought = await bringFile(context.db, bytes)
  const taken = await context.db.transaction(async (tx) => {
    await locks.bankAccount(tx, 'settlements')
    const sha256 = await keepFile(tx, brought)
    const rows: SettlementRow[] = []
    for (const payout of payouts) {
      const row = await takeOne(tx, context, payout, sha256)
      if (row) rows.push(row)
    }
    return rows
  })
  return { taken: await viewsOf(context.db, taken), repeated: payouts.length - taken.length }
}

async function takeOne(tx: Executor, context: Context, payout: Payout, sha256: string): Promise<SettlementRow | null> {
  const { reference, on, currency, orders } = payout
  const digest = createHash('sha256').update(JSON.stringify(payout)).digest('hex')
  const [same] = await tx.select({ digest: settlement.digest }).from(settlement).where(eq(settlement.reference, reference))
  if (same && same.digest !== digest) throw refusal('statement.otherwise', { identification: reference })
  if (same) return null
  const gross = orders.reduce((sum, order) => sum + order.gross, 0)
  const charges = orders.reduce((sum, order) => sum + order.charge, 0)
  const [row] = await tx.insert(settlement).values({
    id: context.newId(),
    reference,
    on,
    currency,
    gross,
    charges,
    net: gross - charges,
    lines: orders.length,
    digest,
    sha256,
    by: context.principal.id,
    at: context.now(),
  }).returning()
  if (!row) throw refusal('statement.unknown')
  const faults = await faultsOf(tx, payout)
  await tx.execute(sql`
    insert into settlement_line (settlement_id, position, gateway_order, gross, charge, fault)
    select ${row.id}, position, "order", gross, charge, fault
    from jsonb_to_recordset(${
    JSON.stringify(orders.map((order, position) => ({ ...order, position, fault: faults[position] })))
  }::jsonb) as line(position integer, "order" text, gross bigint, charge bigint, fault text)`)
  if (gross !== 0 || charges !== 0) {
    await book(tx, context, {
      applicationId: null,
      source: `settlement:${reference}`,
      kind: 'settlement',
      currency,
      lines: settlementLines(gross, charges),
    })
  }
  await log(tx, context, 'read-settlement', {
    subject: { kind: 'office', id: 'bank' },
    after: { settlement: row.id, reference, gross, charges, lines: orders.length, faults: faults.filter(fault => fault !== null).length },
  })
  return row
}

/** What of each order does not fit what the gateway told of it; what it keeps back is held against refunds and charge-backs. */
async function faultsOf(tx: Executor, { orders, currency }: Payout): Promise<(SettlementFault | null)[]> {
  const wanted = sql.param([...new Set(orders.map(one => one.order))])
  const { rows } = await tx.execute<
    { order: string, charged: string, back: string, keptBack: string, known: boolean, settled: boolean }
  >(sql`
    select o.order, (select coalesce(sum(e.amount), 0) from gateway_event e where e.gateway_order = o.order and e.outcome = 'charged' and e.currency = ${currency} and coalesce(e.fault, '') <> 'told otherwise before') as charged,
      (select coalesce(sum(e.amount), 0) from gateway_event e where e.gateway_order = o.order and e.outcome = 'charged back' and e.currency = ${currency} and coalesce(e.fault, '') not in ('told otherwise before', 'back without charge'))
        + (select coalesce(sum(r.amount), 0) from refund r where r.gateway_order = o.order and r.currency = ${currency} and r.state in ('sent', 'left')) as back,
      (select coalesce(-sum(s.gross), 0) from settlement_line s where s.gateway_order = o.order and s.gross < 0) as "keptBack",
      exists (select 1 from payment p where p.gateway_order = o.order) as known, exists (select 1 from settlement_line s where s.gateway_order = o.order and s.gross >= 0) as settled
    from unnest(${wanted}::text[]) as o("order")`)
  const found = new Map(rows.map(row => [row.order, row]))
  const seen = new Set<string>()
  const keptBack = new Map(rows.map(row => [row.order, Number(row.keptBack)]))
  return orders.map(({ order, gross }) => {
    const one = found.get(order)
    if (gross < 0 && one?.known) {
      const before = keptBack.get(order) ?? 0
      keptBack.set(order, before - gross)
      if (Number(one.back) === 0) return 'not given back'
      return before - gross <= Number(one.back) ? null : before >= Number(one.back) ? 'settled before' : 'amount'
    }
    const isRepeated = seen.has(order) || (one?.settled ?? false)
    seen.add(order)
    if (!one?.known) return 'order unknown'
    if (isRepeated) return 'settled before'
    if (Number(one.charged) === 0) return 'not charged'
    return Number(one.charged) === gross ? null : 'amount'
  })
}

/** Payouts, the newest first, with whether the bank has brought them. */
export async function listSettlements(caller: Caller): Promise<SettlementView[]> {
  const { db } = await caller.authorise('bank.read')
  return viewsOf(db, await db.select().from(settlement).orderBy(desc(settlement.on), desc(settlement.at)).limit(100))
}

async function viewsOf(db: Executor, rows: readonly SettlementRow[]): Promise<SettlementView[]> {
  if (rows.length === 0) return []
  const ids = rows.map(row => row.id)
  const name = await namesOf(db, rows.map(row => row.by))
  const faults = await db.select().from(settlementLine)
    .where(sql`${settlementLine.settlementId} = any(${sql.param(ids)}::uuid[]) and ${settlementLine.fault} is not null`).limit(1000)
  const brought =
    new Set((await db.select({ id: bankMatch.settlementId }).from(bankMatch)
      .where(sql`${inArray(bankMatch.settlementId, ids)} and ${bankMatch.undoneAt} is null`)).map(row => row.id))
  return rows.map(({ id, reference, on, currency, gross, charges, net, lines, by, at }) => ({
    id,
    reference,
    on,
    currency,
    gross,
    charges,
    net,
    lines,
    isBrought: brought.has(id),
    by: name(by),
    at: at.toISOString(),
    faults: faults.flatMap(fault =>
      fault.settlementId === id && fault.fault !== null ? [{ order: fault.gatewayOrder, gross: fault.gross, fault: fault.fault }] : []
    ),
  }))
}
