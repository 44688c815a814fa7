import { and, asc, count, eq, sql } from 'drizzle-orm'
import { matchesOf, matchSteps, numbersNamedBy, usualThreshold, type Incoming, type Match, type Payable } from '../../../core/bank/match'
import { DueIndex } from '../../../core/bank/name-index'
import { payoutLines } from '../../../core/fees/ledger'
import { grouped } from '../../../shared/grouped'
import type { MatchingStanding } from '../../../shared/bank'
import type { Executor } from '../../database/client'
import { bankLine, bankMatch, officeSetting, settlement } from '../../database/schema'
import { log, type Caller, type Context } from '../context'
import { bookMany } from '../fees/book'
import { lockApplications, moveMoney, receiveForMany } from '../fees/receive'
import { duesLikeLine, duesOfApplications, openBills, openDues, payablesOf } from './dues'
import { ArrivingSlips } from './arriving'
import { matchRefunds } from './refund-lines'
import { writeMatches, type LineRow } from './writing'

const pageSize = 1000
const thresholdSetting = 'bank-threshold'

/** From which score on a match is booked without a person: as the office has set it. */
export async function thresholdOf(tx: Executor): Promise<number> {
  const [row] = await tx.select({ value: officeSetting.value }).from(officeSetting).where(eq(officeSetting.name, thresholdSetting))
  return typeof row?.value === 'number' ? row.value : usualThreshold
}

export const incoming = (line: LineRow): Incoming => ({
  amount: line.amount,
  reference: line.reference,
  text: line.text,
  name: line.name,
  currency: line.currency,
})

/** What one line may be for, as things stand now. */
export async function matchesNow(tx: Executor, line: LineRow): Promise<Match[]> {
  const { exact, repaired } = numbersNamedBy(incoming(line))
  const known = await payablesOf(tx, [...exact, ...repaired])
  return matchesOf(
    incoming(line),
    known,
    known.size > 0 ? [] : new DueIndex([...await openBills(tx), ...await duesLikeLine(tx, line)]).find(incoming(line)),
  )
}

/**
 * Looks at every line that nothing explains yet: what is sure enough is booked, page by page; of the rest the best guess is kept for a
 * person to see. What was booked before is passed over, so that the work may begin again after it stopped half-way.
 */
export async function matchOpenLines(
  caller: Caller,
  tell: (done: number, total: number) => Promise<boolean>,
): Promise<Record<string, number>> {
  const context = await caller.authorise('bank.work')
  const { db } = context
  const open = and(eq(bankLine.state, 'open'), sql`${bankLine.amount} > 0`)
  const [all] = await db.select({ n: count() }).from(bankLine).where(open)
  const total = all?.n ?? 0
  const threshold = await thresholdOf(db)
  const index = new DueIndex([...await openBills(db), ...await openDues(db)])
  const taken = new Set<string>()
  let [looked, booked] = [0, await matchRefunds(context)]
  for (let after = null as LineRow | null;;) {
    const beyond = after
    const page = await db.select().from(bankLine)
      .where(and(open, beyond ? sql`(${bankLine.bookedOn}, ${bankLine.id}) > (${beyond.bookedOn}, ${beyond.id}::uuid)` : undefined))
      .orderBy(asc(bankLine.bookedOn), asc(bankLine.id)).limit(pageSize)
    if (page.length > 0) booked += await matchPage(context, page, { threshold, index, taken })
    looked += page.length
    after = page.at(-1) ?? null
    if (!await tell(looked, total) || page.length < pageSize) return { lines: looked, booked }
  }
}

interface Under {
  threshold: number
  index: DueIndex
  /** Who was found by name already: the next line of that name is for somebody to look at. */
  taken: Set<string>
}

const whoseOf = (payable: Payable): string[] => 'dues' in payable ? payable.dues.map(due => due.application) : [payable.application]

async function matchPage(context: Context, page: readonly LineRow[], under: Under): Promise<number> {
  return context.db.transaction(async (tx) => {
    const lines = await tx.select().from(bankLine)
      .where(and(sql`${bankLine.id} = any(${sql.param(page.map(line => line.id))}::uuid[])`, eq(bankLine.state, 'open'))).orderBy(
        asc(bankLine.bookedOn),
        asc(bankLine.id),
      ).for('update', { skipLocked: true })
    const paidOut = await payoutsAmong(tx, lines)
    await explainPayouts(tx, context, paidOut)
    const rest = lines.filter(line => !paidOut.has(line))
    const named = new Map(rest.map(line => [line, numbersNamedBy(incoming(line))]))
    const known = await payablesOf(tx, [...new Set([...named.values()].flatMap(({ exact, repaired }) => [...exact, ...repaired]))])
    const best = rest.flatMap((line) => {
      const { exact = [], repaired = [] } = named.get(line) ?? {}
      const isNamed = [...exact, ...repaired].some(number => known.has(number))
      const [match] = matchesOf(
        incoming(line),
        known,
        isNamed ? [] : under.index.find(incoming(line)).filter(one => !whoseOf(one).some(id => under.taken.has(id))),
      )
      return match ? [{ line, match }] : []
    })
    const sure = await stillFit(tx, best.filter(({ match }) => match.score >= under.threshold))
    for (const { match } of sure) if (match.step !== 'reference') match.parts.forEach(part => under.taken.add(part.application))
    await explain(tx, context, sure)
    await keepGuesses(tx, best.filter(one => !sure.includes(one)))
    return sure.length + paidOut.size
  })
}

interface Decided {
  line: LineRow
  match: Match
}

/**
 * Those whose dues are as they were when the match was found, now that the applications are held. A whole reference holds whatever is due.
 */
async function stillFit(tx: Executor, decided: readonly Decided[]): Promise<Decided[]> {
  const ids = decided.flatMap(({ match }) => match.parts.map(part => part.application))
  await lockApplications(tx, ids)
  const due = new Map([...await duesOfApplications(tx, ids)].map(([id, one]) => [id, one.due]))
  // First those that need the very amount: whatever comes by a whole reference besides is too much, and owed back.
  const fitting = decided.filter(({ match }) => {
    if (match.step === 'reference' || !match.parts.every(part => due.get(part.application) === part.amount)) return false
    for (const part of match.parts) due.set(part.application, 0)
    return true
  })
  return [...fitting, ...decided.filter(({ match }) => match.step === 'reference')]
}

/** Explains lines by dues, all in a few statements. The transaction holds lines and applications. */
export async function explain(
  tx: Executor,
  context: Context,
  decided: readonly { line: LineRow, match: Omit<Match, 'step' | 'score'> & { step: Match['step'] | null, score: number | null } }[],
): Promise<void> {
  if (decided.length === 0) return
  const rows = decided.map(({ line, match }) => ({ id: context.newId(), line, match }))
  await writeMatches(
    tx,
    context,
    rows.map(({ id, line, match }) => ({
      id,
      lineId: line.id,
      explanation: 'dues',
      ...match,
      score: match.score === null ? null : Math.round(match.score * 100),
      settlementId: null,
    })),
  )
  const applications = await lockApplications(tx, rows.flatMap(({ match }) => match.parts.map(part => part.application)))
  const arriving = await ArrivingSlips.of(tx, [...applications.keys()])
  for (const [currency, group] of grouped(rows, row => row.line.currency)) {
    const receipts = group.flatMap(({ id, match }) =>
      match.parts.map((part, i) => ({ ...part, source: `match:${id}:${i}`, lines: arriving.linesFor(part.application, part.amount) }))
    )
    // Money of a slip that was taken for good pays nothing any more: it has only arrived.
    const isPaying = ({ lines }: typeof receipts[number]) => lines.some(line => line.account === 'receivable')
    await moveMoney(tx, context, applications, currency, 'bank', receipts.filter(one => !isPaying(one)), null)
    await receiveForMany(tx, context, applications, currency, receipts.filter(isPaying))
  }
  await arriving.keep(tx)
}

async function keepGuesses(tx: Executor, guesses: readonly Decided[]): Promise<void> {
  if (guesses.length === 0) return
  await tx
    .execute(sql`update bank_line set best = guess.best from jsonb_to_recordset(${
      JSON.stringify(guesses.map(({ line, match }) => ({ id: line.id, best: Math.round(match.score * 100) })))
    }::jsonb) as guess(id uuid, best integer) where bank_line.id = guess.id`)
}

/** Lines that bring a payout of the gateway: they name it, and the amount is what it pays out. */
async function payoutsAmong(tx: Executor, lines: readonly LineRow[]): Promise<Map<LineRow, typeof settlement.$inferSelect>> {
  const expected = await tx.select().from(settlement)
    .where(sql`not exists (select 1 from bank_match m where m.settlement_id = ${settlement.id} and m.undone_at is null)`)
  const found = new Map<LineRow, typeof settlement.$inferSelect>()
  if (expected.length === 0) return found
  const left = new Set(expected)
  for (const line of lines) {
    const text = `${line.reference ?? ''} ${line.text}`.toUpperCase()
    const one = [...left].find(({ reference, net, currency }) =>
      net === line.amount && currency === line.currency && text.includes(reference.toUpperCase())
    )
    if (!one) continue
    found.set(line, one)
    left.delete(one)
  }
  return found
}

async function explainPayouts(
  tx: Executor,
  context: Context,
  paidOut: ReadonlyMap<LineRow, typeof settlement.$inferSelect>,
): Promise<void> {
  const rows = [...paidOut].map(([line, paid]) => ({ id: context.newId(), line, paid }))
  await writeMatches(
    tx,
    context,
    rows.map(({ id, line, paid }) => ({
      id,
      lineId: line.id,
      explanation: 'settlement',
      step: 'reference',
      score: 100,
      reasons: ['reference', 'amount-fits'],
      parts: [],
      settlementId: paid.id,
    })),
  )
  for (const [currency, group] of grouped(rows, row => row.line.currency)) {
    await bookMany(
      tx,
      context.now(),
      currency,
      'settlement',
      group.map(({ id, line }) => ({ application: null, source: `match:${id}:0`, lines: payoutLines(line.amount) })),
    )
  }
}

/** What matching has done so far, and what waits for a person. */
export async function matchingStanding(caller: Caller): Promise<MatchingStanding> {
  const { db } = await caller.authorise('bank.read')
  const done = await db.select({
    step: bankMatch.step,
    n: count(),
    back: sql<string>`count(*) filter (where ${bankMatch.undoneAt} is not null)`,
  }).from(bankMatch).groupBy(bankMatch.step)
  const of = (step: Match['step'] | null) => done.find(one => one.step === step)
  return {
    threshold: await thresholdOf(db),
    steps: matchSteps.map(step => ({ step, booked: of(step)?.n ?? 0, takenBack: Number(of(step)?.back ?? 0) })),
    byHand: of(null)?.n ?? 0,
  }
}

/** Sets from which score on matching books by itself. */
export async function setThreshold(caller: Caller, threshold: number): Promise<void> {
  const context = await caller.authorise('bank.work')
  const values = { value: threshold, by: context.principal.id, at: context.now() }
  await context.db.transaction(async (tx) => {
    const before = await thresholdOf(tx)
    await tx.insert(officeSetting).values({ name: thresholdSetting, ...values }).onConflictDoUpdate({
      target: officeSetting.name,
      set: values,
    })
    await log(tx, context, 'change-office', {
      subject: { kind: 'office', id: 'bank' },
      before: { threshold: before },
      after: { threshold },
    })
  })
}
