import type { RefusalCode, RefusalReason } from '../../refusal/codes'
import type { Principal } from '../../access/principal'
import type { OpenCorrectionState } from '../corrections'
import type { KeyingState } from '../keying'
import { isFeeClear, type Tracks } from '../tracks'
import type { ActFacts, ActOutcome } from './rule'

/** What rules of acts ask in common, and what acts do to the tracks. */

export type Guard = (facts: ActFacts) => RefusalReason | null

export function because(code: RefusalCode, facts: ActFacts): RefusalReason {
  const { form, fee, scrutiny, card } = facts.tracks
  return { code, parameters: { number: facts.number, form, fee, scrutiny, card, headline: facts.headline } }
}
export const unless = (holds: (facts: ActFacts) => boolean, code: RefusalCode): Guard => facts => holds(facts) ? null : because(code, facts)
export const all = (...guards: Guard[]): Guard => (facts) => {
  for (const guard of guards) {
    const refused = guard(facts)
    if (refused) return refused
  }
  return null
}

/** Whether answers and files may be changed. */
export const isFormEditable = ({ form }: Pick<Tracks, 'form'>) => form === 'drafting' || form === 'correcting'
/** Whether a seat was made known. */
export const holdsSeat = ({ placement }: Pick<Tracks, 'placement'>) => placement === 'published' || placement === 'moved'
/** A card that was printed for a seat is void when the seat changes; one that the office keeps back stays kept back. */
export const withoutCard = ({ card }: Tracks) => card === 'withheld' ? card : 'not issued' as const
/** Whether somebody can be placed: accepted, and not taken out of the flow. */
export const isPlaceable = (tracks: Tracks) => tracks.form === 'submitted' && tracks.scrutiny === 'accepted'

export const isOver = ({ form }: Pick<Tracks, 'form'>) => form === 'withdrawn' || form === 'lapsed'
export const keyed = (...states: KeyingState[]) => (f: ActFacts) => f.keying !== null && states.includes(f.keying.state)
export const drafting = unless(f => f.tracks.form === 'drafting', 'act.form-not-open')
export const editable = all(
  unless(f => isFormEditable(f.tracks), 'act.form-frozen'),
  unless(f => !keyed('second', 'differing')(f), 'act.keyed-once'),
)
export const seatless = unless(f => !holdsSeat(f.tracks), 'act.seat-held')
export const underWay = unless(f => !isOver(f.tracks), 'act.form-over')
export const noPayment = unless(f => !f.hasOpenPayment, 'act.payment-under-way')
export const waiting = unless(
  f => f.tracks.form === 'submitted' && (f.tracks.scrutiny === 'waiting' || f.tracks.scrutiny === 'not started'),
  'act.not-waiting',
)
export const feeClear = unless(f => isFeeClear(f.tracks.fee), 'act.fee-open')
export const answered = unless(f => f.heldBy !== 'referred', 'act.referred')
export const unasked = unless(f => !f.isAsking, 'act.request-open')
export const unheld = all(
  answered,
  unasked,
  unless(f => !f.isAwaited, 'act.endorsement-awaited'),
  unless(f => f.heldBy !== 'barred', 'act.barred'),
  unless(f => f.heldBy === null, 'act.likely-duplicate'),
)
export const corrects = (...states: OpenCorrectionState[]) => (f: ActFacts) => f.correction !== null && states.includes(f.correction.state)
export const uncorrected = unless(f => !corrects('waiting')(f), 'act.correction-waits')
export const correctable = all(
  unless(f => f.tracks.form === 'submitted', 'act.form-not-submitted'),
  unless(f => f.tracks.scrutiny !== 'refused', 'act.form-over'),
)
export const slipWaits = unless(f => f.slip === 'waiting', 'act.no-slip')
export const refused = unless(f => f.tracks.scrutiny === 'refused' && !isOver(f.tracks), 'act.not-refused')
export const nothing: Guard = () => null
/** Somebody of the office changes what somebody else has said. */
export const changesAWord = (principal: Principal, facts: ActFacts) => principal.kind === 'staff' && facts.isSaid

/** Scrutiny waits from the moment at which the fee no longer keeps a submitted application. */
export function scrutinyAfterFee(scrutiny: Tracks['scrutiny'], form: Tracks['form'], fee: Tracks['fee']): Tracks['scrutiny'] {
  return form === 'submitted' && scrutiny === 'not started' && isFeeClear(fee) ? 'waiting' : scrutiny
}

export const backToQueue = (fee: Tracks['fee']): Tracks['scrutiny'] => isFeeClear(fee) ? 'waiting' : 'not started'

export const paymentEnd = (facts: ActFacts, { fee = facts.tracks.fee }: ActOutcome): Partial<Tracks> => ({
  fee,
  scrutiny: scrutinyAfterFee(facts.tracks.scrutiny, facts.tracks.form, fee),
})

// A case that nobody decided on leaves the queue again until the fee is clear.
export const paymentBack = ({ tracks }: ActFacts, { fee = tracks.fee }: ActOutcome): Partial<Tracks> => ({
  fee,
  ...tracks.scrutiny === 'waiting' && !isFeeClear(fee) ? { scrutiny: 'not started' } : {},
})

export function handIn({ tracks }: ActFacts, { fee = tracks.fee, isUnchanged }: ActOutcome): Partial<Tracks> {
  if (tracks.scrutiny === 'accepted' && isUnchanged && isFeeClear(fee)) return { form: 'submitted', fee }
  return { form: 'submitted', fee, scrutiny: backToQueue(fee), placement: 'unplaced' }
}

export function lapse(facts: ActFacts, outcome: ActOutcome): Partial<Tracks> {
  if (facts.tracks.form !== 'correcting' || outcome.unanswered === 'lapsed') {
    return { form: 'lapsed', placement: 'unplaced', fee: outcome.fee ?? facts.tracks.fee }
  }
  return handIn(facts, { ...outcome, isUnchanged: !facts.isCorrected })
}

// A case that was accepted comes back to scrutiny when money is due again or a post that it chose is no longer open.
export function ruledOn({ tracks }: ActFacts, { fee = tracks.fee, isUnchanged }: ActOutcome): Partial<Tracks> {
  if (tracks.scrutiny === 'accepted' && !(isUnchanged && isFeeClear(fee))) return { fee, scrutiny: backToQueue(fee), placement: 'unplaced' }
  return { fee, scrutiny: scrutinyAfterFee(tracks.scrutiny, tracks.form, fee) }
}

/**
 * A correction takes effect. What was accepted stays accepted: whoever accepts the correction has seen what it changes; only money that is
 * due after all sends it back.
 */
export function correct({ tracks }: ActFacts, { fee = tracks.fee, isUnseated, card = tracks.card }: ActOutcome): Partial<Tracks> {
  const goesBack = tracks.scrutiny === 'accepted' && !isFeeClear(fee)
  return {
    fee,
    card,
    ...goesBack ? { scrutiny: backToQueue(fee) } : { scrutiny: scrutinyAfterFee(tracks.scrutiny, tracks.form, fee) },
    ...isUnseated || goesBack ? { placement: 'unplaced' } : {},
  }
}
