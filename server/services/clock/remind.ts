import { and, asc, eq, gt, inArray, isNull, lte, notInArray, sql, type SQL } from 'drizzle-orm'
import { isEndorsementOpen } from '../../../core/application/endorsements'
import type { Headline } from '../../../core/application/tracks'
import { alone, type Executor } from '../../database/client'
import { application, cycle, endorsement, openMatter } from '../../database/schema'
import { carryOutOnMany } from '../acts/carry-out'
import { standingColumns, type StandingRow } from '../applications/store'
import type { Caller, Context } from '../context'
import { sendLink } from '../endorsements/ask'
import { currentNotice, type CurrentNotice } from '../notice/notices'

const pageSize = 500
/** Hours before a last moment at which whoever has not acted is reminded. */
const hoursBefore = 48

/**
 * Reminds once, two days before it is too late: of a form that is not handed in, a fee that is not paid, a return or correction that is not
 * answered, a paper that was to follow. Who came to that point within the last day is not reminded of what they were just told.
 *
 * @returns how many were reminded.
 */
export async function remindInTime(caller: Caller): Promise<number> {
  const context = await caller.authorise('clock.act')
  const done = await alone(context.db, 'reminders', async () => {
    let count = 0
    for (const { code } of await context.db.select({ code: cycle.code }).from(cycle)) count += await remindOfCycle(context, code)
    return count
  })
  return done?.result ?? 0
}

async function remindOfCycle(context: Context, code: string): Promise<number> {
  const under = await currentNotice(context.db, code)
  const { closes, lastPayment } = under.notice.keyDates
  const now = context.now()
  const soon = new Date(now.getTime() + hoursBefore * 3_600_000)
  const isSoon = (instant: string) => now < new Date(instant) && new Date(instant) <= soon
  let count = await remindMany(
    context,
    under,
    'returned',
    and(gt(application.openUntil, now), lte(application.openUntil, soon)),
    row => row.openUntil,
  )
  if (isSoon(closes)) count += await remindMany(context, under, 'drafting', undefined, () => new Date(closes))
  if (isSoon(lastPayment)) count += await remindMany(context, under, 'fee due', undefined, () => new Date(lastPayment))
  return count + await remindOfPapers(context, under, soon) + await remindWhoWasAsked(context, under)
}

/** Days after which somebody who was asked and has not answered is written to once more. */
const daysToAnswer = 3

/** Of what somebody other than the candidate was asked: once, by a letter of its own. */
async function remindWhoWasAsked(context: Context, under: CurrentNotice): Promise<number> {
  const open = (under.notice.endorsements ?? []).filter(rule => isEndorsementOpen(rule, context.now())).map(rule => rule.id)
  if (open.length === 0) return 0
  return inPages(context, async (tx) => {
    const rows = await tx.select({ one: endorsement, number: application.number, displayName: application.displayName }).from(endorsement)
      .innerJoin(application, eq(application.id, endorsement.applicationId)).where(and(
        eq(endorsement.state, 'asked'),
        isNull(endorsement.remindedAt),
        lte(endorsement.askedAt, new Date(context.now().getTime() - daysToAnswer * 24 * 3_600_000)),
        eq(endorsement.cycle, under.notice.code),
        inArray(endorsement.rule, open),
        notInArray(application.form, ['withdrawn', 'lapsed']),
        notInArray(application.scrutiny, ['refused', 'accepted']),
      )).orderBy(asc(endorsement.askedAt)).limit(pageSize).for('update', { of: endorsement, skipLocked: true })
    for (const { one, number, displayName } of rows) {
      await sendLink(tx, context, under, { number, displayName }, one, true)
      await tx.update(endorsement).set({ remindedAt: context.now() }).where(eq(endorsement.id, one.id))
    }
    return rows.length
  })
}

/** Of papers that may follow, once for each moment at which one has to be there. */
async function remindOfPapers(context: Context, under: CurrentNotice, soon: Date): Promise<number> {
  return inPages(context, async (tx) => {
    const rows = await tx.select({ ...standingColumns, openUntil: openMatter.until }).from(openMatter).innerJoin(
      application,
      eq(application.id, openMatter.applicationId),
    ).where(and(
      eq(openMatter.cycle, under.notice.code),
      eq(openMatter.kind, 'proof-follows'),
      isNull(openMatter.clearedAt),
      gt(openMatter.until, context.now()),
      lte(openMatter.until, soon),
      eq(application.form, 'submitted'),
      sql`not exists (select 1 from message m where m.application_id = ${application.id} and m.kind = 'remind' and m.parameters ->> 'what' = 'paper' and (m.parameters ->> 'until')::timestamptz >= ${openMatter.until})`,
    )).orderBy(asc(application.number)).limit(pageSize).for('update', { of: application, skipLocked: true })
    const each = [...new Map(rows.map(row => [row.id, row])).values()]
    await carryOutOnMany<Reminded>(tx, context, 'remind', under, each, {}, row => told('paper', row.openUntil))
    return rows.length
  })
}

type Reminded = StandingRow & { openUntil: Date | null }

async function remindMany(
  context: Context,
  under: CurrentNotice,
  headline: Headline,
  more: SQL | undefined,
  until: (row: Reminded) => Date | null,
): Promise<number> {
  return inPages(context, async (tx) => {
    const rows = await tx.select({ ...standingColumns, openUntil: application.openUntil }).from(application).where(and(
      eq(application.cycle, under.notice.code),
      eq(application.headline, headline),
      more,
      lte(application.headlineSince, new Date(context.now().getTime() - hoursBefore * 3_600_000 / 2)),
      sql`not exists (select 1 from message m where m.application_id = ${application.id} and m.kind = 'remind' and m.at >= ${application.headlineSince})`,
    )).orderBy(asc(application.number)).limit(pageSize).for('update', { skipLocked: true })
    await carryOutOnMany<Reminded>(tx, context, 'remind', under, rows, {}, row => told(headline, until(row)))
    return rows.length
  })
}

const told = (what: Headline | 'paper', until: Date | null) => ({
  after: { until: until?.toISOString() },
  tell: { what, until: until?.toISOString() ?? '' },
})

/** Page after page, each in a transaction of its own, until one is not full. */
async function inPages(context: Context, page: (tx: Executor) => Promise<number>): Promise<number> {
  for (let count = 0;;) {
    const done = await context.db.transaction(page)
    count += done
    if (done < pageSize) return count
  }
}
