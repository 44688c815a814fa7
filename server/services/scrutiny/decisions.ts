import { slotsOf, emptySlots } from '../../../core/application/slots'
import { answerUntil } from '../../../core/application/acts/dates'
import { openedBy } from '../../../core/application/acts/opened'
import { listAnswer } from '../../../core/application/answers'
import { postLimits } from '../../../core/application/post-limits'
import { grantedRequests } from '../../../core/application/requests'
import { evaluatePosts } from '../../../core/eligibility/evaluate'
import type { Finding } from '../../../core/finding/finding'
import { refusal } from '../../../shared/refusal'
import type { ItemReason } from '../../../shared/scrutiny'
import { scrutinyDecision } from '../../database/schema'
import { carryOut, type Acting, type Carried } from '../acts/carry-out'
import type { Given } from '../acts/given'
import { countedAnswers, decidedAnswers } from '../applications/store'
import type { Caller } from '../context'
import { currentImages } from '../images/current'
import { onlyOf } from './one-person'
import { refuseOtherHands } from './queue'

/**
 * Accepts a waiting case. Against a failed finding that needs a written reason. The first of two people who decide the same case wins, and
 * the second is told.
 */
export function acceptApplication(caller: Caller, id: string, reasons: readonly ItemReason[], given: Given): Promise<Carried<null>> {
  return carryOut(caller, 'accept', id, given, async (acting) => {
    await refuseOtherHands(acting.tx, acting.context, id)
    await refuseUnjustified(acting, reasons)
    refuseTooMany(acting)
    const personKey = await onlyOf(acting)
    await writeDecision(acting, 'accept', reasons, null)
    return { result: null, columns: { personKey }, before: { scrutiny: acting.row.scrutiny }, after: { scrutiny: 'accepted', reasons } }
  })
}

// More posts than the notice allows stand only where the office has granted that.
function refuseTooMany({ notice, row }: Acting): void {
  const answers = decidedAnswers(notice, row)
  const over = postLimits(notice, answers, listAnswer(answers, 'posts')).filter(limit => limit.fault === 'too many')
  const isGranted = grantedRequests(notice, answers).some(rule => rule.kind === 'limits')
  if (over.length > 0 && !isGranted) {
    throw refusal('sheet.too-many-posts', {
      number: row.number,
      limits: over.map(({ title, chosen, max }) => `${title}: ${chosen} / ${max ?? 0}`).join(', '),
    })
  }
}

/** Sends a waiting case back for correction: what is named opens, until a stated moment. */
export function returnApplication(caller: Caller, id: string, reasons: readonly ItemReason[], given: Given): Promise<Carried<null>> {
  return carryOut(caller, 'return', id, given, async (acting) => {
    if (reasons.length === 0) throw refusal('decision.no-reasons', { decision: 'return' })
    const { tx, context, notice, row } = acting
    await refuseOtherHands(tx, context, id)
    const until = answerUntil(notice, context.now())
    await writeDecision(acting, 'return', reasons, until)
    return {
      result: null,
      columns: { openUntil: until, openedAt: context.now(), openedItems: openedBy(notice, reasons.map(r => r.item)) },
      before: { form: row.form, scrutiny: row.scrutiny },
      after: { form: 'correcting', scrutiny: 'returned', reasons, until: until.toISOString() },
      tell: { until: until.toISOString(), items: reasons.length },
    }
  })
}

/** Refuses a waiting case with a reasoned order. */
export function refuseApplication(caller: Caller, id: string, reasons: readonly ItemReason[], given: Given): Promise<Carried<null>> {
  return carryOut(caller, 'refuse', id, given, async (acting) => {
    if (reasons.length === 0) throw refusal('decision.no-reasons', { decision: 'refuse' })
    await refuseOtherHands(acting.tx, acting.context, id)
    await writeDecision(acting, 'refuse', reasons, null)
    return { result: null, before: { scrutiny: acting.row.scrutiny }, after: { scrutiny: 'refused', reasons } }
  })
}

/**
 * Takes back an acceptance, a return that nobody answered, or a refusal; or opens a refused case again after an appeal. The case waits in
 * the queue as before.
 */
export function undoDecision(
  caller: Caller,
  act: 'take-back-acceptance' | 'recall-return' | 'take-back-refusal' | 'reopen',
  id: string,
  given: Given,
): Promise<Carried<null>> {
  return carryOut(caller, act, id, given, async () => ({ result: null, columns: { openUntil: null, openedAt: null, openedItems: null } }))
}

async function writeDecision(
  { tx, context, row, notice }: Acting,
  decision: 'accept' | 'return' | 'refuse',
  reasons: readonly ItemReason[],
  answerUntil: Date | null,
): Promise<void> {
  await tx.insert(scrutinyDecision).values({
    id: context.newId(),
    applicationId: row.id,
    cycle: row.cycle,
    decision,
    reasons: [...reasons],
    answerUntil,
    slots: slotsOf(notice, decidedAnswers(notice, row)).map(slot => slot.id),
    by: context.principal.id,
    at: context.now(),
  })
}

async function refuseUnjustified({ tx, context, row, notice }: Acting, reasons: readonly ItemReason[]): Promise<void> {
  const images = await currentImages(tx, row.id)
  const [lacking] = emptySlots(notice, decidedAnswers(notice, row), images)
  if (lacking) throw refusal('decision.file-missing', { title: lacking.title, number: row.number })
  const chosen = listAnswer(row.answers, 'posts')
  const failed: Finding[] = [
    ...slotsOf(notice, decidedAnswers(notice, row)).flatMap(({ id }) => images[id]?.findings ?? []),
    ...evaluatePosts(notice, countedAnswers(notice, row)).filter(v => chosen.includes(v.post)).flatMap(v => v.findings),
  ].filter(f => f.verdict === 'fail')
  if (failed.length > 0 && reasons.length === 0) {
    throw refusal('decision.findings-failed', {
      count: failed.length,
      first: failed[0] ? context.language.findings.findingWords(failed[0]).title : '',
    }, failed)
  }
}
