import { returnDeadline } from '../../../core/application/sheet'
import { emptySlots, slotsOf } from '../../../core/application/slots'
import { isFeeClear } from '../../../core/application/tracks'
import { dateInZone } from '../../../core/calendar/zone'
import { evaluatePosts } from '../../../core/eligibility/evaluate'
import { listAnswer } from '../../../core/application/answers'
import type { Finding } from '../../../core/finding/finding'
import type { Notice } from '../../../core/notice/schema'
import { findingWords } from '../../../core/words/en/findings'
import type { DecisionInput } from '../../../shared/scrutiny'
import { ProblemError } from '../../../shared/problem'
import type { Executor } from '../../database/client'
import { scrutinyDecision } from '../../database/schema'
import { countedAnswers, lockApplication, saveTracks, tracksOf, type ApplicationRow } from '../applications/store'
import { audit, demand, type Context } from '../context'
import { currentImages } from '../images/store'
import { currentNotice } from '../notice/notices'

/**
 * Decides a waiting case. Accepting against a failed finding needs a written reason; returning and refusing need one
 * for each item. The first of two people who decide the same case wins, and the second is told.
 */
export async function decide(context: Context, applicationId: string, given: DecisionInput): Promise<void> {
  const actor = demand(context, 'scrutiny.decide')
  await context.db.transaction(async (tx) => {
    const row = await lockApplication(tx, applicationId)
    if (row.form !== 'submitted' || row.scrutiny !== 'waiting') {
      throw new ProblemError('conflict', `${row.number} does not wait for a decision: its form is ${row.form}, its scrutiny ${row.scrutiny}. Nothing was changed; go on to the next.`)
    }
    if (!isFeeClear(row.fee)) throw new ProblemError('not-now', `The fee of ${row.number} is ${row.fee}. It comes into the queue when the fee is settled.`)
    const { notice } = await currentNotice(tx, row.cycle)
    if (given.decision === 'accept') await refuseUnjustified(tx, row, notice, given)
    else if (given.reasons.length === 0) throw new ProblemError('bad-input', `To ${given.decision} needs at least one item with its reason. Nothing was changed.`)
    const answerBy = given.decision === 'return' ? returnDeadline(notice, dateInZone(context.now(), notice.body.zone)) : null
    await tx.insert(scrutinyDecision).values({ id: context.newId(), applicationId, cycle: row.cycle, decision: given.decision, reasons: given.reasons, answerBy, slots: slotsOf(notice, row.answers).map(slot => slot.id), by: actor.name, at: context.now() })
    const change = given.decision === 'accept' ? { scrutiny: 'accepted' as const }
      : given.decision === 'refuse' ? { scrutiny: 'refused' as const } : { scrutiny: 'returned' as const, form: 'correcting' as const }
    const after = await saveTracks(tx, context, row, change)
    await audit(tx, context, given.decision, `application:${row.number}`, tracksOf(row), { ...after, reasons: given.reasons, answerBy })
  })
}

async function refuseUnjustified(tx: Executor, row: ApplicationRow, notice: Notice, given: DecisionInput): Promise<void> {
  const images = await currentImages(tx, row.id)
  const [lacking] = emptySlots(notice, row.answers, images)
  if (lacking) throw new ProblemError('not-now', `${lacking.title} of ${row.number} is missing. Return the application for it.`)
  const chosen = listAnswer(row.answers, 'posts')
  const failed: Finding[] = [
    ...slotsOf(notice, row.answers).flatMap(({ id }) => images[id]?.findings ?? []),
    ...evaluatePosts(notice, countedAnswers(notice, row)).filter(v => chosen.includes(v.post)).flatMap(v => v.findings),
  ].filter(f => f.verdict === 'fail')
  if (failed.length > 0 && given.reasons.length === 0) {
    const first = failed[0] ? findingWords(failed[0]).title : ''
    throw new ProblemError('bad-input', `${failed.length} findings failed (${first}). To accept all the same, write why; it stays in the record. Nothing was changed.`, failed)
  }
}
