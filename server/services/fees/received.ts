import { and, eq, inArray, ne, sql, type SQL } from 'drizzle-orm'
import type { Tracks } from '../../../core/application/tracks'
import { feeState, surplusLines, type LedgerAccount } from '../../../core/fees/ledger'
import type { Executor } from '../../database/client'
import { ledgerLine, ledgerTransaction } from '../../database/schema'
import type { Context } from '../context'

/**
 * Money received for an application and not given back, in minor units: what receipts credited to it, whether it pays a due or is owed
 * back. Where the money lies meanwhile, at a gateway or in a bank, makes no difference.
 */
export async function receivedFor(tx: Executor, applicationId: string): Promise<number> {
  return (await receivedForMany(tx, [applicationId])).get(applicationId) ?? 0
}

const own: LedgerAccount[] = ['receivable', 'refunds payable']

/** The same as an expression, for statements that ask for more besides. */
export function receivedOf(applicationId: string | SQL): SQL {
  return sql`(select coalesce(-sum(l.amount), 0) from ledger_line l join ledger_transaction t on t.id = l.transaction_id
    where t.application_id = ${applicationId} and t.kind <> 'assessment' and l.account in (${
    sql.raw(own.map(account => `'${account}'`).join(', '))
  }))`
}

/** What is wanted, and then held, for a correction under way. */
export function heldOf(applicationId: SQL): SQL {
  return sql`coalesce((select c.holds from correction c where c.application_id = ${applicationId} and c.state in ('unpaid', 'waiting')), 0)`
}

/** The same for many applications; those for whom nothing came are left out. */
export async function receivedForMany(tx: Executor, applicationIds: readonly string[]): Promise<Map<string, number>> {
  if (applicationIds.length === 0) return new Map()
  const rows = await tx.select({ id: ledgerTransaction.applicationId, sum: sql<string>`-sum(${ledgerLine.amount})` }).from(ledgerLine)
    .innerJoin(ledgerTransaction, eq(ledgerTransaction.id, ledgerLine.transactionId)).where(and(
      inArray(ledgerTransaction.applicationId, [...applicationIds]),
      ne(ledgerTransaction.kind, 'assessment'),
      inArray(ledgerLine.account, own),
    )).groupBy(ledgerTransaction.applicationId)
  return new Map(rows.flatMap(row => row.id !== null && Number(row.sum) !== 0 ? [[row.id, Number(row.sum)]] : []))
}

interface Standing extends Record<string, unknown> {
  id: string
  assessed: string | null
  currency: string | null
  received: string
  held: string
  paying: boolean
}
/**
 * Where the money of an application stands: what is assessed (null: never) in which currency, what came in, how much beyond the fee is held
 * for a correction, and whether a payment is on its way.
 */
export interface MoneyStanding {
  assessed: number | null
  currency: string | null
  received: number
  held: number
  isPaying: boolean
}

/** The same of many applications. */
export async function moneyOf(tx: Executor, context: Pick<Context, 'now'>, ids: readonly string[]): Promise<Map<string, MoneyStanding>> {
  const { rows } = await tx.execute<Standing>(sql`
    select a.id, f.assessment ->> 'total' as assessed, f.assessment -> 'currency' ->> 'code' as currency, ${
    receivedOf(sql`a.id`)
  } as received, ${heldOf(sql`a.id`)} as held,
      exists (select 1 from payment p where p.application_id = a.id and p.state = 'open' and p.expires_at > ${context.now().toISOString()}::timestamptz)
        or exists (select 1 from deposit_slip s where s.application_id = a.id and s.state = 'waiting') as paying
    from unnest(${sql.param([...ids])}::uuid[]) as a(id)
    left join lateral (select assessment from fee_assessment where application_id = a.id order by version desc limit 1) f on true`)
  return new Map(rows.map(row => [row.id, {
    assessed: row.assessed === null ? null : Number(row.assessed),
    currency: row.currency,
    received: Number(row.received),
    held: Number(row.held),
    isPaying: row.paying,
  }]))
}

/** Where the fee stands by it. */
export const stateOfMoney = (money: MoneyStanding | undefined): Tracks['fee'] =>
  feeState(money?.assessed ?? null, money?.received ?? 0, money?.isPaying ?? false, money?.held)

interface Balances extends Record<string, unknown> {
  id: string
  receivable: string
  refunds: string
  held: string
  n: string
}
/** What keeps credits of applicants apart from what they owe, ready to be booked. */
export interface Surplus {
  application: string
  source: string
  lines: { account: LedgerAccount, amount: number }[]
}

/**
 * What has to move between what applicants owe and what is owed back to them, after something was booked. The transaction holds their
 * applications.
 */
export async function surplusesOf(tx: Executor, applicationIds: readonly string[]): Promise<Surplus[]> {
  const { rows } = await tx.execute<Balances>(sql`
    select t.application_id as id, coalesce(sum(l.amount) filter (where l.account = 'receivable'), 0) as receivable,
      coalesce(sum(l.amount) filter (where l.account = 'refunds payable'), 0) as refunds, count(distinct t.id) as n, ${
    heldOf(sql`t.application_id`)
  } as held
    from ledger_transaction t join ledger_line l on l.transaction_id = t.id where t.application_id = any(${
    sql.param([...applicationIds])
  }::uuid[]) group by t.application_id`)
  return rows.flatMap(({ id, receivable, refunds, held, n }) => {
    const lines = surplusLines(Number(receivable), Number(refunds), Number(held))
    // Transactions only grow in number, so that each move has a source of its own.
    return lines ? [{ application: id, source: `surplus:${id}:${n}`, lines }] : []
  })
}
