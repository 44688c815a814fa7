import { sql, type SQL } from 'drizzle-orm'
import { isBalanced, type LedgerLine, type TransactionKind } from '../../../core/fees/ledger'
import { refusal } from '../../../shared/refusal'
import type { Executor } from '../../database/client'
import type { Write } from '../../database/together'
import type { Context } from '../context'
import { surplusesOf, type Surplus } from './received'

/** One movement of money: whom it concerns, what it comes from, and lines that balance. */
export interface Posting {
  applicationId: string | null
  source: string
  kind: TransactionKind
  currency: string
  lines: LedgerLine[]
}

/**
 * Books one transaction. The same source again books nothing: that is what keeps money from being counted twice. A credit that it leaves on
 * what an applicant owes is moved at once to what is owed back.
 */
export async function book(tx: Executor, context: Context, posting: Posting): Promise<boolean> {
  if (!await bookAlone(tx, context, posting)) return false
  if (posting.applicationId) await bookSurplus(tx, context, posting.applicationId, posting.currency)
  return true
}

/** Moves what an applicant has paid beyond the fee, and beyond what is held for a correction, to what is owed back, or back again. */
export async function bookSurplus(tx: Executor, context: Context, applicationId: string, currency: string): Promise<void> {
  for (const { application, source, lines } of await surplusesOf(tx, [applicationId])) {
    await bookAlone(tx, context, { applicationId: application, source, kind: 'surplus', currency, lines })
  }
}

/** The same where no credit can be left. */
export async function bookAlone(tx: Executor, context: Context, posting: Posting): Promise<boolean> {
  const { made, lines } = bookingOf(context, posting)
  const { rows } = await tx.execute(sql`with booked as (${made}) ${lines} returning transaction_id`)
  return rows.length > 0
}

/** The same as writes that are still to be carried out, at most once in a statement. */
export function booking(context: Context, posting: Posting): Write[] {
  const { made, lines } = bookingOf(context, posting)
  return [{ name: 'booked', write: made }, lines]
}

function bookingOf(context: Context, { applicationId, source, kind, currency, lines }: Posting): { made: SQL, lines: SQL } {
  if (!isBalanced(lines)) throw refusal('fee.unbalanced', { source })
  return {
    made: sql`insert into ledger_transaction (id, application_id, source, kind, currency, at)
      values (${context.newId()}, ${applicationId}, ${source}, ${kind}, ${currency}, ${context.now().toISOString()}::timestamptz) on conflict (source) do nothing returning id`,
    lines: sql`insert into ledger_line (id, transaction_id, account, amount)
      select line.id, booked.id, line.account, line.amount from booked, jsonb_to_recordset(${
      JSON.stringify(lines.map(line => ({ id: context.newId(), ...line })))
    }::jsonb) as line(id uuid, account text, amount bigint)`,
  }
}

/** Many transactions of one kind in one statement; those whose sources were booked before are left out. */
export async function bookMany(
  tx: Executor,
  at: Date,
  currency: string,
  kind: TransactionKind,
  moves: readonly (Omit<Surplus, 'application'> & { application: string | null })[],
): Promise<void> {
  const lines = moves.flatMap(({ application, source, lines }) => lines.map(line => ({ application, source, ...line })))
  if (lines.length === 0) return
  await tx.execute(sql`
    with line as (select * from jsonb_to_recordset(${
    JSON.stringify(lines)
  }::jsonb) as line(application uuid, source text, account text, amount bigint)),
    booked as (insert into ledger_transaction (id, application_id, source, kind, currency, at)
      select gen_random_uuid(), application, source, ${kind}, ${currency}, ${at.toISOString()}::timestamptz from (select distinct application, source from line) as one
      on conflict (source) do nothing returning id, source)
    insert into ledger_line (id, transaction_id, account, amount) select gen_random_uuid(), booked.id, line.account, line.amount from line join booked using (source)`)
}
