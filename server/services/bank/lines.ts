import { and, asc, eq, isNull, sql } from 'drizzle-orm'
import { bankChargeLines, payoutLines, reversed, type LedgerLine } from '../../../core/fees/ledger'
import type { Match } from '../../../core/bank/match'
import type { ExplainInput, LineDetail, LinePage, LineQuery, LineView, MatchView } from '../../../shared/bank'
import { refusal } from '../../../shared/refusal'
import type { Executor } from '../../database/client'
import { bankAccount, bankLine, bankMatch, ledgerLine, ledgerTransaction, settlement } from '../../database/schema'
import { log, type Caller, type Context } from '../context'
import { nameOf } from '../people/names'
import { book } from '../fees/book'
import { lockApplications, moveMoney, receiveForMany } from '../fees/receive'
import { spelledIn } from './accounts'
import { ArrivingSlips } from './arriving'
import { duesOfApplications } from './dues'
import { explain, matchesNow } from './matching'
import { unmatchRefunds } from './refund-lines'
import { writeMatches, type LineRow } from './writing'

const viewOf = (line: LineRow, account: string): LineView => ({
  id: line.id,
  account,
  bookedOn: line.bookedOn,
  amount: line.amount,
  currency: line.currency,
  reference: line.reference,
  text: line.text,
  name: line.name,
  counterAccount: line.counterAccount,
  isReversal: line.isReversal,
  state: line.state,
  best: line.best,
})

/** Lines of statements, the oldest first, a page by key. */
export async function listLines(caller: Caller, query: LineQuery): Promise<LinePage> {
  const { db } = await caller.authorise('bank.read')
  const [day, id] = query.after?.split(' ') ?? []
  const rows = await db.select({ line: bankLine, account: bankAccount.title }).from(bankLine).innerJoin(
    bankAccount,
    eq(bankAccount.id, bankLine.accountId),
  ).where(and(
    eq(bankLine.state, query.state),
    query.side === 'in' ? sql`${bankLine.amount} > 0` : sql`${bankLine.amount} < 0`,
    query.account ? eq(bankLine.accountId, query.account) : undefined,
    query.statement ? eq(bankLine.statementId, query.statement) : undefined,
    query.search
      ? sql`(${bankLine.text} ilike ${like(query.search)} or ${bankLine.name} ilike ${like(query.search)} or ${bankLine.reference} ilike ${
        like(query.search)
      })`
      : undefined,
    day && id ? sql`(${bankLine.bookedOn}, ${bankLine.id}) > (${day}, ${id}::uuid)` : undefined,
  )).orderBy(asc(bankLine.bookedOn), asc(bankLine.id)).limit(query.limit + 1)
  const page = rows.slice(0, query.limit)
  const last = page.at(-1)?.line
  return {
    lines: page.map(({ line, account }) => viewOf(line, account)),
    next: rows.length > query.limit && last ? `${last.bookedOn} ${last.id}` : null,
  }
}

const like = (text: string) => `%${text.replace(/[%_\\]/g, '\\$&')}%`

async function lineOf(tx: Executor, id: string): Promise<{ line: LineRow, account: string }> {
  const [row] = await tx.select({ line: bankLine, account: bankAccount.title }).from(bankLine).innerJoin(
    bankAccount,
    eq(bankAccount.id, bankLine.accountId),
  ).where(eq(bankLine.id, id))
  if (!row) throw refusal('line.unknown')
  return row
}

/** One line with who it may be for, or what explains it. */
export async function readLine(caller: Caller, id: string): Promise<LineDetail> {
  const { db } = await caller.authorise('bank.read')
  const { line, account } = await lineOf(db, id)
  const matches = line.state === 'open' && line.amount > 0 ? (await matchesNow(db, line)).slice(0, 8) : []
  return {
    ...viewOf(line, account),
    matches: await matchViews(db, matches),
    explained: line.state === 'explained' ? await explanationOf(db, line) : null,
  }
}

async function matchViews(db: Executor, matches: readonly Match[]): Promise<MatchView[]> {
  const dues = await duesOfApplications(db, matches.flatMap(match => match.parts.map(part => part.application)))
  return matches.map(({ step, score, reasons, parts }) => ({
    step,
    score,
    reasons,
    parts: parts.flatMap(({ application, amount }) => {
      const due = dues.get(application)
      return due ? [{ applicationId: application, number: due.number, name: due.name, due: due.due, amount, isOver: due.isOver }] : []
    }),
  }))
}

async function explanationOf(db: Executor, line: LineRow): Promise<LineDetail['explained']> {
  const [row] = await db.select({ match: bankMatch, settlement: settlement.reference }).from(bankMatch).leftJoin(
    settlement,
    eq(settlement.id, bankMatch.settlementId),
  ).where(and(eq(bankMatch.lineId, line.id), isNull(bankMatch.undoneAt)))
  if (!row) return null
  const { id, explanation, step, score, reasons, parts, by, at } = row.match
  const dues = await duesOfApplications(db, parts.map(part => part.application))
  return {
    matchId: id,
    explanation,
    step,
    score: score === null ? null : score / 100,
    reasons,
    settlement: row.settlement,
    by: await nameOf(db, by),
    at: at.toISOString(),
    parts: parts.map(({ application, amount }) => ({
      applicationId: application,
      number: dues.get(application)?.number ?? '',
      name: dues.get(application)?.name ?? '',
      amount,
    })),
  }
}

/**
 * Says what a line is: whose dues it pays and how much of each, or a charge of the bank.
 *
 * @throws ProblemError `line.matched` where somebody was first, `line.parts` where the parts do not make the line's amount.
 */
export async function explainLine(caller: Caller, id: string, given: ExplainInput): Promise<void> {
  const context = await caller.authorise('bank.work')
  await context.db.transaction(async (tx) => {
    const line = await holdOpen(tx, id)
    if (given.as === 'bank charge') await explainCharge(tx, context, line)
    else await explainByDues(tx, context, line, given.parts)
    await log(tx, context, 'match-line', { subject: { kind: 'office', id: 'bank' }, after: { line: id, ...given, amount: line.amount } })
  })
}

async function holdOpen(tx: Executor, id: string): Promise<LineRow> {
  const [line] = await tx.select().from(bankLine).where(eq(bankLine.id, id)).for('update')
  if (!line) throw refusal('line.unknown')
  if (line.state === 'explained') throw refusal('line.matched', { by: (await explanationOf(tx, line))?.by ?? '' })
  return line
}

async function explainCharge(tx: Executor, context: Context, line: LineRow): Promise<void> {
  if (line.amount >= 0) throw refusal('line.incoming')
  const matchId = context.newId()
  await writeMatches(tx, context, [{
    id: matchId,
    lineId: line.id,
    explanation: 'bank charge',
    step: null,
    score: null,
    reasons: [],
    parts: [],
    settlementId: null,
  }])
  await book(tx, context, {
    applicationId: null,
    source: `match:${matchId}:0`,
    kind: 'bank',
    currency: line.currency,
    lines: bankChargeLines(-line.amount),
  })
}

async function explainByDues(
  tx: Executor,
  context: Context,
  line: LineRow,
  parts: readonly { application: string, amount: number }[],
): Promise<void> {
  if (line.amount <= 0) throw refusal('line.outgoing')
  const sum = parts.reduce((total, part) => total + part.amount, 0)
  if (sum !== line.amount || new Set(parts.map(part => part.application)).size !== parts.length) {
    throw refusal('line.parts', { sum: spelledIn(line.currency, sum), amount: spelledIn(line.currency, line.amount) })
  }
  const held = await lockApplications(tx, parts.map(part => part.application))
  const dues = await duesOfApplications(tx, [...held.keys()])
  for (const { application } of parts) {
    const due = dues.get(application)
    if (!due) throw refusal('line.no-due')
    if (due.currency !== line.currency) throw refusal('line.currency', { found: line.currency, number: due.number, wanted: due.currency })
  }
  // Of a guess that somebody took as it stood, what it was made by is kept: that tells how good guesses are.
  const guess = (await matchesNow(tx, line)).find(match => JSON.stringify(match.parts) === JSON.stringify(parts))
  await explain(tx, context, [{
    line,
    match: { step: null, score: guess?.score ?? null, reasons: guess?.reasons ?? [], parts: [...parts] },
  }])
}

const touchesDue = ({ lines }: { lines: readonly LedgerLine[] }) => lines.some(line => line.account === 'receivable')

async function linesOf(tx: Executor, source: string): Promise<LedgerLine[]> {
  return tx.select({ account: ledgerLine.account, amount: ledgerLine.amount }).from(ledgerLine).innerJoin(
    ledgerTransaction,
    eq(ledgerTransaction.id, ledgerLine.transactionId),
  ).where(eq(ledgerTransaction.source, source))
}

/** Takes the explanation of a line back: everything that it booked is booked the other way round, and the line waits again. */
export async function takeExplanationBack(caller: Caller, matchId: string, reason: string): Promise<void> {
  const context = await caller.authorise('bank.work')
  await context.db.transaction(async (tx) => {
    const [found] = await tx.select({ lineId: bankMatch.lineId }).from(bankMatch).where(eq(bankMatch.id, matchId))
    if (!found) throw refusal('line.unknown')
    const [line] = await tx.select().from(bankLine).where(eq(bankLine.id, found.lineId)).for('update')
    const [undone] = await tx.update(bankMatch).set({ undoneBy: context.principal.id, undoneAt: context.now() })
      .where(and(eq(bankMatch.id, matchId), isNull(bankMatch.undoneAt))).returning()
    if (!undone || !line) throw refusal('line.not-matched')
    await tx.update(bankLine).set({ state: 'open' }).where(eq(bankLine.id, line.id))
    if (undone.explanation === 'refund returned') throw refusal('refund.returned')
    if (undone.explanation === 'sent back') throw refusal('refund.lay-aside')
    if (undone.explanation === 'refund') await unmatchRefunds(tx, context, undone.refunds, matchId)
    else if (undone.explanation === 'dues') {
      const held = await lockApplications(tx, undone.parts.map(part => part.application))
      const arriving = await ArrivingSlips.of(tx, [...held.keys()])
      const receipts = []
      for (const [i, part] of undone.parts.entries()) {
        receipts.push({
          ...part,
          source: `match:${matchId}:${i}:back`,
          lines: arriving.linesBack(part.application, await linesOf(tx, `match:${matchId}:${i}`)),
        })
      }
      await moveMoney(tx, context, held, line.currency, 'bank', receipts.filter(one => !touchesDue(one)), null)
      await receiveForMany(tx, context, held, line.currency, receipts.filter(touchesDue), 'payment-taken-back')
      await arriving.keep(tx)
    } else {
      const [kind, lines] = undone.explanation === 'settlement'
        ? ['settlement' as const, payoutLines(line.amount)]
        : ['bank' as const, bankChargeLines(-line.amount)]
      await book(tx, context, {
        applicationId: null,
        source: `match:${matchId}:0:back`,
        kind,
        currency: line.currency,
        lines: reversed(lines),
      })
    }
    await log(tx, context, 'unmatch-line', {
      subject: { kind: 'office', id: 'bank' },
      reason,
      before: { line: line.id, explanation: undone.explanation, parts: undone.parts },
    })
  })
}
