import { sql } from 'drizzle-orm'
import { expect } from 'vitest'
import { readClosing } from '../../server/services/bank/closing'
import { issueReceipts } from '../../server/services/fees/receipts'
import type { Office } from './office'

/** Balances of all accounts, debits positive: of one application, of none (null), or of everything. */
export async function balances(office: Office, of?: string | null): Promise<Record<string, number>> {
  const which = of === undefined ? sql`` : sql`where t.application_id is not distinct from ${of}`
  const { rows } = await office.db.execute<
    { account: string, sum: string }
  >(sql`select l.account, sum(l.amount) as sum from ledger_line l join ledger_transaction t on t.id = l.transaction_id ${which} group by l.account`)
  return Object.fromEntries(rows.map(row => [row.account, Number(row.sum)]))
}

/**
 * What must hold of the books at any moment: every transaction and the whole balance, one source is booked once, every account is explained
 * from facts outside the ledger to the last unit, and receipts in force say what came in for settled dues, numbered without a gap.
 */
export async function expectSoundBooks(office: Office): Promise<void> {
  expect(Object.values(await balances(office)).reduce((sum, balance) => sum + balance, 0)).toBe(0)
  const { rows: odd } = await office.db
    .execute(sql`select transaction_id from ledger_line group by 1 having sum(amount) <> 0 union all select id from ledger_transaction where source in (select source from ledger_transaction group by 1 having count(*) > 1)`)
  expect(odd).toEqual([])
  const { view } = await readClosing(office.as('auditor'), office.cycle, {})
  expect(view.accounts.filter(account => account.difference !== 0)).toEqual([])
  await issueReceipts(office.product)
  const { rows: wrong } = await office.db.execute(sql`
    select a.id, a.fee, coalesce((select sum(r.amount) from receipt r where r.application_id = a.id and r.void_at is null), 0) as receipted, (f.assessment ->> 'total')::bigint as assessed
    from application a join lateral (select assessment from fee_assessment where application_id = a.id order by version desc limit 1) f on true
    where coalesce((select sum(r.amount) from receipt r where r.application_id = a.id and r.void_at is null), 0) <> case when a.fee in ('settled', 'refund due') then (f.assessment ->> 'total')::bigint else 0 end`)
  expect(wrong).toEqual([])
  const { rows: [numbers] } = await office.db.execute<
    { n: string, most: string | null }
  >(sql`select count(*) as n, max(serial) as most from receipt`)
  expect(Number(numbers?.most ?? 0)).toBe(Number(numbers?.n))
}
