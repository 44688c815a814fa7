import { and, eq } from 'drizzle-orm'
import { correctionsOpen } from '../../../core/application/corrections'
import type { Answer } from '../../../core/application/answers'
import type { CorrectionDraft, CorrectionView } from '../../../shared/corrections'
import { refusal } from '../../../shared/refusal'
import { correction } from '../../database/schema'
import { actingOn, type Acting } from '../acts/carry-out'
import { refuseUnknownQuestions, storedAnswer } from '../applications/answers'
import type { Caller } from '../context'
import { refuseClosedItems } from './open'
import { openCorrectionOf } from './store'
import { viewOf } from './view'

/**
 * Keeps what somebody wants corrected, as far as it is written; the form itself stays as it is. The first time begins the correction.
 * Questions that are not sent stay as they were written before, so that two who write at once lose nothing of each other.
 *
 * @throws ProblemError `correction.item-closed` for what no rule opens now, `act.no-correction` once it was handed in.
 */
export async function saveCorrection(caller: Caller, id: string, draft: CorrectionDraft): Promise<CorrectionView> {
  const context = await caller.authorise('applications.write', { application: id })
  return context.db.transaction(async (tx) => {
    const acting = await actingOn(tx, context, id)
    const { row, notice, facts } = acting
    if (row.form !== 'submitted' || row.scrutiny === 'refused') {
      throw refusal('act.form-not-submitted', { number: row.number, form: row.form, headline: row.headline })
    }
    refuseUnknownQuestions(notice, Object.keys(draft.changes))
    const wanted = Object
      .fromEntries(Object.entries(draft.changes).flatMap<[string, { before: Answer, after: Answer }]>(([question, typed]) => {
        const before = row.answers[question] ?? ''
        const after = typed === null ? before : storedAnswer(typed)
        return JSON.stringify(before) === JSON.stringify(after) ? [] : [[question, { before, after }]]
      }))
    refuseClosedItems(acting, Object.keys(wanted), draft)
    if (facts.correction && facts.correction.state !== 'drafting') throw refusal('act.correction-asked', { number: row.number })
    const before = await openCorrectionOf(tx, id)
    const others = Object.entries(before?.changes ?? {}).filter(([question]) => !(question in draft.changes))
    const kept = { changes: { ...Object.fromEntries(others), ...wanted }, reason: draft.reason ?? '' }
    const [saved] = before
      ? await tx.update(correction).set(kept).where(eq(correction.id, before.id)).returning()
      : await tx.insert(correction).values({
        id: context.newId(),
        applicationId: id,
        cycle: row.cycle,
        state: 'drafting',
        ...kept,
        by: context.principal.id,
        begunAt: context.now(),
        until: endOf(acting),
      }).returning()
    return viewOf({ ...acting, facts: { ...facts, correction: { state: 'drafting', by: context.principal.id } } }, saved ?? null)
  })
}

// The latest moment at which one of the rules that are open now ends; an officer's outside of them has no end.
function endOf({ context, notice }: Acting): Date | null {
  const ends = correctionsOpen(notice, context.principal, context.now()).map(rule =>
    Date.parse(rule.closes ?? notice.keyDates.correctionCloses)
  )
  return ends.length === 0 ? null : new Date(Math.max(...ends))
}

/** Drops a correction that was not handed in. Files put forward stay on record and count for nothing. */
export async function dropCorrection(caller: Caller, id: string): Promise<void> {
  const context = await caller.authorise('applications.write', { application: id })
  await context.db.update(correction).set({ state: 'ended', decidedAt: context.now(), decidedBy: context.principal.id })
    .where(and(eq(correction.applicationId, id), eq(correction.state, 'drafting')))
}
