import { count, desc, eq, sql } from 'drizzle-orm'
import { isIban } from '../../../core/bank/check-digits'
import { exponentOf } from '../../../core/bank/statement'
import { spellAmount } from '../../../core/fees/assess'
import type { BankAccountInput, BankAccountView, CsvHead, CsvMapping } from '../../../shared/bank'
import { refusal } from '../../../shared/refusal'
import { recogniseTable, tableRows } from '../../../tables/read'
import type { Executor } from '../../database/client'
import { bankAccount, bankLine, bankStatement } from '../../database/schema'
import { log, type Caller } from '../context'

export type BankAccountRow = typeof bankAccount.$inferSelect

/** An amount of a currency in words, for refusals. */
export const spelledIn = (currency: string, amount: number): string =>
  spellAmount(amount, { code: currency, exponent: exponentOf(currency) })

export async function accountOf(tx: Executor, id: string): Promise<BankAccountRow> {
  const [row] = await tx.select().from(bankAccount).where(eq(bankAccount.id, id))
  if (!row) throw refusal('bank.unknown')
  return row
}

/** The account that takes deposits in a currency; null where the office has none. */
export async function accountForDeposits(tx: Executor, currency: string): Promise<BankAccountRow | null> {
  const rows = await tx.select().from(bankAccount).where(eq(bankAccount.currency, currency)).orderBy(bankAccount.title)
  return rows.find(one => one.takesDeposits) ?? null
}

/** The same, for what cannot be made without one. @throws ProblemError `bank.no-slips` where there is none. */
export async function depositAccount(tx: Executor, currency: string): Promise<BankAccountRow> {
  const account = await accountForDeposits(tx, currency)
  if (!account) throw refusal('bank.no-slips', { currency })
  return account
}

/** The office's accounts, with how far their statements reach. */
export async function listBankAccounts(caller: Caller): Promise<BankAccountView[]> {
  const { db } = await caller.authorise('bank.read')
  const rows = await db.select().from(bankAccount).orderBy(bankAccount.title)
  const views: BankAccountView[] = []
  for (const { id, title, holder, bank, number, bic, currency, takesDeposits, mapping } of rows) {
    const [last] = await db.select({ on: bankStatement.lastOn, closing: bankStatement.closing }).from(bankStatement)
      .where(eq(bankStatement.accountId, id)).orderBy(desc(bankStatement.lastOn), desc(bankStatement.at)).limit(1)
    const [statements] = await db.select({ n: count() }).from(bankStatement).where(eq(bankStatement.accountId, id))
    const [open] = await db.select({ n: count() }).from(bankLine).where(sql`${bankLine.accountId} = ${id} and ${bankLine.state} = 'open'`)
    views.push({
      id,
      title,
      holder,
      bank,
      number,
      bic,
      currency,
      takesDeposits,
      hasMapping: mapping !== null,
      last: last ?? null,
      statements: statements?.n ?? 0,
      openLines: open?.n ?? 0,
    })
  }
  return views
}

/**
 * Enters an account, or changes what is said of it; the number of one that has statements stays.
 *
 * @throws ProblemError `bank.number` for an account number whose check digits do not agree, `bank.exists` where there is one of that
 * number.
 */
export async function putBankAccount(caller: Caller, id: string, given: BankAccountInput): Promise<void> {
  const context = await caller.authorise('bank.work')
  // What looks like an account number by ISO 13616 must be a sound one; banks elsewhere have numbers of their own.
  if (/^[A-Z]{2}\d\d/.test(given.number) && !isIban(given.number)) throw refusal('bank.number', { number: given.number })
  await context.db.transaction(async (tx) => {
    const [other] = await tx.select({ id: bankAccount.id }).from(bankAccount).where(eq(bankAccount.number, given.number))
    if (other && other.id !== id) throw refusal('bank.exists', { number: given.number })
    const [before] = await tx.select().from(bankAccount).where(eq(bankAccount.id, id)).for('update')
    const [used] = before
      ? await tx.select({ id: bankStatement.id }).from(bankStatement).where(eq(bankStatement.accountId, id)).limit(1)
      : []
    if (used && before && (before.number !== given.number || before.currency !== given.currency)) {
      throw refusal('bank.in-use', { number: before.number })
    }
    await tx.insert(bankAccount).values({ id, ...given, by: context.principal.id, at: context.now() }).onConflictDoUpdate({
      target: bankAccount.id,
      set: given,
    })
    await log(tx, context, 'change-bank-account', {
      subject: { kind: 'office', id: 'bank' },
      before: before && shown(before),
      after: { account: id, ...given },
    })
  })
}

const shown = ({ id, title, holder, bank, number, bic, currency, takesDeposits }: BankAccountRow) => ({
  account: id,
  title,
  holder,
  bank,
  number,
  bic,
  currency,
  takesDeposits,
})

/** Says what the columns of an account's CSV mean. */
export async function setCsvMapping(caller: Caller, id: string, mapping: CsvMapping): Promise<void> {
  const context = await caller.authorise('bank.work')
  await context.db.transaction(async (tx) => {
    const before = await accountOf(tx, id)
    await tx.update(bankAccount).set({ mapping }).where(eq(bankAccount.id, id))
    await log(tx, context, 'change-bank-account', {
      subject: { kind: 'office', id: 'bank' },
      before: { account: id, columns: before.mapping },
      after: { account: id, columns: mapping },
    })
  })
}

export async function readCsvMapping(caller: Caller, id: string): Promise<{ mapping: CsvMapping | null }> {
  const { db } = await caller.authorise('bank.read')
  return { mapping: (await accountOf(db, id)).mapping }
}

const headWithin = 30
const samplesAtMost = 3

/** The widest of the first rows of a CSV, which most likely holds the headings, and the rows below it. */
export async function readCsvHead(caller: Caller, bytes: Buffer): Promise<CsvHead> {
  await caller.authorise('bank.work')
  const kind = await recogniseTable(bytes)
  if (kind.format !== 'csv') throw refusal('statement.unknown')
  const rows: string[][] = []
  for await (const cells of tableRows(bytes, kind)) {
    rows.push(cells.map(cell => cell.trim().slice(0, 200)))
    if (rows.length > headWithin + samplesAtMost) break
  }
  const filled = (row: readonly string[]) => row.filter(cell => cell !== '').length
  const widest = Math.max(...rows.slice(0, headWithin).map(filled))
  const place = rows.findIndex(row => filled(row) === widest)
  return { headings: rows[place] ?? [], samples: rows.slice(place + 1, place + 1 + samplesAtMost) }
}
