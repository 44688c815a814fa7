import { and, eq, gt, inArray, ne, sql } from 'drizzle-orm'
import { listAnswer } from '../../../core/application/answers'
import { evaluatePosts } from '../../../core/eligibility/evaluate'
import type { Verdict } from '../../../core/finding/finding'
import type { Notice } from '../../../core/notice/schema'
import { refusal } from '../../../shared/refusal'
import type { Executor } from '../../database/client'
import { application, postVerdict, review, reviewFee, reviewItem, type ReviewTotals } from '../../database/schema'
import { countedAnswers, type ApplicationRow } from '../applications/store'
import type { Caller } from '../context'
import { noticeOfVersion } from '../notice/notices'
import { noFeeChanges, reviewFees } from './review-fees'
import { noSeatChanges, reviewSeats } from './review-seats'
import { clausesBehind, VerdictSources } from './verdicts'

const pageSize = 500
type Item = Omit<typeof reviewItem.$inferInsert, 'reviewId'>
type Tell = (done: number, total: number) => Promise<boolean>

/** Applications of a cycle that a review judges. */
export const reviewable = (code: string) =>
  and(eq(application.cycle, code), inArray(application.form, ['submitted', 'correcting']), ne(application.scrutiny, 'refused'))

/**
 * Judges every submitted application of the cycle again and lists where the verdict differs from the one in force.
 * What was made from the same facts and rules is not judged a second time. Nothing changes until the list is accepted.
 * `tell` gets the count so far and says whether to go on. Taken up again after a crash, it begins anew on clean pages.
 */
export async function runReview(caller: Caller, reviewId: string, tell: Tell): Promise<Record<string, string | number>> {
  const context = await caller.authorise('notice.amend')
  const { db } = context
  const [row] = await db.select().from(review).where(eq(review.id, reviewId))
  if (!row) throw refusal('review.unknown')
  // Handed out again after it was listed, it must not be made anew: somebody may have accepted it since.
  if (row.state !== 'running') return flat(row.totals)
  const notices = {
    base: await noticeOfVersion(db, row.cycle, row.baseVersion),
    under: await noticeOfVersion(db, row.cycle, row.noticeVersion),
  }
  const sources = new VerdictSources(notices.under)
  const due = reviewable(row.cycle)
  const [count] = await db.select({ n: sql<string>`count(*)` }).from(application).where(due)
  const totals = { applications: 0, judged: 0, kept: 0, differences: 0, chosen: 0, fees: { ...noFeeChanges }, seats: { ...noSeatChanges } }
  await db.delete(reviewItem).where(eq(reviewItem.reviewId, reviewId))
  await db.delete(reviewFee).where(eq(reviewFee.reviewId, reviewId))
  for (let after = '';;) {
    const page = await db.select().from(application).where(and(due, gt(application.number, after))).orderBy(application.number)
      .limit(pageSize)
    if (page.length === 0) break
    await reviewPage(db, reviewId, page, notices, sources, totals)
    if (row.noticeVersion !== row.baseVersion) await reviewFees(db, reviewId, page, notices.under, totals.fees)
    after = page.at(-1)?.number ?? after
    if (await tell(totals.applications, Number(count?.n ?? 0))) continue
    await db.update(review).set({ state: 'discarded', settledAt: context.now() })
      .where(and(eq(review.id, reviewId), eq(review.state, 'running')))
    throw refusal('review.cancelled')
  }
  await reviewSeats(db, reviewId, row.cycle, notices, totals.seats)
  await db.update(review).set({ state: 'listed', totals }).where(and(eq(review.id, reviewId), eq(review.state, 'running')))
  return flat(totals)
}

// What a job tells of its end is flat.
const flat = ({ fees = noFeeChanges, seats = noSeatChanges, ...counts }: ReviewTotals): Record<string, number> => ({
  ...counts,
  feesMore: fees.more,
  feesLess: fees.less,
  seatsGone: seats.gone,
  seatsAnotherHour: seats.anotherHour,
})

/** Judges a page of applications under the proposed notice and lists where that differs; adds to the totals. */
export async function reviewPage(
  db: Executor,
  reviewId: string,
  page: ApplicationRow[],
  notices: { base: Notice, under: Notice },
  sources: VerdictSources,
  totals: ReviewTotals,
): Promise<void> {
  const stored = await db.select().from(postVerdict).where(inArray(postVerdict.applicationId, page.map(p => p.id)))
  const inForce = new Map(stored.map(v => [`${v.applicationId}/${v.post}`, v]))
  const items: Item[] = []
  for (const row of page) {
    totals.applications += 1
    const answers = countedAnswers(notices.under, row)
    const made = sources.of(answers)
    const stale = notices.under.posts.filter((post) => {
      const [known, now] = [inForce.get(`${row.id}/${post.id}`), made.get(post.id)]
      return !known || known.factsSha256 !== now?.factsSha256 || known.rulesSha256 !== now.rulesSha256
    })
    totals.kept += notices.under.posts.length - stale.length
    if (stale.length === 0) continue
    totals.judged += stale.length
    const verdicts = evaluatePosts(notices.under, answers)
    const unknown = stale.some(post => !inForce.has(`${row.id}/${post.id}`))
    const earlier = unknown ? evaluatePosts(notices.base, countedAnswers(notices.base, row)) : []
    for (const post of stale) {
      const verdict = verdicts.find(v => v.post === post.id)
      const hashes = made.get(post.id)
      if (!verdict || !hashes) continue
      const before: Verdict | null = inForce.get(`${row.id}/${post.id}`)?.verdict ?? earlier.find(v => v.post === post.id)?.verdict ?? null
      const chosen = listAnswer(row.answers, 'posts').includes(post.id)
      const differs = before !== null && before !== verdict.verdict
      if (differs) totals.differences += 1
      if (differs && chosen) totals.chosen += 1
      items.push({
        applicationId: row.id,
        post: post.id,
        number: row.number,
        chosen,
        before,
        after: verdict.verdict,
        clauses: clausesBehind(verdict),
        differs,
        ...hashes,
      })
    }
  }
  await writeItems(db, reviewId, items)
}

// As one JSON parameter: thousands of rows a page as parameters of their own took most of a review's time.
async function writeItems(db: Executor, reviewId: string, items: Item[]): Promise<void> {
  if (items.length === 0) return
  await db.execute(sql`
    insert into ${reviewItem} (review_id, application_id, post, number, chosen, before, after, clauses, differs, facts_sha256, rules_sha256)
    select ${reviewId}::uuid, "applicationId", post, number, chosen, before, after, clauses, differs, "factsSha256", "rulesSha256"
    from jsonb_to_recordset(${
    JSON.stringify(items)
  }::jsonb) as item("applicationId" uuid, post text, number text, chosen boolean, before text, after text,
      clauses text, differs boolean, "factsSha256" text, "rulesSha256" text)`)
}
