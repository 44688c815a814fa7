import { and, desc, eq, gt, inArray, ne, or, sql } from 'drizzle-orm'
import { listAnswer } from '../../../core/application/answers'
import { evaluatePosts } from '../../../core/eligibility/evaluate'
import type { Verdict } from '../../../core/finding/finding'
import { differencesBetween } from '../../../core/notice/difference'
import type { Notice } from '../../../core/notice/schema'
import type { ReviewDetail, ReviewQuery, ReviewRow } from '../../../shared/eligibility'
import { refusal } from '../../../shared/problem'
import type { Executor } from '../../database/client'
import { application, cycle, postVerdict, review, reviewItem, type ReviewTotals } from '../../database/schema'
import { carryOutOn } from '../acts/carry-out'
import { factsOf } from '../acts/facts'
import { countedAnswers, lockApplication, type ApplicationRow } from '../applications/store'
import { log, type Caller, type Context } from '../context'
import { namesOf, type NameOf } from '../people/names'
import { currentNotice, noticeOfVersion } from '../notice/notices'
import { clausesBehind, VerdictSources } from './verdicts'

const pageSize = 500
type Item = Omit<typeof reviewItem.$inferInsert, 'reviewId'>

/** Begins a review under a version of the notice; its id is that of the job which does the work. */
export async function openReview(tx: Executor, context: Context, cycleCode: string, id: string, version: number | null): Promise<void> {
  const { version: baseVersion } = await currentNotice(tx, cycleCode)
  const [last] = await tx.select({ serial: sql<number>`coalesce(max(${review.serial}), 0)` }).from(review).where(eq(review.cycle, cycleCode))
  await tx.insert(review).values({
    id, cycle: cycleCode, serial: (last?.serial ?? 0) + 1, noticeVersion: version ?? baseVersion, baseVersion, state: 'running',
    totals: { applications: 0, judged: 0, kept: 0, differences: 0, chosen: 0 }, by: context.principal.id, at: context.now(),
  })
}

/**
 * Judges every submitted application of the cycle again and lists where the verdict differs from the one in force.
 * What was made from the same facts and rules is not judged a second time. Nothing changes until the list is accepted.
 * `tell` gets the count so far and says whether to go on. Taken up again after a crash, it begins anew on clean pages.
 */
export async function runReview(caller: Caller, reviewId: string, tell: (done: number, total: number) => Promise<boolean>): Promise<Record<string, string | number>> {
  const context = await caller.authorise('notice.amend')
  const { db } = context
  const [row] = await db.select().from(review).where(eq(review.id, reviewId))
  if (!row) throw refusal('review.unknown')
  // Handed out again after it was listed, it must not be made anew: somebody may have accepted it since.
  if (row.state !== 'running') return { ...row.totals }
  const notices = { base: await noticeOfVersion(db, row.cycle, row.baseVersion), under: await noticeOfVersion(db, row.cycle, row.noticeVersion) }
  const sources = new VerdictSources(notices.under)
  const due = and(eq(application.cycle, row.cycle), inArray(application.form, ['submitted', 'correcting']), ne(application.scrutiny, 'refused'))
  const [count] = await db.select({ n: sql<string>`count(*)` }).from(application).where(due)
  const totals: ReviewTotals = { applications: 0, judged: 0, kept: 0, differences: 0, chosen: 0 }
  await db.delete(reviewItem).where(eq(reviewItem.reviewId, reviewId))
  for (let after = ''; ;) {
    const page = await db.select().from(application).where(and(due, gt(application.number, after))).orderBy(application.number).limit(pageSize)
    if (page.length === 0) break
    await reviewPage(db, reviewId, page, notices, sources, totals)
    after = page.at(-1)?.number ?? after
    if (await tell(totals.applications, Number(count?.n ?? 0))) continue
    await db.update(review).set({ state: 'discarded', settledAt: context.now() }).where(and(eq(review.id, reviewId), eq(review.state, 'running')))
    throw refusal('review.cancelled')
  }
  await db.update(review).set({ state: 'listed', totals }).where(and(eq(review.id, reviewId), eq(review.state, 'running')))
  return { ...totals }
}

async function reviewPage(db: Executor, reviewId: string, page: ApplicationRow[], notices: { base: Notice, under: Notice }, sources: VerdictSources, totals: ReviewTotals): Promise<void> {
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
      items.push({ applicationId: row.id, post: post.id, number: row.number, chosen, before, after: verdict.verdict, clauses: clausesBehind(verdict), differs, ...hashes })
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
    from jsonb_to_recordset(${JSON.stringify(items)}::jsonb) as item("applicationId" uuid, post text, number text, chosen boolean, before text, after text,
      clauses text, differs boolean, "factsSha256" text, "rulesSha256" text)`)
}

/**
 * Takes a listed review over: its verdicts come into force, and with them the notice that was proposed. A case that had
 * been accepted goes back to scrutiny when a post it chose is no longer open. Applications changed since the review was
 * begun are left out and counted; judging once more takes them in.
 */
export async function acceptReview(caller: Caller, reviewId: string): Promise<{ leftOut: number, sentBack: number }> {
  const context = await caller.authorise('notice.amend')
  return context.db.transaction(async (tx) => {
    const [row] = await tx.select().from(review).where(eq(review.id, reviewId)).for('update')
    if (!row) throw refusal('review.unknown')
    if (row.state !== 'listed') throw refusal('review.not-listed', { serial: row.serial, state: row.state })
    const [held] = await tx.select().from(cycle).where(eq(cycle.code, row.cycle)).for('update')
    if (held?.noticeVersion !== row.baseVersion) {
      throw refusal('review.other-version', { version: held?.noticeVersion ?? 0, serial: row.serial, base: row.baseVersion })
    }
    const unchanged = sql`exists (select 1 from ${application} a where a.id = ${reviewItem.applicationId} and a.updated_at <= ${row.at.toISOString()}::timestamptz)`
    const [skipped] = await tx.select({ n: sql<string>`count(distinct ${reviewItem.applicationId})` }).from(reviewItem).where(and(eq(reviewItem.reviewId, reviewId), sql`not ${unchanged}`))
    await tx.execute(sql`
      insert into ${postVerdict} (application_id, post, verdict, clauses, facts_sha256, rules_sha256, at)
      select application_id, post, after, clauses, facts_sha256, rules_sha256, ${context.now().toISOString()}::timestamptz from ${reviewItem}
      where ${reviewItem.reviewId} = ${reviewId} and ${unchanged}
      on conflict (application_id, post) do update set verdict = excluded.verdict, clauses = excluded.clauses,
        facts_sha256 = excluded.facts_sha256, rules_sha256 = excluded.rules_sha256, at = excluded.at`)
    const sentBack = await sendBack(tx, context, reviewId, row.serial, unchanged)
    if (row.noticeVersion !== row.baseVersion) await tx.update(cycle).set({ noticeVersion: row.noticeVersion }).where(eq(cycle.code, row.cycle))
    await tx.update(review).set({ state: 'accepted', settledBy: context.principal.id, settledAt: context.now() }).where(eq(review.id, reviewId))
    const leftOut = Number(skipped?.n ?? 0)
    await log(tx, context, 'accept-review', { subject: { kind: 'cycle', id: row.cycle }, cycle: row.cycle, before: { notice: row.baseVersion }, after: { notice: row.noticeVersion, review: row.serial, ...row.totals, leftOut, sentBack } })
    return { leftOut, sentBack }
  })
}

async function sendBack(tx: Executor, context: Context, reviewId: string, serial: number, unchanged: ReturnType<typeof sql>): Promise<number> {
  const shut = await tx.selectDistinct({ id: application.id }).from(reviewItem).innerJoin(application, eq(application.id, reviewItem.applicationId))
    .where(and(eq(reviewItem.reviewId, reviewId), eq(reviewItem.differs, true), eq(reviewItem.chosen, true), eq(reviewItem.after, 'fail'), eq(application.scrutiny, 'accepted'),
      inArray(application.placement, ['unplaced', 'placed']), unchanged))
  for (const { id } of shut) {
    const row = await lockApplication(tx, id)
    const { notice } = await currentNotice(tx, row.cycle)
    await carryOutOn({ tx, context, row, notice, facts: await factsOf(tx, row) }, 'back-to-scrutiny', {}, async () => ({ result: null, before: { scrutiny: row.scrutiny }, after: { scrutiny: 'waiting', review: serial } }))
  }
  return shut.length
}

/** Lays a review aside; the verdicts and the notice in force stay. */
export async function discardReview(caller: Caller, reviewId: string): Promise<void> {
  const context = await caller.authorise('notice.amend')
  await context.db.transaction(async (tx) => {
    const [row] = await tx.select().from(review).where(eq(review.id, reviewId)).for('update')
    if (!row) throw refusal('review.unknown')
    if (row.state === 'discarded') return
    if (row.state === 'accepted') throw refusal('review.accepted', { serial: row.serial, by: (await namesOf(tx, [row.settledBy]))(row.settledBy) })
    await tx.update(review).set({ state: 'discarded', settledBy: context.principal.id, settledAt: context.now() }).where(eq(review.id, reviewId))
    await log(tx, context, 'discard-review', { subject: { kind: 'cycle', id: row.cycle }, cycle: row.cycle, after: { review: row.serial, notice: row.noticeVersion } })
  })
}

function reviewRow(row: typeof review.$inferSelect, name: NameOf): ReviewRow {
  return {
    id: row.id, serial: row.serial, version: row.noticeVersion, baseVersion: row.baseVersion, state: row.state, totals: row.totals,
    by: name(row.by), at: row.at.toISOString(), settledBy: row.settledBy && name(row.settledBy), settledAt: row.settledAt?.toISOString() ?? null,
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
  const notices = { base: await noticeOfVersion(db, row.cycle, row.baseVersion), under: await noticeOfVersion(db, row.cycle, row.noticeVersion) }
  const [number, post] = query.after?.split('~') ?? []
  const rows = await db.select().from(reviewItem).innerJoin(application, eq(application.id, reviewItem.applicationId)).where(and(
    eq(reviewItem.reviewId, reviewId), eq(reviewItem.differs, true), query.post ? eq(reviewItem.post, query.post) : undefined,
    query.chosen ? eq(reviewItem.chosen, query.chosen === 'yes') : undefined,
    number && post ? or(gt(reviewItem.number, number), and(eq(reviewItem.number, number), gt(reviewItem.post, post))) : undefined,
  )).orderBy(reviewItem.number, reviewItem.post).limit(query.limit + 1)
  const page = rows.slice(0, query.limit)
  const last = page.at(-1)?.review_item
  return {
    ...reviewRow(row, await namesOf(db, [row.by, row.settledBy])), amendments: differencesBetween(notices.base, notices.under),
    differences: page.map(({ review_item: item, application: a }) => ({
      applicationId: a.id, number: a.number, name: a.displayName, post: item.post, postTitle: notices.under.posts.find(p => p.id === item.post)?.title ?? item.post,
      chosen: item.chosen, before: item.before ?? 'unsure', after: item.after, clauses: item.clauses, headline: a.headline,
    })),
    next: rows.length > query.limit && last ? `${last.number}~${last.post}` : null,
  }
}
