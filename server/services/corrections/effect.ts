import { and, eq, ne, sql } from 'drizzle-orm'
import type { CorrectionEffects } from '../../../core/application/correction-effects'
import { isFeeClear, type Tracks } from '../../../core/application/tracks'
import type { Answer } from '../../../core/application/answers'
import { holdsSeat } from '../../../core/application/acts/guards'
import { refusal } from '../../../shared/refusal'
import { answerChange, correction, image } from '../../database/schema'
import { carryOut, type Acting, type Carried, type Effect } from '../acts/carry-out'
import type { Given } from '../acts/given'
import { searchKeys } from '../applications/answers'
import { renewCard, voidCards } from '../cards/issue'
import { unseat } from '../centres/seats'
import type { Caller } from '../context'
import { keepVerdicts } from '../eligibility/verdicts'
import { feeStateOf, reassess } from '../fees/assessments'
import { bookSurplus } from '../fees/book'
import { currentImages } from '../images/current'
import { onlyOf } from '../scrutiny/one-person'
import { openCorrectionOf, type CorrectionRow } from './store'
import { weigh } from './weigh'

/**
 * Lets a correction take effect that somebody has looked at. Never whoever handed it in.
 *
 * @throws ProblemError `correction.own`, or `correction.overtaken` where the form was changed otherwise since it was handed in.
 */
export function acceptCorrection(caller: Caller, id: string, given: Given): Promise<Carried<null>> {
  return carryOut(caller, 'accept-correction', id, given, async (acting) => {
    if (acting.facts.correction?.by === acting.context.principal.id) throw refusal('correction.own', { number: acting.row.number })
    return takeEffect(acting, given.reason ?? '')
  })
}

/**
 * What a correction does once it counts, in the transaction that holds the application: answers, files, verdicts, fee with its charge, seat
 * and card follow together.
 */
export async function takeEffect(acting: Acting, decision: string): Promise<Effect<null>> {
  const { tx, context, row, notice, facts } = acting
  const asked = await openCorrectionOf(tx, row.id)
  if (!asked) throw refusal('act.no-correction', { number: row.number })
  await refuseOvertaken(acting, asked)
  const { corrected, effects, charge, files } = await weigh(acting, asked)
  const revision = row.revision + 1
  const changed = { ...corrected, revision, correctionCharges: charge ? [...row.correctionCharges, charge] : row.correctionCharges }
  const personKey = row.personKey === null ? null : await onlyOf({ ...acting, row: changed })
  await keepChanges(acting, asked, revision)
  await keepVerdicts(tx, context, changed, acting)
  await tx.update(correction).set({ state: 'accepted', decidedBy: context.principal.id, decidedAt: context.now(), decision, effects })
    .where(eq(correction.id, asked.id))
  // What was held for it is held no longer: it pays the fee as it is now.
  await reassess({ ...acting, facts: { ...facts, held: 0, correction: null } }, changed)
  await bookSurplus(tx, context, row.id, notice.body.currency.code)
  const fee = await feeStateOf(tx, context, row.id)
  const isUnseated = holdsSeat(row) && (effects.seat === 'given up' || (row.scrutiny === 'accepted' && !isFeeClear(fee)))
  if (isUnseated) await unseat(tx, context, [row.id])
  const card = isUnseated
    ? (row.card === 'withheld' ? 'withheld' : 'not issued')
    : await cardAfter({ ...acting, row: changed }, effects.card)
  return {
    result: null,
    outcome: { fee, isUnseated, card },
    columns: {
      answers: changed.answers,
      revision,
      correctionCharges: changed.correctionCharges,
      requests: changed.requests,
      personKey,
      ...searchKeys(changed.answers),
    },
    before: {
      ...Object.fromEntries(Object.entries(asked.changes).map(([question, { before }]) => [question, before])),
      fee: effects.fee.before,
    },
    after: {
      ...Object.fromEntries(Object.entries(asked.changes).map(([question, { after }]) => [question, after])),
      files: Object.keys(files),
      fee: effects.fee.after,
      seat: effects.seat,
      card,
    },
    tell: { seat: effects.seat, card: effects.card },
  }
}

async function cardAfter(acting: Acting, card: CorrectionEffects['card']): Promise<Tracks['card']> {
  if (card === 'made anew') return renewCard(acting)
  if (card !== 'void') return acting.row.card
  await voidCards(acting.tx, acting.context, acting.row.id)
  return acting.row.card === 'withheld' ? 'withheld' : 'not issued'
}

/** Refuses a correction of what does not stand there any more: nobody has weighed that. */
async function refuseOvertaken({ tx, row, notice }: Acting, asked: CorrectionRow): Promise<void> {
  const title = (item: string) => notice.sections.flatMap(s => s.questions).find(q => q.id === item)?.label ?? item
  const overtaken = Object.entries(asked.changes).find(([question, { before }]) =>
    JSON.stringify(row.answers[question] ?? '') !== JSON.stringify(before)
  )
  if (overtaken) throw refusal('correction.overtaken', { number: row.number, item: title(overtaken[0]) })
  const images = await currentImages(tx, row.id)
  const other = Object.entries(asked.slots).find(([slot, { before }]) => (images[slot]?.version ?? null) !== before)
  if (other) throw refusal('correction.overtaken', { number: row.number, item: title(other[0]) })
}

async function keepChanges({ tx, context, row }: Acting, asked: CorrectionRow, revision: number): Promise<void> {
  const rows = Object.entries(asked.changes)
  if (rows.length > 0) {
    await tx.insert(answerChange).values(rows.map(([question, { before, after }]: [string, { before: Answer, after: Answer }]) => (
      { id: context.newId(), applicationId: row.id, revision, question, before, after, by: asked.handedBy ?? asked.by, at: context.now() }
    )))
  }
  // Papers of proof stay with the correction; every other file counts from now on.
  await tx.update(image).set({ correctionId: null })
    .where(and(eq(image.correctionId, asked.id), ne(image.state, 'refused'), sql`${image.kind} not like 'proof.%'`))
}
