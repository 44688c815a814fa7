import { and, desc, eq, inArray, sql } from 'drizzle-orm'
import { identityNumberKey, identityOf, likelyFrom, pairScore, type Identity } from '../../../core/identity/likely-pair'
import type { BarredMatchView } from '../../../shared/barred'
import { refusal } from '../../../shared/refusal'
import type { Executor } from '../../database/client'
import { application, barredMatch, barredPerson } from '../../database/schema'
import { settleMattersOfMany } from '../acts/matters'
import { lockApplication, type ApplicationRow } from '../applications/store'
import { log, type Caller, type Context } from '../context'
import { currentNotice } from '../notice/notices'
import { namesOf } from '../people/names'
import { barredView, type BarredRow } from './list'

export const identityOfBarred = ({ name, bornOn, identityNumber, mobile, email }: BarredRow): Identity => (
  {
    name,
    bornOn,
    identityKind: '',
    identityNumber: identityNumberKey(identityNumber),
    mobile: mobile.replace(/\D/g, '').slice(-10),
    email: email.toLowerCase(),
  }
)

interface Found extends Record<string, unknown> {
  application: string
  barred: string
}

/**
 * Looks for somebody barred among some applications; whoever is likely one is asked about, once. The transaction holds the applications.
 */
export async function findBarred(tx: Executor, context: Context, rows: readonly ApplicationRow[]): Promise<void> {
  const { rows: found } = await tx.execute<
    Found
  >(sql`select distinct k.application_id as application, b.barred_id as barred from identity_key k join barred_key b on b.key = k.key
    where k.application_id = any(${sql.param(rows.map(row => row.id))}::uuid[])`)
  await openMatches(tx, context, rows, found)
}

/** Looks for applications of somebody who was barred just now. */
export async function findApplicationsOf(tx: Executor, context: Context, barredIds: readonly string[]): Promise<void> {
  const { rows: found } = await tx.execute<
    Found
  >(sql`select distinct k.application_id as application, b.barred_id as barred from barred_key b join identity_key k on k.key = b.key
    where b.barred_id = any(${sql.param([...barredIds])}::uuid[])`)
  if (found.length === 0) return
  const rows = await tx.select().from(application).where(inArray(application.id, found.map(one => one.application))).orderBy(application.id)
    .for('update')
  await openMatches(tx, context, rows, found)
}

async function openMatches(tx: Executor, context: Context, rows: readonly ApplicationRow[], found: readonly Found[]): Promise<void> {
  if (found.length === 0) return
  const people =
    new Map((await tx.select().from(barredPerson).where(inArray(barredPerson.id, [...new Set(found.map(one => one.barred))]))).map(
      person => [person.id, person]
    ))
  const likely: (typeof barredMatch.$inferInsert)[] = []
  for (const row of rows) {
    const { notice } = await currentNotice(tx, row.cycle)
    for (const { barred } of found.filter(one => one.application === row.id)) {
      const person = people.get(barred)
      if (!person || person.liftedAt || !['submitted', 'correcting'].includes(row.form)) continue
      const { score, reasons } = pairScore(identityOf(notice, row.answers), identityOfBarred(person))
      if (score >= likelyFrom) {
        likely.push({
          id: context.newId(),
          applicationId: row.id,
          cycle: row.cycle,
          barredId: barred,
          score,
          reasons,
          foundAt: context.now(),
        })
      }
    }
  }
  if (likely.length === 0) return
  await tx.insert(barredMatch).values(likely).onConflictDoNothing()
  await settleRows(tx, context, rows.filter(row => likely.some(one => one.applicationId === row.id)))
}

async function settleRows(tx: Executor, context: Context, rows: readonly ApplicationRow[]): Promise<void> {
  for (const code of new Set(rows.map(row => row.cycle))) {
    const { notice } = await currentNotice(tx, code)
    await settleMattersOfMany(tx, context, rows.filter(row => row.cycle === code), notice)
  }
}

/** After somebody was lifted from the list: what was held for it is held no more. */
export async function settleMatchesOf(tx: Executor, context: Context, barredId: string): Promise<void> {
  const ids = (await tx.select({ id: barredMatch.applicationId }).from(barredMatch).where(eq(barredMatch.barredId, barredId))).map(row =>
    row.id
  )
  if (ids.length === 0) return
  await settleRows(
    tx,
    context,
    await tx.select().from(application).where(inArray(application.id, ids)).orderBy(application.id).for('update'),
  )
}

/**
 * Says whether an application is of somebody barred. Of another person it is never asked about again; of the same one it can only be
 * refused as long as the bar holds.
 *
 * @throws ProblemError `barred.judged` when somebody has said it already.
 */
export async function judgeBarred(
  caller: Caller,
  id: string,
  { result, reason }: { result: 'same' | 'different', reason: string },
): Promise<void> {
  const context = await caller.authorise('scrutiny.decide')
  await context.db.transaction(async (tx) => {
    const [known] = await tx.select({ applicationId: barredMatch.applicationId }).from(barredMatch).where(eq(barredMatch.id, id))
    if (!known) throw refusal('barred.unknown')
    const row = await lockApplication(tx, known.applicationId)
    const [done] = await tx.update(barredMatch).set({ state: result, reason, by: context.principal.id, at: context.now() })
      .where(and(eq(barredMatch.id, id), eq(barredMatch.state, 'open'))).returning()
    if (!done) throw refusal('barred.judged')
    await log(tx, context, 'judge-barred', {
      subject: { kind: 'application', id: row.id },
      cycle: row.cycle,
      reason,
      before: { state: 'open', score: done.score },
      after: { state: result, barred: done.barredId },
    })
    await settleRows(tx, context, [row])
  })
}

/** Applications of a cycle that are likely of somebody barred and that nobody has judged, or all of one application. */
export async function matchesOf(context: Context, cycle: string, applicationId?: string): Promise<BarredMatchView[]> {
  const { db } = context
  const rows = await db.select().from(barredMatch).innerJoin(application, eq(application.id, barredMatch.applicationId)).innerJoin(
    barredPerson,
    eq(barredPerson.id, barredMatch.barredId),
  ).where(and(eq(barredMatch.cycle, cycle), applicationId ? eq(barredMatch.applicationId, applicationId) : eq(barredMatch.state, 'open')))
    .orderBy(desc(barredMatch.score), barredMatch.id).limit(60)
  const name = await namesOf(db, rows.flatMap(row => [row.barred_match.by, row.barred_person.by, row.barred_person.liftedBy]))
  const { notice } = await currentNotice(db, cycle)
  return rows.map(({ barred_match: match, application: of, barred_person: person }) => ({
    id: match.id,
    applicationId: of.id,
    number: of.number,
    headline: of.headline,
    applicant: identityOf(notice, of.answers),
    barred: barredView(person, name),
    barredIdentity: identityOfBarred(person),
    score: match.score,
    reasons: match.reasons,
    state: match.state,
    reason: match.reason,
    by: match.by ? name(match.by) : null,
  }))
}
