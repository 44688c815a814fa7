import { desc, sql } from 'drizzle-orm'
import { withRelief, spellAmount, type Assessment, type Relief } from '../../../core/fees/assess'
import { assessmentLines, feeState } from '../../../core/fees/ledger'
import type { Tracks } from '../../../core/application/tracks'
import type { Notice } from '../../../core/notice/schema'
import { refusal } from '../../../shared/refusal'
import type { Executor } from '../../database/client'
import { feeAssessment } from '../../database/schema'
import { carryOut, type Carried } from '../acts/carry-out'
import type { Given } from '../acts/given'
import type { ApplicationRow } from '../applications/store'
import type { Caller, Context } from '../context'
import { reassess } from './assessments'
import { bookMany } from './book'
import { receivedForMany, surplusesOf } from './received'

/**
 * Waives a due, or writes it off: all of it, or the amount that is named, in minor units. It counts as a line of the assessment, and goes
 * to an account of its own.
 */
export function giveUp(
  caller: Caller,
  act: 'waive-fee' | 'write-off-fee',
  id: string,
  amount: number | undefined,
  given: Given,
): Promise<Carried<null>> {
  return carryOut(caller, act, id, given, async (acting) => {
    const { tx, row, facts, notice } = acting
    const [old] = await tx.select().from(feeAssessment).where(sql`${feeAssessment.applicationId} = ${id}`)
      .orderBy(desc(feeAssessment.version)).limit(1)
    const due = (old?.assessment.total ?? 0) - facts.received
    const asked = amount ?? due
    if (asked <= 0 || asked > due) {
      throw refusal('fee.relief-amount', {
        number: row.number,
        amount: spellAmount(asked, notice.body.currency),
        due: spellAmount(Math.max(0, due), notice.body.currency),
      })
    }
    const relief: Relief = { kind: act === 'waive-fee' ? 'waived' : 'written off', amount: asked }
    const feeReliefs = [...row.feeReliefs, relief]
    return {
      result: null,
      outcome: { fee: await reassess(acting, { ...row, feeReliefs }) },
      columns: { feeReliefs },
      before: { due },
      after: { ...relief },
      tell: { amount: asked },
    }
  })
}

/** Claims again what was waived or written off. */
export function claimAgain(caller: Caller, id: string, given: Given): Promise<Carried<null>> {
  return carryOut(caller, 'claim-fee-again', id, given, async (acting) => {
    const { row } = acting
    const feeReliefs = row.feeReliefs.filter(one => one.kind === 'given up')
    return {
      result: null,
      outcome: { fee: await reassess(acting, { ...row, feeReliefs }) },
      columns: { feeReliefs },
      before: { reliefs: row.feeReliefs },
      after: { reliefs: feeReliefs },
    }
  })
}

interface Owing {
  id: string
  version: number
  assessment: Assessment
  noticeVersion: number | null
  received: number
}

/**
 * Gives up what applications owe that leave the flow unpaid: nobody collects it any more, and what was never paid was not earned. The
 * transaction holds them.
 *
 * @param isOwedBack all of the fee is given up, so that what was paid is owed back; what was paid for the way of paying is not.
 * @returns where the fee of each of them stands then.
 */
export async function giveUpDues(
  tx: Executor,
  context: Context,
  ids: readonly string[],
  isOwedBack = false,
): Promise<Map<string, Tracks['fee']>> {
  if (ids.length === 0) return new Map()
  const assessed = await tx.selectDistinctOn([feeAssessment.applicationId]).from(feeAssessment)
    .where(sql`${feeAssessment.applicationId} = any(${sql.param([...ids])}::uuid[])`).orderBy(
      feeAssessment.applicationId,
      sql`${feeAssessment.version} desc`,
    )
  const received = await receivedForMany(tx, assessed.map(row => row.applicationId))
  const all = assessed.map(({ applicationId, version, assessment, noticeVersion }): Owing => ({
    id: applicationId,
    version,
    assessment,
    noticeVersion,
    received: received.get(applicationId) ?? 0,
  }))
  const ended = all.map(one => endedOf(one, isOwedBack ? 0 : one.received))
  await writeGivenUp(tx, context, ended.filter(one => one.amount > 0))
  return new Map(ended.map(one => [one.id, feeState(one.ended.total, one.received, false)]))
}

interface Ended extends Owing {
  ended: Assessment
  amount: number
}

/** An assessment of which no more than `kept` stays due. */
function endedOf(one: Owing, kept: number): Ended {
  const { assessment } = one
  const items = assessment.total > kept
    ? withRelief(assessment.items, { kind: 'given up', amount: assessment.total - kept })
    : assessment.items
  const total = items.reduce((sum, item) => sum + item.amount, 0)
  return { ...one, ended: { ...assessment, items, total }, amount: assessment.total - total }
}

/** Whether what was paid for a form that was never handed in is owed back. */
export const isOwedBack = (notice: Pick<Notice, 'fees'>, row: Pick<ApplicationRow, 'submittedAt'>): boolean =>
  row.submittedAt === null && notice.fees.unsubmitted === 'owed back'

async function writeGivenUp(tx: Executor, context: Context, after: readonly Ended[]): Promise<void> {
  if (after.length === 0) return
  await tx.insert(feeAssessment).values(after.map(one => ({
    id: context.newId(),
    applicationId: one.id,
    version: one.version + 1,
    assessment: one.ended,
    at: context.now(),
    noticeVersion: one.noticeVersion,
  })))
  for (const currency of new Set(after.map(one => one.assessment.currency.code))) {
    await bookMany(
      tx,
      context.now(),
      currency,
      'assessment',
      after.filter(one => one.assessment.currency.code === currency).map(one => ({
        application: one.id,
        source: `assessment:${one.id}:${one.version + 1}`,
        lines: assessmentLines(one.assessment.items, one.ended.items),
      })),
    )
    await bookMany(
      tx,
      context.now(),
      currency,
      'surplus',
      await surplusesOf(tx, after.filter(one => one.assessment.currency.code === currency).map(one => one.id)),
    )
  }
  await tx
    .execute(sql`update application a set fee_reliefs = a.fee_reliefs || jsonb_build_array(jsonb_build_object('kind', 'given up', 'amount', one.amount))
    from jsonb_to_recordset(${
      JSON.stringify(after.map(({ id, amount }) => ({ id, amount })))
    }::jsonb) as one(id uuid, amount bigint) where a.id = one.id`)
}
