import { createHash } from 'node:crypto'
import { and, eq, inArray, isNotNull, isNull, sql } from 'drizzle-orm'
import { erasableFrom, keptMonths } from '../../../core/records/erasure'
import { headlines } from '../../../core/application/tracks'
import { dateInZone, spellDate } from '../../../core/calendar/zone'
import type { Notice } from '../../../core/notice/schema'
import type { ErasureView } from '../../../shared/records'
import type { ProblemError } from '../../../shared/problem'
import { refusal } from '../../../shared/refusal'
import type { Executor } from '../../database/client'
import { application, cycle, depositSlip, erasure, officeSetting, payment, proposal, refund } from '../../database/schema'
import type { Given } from '../acts/given'
import { propose, secondPersonWanted, settleProposal } from '../acts/proposals'
import { log, type Caller, type Context } from '../context'
import { currentNotice } from '../notice/notices'
import { namesOf } from '../people/names'
import { countsOf } from '../roster/tally'

/**
 * What a finished cycle tells of people is erased after its time: released here by two people, and carried out by `eraseReleased` as a role
 * of its own, since the application may not change evidence.
 */

/** Name of the setting that says how many months data of people are kept after a cycle. */
export const keepMonths = 'keep-months'

export async function monthsKept(tx: Executor): Promise<number> {
  const [row] = await tx.select({ value: officeSetting.value }).from(officeSetting).where(eq(officeSetting.name, keepMonths))
  return typeof row?.value === 'number' ? row.value : keptMonths.usual
}

/** What a proposal to erase a cycle is about: there is one at most. */
function subjectOf(code: string): string {
  const hex = createHash('sha256').update(`erase ${code}`).digest('hex')
  return [hex.slice(0, 8), hex.slice(8, 12), hex.slice(12, 16), hex.slice(16, 20), hex.slice(20, 32)].join('-')
}

/** How far the erasing of a cycle is, and why it cannot be released yet. */
export async function readErasure(caller: Caller, code: string): Promise<ErasureView> {
  const context = await caller.authorise('records.read', { cycle: code })
  const { db } = context
  const { notice } = await currentNotice(db, code)
  const [kept] = await db.select().from(erasure).where(eq(erasure.cycle, code))
  const [waiting] = await db.select().from(proposal)
    .where(and(eq(proposal.act, 'release-erasing'), eq(proposal.subject, subjectOf(code)), eq(proposal.state, 'waiting')))
  const counts = await countsOf(db, code, headlines.map(point => `at:${point}`))
  const why = kept ? null : await refusalNow(db, context, notice)
  const name = await namesOf(db, [kept?.by, waiting?.by].flatMap(id => id ? [id] : []))
  return {
    from: erasableFrom(notice, await monthsKept(db)),
    applications: [...counts.values()].reduce((all, n) => all + n, 0),
    refusal: why && { code: why.problem.code, parameters: why.problem.parameters },
    proposed: waiting ? { id: waiting.id, by: name(waiting.by), isOwn: waiting.by === caller.principal.id, reason: waiting.reason } : null,
    released: kept ? { by: name(kept.by), at: kept.at.toISOString(), reason: kept.reason } : null,
    alone: await releasedAlone(db, code),
    done: kept?.doneAt
      ? { at: kept.doneAt.toISOString(), applications: kept.applications, files: kept.files, accounts: kept.accounts }
      : null,
  }
}

async function releasedAlone(db: Executor, code: string): Promise<ErasureView['alone']> {
  const own = and(eq(application.cycle, code), isNotNull(application.erasingSince))
  const [count] = await db.select({
    erased: sql<string>`count(*) filter (where ${application.erasedAt} is not null)`,
    all: sql<string>`count(*)`,
  }).from(application).where(own)
  const first = await db.select({ id: application.id, number: application.number }).from(application)
    .where(and(own, isNull(application.erasedAt))).orderBy(application.erasingSince).limit(12)
  const erased = Number(count?.erased)
  return { erased, waiting: Number(count?.all) - erased, first }
}

/**
 * Releases a cycle for erasing, or writes down that a second person has to confirm it. From then on nobody is taken in.
 *
 * @throws ProblemError `erase.too-early`, `erase.open` or `erase.released`.
 */
export async function releaseErasing(
  caller: Caller,
  code: string,
  given: Given & { reason: string },
): Promise<{ proposal: string | null }> {
  const context = await caller.authorise('records.erase', { cycle: code })
  return context.db.transaction(async (tx) => {
    await tx.select().from(cycle).where(eq(cycle.code, code)).for('update')
    const [kept] = await tx.select().from(erasure).where(eq(erasure.cycle, code))
    if (kept) throw refusal('erase.released', { cycle: code, by: (await namesOf(tx, [kept.by]))(kept.by) })
    const why = await refusalNow(tx, context, (await currentNotice(tx, code)).notice)
    if (why) throw why
    if (await secondPersonWanted(tx, context, 'release-erasing', subjectOf(code), given)) {
      return { proposal: await propose(tx, context, 'release-erasing', { id: subjectOf(code), cycle: code }, given) }
    }
    if (given.confirmed) await settleProposal(tx, context, given.confirmed.proposal, 'confirmed')
    await tx.insert(erasure).values({ cycle: code, reason: given.reason, by: context.principal.id, at: context.now() })
    await tx.update(cycle).set({ erasingSince: context.now() }).where(eq(cycle.code, code))
    await log(tx, context, 'release-erasing', { subject: { kind: 'cycle', id: code }, cycle: code, reason: given.reason })
    return { proposal: null }
  })
}

async function refusalNow(tx: Executor, context: Pick<Context, 'now'>, notice: Notice): Promise<ProblemError | null> {
  const from = erasableFrom(notice, await monthsKept(tx))
  if (dateInZone(context.now(), notice.body.zone) < from) return refusal('erase.too-early', { cycle: notice.code, from: spellDate(from) })
  const own = (column: typeof payment.applicationId | typeof refund.applicationId) =>
    sql`exists (select 1 from ${application} where ${application.id} = ${column} and ${application.cycle} = ${notice.code})`
  const [[payments], [refunds], [slips], [cases]] = [
    await tx.select({ n: sql<string>`count(*)` }).from(payment).where(and(eq(payment.state, 'open'), own(payment.applicationId))),
    await tx.select({ n: sql<string>`count(*)` }).from(refund)
      .where(and(inArray(refund.state, ['proposed', 'approved', 'sent']), own(refund.applicationId))),
    await tx.select({ n: sql<string>`count(*)` }).from(depositSlip)
      .where(and(eq(depositSlip.state, 'waiting'), eq(depositSlip.cycle, notice.code))),
    await tx.select({ n: sql<string>`count(*)` }).from(application)
      .where(and(eq(application.cycle, notice.code), eq(application.headline, 'in scrutiny'))),
  ]
  const open = { payments: Number(payments?.n), refunds: Number(refunds?.n), slips: Number(slips?.n), cases: Number(cases?.n) }
  return Object.values(open).some(n => n > 0) ? refusal('erase.open', { cycle: notice.code, ...open }) : null
}
