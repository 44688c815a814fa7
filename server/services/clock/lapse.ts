import { and, asc, eq, isNull, lte, ne, or } from 'drizzle-orm'
import { periodRefusal } from '../../../core/application/acts/dates'
import { alone, type Executor } from '../../database/client'
import { application, cycle } from '../../database/schema'
import { actingOn, carryOutOn, carryOutOnMany } from '../acts/carry-out'
import { standingColumns, type StandingRow } from '../applications/store'
import type { Caller, Context } from '../context'
import { grouped } from '../../../shared/grouped'
import { broughtBack } from '../applications/form'
import { reassess } from '../fees/assessments'
import { giveUpDues } from '../fees/reliefs'
import { currentNotice, type CurrentNotice } from '../notice/notices'

const pageSize = 500
/** For how long after a close nobody lapses: longer than a request that came before it can wait. */
const graceSeconds = 60

/**
 * What the clock does to applications: a draft lapses at the close, what is unpaid at the last moment to pay, and a correction that nobody
 * handed in ends as the notice says. Each once, whichever process looks first; an application that was kept open longer is passed over, and
 * a paper form that is still being keyed.
 *
 * @returns how many lapsed or were judged as they stood.
 */
export async function lapseOverdue(caller: Caller): Promise<number> {
  const context = await caller.authorise('clock.act')
  const done = await alone(context.db, 'clock', async () => {
    const cycles = await context.db.select({ code: cycle.code }).from(cycle)
    let count = 0
    for (const { code } of cycles) count += await lapseOfCycle(context, code)
    return count
  })
  return done?.result ?? 0
}

async function lapseOfCycle(context: Context, code: string): Promise<number> {
  const under = await currentNotice(context.db, code)
  const { notice } = under
  // Whoever came in time may still wait for their turn.
  const now = new Date(context.now().getTime() - graceSeconds * 1000)
  let count = await endCorrections(context, code)
  if (periodRefusal(notice, 'applications', now)?.code === 'dates.closed') count += await lapseMany(context, under, 'drafting')
  else if (!periodRefusal(notice, 'applications', now)) count += await reopenDrafts(context, under)
  if (periodRefusal(notice, 'payments', now)) count += await lapseMany(context, under, 'fee due')
  return count
}

/** Applications at a point of the flow that are not kept open longer, page by page; a payment under way is waited for. */
async function lapseMany(context: Context, under: CurrentNotice, headline: 'drafting' | 'fee due'): Promise<number> {
  let count = 0
  for (;;) {
    const page = await context.db.transaction(async (tx) => {
      const rows = await tx.select(standingColumns).from(application).where(and(
        eq(application.cycle, under.notice.code),
        eq(application.headline, headline),
        ne(application.fee, 'confirming'),
        ...headline === 'drafting' ? [isNull(application.receivedAt)] : [],
        or(isNull(application.openUntil), lte(application.openUntil, context.now())),
      )).orderBy(asc(application.number)).limit(pageSize).for('update', { skipLocked: true })
      const fees = await giveUpDues(
        tx,
        context,
        rows.map(row => row.id),
        headline === 'drafting' && under.notice.fees.unsubmitted === 'owed back',
      )
      for (const [fee, group] of grouped(rows, row => fees.get(row.id) ?? row.fee)) {
        await carryOutOnMany<StandingRow>(
          tx,
          context,
          'lapse',
          under,
          group,
          { outcome: { fee } },
          row => ({ before: { form: row.form }, after: { form: 'lapsed' } }),
        )
      }
      return rows.length
    })
    count += page
    if (page < pageSize) return count
  }
}

/** Drafts that a close had ended, once it was moved to a later moment: whoever had one may go on with it. */
async function reopenDrafts(context: Context, under: CurrentNotice): Promise<number> {
  for (let count = 0;;) {
    const page = await context.db.transaction(async (tx) => {
      const rows = await tx.select(standingColumns).from(application).where(and(
        eq(application.cycle, under.notice.code),
        eq(application.headline, 'lapsed'),
        eq(application.fee, 'not assessed'),
        isNull(application.submittedAt),
      )).orderBy(asc(application.number)).limit(pageSize).for('update', { skipLocked: true })
      await carryOutOnMany<StandingRow>(
        tx,
        context,
        'bring-back',
        under,
        rows,
        {},
        row => ({ before: { form: row.form }, after: { form: 'drafting' } }),
      )
      return rows.length
    })
    count += page
    if (page < pageSize) return count + await reopenPaidDrafts(context, under)
  }
}

/** The same of those whose fee was asked for before: what was given up at the close is due again. */
async function reopenPaidDrafts(context: Context, under: CurrentNotice): Promise<number> {
  const ended = await context.db.select({ id: application.id }).from(application).where(and(
    eq(application.cycle, under.notice.code),
    eq(application.headline, 'lapsed'),
    ne(application.fee, 'not assessed'),
    isNull(application.submittedAt),
  ))
  for (const { id } of ended) {
    await context.db.transaction(async (tx) => {
      const acting = await actingOn(tx, context, id)
      if (acting.row.headline === 'lapsed') await carryOutOn(acting, 'bring-back', { reason: context.language.log.closeMoved }, broughtBack)
    })
  }
  return ended.length
}

async function endCorrections(context: Context, code: string): Promise<number> {
  const overdue = await context.db.select({ id: application.id }).from(application).where(and(
    eq(application.cycle, code),
    eq(application.headline, 'returned'),
    eq(application.form, 'correcting'),
    lte(application.openUntil, context.now()),
  )).limit(pageSize)
  for (const { id } of overdue) await context.db.transaction(tx => endCorrection(tx, context, id))
  return overdue.length
}

async function endCorrection(tx: Executor, context: Context, id: string): Promise<void> {
  const acting = await actingOn(tx, context, id)
  const { row } = acting
  if (row.form !== 'correcting' || !row.openUntil || row.openUntil > context.now()) return
  const { unanswered } = acting.notice.outcomes
  await carryOutOn(acting, 'lapse', {}, async () => ({
    result: null,
    outcome: {
      unanswered,
      fee: unanswered === 'as it stood' ? await reassess(acting, row) : (await giveUpDues(tx, context, [id])).get(id) ?? row.fee,
    },
    columns: { openUntil: null, openedItems: null, openedAt: null },
  }))
}
