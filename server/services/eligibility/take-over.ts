import { and, eq, gt, inArray, lte, ne, sql } from 'drizzle-orm'
import { spellInstant } from '../../../core/calendar/zone'
import { touchesSeats } from '../../../core/seating/stands'
import type { Acceptance } from '../../../shared/eligibility'
import { ProblemError } from '../../../shared/problem'
import { refusal } from '../../../shared/refusal'
import { askForWork } from '../../jobs/define'
import { alone, type Executor } from '../../database/client'
import { application, cycle, postVerdict, review, reviewItem, type FeesOfThoseIn, type ReviewState } from '../../database/schema'
import { actingOn, carryOutOn } from '../acts/carry-out'
import { askToSettleMatters } from '../acts/matters-anew'
import { resettle, type Resettled } from '../centres/unsettled'
import { log, type Caller, type Context } from '../context'
import { currentNotice, letHold, noticeOfVersion } from '../notice/notices'
import { reviewable, reviewPage } from './review-run'
import { noSeatChanges } from './review-seats'
import { discardReview } from './reviews'
import { VerdictSources } from './verdicts'

/** How a listed review comes into force: at once, or by the clock at the moment that was agreed. */

type Row = typeof review.$inferSelect
export interface TakenOver {
  leftOut: number
  sentBack: number
  /** What it did to seats that people were told. */
  seats: Resettled
  /** The moment from which it holds, where that is still to come. */
  from: string | null
}

/**
 * Takes a listed review over: its verdicts come into force, and with them the notice that was proposed; fees of those in are assessed anew
 * by a job where that is asked for. A case that had been accepted goes back to scrutiny when a post it chose is no longer open.
 * Applications changed since the review was begun are left out and counted; judging once more takes them in. With a moment that is still to
 * come, it is agreed only, and the clock takes it over then, with those who changed meanwhile; so it is, from now on, where many have their
 * seats touched.
 */
export async function acceptReview(caller: Caller, reviewId: string, { from, fees = 'kept' }: Acceptance = {}): Promise<TakenOver> {
  const context = await caller.authorise('notice.amend')
  return context.db.transaction(async (tx) => {
    const row = await heldReview(tx, reviewId, 'listed')
    await refuseOtherBase(tx, row)
    const asked = from === undefined ? null : new Date(from)
    // Seats of many take minutes: nobody waits for that before a screen, the clock does it next.
    const isLong = row.noticeVersion !== row.baseVersion && seatsTouched(row) > seatsAtOnce
    const holdsFrom = asked && asked > context.now() ? asked : isLong ? context.now() : null
    if (!holdsFrom) return takeOver(tx, context, { ...row, fees })
    if (row.noticeVersion === row.baseVersion) throw refusal('review.no-moment')
    await tx.update(review).set({ state: 'agreed', holdsFrom, fees, settledBy: context.principal.id, settledAt: context.now() })
      .where(eq(review.id, reviewId))
    await log(tx, context, 'agree-amendment', {
      subject: { kind: 'cycle', id: row.cycle },
      cycle: row.cycle,
      reason: row.reason,
      after: { notice: row.noticeVersion, review: row.serial, from: holdsFrom.toISOString(), fees, ...row.totals },
    })
    return { leftOut: 0, sentBack: 0, seats: seatsAsTheyWere, from: holdsFrom.toISOString() }
  })
}

/** Most people whose seats an acceptance goes through while somebody waits: two milliseconds each. */
const seatsAtOnce = 1000
const seatsTouched = ({ totals: { seats = noSeatChanges } }: Row) => seats.gone + seats.anotherHour

async function heldReview(tx: Executor, reviewId: string, state: ReviewState): Promise<Row> {
  const [row] = await tx.select().from(review).where(eq(review.id, reviewId)).for('update')
  if (!row) throw refusal('review.unknown')
  if (row.state !== state) throw refusal('review.not-listed', { serial: row.serial, state: row.state })
  return row
}

/** Holds the cycle and sees that nothing came into force since the review was begun, and that no other amendment waits for its moment. */
async function refuseOtherBase(tx: Executor, row: Row): Promise<void> {
  const [held] = await tx.select().from(cycle).where(eq(cycle.code, row.cycle)).for('update')
  if (held?.noticeVersion !== row.baseVersion) {
    throw refusal('review.other-version', { version: held?.noticeVersion ?? 0, serial: row.serial, base: row.baseVersion })
  }
  if (row.noticeVersion !== row.baseVersion) await refuseWhileOneWaits(tx, row.cycle, row.id)
}

/** An amendment that waits for its moment was made from the notice in force: nothing else may come between. */
export async function refuseWhileOneWaits(tx: Executor, cycleCode: string, except: string | null = null): Promise<void> {
  const [other] = await tx.select().from(review)
    .where(and(eq(review.cycle, cycleCode), eq(review.state, 'agreed'), except ? ne(review.id, except) : undefined)).limit(1)
  if (!other) return
  const { notice } = await currentNotice(tx, cycleCode)
  throw refusal('review.waits', { serial: other.serial, at: other.holdsFrom ? spellInstant(other.holdsFrom, notice.body.zone) : '' })
}

async function takeOver(tx: Executor, context: Context, row: Row): Promise<TakenOver> {
  const unchanged =
    sql`exists (select 1 from ${application} a where a.id = ${reviewItem.applicationId} and a.updated_at <= ${row.at.toISOString()}::timestamptz)`
  const [skipped] = await tx.select({ n: sql<string>`count(distinct ${reviewItem.applicationId})` }).from(reviewItem)
    .where(and(eq(reviewItem.reviewId, row.id), sql`not ${unchanged}`))
  await tx.execute(sql`
    insert into ${postVerdict} (application_id, post, verdict, clauses, facts_sha256, rules_sha256, notice_version, at)
    select application_id, post, after, clauses, facts_sha256, rules_sha256, ${row.noticeVersion}::int, ${context.now().toISOString()}::timestamptz from ${reviewItem}
    where ${reviewItem.reviewId} = ${row.id} and ${unchanged}
    on conflict (application_id, post) do update set verdict = excluded.verdict, clauses = excluded.clauses,
      facts_sha256 = excluded.facts_sha256, rules_sha256 = excluded.rules_sha256, notice_version = excluded.notice_version, at = excluded.at`)
  const isAmendment = row.noticeVersion !== row.baseVersion
  const fees = isAmendment ? row.fees ?? 'kept' : 'kept'
  const seats = isAmendment ? await amend(tx, context, row, fees) : seatsAsTheyWere
  const sentBack = await sendBack(tx, context, row, unchanged)
  await tx.update(review).set({ state: 'accepted', fees, settledBy: row.settledBy ?? context.principal.id, settledAt: context.now() })
    .where(eq(review.id, row.id))
  const leftOut = Number(skipped?.n ?? 0)
  await log(tx, context, 'accept-review', {
    subject: { kind: 'cycle', id: row.cycle },
    cycle: row.cycle,
    reason: row.reason,
    before: { notice: row.baseVersion },
    after: { notice: row.noticeVersion, review: row.serial, ...row.totals, ...(isAmendment ? { fees, seats } : {}), leftOut, sentBack },
  })
  if (fees === 'anew') await askForWork(tx, context, 'assess-anew', row.cycle, { review: row.id })
  return { leftOut, sentBack, seats, from: null }
}

const seatsAsTheyWere: Resettled = { moved: 0, without: 0, anotherHour: 0 }

/**
 * Puts the amended notice in force. Seats whose session or test paper it took away, or put at another hour, follow at once: nobody keeps
 * one that is not there.
 */
async function amend(tx: Executor, context: Context, row: Row, fees: FeesOfThoseIn): Promise<Resettled> {
  const { notice: before } = await currentNotice(tx, row.cycle)
  await letHold(tx, context, row.cycle, row.noticeVersion, { fees, reason: row.reason })
  await askToSettleMatters(tx, context, row.cycle, row.noticeVersion)
  const current = await currentNotice(tx, row.cycle)
  return touchesSeats(before, current.notice) ? resettle(tx, context, current, before, row.reason ?? '') : seatsAsTheyWere
}

async function sendBack(tx: Executor, context: Context, { id: reviewId, serial }: Row, unchanged: ReturnType<typeof sql>): Promise<number> {
  const shut = await tx.selectDistinct({ id: application.id }).from(reviewItem).innerJoin(
    application,
    eq(application.id, reviewItem.applicationId),
  ).where(and(
    eq(reviewItem.reviewId, reviewId),
    eq(reviewItem.differs, true),
    eq(reviewItem.chosen, true),
    eq(reviewItem.after, 'fail'),
    eq(application.scrutiny, 'accepted'),
    inArray(application.placement, ['unplaced', 'placed']),
    unchanged,
  ))
  for (const { id } of shut) {
    const acting = await actingOn(tx, context, id)
    await carryOutOn(
      acting,
      'back-to-scrutiny',
      {},
      async () => ({ result: null, before: { scrutiny: acting.row.scrutiny }, after: { scrutiny: 'waiting', review: serial } }),
    )
  }
  return shut.length
}

/**
 * Lets amendments hold whose agreed moment has come. What changed since they were reviewed is judged first; one whose notice is not in
 * force any more is laid aside. @returns how many were looked at.
 */
export async function takeOverAgreed(caller: Caller): Promise<number> {
  const context = await caller.authorise('clock.act')
  const done = await alone(context.db, 'amendments', async () => {
    const due = await context.db.select({ id: review.id }).from(review)
      .where(and(eq(review.state, 'agreed'), lte(review.holdsFrom, context.now()))).orderBy(review.holdsFrom)
    for (const { id } of due) {
      await takeOverOne(context, id).catch(async (error: unknown) => {
        if (!(error instanceof ProblemError) || error.problem.code !== 'review.other-version') throw error
        await discardReview(caller, id)
      })
    }
    return due.length
  })
  return done?.result ?? 0
}

async function takeOverOne(context: Context, id: string): Promise<void> {
  // Most are caught up with before anything is held; the few that change meanwhile, after.
  await catchUp(context.db, context, id)
  await context.db.transaction(async (tx) => {
    const row = await heldReview(tx, id, 'agreed')
    await refuseOtherBase(tx, row)
    await catchUp(tx, context, id)
    await takeOver(tx, context, await heldReview(tx, id, 'agreed'))
  })
}

/** Judges once more what changed since the review was begun, and takes the moment of it for the review's own. */
async function catchUp(db: Executor, context: Context, reviewId: string): Promise<void> {
  const [row] = await db.select().from(review).where(eq(review.id, reviewId))
  if (!row) return
  const since = context.now()
  const notices = {
    base: await noticeOfVersion(db, row.cycle, row.baseVersion),
    under: await noticeOfVersion(db, row.cycle, row.noticeVersion),
  }
  const sources = new VerdictSources(notices.under)
  const changed = and(reviewable(row.cycle), gt(application.updatedAt, row.at))
  for (let after = '';;) {
    const page = await db.select().from(application).where(and(changed, gt(application.number, after))).orderBy(application.number)
      .limit(500)
    after = page.at(-1)?.number ?? ''
    if (page.length === 0) break
    await db.delete(reviewItem).where(and(eq(reviewItem.reviewId, reviewId), inArray(reviewItem.applicationId, page.map(one => one.id))))
    await reviewPage(db, reviewId, page, notices, sources, { ...row.totals })
  }
  await db.update(review).set({ at: since }).where(eq(review.id, reviewId))
}
