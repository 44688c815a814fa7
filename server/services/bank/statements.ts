import { createHash } from 'node:crypto'
import { and, count, desc, eq, inArray, ne, sql } from 'drizzle-orm'
import { balanceFault, gapsBetween, type Former, type Statement, type StatementLine } from '../../../core/bank/statement'
import { bankLines } from '../../../core/fees/ledger'
import type { StatementView, TakenStatements } from '../../../shared/bank'
import { refusal } from '../../../shared/refusal'
import { readStatements } from '../../../statements/read'
import type { Executor } from '../../database/client'
import { locks } from '../../database/locks'
import { bankLine, bankStatement } from '../../database/schema'
import { log, type Caller, type Context } from '../context'
import { bringFile, keepFile } from '../files/bytes'
import { namesOf } from '../people/names'
import { bookMany } from '../fees/book'
import { accountOf, spelledIn, type BankAccountRow } from './accounts'

type StatementRow = typeof bankStatement.$inferSelect

/**
 * Takes the statements of a file, all or none: each must be of the account and add up. Every movement is booked at once, so that the
 * ledger's bank is what statements show; what explains it comes after. A statement that was read before changes nothing.
 *
 * @throws ProblemError naming what is wrong with the file; nothing of it is taken then.
 */
export async function takeStatements(caller: Caller, accountId: string, name: string, bytes: Buffer): Promise<TakenStatements> {
  const context = await caller.authorise('bank.work')
  const account = await accountOf(context.db, accountId)
  const read = await readStatements(bytes, { mapping: account.mapping, account: account.number, currency: account.currency })
  for (const statement of read) refuseUnfit(account, statement)
  const brought = await bringFile(context.db, bytes)
  const taken = await context.db.transaction(async (tx) => {
    await locks.bankAccount(tx, accountId)
    const sha256 = await keepFile(tx, brought)
    const rows: StatementRow[] = []
    for (const statement of read) {
      const row = await takeOne(tx, context, account, statement, { sha256, name })
      if (row) rows.push(row)
    }
    return rows
  })
  return { taken: await viewsOf(context.db, taken), repeated: read.length - taken.length }
}

function refuseUnfit(account: BankAccountRow, statement: Statement): void {
  const bare = (number: string) => number.replace(/[\s-]/g, '').toUpperCase()
  const [told, own] = [bare(statement.account), bare(account.number)]
  // Banks write their own number where the office has the international one, which ends in it.
  if (told !== own && !(told.length >= 6 && own.endsWith(told))) {
    throw refusal('statement.account', { found: statement.account.slice(0, 60), wanted: account.number })
  }
  if (statement.currency !== account.currency) throw refusal('statement.currency', { found: statement.currency, wanted: account.currency })
  const fault = balanceFault(statement)
  if (fault) {
    throw refusal('statement.balance', {
      opening: spelledIn(account.currency, fault.opening),
      movements: spelledIn(account.currency, fault.movements),
      closing: spelledIn(account.currency, fault.closing),
    })
  }
}

async function takeOne(
  tx: Executor,
  context: Context,
  account: BankAccountRow,
  statement: Statement,
  from: { sha256: string, name: string },
): Promise<StatementRow | null> {
  const digest = digestOf(statement)
  const [same] = await tx.select({ id: bankStatement.id }).from(bankStatement)
    .where(and(eq(bankStatement.accountId, account.id), eq(bankStatement.digest, digest)))
  if (same) return null
  const days = statement.lines.map(line => line.bookedOn).sort()
  const [firstOn, lastOn] = [days[0] ?? statement.opening?.on ?? '', days.at(-1) ?? statement.closing?.on ?? '']
  await refuseDoubled(tx, account, statement, { firstOn, lastOn })
  const lines = statement.format === 'CSV'
    ? await unknownLines(tx, account, statement)
    : statement.lines.map(line => ({ line, digest: null }))
  const [row] = await tx.insert(bankStatement).values({
    id: context.newId(),
    accountId: account.id,
    format: statement.format,
    identification: statement.identification,
    sequence: statement.sequence,
    digest,
    ...from,
    firstOn,
    lastOn,
    opening: statement.opening?.amount ?? null,
    closing: statement.closing?.amount ?? null,
    lines: statement.lines.length,
    known: statement.lines.length - lines.length,
    gaps: await gapsBefore(tx, account, statement, firstOn),
    by: context.principal.id,
    at: context.now(),
  }).returning()
  if (!row) throw refusal('statement.unknown')
  await writeLines(tx, context, account, row.id, lines)
  if (statement.format === 'CSV') await refuseRewritten(tx, row, statement)
  await log(tx, context, 'read-statement', {
    subject: { kind: 'office', id: 'bank' },
    after: {
      account: account.id,
      statement: row.id,
      name: from.name,
      lines: row.lines,
      known: row.known,
      firstOn,
      lastOn,
      closing: row.closing,
    },
  })
  return row
}

/**
 * What a statement says, as a hash. Where it leads from one balance to another, its name is left out: a bank may send it again under
 * another, and no second statement of those days can begin and end with them.
 */
function digestOf(statement: Statement): string {
  const { opening, closing } = statement
  const isProved = opening && closing && opening.amount !== closing.amount
  return createHash('sha256').update(JSON.stringify(isProved ? { ...statement, identification: '', sequence: null } : statement))
    .digest('hex')
}

/** Refuses a CSV that overlaps another and writes the same movements otherwise: then all lines together do not lead to its balance. */
async function refuseRewritten(tx: Executor, { id, accountId, firstOn, lastOn }: StatementRow, { closing }: Statement): Promise<void> {
  const [overlapped] = await tx.select({ opening: bankStatement.opening, firstOn: bankStatement.firstOn }).from(bankStatement).where(and(
    eq(bankStatement.accountId, accountId),
    ne(bankStatement.id, id),
    sql`${bankStatement.firstOn} <= ${lastOn} and ${bankStatement.lastOn} >= ${firstOn}`,
  )).orderBy(bankStatement.firstOn, bankStatement.at).limit(1)
  if (!closing || !overlapped || overlapped.opening === null) return
  const [moved] = await tx.select({ sum: sql<string>`coalesce(sum(${bankLine.amount}), 0)` }).from(bankLine)
    .where(and(eq(bankLine.accountId, accountId), sql`${bankLine.bookedOn} between ${overlapped.firstOn} and ${lastOn}`))
  if (overlapped.opening + Number(moved?.sum) !== closing.amount) throw refusal('statement.rewritten', { day: closing.on })
}

/** Refuses what would count money twice: another content under a name that was read, or days that another format covers. */
async function refuseDoubled(
  tx: Executor,
  account: BankAccountRow,
  statement: Statement,
  { firstOn, lastOn }: { firstOn: string, lastOn: string },
): Promise<void> {
  if (statement.format !== 'CSV' && statement.identification !== '') {
    const [other] = await tx.select({ id: bankStatement.id }).from(bankStatement).where(and(
      eq(bankStatement.accountId, account.id),
      eq(bankStatement.identification, statement.identification),
      eq(bankStatement.firstOn, firstOn),
      sql`${bankStatement.sequence} is not distinct from ${statement.sequence}`,
    ))
    if (other) throw refusal('statement.otherwise', { identification: statement.identification })
  }
  const [covered] = await tx.select({ on: bankStatement.lastOn }).from(bankStatement).where(and(
    eq(bankStatement.accountId, account.id),
    ne(bankStatement.format, statement.format),
    sql`${bankStatement.firstOn} <= ${lastOn} and ${bankStatement.lastOn} >= ${firstOn} and ${bankStatement.lines} > 0`,
  )).limit(1)
  if (covered && statement.lines.length > 0) throw refusal('statement.covered', { day: covered.on })
}

/** Lines of a CSV that no earlier CSV had: periods of downloads overlap. Lines that say the same are counted within their day. */
async function unknownLines(
  tx: Executor,
  account: BankAccountRow,
  statement: Statement,
): Promise<{ line: StatementLine, digest: string }[]> {
  const seen = new Map<string, number>()
  const all = statement.lines.map((line) => {
    const says = JSON.stringify([line.bookedOn, line.amount, line.reference, line.text, line.name, line.account, line.bankReference])
    const nth = (seen.get(says) ?? 0) + 1
    seen.set(says, nth)
    return { line, digest: createHash('sha256').update(`${says}#${nth}`).digest('hex') }
  })
  const known = new Set<string>()
  for (let from = 0; from < all.length; from += 5000) {
    const rows = await tx.select({ digest: bankLine.digest }).from(bankLine).where(and(
      eq(bankLine.accountId, account.id),
      sql`${bankLine.digest} = any(${sql.param(all.slice(from, from + 5000).map(one => one.digest))}::text[])`,
    ))
    for (const row of rows) if (row.digest !== null) known.add(row.digest)
  }
  return all.filter(one => !known.has(one.digest))
}

async function gapsBefore(tx: Executor, account: BankAccountRow, statement: Statement, firstOn: string) {
  const [former] = await tx.select().from(bankStatement)
    .where(and(eq(bankStatement.accountId, account.id), sql`${bankStatement.lastOn} <= ${firstOn}`)).orderBy(
      desc(bankStatement.lastOn),
      desc(bankStatement.at),
    ).limit(1)
  return former ? gapsBetween(formerOf(former), statement) : []
}

const formerOf = (row: StatementRow | undefined): Former => ({
  sequence: row?.sequence ?? null,
  closing: row?.closing === null || row === undefined ? null : { on: row.lastOn, amount: row.closing },
})

async function writeLines(
  tx: Executor,
  context: Context,
  account: BankAccountRow,
  statementId: string,
  lines: readonly { line: StatementLine, digest: string | null }[],
): Promise<void> {
  for (let from = 0; from < lines.length; from += 5000) {
    const rows = lines.slice(from, from + 5000).map(({ line, digest }, i) => ({ id: context.newId(), position: from + i, digest, ...line }))
    await tx.execute(sql`
      insert into bank_line (id, statement_id, account_id, position, booked_on, value_on, amount, currency, reference, text, name, counter_account, bank_reference, is_reversal, digest)
      select id, ${statementId}, ${account.id}, position, "bookedOn", "valueOn", amount, ${account.currency}, reference, text, name, account, "bankReference", "isReversal", digest
      from jsonb_to_recordset(${
      JSON.stringify(rows)
    }::jsonb) as line(id uuid, position integer, digest text, "bookedOn" text, "valueOn" text, amount bigint, reference text, text text, name text, account text, "bankReference" text, "isReversal" boolean)`)
    await bookMany(
      tx,
      context.now(),
      account.currency,
      'bank',
      rows.filter(row => row.amount !== 0).map(row => ({ application: null, source: `bank-line:${row.id}`, lines: bankLines(row.amount) })),
    )
  }
}

/** Statements of an account, the newest first. */
export async function listStatements(caller: Caller, accountId: string): Promise<StatementView[]> {
  const { db } = await caller.authorise('bank.read')
  await accountOf(db, accountId)
  const rows = await db.select().from(bankStatement).where(eq(bankStatement.accountId, accountId)).orderBy(
    desc(bankStatement.lastOn),
    desc(bankStatement.sequence),
    desc(bankStatement.at),
  ).limit(100)
  const views = await viewsOf(db, rows)
  // What was missing when a statement was read may have come since.
  return views.map((view, i) => ({
    ...view,
    gaps: (rows[i + 1]?.lastOn ?? '~') <= view.firstOn
      ? gapsBetween(formerOf(rows[i + 1]), {
        sequence: view.sequence,
        opening: view.opening === null ? null : { on: view.firstOn, amount: view.opening },
      })
      : view.gaps,
  }))
}

async function viewsOf(db: Executor, rows: readonly StatementRow[]): Promise<StatementView[]> {
  if (rows.length === 0) return []
  const name = await namesOf(db, rows.map(row => row.by))
  const open = await db.select({ id: bankLine.statementId, n: count() }).from(bankLine)
    .where(and(inArray(bankLine.statementId, rows.map(row => row.id)), eq(bankLine.state, 'open'))).groupBy(bankLine.statementId)
  return rows.map(
    ({ id, name: file, format, identification, sequence, firstOn, lastOn, opening, closing, lines, known, gaps, by, at }) => ({
      id,
      name: file,
      format,
      identification,
      sequence,
      firstOn,
      lastOn,
      opening,
      closing,
      lines,
      known,
      gaps,
      open: open.find(one => one.id === id)?.n ?? 0,
      by: name(by),
      at: at.toISOString(),
    })
  )
}
