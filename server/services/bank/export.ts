import { sql } from 'drizzle-orm'
import type { LedgerAccount } from '../../../core/fees/ledger'
import { exponentOf } from '../../../core/bank/statement'
import { csvOf } from '../../../tables/write'
import type { Caller } from '../context'

const pageSize = 5000
interface Row extends Record<string, unknown> {
  at: string
  tx: string
  line: string
  source: string
  kind: string
  currency: string
  account: LedgerAccount
  amount: string
  number: string | null
}

/**
 * All postings of some days (UTC) for the general ledger, page by page: one line a ledger line, debit and credit in columns of their own.
 */
export async function* ledgerCsv(caller: Caller, { from, to }: { from: string, to: string }): AsyncGenerator<string> {
  const { db } = await caller.authorise('bank.read')
  yield csvOf([['time', 'transaction', 'source', 'kind', 'account', 'debit', 'credit', 'currency', 'application']])
  for (let after = null as Row | null;;) {
    const beyond = after
    const { rows }: { rows: Row[] } = await db.execute<Row>(sql`
      select to_char(t.at at time zone 'UTC', 'YYYY-MM-DD"T"HH24:MI:SS.US"Z"') as at, t.id as tx, l.id as line, t.source, t.kind, t.currency, l.account, l.amount, a.number
      from ledger_transaction t join ledger_line l on l.transaction_id = t.id left join application a on a.id = t.application_id
      where t.at >= ${from}::date and t.at < ${to}::date + 1 ${
      beyond ? sql`and (t.at, t.id, l.id) > (${beyond.at}::timestamptz, ${beyond.tx}::uuid, ${beyond.line}::uuid)` : sql``
    }
      order by t.at, t.id, l.id limit ${pageSize}`)
    yield csvOf(rows.map(({ at, tx, source, kind, currency, account, amount, number }) => {
      const value = (Math.abs(Number(amount)) / 10 ** exponentOf(currency)).toFixed(exponentOf(currency))
      return [at, tx, source, kind, account, Number(amount) > 0 ? value : '', Number(amount) < 0 ? value : '', currency, number ?? '']
    }))
    after = rows.at(-1) ?? null
    if (rows.length < pageSize) return
  }
}
