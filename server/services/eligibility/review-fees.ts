import { inArray, sql } from 'drizzle-orm'
import { assessFee } from '../../../core/fees/assess'
import { feeState } from '../../../core/fees/ledger'
import type { Notice } from '../../../core/notice/schema'
import type { Executor } from '../../database/client'
import { feeAssessment, reviewFee, type FeeTotals } from '../../database/schema'
import { countedAnswers, type ApplicationRow } from '../applications/store'
import { receivedForMany } from '../fees/received'

/** What a proposed notice would do to fees that were assessed already. */

export const noFeeChanges: FeeTotals = { more: 0, moreBy: 0, less: 0, lessBy: 0, dueAgain: 0, owedBack: 0 }

/** Lists for a page of applications whose fee would be another one, and adds to the totals. */
export async function reviewFees(
  db: Executor,
  reviewId: string,
  page: readonly ApplicationRow[],
  under: Notice,
  totals: FeeTotals,
): Promise<void> {
  const assessed = await totalsInForce(db, page)
  const changed = page.flatMap((row) => {
    const before = assessed.get(row.id)
    const after = row.submittedAt ? assessFee(under, countedAnswers(under, row), row.feeMoment ?? row.submittedAt, row)?.total : undefined
    return before === undefined || after === undefined || before === after ? [] : [{ row, before, after }]
  })
  if (changed.length === 0) return
  const received = await receivedForMany(db, changed.map(({ row }) => row.id))
  const items = changed.map(({ row, before, after }) => ({
    reviewId,
    applicationId: row.id,
    number: row.number,
    before,
    after,
    received: received.get(row.id) ?? 0,
  }))
  for (const one of items) addTo(totals, one)
  await db.insert(reviewFee).values(items)
}

function addTo(totals: FeeTotals, { before, after, received }: { before: number, after: number, received: number }): void {
  if (after > before) {
    totals.more += 1
    totals.moreBy += after - before
  } else {
    totals.less += 1
    totals.lessBy += before - after
  }
  const [was, becomes] = [feeState(before, received, false), feeState(after, received, false)]
  if (was !== 'due' && becomes === 'due') totals.dueAgain += 1
  if (was !== 'refund due' && becomes === 'refund due') totals.owedBack += 1
}

// The newest version of each; numbers only, since whole assessments of a page are large.
async function totalsInForce(db: Executor, page: readonly ApplicationRow[]): Promise<Map<string, number>> {
  const rows = await db.selectDistinctOn([feeAssessment.applicationId], {
    id: feeAssessment.applicationId,
    total: sql<number>`(${feeAssessment.assessment} ->> 'total')::int`,
  }).from(feeAssessment).where(inArray(feeAssessment.applicationId, page.map(row => row.id))).orderBy(
    feeAssessment.applicationId,
    sql`${feeAssessment.version} desc`,
  )
  return new Map(rows.map(row => [row.id, row.total]))
}
