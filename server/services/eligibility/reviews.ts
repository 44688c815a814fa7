import { and, desc, eq, gt, or, sql } from 'drizzle-orm'
import { differencesBetween } from '../../../core/notice/difference'
import type { ReviewDetail, ReviewQuery, ReviewRow } from '../../../shared/eligibility'
import { refusal } from '../../../shared/refusal'
import type { Executor } from '../../database/client'
import { application, review, reviewFee, reviewItem, reviewSeat } from '../../database/schema'
import { log, type Caller, type Context } from '../context'
import { namesOf, type NameOf } from '../people/names'
import { currentNotice, noticeOfVersion } from '../notice/notices'
import { noFeeChanges } from './review-fees'
import { noSeatChanges } from './review-seats'

/** Begins a review under a version of the notice; its id is that of the job which does the work. */
export async function openReview(
  tx: Executor,
  context: Context,
  cycleCode: string,
  id: string,
  version: number | null,
  reason: string | null = null,
): Promise<void> {
  const { version: baseVersion } = await currentNotice(tx, cycleCode)
  const [last] = await tx.select({ serial: sql<number>`coalesce(max(${review.serial}), 0)` }).from(review)
    .where(eq(review.cycle, cycleCode))
  await tx.insert(review).values({
    id,
    cycle: cycleCode,
    serial: (last?.serial ?? 0) + 1,
    noticeVersion: version ?? baseVersion,
    baseVersion,
    state: 'running',
    totals: { applications: 0, judged: 0, kept: 0, differences: 0, chosen: 0 },
    reason,
    by: context.principal.id,
    at: context.now(),
  })
}

/** Lays a review aside; the verdicts and the notice in force stay. */
export async function discardReview(caller: Caller, reviewId: string): Promise<void> {
  const context = await caller.authorise('notice.amend')
  await context.db.transaction(async (tx) => {
    const [row] = await tx.select().from(review).where(eq(review.id, reviewId)).for('update')
    if (!row) throw refusal('review.unknown')
    if (row.state === 'discarded') return
    if (row.state === 'accepted') {
      throw refusal('review.accepted', { serial: row.serial, by: (await namesOf(tx, [row.settledBy]))(row.settledBy) })
    }
    await tx.update(review).set({ state: 'discarded', settledBy: context.principal.id, settledAt: context.now() })
      .where(eq(review.id, reviewId))
    await log(tx, context, 'discard-review', {
      subject: { kind: 'cycle', id: row.cycle },
      cycle: row.cycle,
      after: { review: row.serial, notice: row.noticeVersion },
    })
  })
}

function reviewRow(row: typeof review.$inferSelect, name: NameOf): ReviewRow {
  return {
    id: row.id,
    serial: row.serial,
    version: row.noticeVersion,
    baseVersion: row.baseVersion,
    state: row.state,
    totals: { ...row.totals, fees: row.totals.fees ?? noFeeChanges, seats: row.totals.seats ?? noSeatChanges },
    reason: row.reason,
    holdsFrom: row.holdsFrom?.toISOString() ?? null,
    fees: row.fees,
    by: name(row.by),
    at: row.at.toISOString(),
    settledBy: row.settledBy && name(row.settledBy),
    settledAt: row.settledAt?.toISOString() ?? null,
  }
}

/** The newest reviews of a cycle. */
export async function listReviews(caller: Caller, cycleCode: string): Promise<ReviewRow[]> {
  const context = await caller.authorise('notice.read', { cycle: cycleCode })
  const rows = await context.db.select().from(review).where(eq(review.cycle, cycleCode)).orderBy(desc(review.serial)).limit(20)
  const name = await namesOf(context.db, rows.flatMap(row => [row.by, row.settledBy]))
  return rows.map(row => reviewRow(row, name))
}

/** One review with a page of its differences by application number. */
export async function readReview(caller: Caller, reviewId: string, query: ReviewQuery): Promise<ReviewDetail> {
  const { db } = await caller.authorise('notice.read')
  const [row] = await db.select().from(review).where(eq(review.id, reviewId))
  if (!row) throw refusal('review.unknown')
  const notices = {
    base: await noticeOfVersion(db, row.cycle, row.baseVersion),
    under: await noticeOfVersion(db, row.cycle, row.noticeVersion),
  }
  const [number, post] = query.after?.split('~') ?? []
  const rows = await db.select().from(reviewItem).innerJoin(application, eq(application.id, reviewItem.applicationId)).where(and(
    eq(reviewItem.reviewId, reviewId),
    eq(reviewItem.differs, true),
    query.post ? eq(reviewItem.post, query.post) : undefined,
    query.chosen ? eq(reviewItem.chosen, query.chosen === 'yes') : undefined,
    number && post ? or(gt(reviewItem.number, number), and(eq(reviewItem.number, number), gt(reviewItem.post, post))) : undefined,
  )).orderBy(reviewItem.number, reviewItem.post).limit(query.limit + 1)
  const page = rows.slice(0, query.limit)
  const last = page.at(-1)?.review_item
  return {
    ...reviewRow(row, await namesOf(db, [row.by, row.settledBy])),
    amendments: differencesBetween(notices.base, notices.under),
    differences: page.map(({ review_item: item, application: a }) => ({
      applicationId: a.id,
      number: a.number,
      name: a.displayName,
      post: item.post,
      postTitle: notices.under.posts.find(p => p.id === item.post)?.title ?? item.post,
      chosen: item.chosen,
      before: item.before ?? 'unsure',
      after: item.after,
      clauses: item.clauses,
      headline: a.headline,
    })),
    feeChanges: await feeChanges(db, reviewId, query),
    seatChanges: await seatChanges(db, reviewId, query),
    next: rows.length > query.limit && last ? `${last.number}~${last.post}` : null,
  }
}

/** People whose seats the proposed notice would take away or put at another hour, a page of them by application number. */
async function seatChanges(db: Executor, reviewId: string, query: ReviewQuery): Promise<ReviewDetail['seatChanges']> {
  const rows = await db.select({
    applicationId: reviewSeat.applicationId,
    number: reviewSeat.number,
    name: application.displayName,
    fate: reviewSeat.fate,
  }).from(reviewSeat).innerJoin(application, eq(application.id, reviewSeat.applicationId))
    .where(and(eq(reviewSeat.reviewId, reviewId), query.afterSeat ? gt(reviewSeat.number, query.afterSeat) : undefined))
    .orderBy(reviewSeat.number).limit(query.limit + 1)
  const page = rows.slice(0, query.limit)
  return { rows: page, next: rows.length > query.limit ? page.at(-1)?.number ?? null : null }
}

/** Fees that the proposed notice would change, a page of them by application number. */
async function feeChanges(db: Executor, reviewId: string, query: ReviewQuery): Promise<ReviewDetail['feeChanges']> {
  const rows = await db.select({ item: reviewFee, name: application.displayName, fee: application.fee }).from(reviewFee).innerJoin(
    application,
    eq(application.id, reviewFee.applicationId),
  ).where(and(eq(reviewFee.reviewId, reviewId), query.afterFee ? gt(reviewFee.number, query.afterFee) : undefined))
    .orderBy(reviewFee.number).limit(query.limit + 1)
  return {
    rows: rows.slice(0, query.limit).map(({ item, name, fee }) => ({
      applicationId: item.applicationId,
      number: item.number,
      name,
      before: item.before,
      after: item.after,
      received: item.received,
      fee,
    })),
    next: rows.length > query.limit ? rows[query.limit - 1]?.item.number ?? null : null,
  }
}
