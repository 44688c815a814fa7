import { and, asc, eq, gt, isNotNull, ne, sql } from 'drizzle-orm'
import { assessFee, type Assessment } from '../../../core/fees/assess'
import { assessmentLines } from '../../../core/fees/ledger'
import { isEqual } from '../../../core/notice/edit'
import { grouped } from '../../../shared/grouped'
import type { Executor } from '../../database/client'
import { application, feeAssessment } from '../../database/schema'
import { carryOutOnMany } from '../acts/carry-out'
import { settleMattersOfMany } from '../acts/matters'
import { countedAnswers, type ApplicationRow } from '../applications/store'
import type { Caller, Context } from '../context'
import { currentNotice, type CurrentNotice } from '../notice/notices'
import { bookMany } from './book'
import { moneyOf, stateOfMoney, surplusesOf } from './received'

const pageSize = 500

/**
 * Assesses fees of all who are in anew after an amendment that takes them along: differences are booked and told, page by page. What was
 * assessed so already is passed over, so that the work may begin again after it stopped half-way.
 */
export async function assessAllAnew(
  caller: Caller,
  cycleCode: string,
  tell: (done: number, total: number) => Promise<boolean>,
): Promise<Record<string, number>> {
  const context = await caller.authorise('notice.amend')
  const submitted = and(
    eq(application.cycle, cycleCode),
    isNotNull(application.submittedAt),
    ne(application.fee, 'not assessed'),
    ne(application.scrutiny, 'refused'),
  )
  const [count] = await context.db.select({ n: sql<string>`count(*)` }).from(application).where(submitted)
  const total = Number(count?.n ?? 0)
  let [looked, changed] = [0, 0]
  for (let after = '';;) {
    const page = await context.db.transaction(async (tx) => {
      const rows = await tx.select().from(application).where(and(submitted, gt(application.number, after))).orderBy(asc(application.number))
        .limit(pageSize).for('update')
      const under = await currentNotice(tx, cycleCode)
      return {
        size: rows.length,
        last: rows.at(-1)?.number ?? '',
        changed: await assessPage(tx, context, under, rows.filter(row => row.form === 'submitted' || row.form === 'correcting')),
      }
    })
    looked += page.size
    changed += page.changed
    after = page.last
    if (!await tell(looked, total) || page.size < pageSize) return { applications: looked, changed }
  }
}

interface Anew {
  row: ApplicationRow
  before: Assessment
  assessment: Assessment
  version: number
}

async function assessPage(tx: Executor, context: Context, under: CurrentNotice, rows: readonly ApplicationRow[]): Promise<number> {
  const inForce = await assessmentsOf(tx, rows)
  const anew = rows.flatMap<Anew>((row) => {
    const old = inForce.get(row.id)
    const assessment = row.submittedAt && assessFee(under.notice, countedAnswers(under.notice, row), row.feeMoment ?? row.submittedAt, row)
    return !old || !assessment || isEqual(old.assessment, assessment)
      ? []
      : [{ row, before: old.assessment, assessment, version: old.version + 1 }]
  })
  if (anew.length === 0) return 0
  await writeAssessments(tx, context, under, anew)
  const money = await moneyOf(tx, context, anew.map(({ row }) => row.id))
  const states = grouped(anew, one => stateOfMoney(money.get(one.row.id)))
  for (const [fee, group] of states) {
    const of = new Map(group.map(one => [one.row.id, one]))
    await carryOutOnMany(tx, context, 'assess-fee', under, group.map(({ row }) => row), { outcome: { fee } }, ({ id }) => {
      const one = of.get(id)
      return { before: one?.before, after: one?.assessment, tell: { before: one?.before.total ?? 0, after: one?.assessment.total ?? 0 } }
    })
  }
  // Whom a changed fee lets on waits for scrutiny now, and whom it holds back for money.
  const moved = await tx.select().from(application).where(sql`${application.id} = any(${sql.param(anew.map(({ row }) => row.id))}::uuid[])`)
  await settleMattersOfMany(tx, context, moved, under.notice)
  return anew.length
}

async function assessmentsOf(
  tx: Executor,
  rows: readonly ApplicationRow[],
): Promise<Map<string, { version: number, assessment: Assessment }>> {
  const ids = sql.param(rows.map(row => row.id))
  const found = await tx.selectDistinctOn([feeAssessment.applicationId]).from(feeAssessment)
    .where(sql`${feeAssessment.applicationId} = any(${ids}::uuid[])`).orderBy(
      feeAssessment.applicationId,
      sql`${feeAssessment.version} desc`,
    )
  return new Map(found.map(row => [row.applicationId, row]))
}

/** The new versions, and the differences in the ledger under their lasting sources: in a few statements a page. */
async function writeAssessments(tx: Executor, context: Context, under: CurrentNotice, anew: readonly Anew[]): Promise<void> {
  const at = context.now()
  await tx.insert(feeAssessment).values(anew.map(({ row, assessment, version }) => ({
    id: context.newId(),
    applicationId: row.id,
    version,
    assessment,
    at,
    noticeVersion: under.version,
  })))
  await bookMany(
    tx,
    at,
    under.notice.body.currency.code,
    'assessment',
    anew.flatMap(({ row, before, assessment, version }) => (
      [{ application: row.id, source: `assessment:${row.id}:${version}`, lines: assessmentLines(before.items, assessment.items) }].filter(
        one => one.lines.length > 0
      )
    )),
  )
  await bookMany(tx, at, under.notice.body.currency.code, 'surplus', await surplusesOf(tx, anew.map(({ row }) => row.id)))
}
