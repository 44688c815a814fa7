import { eq } from 'drizzle-orm'
import { correctionPeriod } from '../../../core/application/corrections'
import { refusal } from '../../../shared/refusal'
import { product } from '../../../core/access/principal'
import { correction } from '../../database/schema'
import { carryOut, type Acting, type Carried } from '../acts/carry-out'
import type { Given } from '../acts/given'
import { lockApplication } from '../applications/store'
import type { Caller } from '../context'
import { feeStateOf } from '../fees/assessments'
import { bookSurplus } from '../fees/book'
import { currentImages } from '../images/current'
import { refuseClosedItems, refuseUnreasoned } from './open'
import { movePaidCorrections } from './paid'
import { openCorrectionOf } from './store'
import { weigh, type Weighed } from './weigh'

/**
 * Hands a correction in. It waits for its money where it costs something, then for the office, unless the notice lets it take effect at
 * once; until then the form stays as it is.
 *
 * @throws ProblemError with what is missing or wrong in the form as it would be.
 */
export async function askCorrection(caller: Caller, id: string, given: Given): Promise<Carried<null>> {
  const carried = await carryOut<null>(caller, 'ask-correction', id, given, async (acting) => {
    const { tx, context, row, notice } = acting
    const asked = await openCorrectionOf(tx, id)
    if (!asked) throw refusal('act.no-correction', { number: row.number })
    const weighed = await weigh(acting, asked)
    refuseUnready(acting, weighed, asked.reason || given.reason || '', given)
    const isBeyond = weighed.closed.length > 0
    const images = await currentImages(tx, id)
    const slots = Object.fromEntries(weighed.items.filter(item =>
      !(item in asked.changes)
    ).map(slot => [slot, { before: images[slot]?.version ?? null }]))
    const state = weighed.holds > 0 ? 'unpaid' as const : 'waiting' as const
    const closes = weighed.used.map(rule => correctionPeriod(notice, rule).closes.getTime())
    await tx.update(correction).set({
      state,
      slots,
      rules: weighed.used.map(rule => rule.id),
      reason: asked.reason || given.reason || '',
      handedBy: context.principal.id,
      handedAt: context.now(),
      until: closes.length > 0 ? new Date(Math.min(...closes)) : null,
      holds: weighed.holds,
      charge: weighed.charge,
      atOnce: !isBeyond && weighed.takesEffectAtOnce,
    }).where(eq(correction.id, asked.id))
    await bookSurplus(tx, context, id, notice.body.currency.code)
    const changes = Object.fromEntries(Object.entries(asked.changes).map(([question, { after }]) => [question, after]))
    const before = Object.fromEntries(Object.entries(asked.changes).map(([question, change]) => [question, change.before]))
    return {
      result: null,
      outcome: { fee: await feeStateOf(tx, context, id) },
      before,
      after: {
        ...changes,
        files: Object.keys(slots),
        wants: weighed.holds,
        rules: weighed.used.map(rule => rule.id),
      },
      isOutsideDates: isBeyond,
      tell: { amount: weighed.holds, state },
    }
  })
  if (carried.isDone) await goOn(caller, id)
  return carried
}

function refuseUnready(acting: Acting, { items, closed, faults, lacks, unmeasured }: Weighed, reason: string, given: Given): void {
  const { row, context } = acting
  if (items.length === 0) throw refusal('correction.nothing', { number: row.number })
  refuseClosedItems(acting, closed, given)
  if (closed.length > 0) refuseUnreasoned(reason)
  if (faults.length > 0) {
    throw refusal('sheet.incomplete', {
      count: faults.length,
      first: faults[0] ? context.language.findings.findingWords(faults[0]).title : '',
    }, faults)
  }
  if (lacks.length > 0) throw refusal('sheet.files-missing', { titles: lacks.join(' and ') })
  if (unmeasured.length > 0) throw refusal('sheet.files-waiting', { titles: unmeasured.join(' and ') })
}

/** What costs nothing, or is paid already, goes on by itself. */
async function goOn(caller: Caller, id: string): Promise<void> {
  const context = await caller.authorise('applications.write', { application: id })
  await context.db.transaction(async (tx) => {
    await lockApplication(tx, id)
    await movePaidCorrections(tx, { ...context, principal: product }, [id])
  })
}

/** Takes a correction back that nobody has decided; what was paid for it is owed back. */
export function takeBackCorrection(caller: Caller, id: string, given: Given): Promise<Carried<null>> {
  return carryOut(caller, 'take-back-correction', id, given, acting => close(acting, 'taken back', given.reason ?? ''))
}

/** Refuses a correction with a reason; the form stays as it is, and what was paid for it is owed back. */
export function refuseCorrection(caller: Caller, id: string, given: Given): Promise<Carried<null>> {
  return carryOut(caller, 'refuse-correction', id, given, acting => close(acting, 'refused', given.reason ?? ''))
}

/** Ends a correction without effect. */
export async function close({ tx, context, row, notice }: Acting, state: 'taken back' | 'refused' | 'ended', reason: string) {
  const open = await openCorrectionOf(tx, row.id)
  if (!open) throw refusal('act.no-correction', { number: row.number })
  await tx.update(correction).set({ state, decidedBy: context.principal.id, decidedAt: context.now(), decision: reason })
    .where(eq(correction.id, open.id))
  await bookSurplus(tx, context, row.id, notice.body.currency.code)
  return {
    result: null,
    outcome: { fee: await feeStateOf(tx, context, row.id) },
    before: { state: open.state },
    after: { state, correction: open.id },
  }
}
