import type { Permission } from '../../access/permissions'
import { claimLock } from '../../eligibility/claims'
import type { RefusalCode, RefusalReason } from '../../refusal/codes'
import type { Principal } from '../../access/principal'
import type { OpenCorrectionState } from '../corrections'
import type { KeyingState } from '../keying'
import type { Notice } from '../../notice/schema'
import { isSeenTwice } from '../../scrutiny/second-look'
import { requestLock } from '../requests'
import { isFeeClear, newTracks, type Headline, type Tracks } from '../tracks'
import type { Period } from './dates'

/** All acts on an application. Their names last: the log holds them. */
export const actIds = [
  'begin', 'save-answers', 'add-file', 'delete-draft', 'submit', 'take-back-submission', 'withdraw',
  'bring-back', 'open-for-correction', 'close-correction', 'hand-in-correction', 'lapse', 'assess-fee', 'start-payment',
  'payment-settled', 'payment-refused', 'payment-ended', 'accept', 'return', 'refuse', 'take-back-acceptance',
  'recall-return', 'take-back-refusal', 'reopen', 'back-to-scrutiny', 'rule-on-claim', 'place', 'place-by-hand',
  'release-by-hand', 'publish-seat', 'take-seat-back', 'issue-card', 'replace-card', 'void-card', 'withhold-card',
  'let-card-go', 'payment-taken-back', 'refund-sent', 'refund-returned', 'refer', 'answer-referral', 'set-aside', 'remind',
  'ask-correction', 'add-to-correction', 'take-back-correction', 'accept-correction', 'refuse-correction', 'apply-correction', 'end-correction', 'waive-fee', 'write-off-fee', 'claim-fee-again', 'payment-charged-back', 'add-late-file', 'decide-request', 'hand-in-slip', 'take-back-slip', 'confirm-slip', 'refuse-slip', 'ask-question', 'answer-question', 'give-account', 'ask-for-fee', 'change-seat', 'ask-endorsement', 'take-back-endorsement', 'give-endorsement', 'record-endorsement', 'finish-keying', 'take-back-keying', 'finish-second-keying', 'settle-keying', 'give-access',
] as const
export type ActId = typeof actIds[number]

/** What the rules of acts ask of one application. */
export interface ActFacts {
  number: string
  tracks: Tracks
  headline: Headline
  /** Until when it was kept open longer than the notice says: for a correction, or by an officer. */
  openUntil: Date | null
  /** No answer was ever saved and no file added. */
  isEmpty: boolean
  /** Scrutiny has decided on it at least once. */
  isDecided: boolean
  /** Money for it has come in. */
  isPaid: boolean
  /** A payment is under way. */
  hasOpenPayment: boolean
  /** An answer or a file was changed since it was returned or opened for correction. */
  isCorrected: boolean
  /** A card of it is in force. */
  hasCard: boolean
  /** What keeps scrutiny from deciding: a desk that was asked and has not answered, another application that is likely of the same person, or somebody barred. */
  heldBy: 'referred' | 'likely-duplicate' | 'barred' | null
  /** A deposit slip of its payer: one that nobody has looked at, or one taken for good whose money no statement shows yet. */
  slip: 'waiting' | 'confirmed' | null
  /** A request that scrutiny has to wait for is not decided. */
  isAsking: boolean
  /** Somebody other than the candidate has to say something before it is decided on. */
  isAwaited: boolean
  /** The office has waived or written off a part of its fee. */
  isRelieved: boolean
  /** The fee has to be paid before the form is handed in. */
  isPaidFirst: boolean
  /** Where a correction stands that is under way, who handed it in, and whether money for it is awaited. */
  correction: { state: OpenCorrectionState, by: string } | null
  /** Of a paper form that two people key, until one set of answers holds: how far it is, who keyed any of it the first time, and who keys it the second. */
  keying: { state: Exclude<KeyingState, 'agreed'>, first: readonly string[], second: string | null } | null
  /** When a paper form came in: the notice's dates are asked for that moment, not for when it is keyed. */
  receivedAt: Date | null
  /** What stands in it is somebody's own word: a candidate's, or what two people have read off a paper. */
  isSaid: boolean
  /** An account of a candidate has it. */
  isOwned: boolean
}

/** What an act has brought about, as far as the tracks hang on it. */
export interface ActOutcome {
  /** Where the fee stands now, by assessment and ledger. */
  fee?: Tracks['fee']
  /** The tracks that are to be restored. */
  former?: Tracks
  /** The seat is given up. */
  isUnseated?: boolean
  /** Where the card stands then. */
  card?: Tracks['card']
  /** Verdicts, claims and compared answers are what was accepted. */
  isUnchanged?: boolean
  /** A correction that nobody answered in time ends the application, or it is judged as it stood. */
  unanswered?: 'lapsed' | 'as it stood'
}

/** One kind of act on an application. */
export interface ActRule {
  permission: Permission
  period?: Period
  /** A reason must be written. */
  needsReason?: true
  /** Whether a reason must be written by this person. */
  asksWhy?: (principal: Principal, facts: ActFacts) => boolean
  /** A second person must confirm. */
  needsSecond?: true
  /** Whether a second person must confirm this one, besides what the notice says: `id` is the application's, `input` what was asked with. */
  isSeenTwice?: (asked: { id: string, facts: ActFacts, notice: Notice, input: Readonly<Record<string, unknown>> }) => boolean
  /** The act that takes it back, while that one's own rule allows it. */
  takenBackBy?: ActId
  /** Its effects reach outside (a person was told, money moved, a card was printed): screens say so before. */
  isFinal?: true
  /** The candidate is told. */
  tells?: true
  refuse: (facts: ActFacts) => RefusalReason | null
  /** Who may not, though their role may. */
  refusePerson?: (principal: Principal, facts: ActFacts) => RefusalReason | null
  /** The tracks it changes; none where it changes no track. */
  change?: (facts: ActFacts, outcome: ActOutcome) => Partial<Tracks>
}

type Guard = (facts: ActFacts) => RefusalReason | null

function because(code: RefusalCode, facts: ActFacts): RefusalReason {
  const { form, fee, scrutiny, card } = facts.tracks
  return { code, parameters: { number: facts.number, form, fee, scrutiny, card, headline: facts.headline } }
}
const unless = (holds: (facts: ActFacts) => boolean, code: RefusalCode): Guard => facts => holds(facts) ? null : because(code, facts)
const all = (...guards: Guard[]): Guard => (facts) => {
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
const withoutCard = ({ card }: Tracks) => card === 'withheld' ? card : 'not issued' as const
/** Whether somebody can be placed: accepted, and not taken out of the flow. */
export const isPlaceable = (tracks: Tracks) => tracks.form === 'submitted' && tracks.scrutiny === 'accepted'

const isOver = ({ form }: Pick<Tracks, 'form'>) => form === 'withdrawn' || form === 'lapsed'
const keyed = (...states: KeyingState[]) => (f: ActFacts) => f.keying !== null && states.includes(f.keying.state)
const drafting = unless(f => f.tracks.form === 'drafting', 'act.form-not-open')
const editable = all(unless(f => isFormEditable(f.tracks), 'act.form-frozen'), unless(f => !keyed('second', 'differing')(f), 'act.keyed-once'))
const seatless = unless(f => !holdsSeat(f.tracks), 'act.seat-held')
const underWay = unless(f => !isOver(f.tracks), 'act.form-over')
const noPayment = unless(f => !f.hasOpenPayment, 'act.payment-under-way')
const waiting = unless(f => f.tracks.form === 'submitted' && (f.tracks.scrutiny === 'waiting' || f.tracks.scrutiny === 'not started'), 'act.not-waiting')
const feeClear = unless(f => isFeeClear(f.tracks.fee), 'act.fee-open')
const answered = unless(f => f.heldBy !== 'referred', 'act.referred')
const unasked = unless(f => !f.isAsking, 'act.request-open')
const unheld = all(answered, unasked, unless(f => !f.isAwaited, 'act.endorsement-awaited'), unless(f => f.heldBy !== 'barred', 'act.barred'), unless(f => f.heldBy === null, 'act.likely-duplicate'))
const corrects = (...states: OpenCorrectionState[]) => (f: ActFacts) => f.correction !== null && states.includes(f.correction.state)
const uncorrected = unless(f => !corrects('waiting')(f), 'act.correction-waits')
const correctable = all(unless(f => f.tracks.form === 'submitted', 'act.form-not-submitted'), unless(f => f.tracks.scrutiny !== 'refused', 'act.form-over'))
const slipWaits = unless(f => f.slip === 'waiting', 'act.no-slip')
const refused = unless(f => f.tracks.scrutiny === 'refused' && !isOver(f.tracks), 'act.not-refused')
const nothing: Guard = () => null
/** Somebody of the office changes what somebody else has said. */
const changesAWord = (principal: Principal, facts: ActFacts) => principal.kind === 'staff' && facts.isSaid

/** Scrutiny waits from the moment at which the fee no longer keeps a submitted application. */
function scrutinyAfterFee(scrutiny: Tracks['scrutiny'], form: Tracks['form'], fee: Tracks['fee']): Tracks['scrutiny'] {
  return form === 'submitted' && scrutiny === 'not started' && isFeeClear(fee) ? 'waiting' : scrutiny
}

const backToQueue = (fee: Tracks['fee']): Tracks['scrutiny'] => isFeeClear(fee) ? 'waiting' : 'not started'

const paymentEnd = (facts: ActFacts, { fee = facts.tracks.fee }: ActOutcome): Partial<Tracks> => ({ fee, scrutiny: scrutinyAfterFee(facts.tracks.scrutiny, facts.tracks.form, fee) })

// A case that nobody decided on leaves the queue again until the fee is clear.
const paymentBack = ({ tracks }: ActFacts, { fee = tracks.fee }: ActOutcome): Partial<Tracks> => ({ fee, ...tracks.scrutiny === 'waiting' && !isFeeClear(fee) ? { scrutiny: 'not started' } : {} })

function handIn({ tracks }: ActFacts, { fee = tracks.fee, isUnchanged }: ActOutcome): Partial<Tracks> {
  if (tracks.scrutiny === 'accepted' && isUnchanged && isFeeClear(fee)) return { form: 'submitted', fee }
  return { form: 'submitted', fee, scrutiny: backToQueue(fee), placement: 'unplaced' }
}

function lapse(facts: ActFacts, outcome: ActOutcome): Partial<Tracks> {
  if (facts.tracks.form !== 'correcting' || outcome.unanswered === 'lapsed') return { form: 'lapsed', placement: 'unplaced', fee: outcome.fee ?? facts.tracks.fee }
  return handIn(facts, { ...outcome, isUnchanged: !facts.isCorrected })
}

// A case that was accepted comes back to scrutiny when money is due again or a post that it chose is no longer open.
function ruledOn({ tracks }: ActFacts, { fee = tracks.fee, isUnchanged }: ActOutcome): Partial<Tracks> {
  if (tracks.scrutiny === 'accepted' && !(isUnchanged && isFeeClear(fee))) return { fee, scrutiny: backToQueue(fee), placement: 'unplaced' }
  return { fee, scrutiny: scrutinyAfterFee(tracks.scrutiny, tracks.form, fee) }
}

/** A correction takes effect. What was accepted stays accepted: whoever accepts the correction has seen what it changes; only money that is due after all sends it back. */
function correct({ tracks }: ActFacts, { fee = tracks.fee, isUnseated, card = tracks.card }: ActOutcome): Partial<Tracks> {
  const goesBack = tracks.scrutiny === 'accepted' && !isFeeClear(fee)
  return { fee, card, ...goesBack ? { scrutiny: backToQueue(fee) } : { scrutiny: scrutinyAfterFee(tracks.scrutiny, tracks.form, fee) }, ...isUnseated || goesBack ? { placement: 'unplaced' } : {} }
}

const actRules: Record<ActId, ActRule> = {
  'begin': { permission: 'applications.begin', period: 'applications', takenBackBy: 'delete-draft', refuse: nothing, change: () => newTracks },
  // A fee that was asked for before the form is handed in follows what is typed.
  'save-answers': { permission: 'applications.write', asksWhy: changesAWord, refuse: editable, change: ({ tracks }, { fee = tracks.fee }) => ({ fee }) },
  'add-file': { permission: 'applications.write', asksWhy: (principal, facts) => principal.kind === 'staff' && facts.isOwned, refuse: unless(f => isFormEditable(f.tracks), 'act.form-frozen') },
  // A paper that the notice lets follow.
  'add-late-file': { permission: 'applications.write', tells: true, refuse: all(unless(f => f.tracks.form === 'submitted', 'act.form-not-submitted'), unless(f => f.tracks.scrutiny !== 'refused' && f.tracks.scrutiny !== 'accepted', 'act.decided')) },
  'delete-draft': { permission: 'applications.write', refuse: all(unless(f => f.tracks.form === 'drafting', 'act.form-frozen'), unless(f => f.isEmpty, 'act.not-empty')) },
  'submit': {
    permission: 'applications.write', period: 'applications', takenBackBy: 'take-back-submission', tells: true, refuse: all(drafting, unless(f => f.keying === null, 'act.keying')),
    change: (_, { fee = 'not assessed' }) => ({ form: 'submitted', fee, scrutiny: backToQueue(fee) }),
  },
  'take-back-submission': {
    permission: 'applications.write', period: 'applications', tells: true,
    refuse: all(unless(f => f.tracks.form === 'submitted', 'act.form-not-submitted'), unless(f => !f.isDecided, 'act.decided'), noPayment, unless(f => !f.isPaid || f.isPaidFirst, 'act.paid'), waiting),
    change: (_, { fee = 'not assessed' }) => ({ form: 'drafting', fee, scrutiny: 'not started' }),
  },
  'withdraw': {
    permission: 'applications.write', needsReason: true, takenBackBy: 'bring-back', tells: true,
    refuse: all(underWay, unless(f => f.tracks.scrutiny !== 'refused', 'act.form-over'), noPayment),
    change: ({ tracks }, { fee = tracks.fee }) => ({ form: 'withdrawn', fee, placement: 'unplaced', card: 'not issued' }),
  },
  'bring-back': {
    permission: 'applications.write', period: 'applications', needsReason: true, takenBackBy: 'withdraw', tells: true, refuse: unless(f => isOver(f.tracks), 'act.form-not-withdrawn'),
    change: ({ tracks }, { fee = tracks.fee, former = newTracks }) => ({ form: former.form, fee, scrutiny: scrutinyAfterFee(former.scrutiny, former.form, fee), placement: 'unplaced', card: 'not issued' }),
  },
  'open-for-correction': {
    permission: 'applications.override', period: 'corrections', needsReason: true, takenBackBy: 'close-correction', tells: true,
    refuse: all(unless(f => f.tracks.form === 'submitted', 'act.form-not-submitted'), unless(f => f.tracks.scrutiny !== 'refused', 'act.form-over'), seatless, noPayment), change: () => ({ form: 'correcting' }),
  },
  'close-correction': {
    permission: 'applications.write', refuse: all(unless(f => f.tracks.form === 'correcting' && f.tracks.scrutiny !== 'returned', 'act.not-correcting'), unless(f => !f.isCorrected, 'act.changed')),
    change: () => ({ form: 'submitted' }),
  },
  'hand-in-correction': { permission: 'applications.write', tells: true, refuse: unless(f => f.tracks.form === 'correcting', 'act.not-correcting'), change: handIn },
  'lapse': { permission: 'clock.act', takenBackBy: 'bring-back', tells: true, refuse: all(underWay, unless(f => f.tracks.scrutiny !== 'refused', 'act.not-lapsing'), noPayment), change: lapse },

  'remind': { permission: 'clock.act', tells: true, refuse: underWay },
  'assess-fee': { permission: 'clock.act', tells: true, refuse: nothing, change: paymentEnd },
  'ask-for-fee': { permission: 'fees.collect', period: 'applications', refuse: all(unless(f => f.tracks.form === 'drafting', 'act.form-not-open'), unless(f => f.isPaidFirst && f.tracks.fee === 'not assessed', 'act.fee-not-due')), change: paymentEnd },
  'start-payment': {
    permission: 'fees.collect', period: 'payments', refuse: all(underWay, unless(f => f.tracks.fee === 'due' || corrects('unpaid')(f), 'act.fee-not-due')), change: ({ tracks }) => tracks.fee === 'due' ? { fee: 'confirming' } : {},
  },
  'payment-settled': { permission: 'clock.act', tells: true, isFinal: true, refuse: nothing, change: paymentEnd },
  'payment-refused': { permission: 'clock.act', tells: true, refuse: nothing, change: paymentEnd },
  'payment-ended': { permission: 'clock.act', refuse: nothing, change: paymentEnd },
  'give-account': { permission: 'refunds.account', refuse: unless(f => f.tracks.fee === 'refund due', 'act.nothing-owed') },
  'refund-sent': { permission: 'clock.act', tells: true, isFinal: true, refuse: nothing, change: paymentEnd },
  'refund-returned': { permission: 'clock.act', tells: true, refuse: nothing, change: paymentEnd },
  'payment-taken-back': { permission: 'clock.act', tells: true, refuse: nothing, change: paymentBack },

  // A card that is out does not hold while its fee is due again.
  'payment-charged-back': { permission: 'clock.act', tells: true, refuse: nothing, change: (facts, outcome) => ({ ...paymentBack(facts, outcome), ...facts.tracks.card === 'issued' || facts.tracks.card === 'replaced' ? { card: 'withheld' } : {} }) },
  // Without an amount all of the due is meant: whoever may grant that alone says how much it is.
  'waive-fee': { permission: 'fees.waive', needsReason: true, isSeenTwice: ({ notice, input }) => !(typeof input.amount === 'number' && input.amount <= notice.fees.waivedAlone), takenBackBy: 'claim-fee-again', tells: true, refuse: all(underWay, unless(f => f.tracks.fee === 'due', 'act.fee-not-due'), noPayment), change: paymentEnd },
  // A slip is what the payer says; money is booked once somebody has looked at it, or a statement shows it.
  'hand-in-slip': { permission: 'fees.collect', period: 'payments', takenBackBy: 'take-back-slip', refuse: all(underWay, unless(f => f.slip !== 'waiting', 'act.slip-waits'), unless(f => f.tracks.fee === 'due' || corrects('unpaid')(f), 'act.fee-not-due')), change: ({ tracks }) => tracks.fee === 'due' ? { fee: 'confirming' } : {} },
  'take-back-slip': { permission: 'fees.collect', refuse: slipWaits, change: paymentEnd },
  'confirm-slip': { permission: 'bank.work', takenBackBy: 'refuse-slip', tells: true, refuse: slipWaits, change: paymentEnd },
  // One that was taken for good, and whose money never came.
  'refuse-slip': { permission: 'bank.work', needsReason: true, isSeenTwice: ({ facts }) => facts.slip === 'confirmed', tells: true, refuse: unless(f => f.slip !== null, 'act.no-slip'), change: paymentBack },
  'write-off-fee': { permission: 'fees.waive', needsReason: true, needsSecond: true, takenBackBy: 'claim-fee-again', refuse: all(unless(f => f.tracks.fee === 'due', 'act.fee-not-due'), noPayment), change: paymentEnd },
  'claim-fee-again': { permission: 'fees.waive', needsReason: true, needsSecond: true, tells: true, refuse: all(underWay, unless(f => f.isRelieved, 'act.no-relief'), noPayment), change: paymentBack },

  'accept': { permission: 'scrutiny.decide', isSeenTwice: ({ id, notice }) => isSeenTwice(notice, id), takenBackBy: 'take-back-acceptance', tells: true, refuse: all(unless(f => f.tracks.form === 'submitted' && (f.tracks.scrutiny === 'waiting' || f.tracks.scrutiny === 'not started'), 'act.not-waiting'), feeClear, unheld, uncorrected), change: () => ({ scrutiny: 'accepted' }) },
  'return': { permission: 'scrutiny.decide', period: 'corrections', takenBackBy: 'recall-return', tells: true, refuse: all(waiting, feeClear, answered, uncorrected), change: () => ({ scrutiny: 'returned', form: 'correcting' }) },
  'refuse': { permission: 'scrutiny.decide', takenBackBy: 'take-back-refusal', tells: true, isFinal: true, refuse: all(waiting, feeClear, answered, uncorrected), change: () => ({ scrutiny: 'refused' }) },
  // Whatever became of an application, somebody may ask about it.
  'ask-question': { permission: 'questions.ask', refuse: nothing },
  'answer-question': { permission: 'questions.answer', tells: true, refuse: nothing },
  'refer': { permission: 'scrutiny.decide', needsReason: true, takenBackBy: 'answer-referral', refuse: all(waiting, answered) },
  'answer-referral': { permission: 'matters.answer', needsReason: true, refuse: unless(f => f.heldBy === 'referred', 'act.not-referred') },
  // What becomes of an application whose person has another one that stands.
  'set-aside': {
    permission: 'scrutiny.decide', needsReason: true, takenBackBy: 'bring-back', tells: true, refuse: all(underWay, unless(f => f.tracks.scrutiny !== 'refused', 'act.form-over'), noPayment),
    change: ({ tracks }, { fee = tracks.fee }) => ({ form: 'withdrawn', fee, placement: 'unplaced', card: 'not issued' }),
  },
  'take-back-acceptance': {
    permission: 'scrutiny.decide', needsReason: true, tells: true, refuse: all(unless(f => isPlaceable(f.tracks), 'act.not-accepted'), seatless),
    change: () => ({ scrutiny: 'waiting', placement: 'unplaced' }),
  },
  'recall-return': {
    permission: 'scrutiny.decide', tells: true, refuse: all(unless(f => f.tracks.form === 'correcting' && f.tracks.scrutiny === 'returned', 'act.not-returned'), unless(f => !f.isCorrected, 'act.answered')),
    change: () => ({ form: 'submitted', scrutiny: 'waiting' }),
  },
  'take-back-refusal': { permission: 'scrutiny.decide', needsReason: true, needsSecond: true, tells: true, refuse: refused, change: () => ({ scrutiny: 'waiting' }) },
  'reopen': { permission: 'scrutiny.reopen', needsReason: true, needsSecond: true, tells: true, refuse: refused, change: () => ({ scrutiny: 'waiting' }) },
  'back-to-scrutiny': { permission: 'notice.amend', refuse: all(unless(f => f.tracks.scrutiny === 'accepted', 'act.not-accepted'), seatless), change: () => ({ scrutiny: 'waiting', placement: 'unplaced' }) },
  'rule-on-claim': {
    permission: 'scrutiny.decide', needsReason: true, takenBackBy: 'rule-on-claim',
    refuse: (facts) => {
      const lock = claimLock(facts.tracks)
      return lock && because(`claim.${lock}`, facts)
    },
    change: ruledOn,
  },

  // Whether it may be decided anew, and what it does to a seat, is for its effect: that knows the request.
  'decide-request': {
    permission: 'requests.decide', needsReason: true, takenBackBy: 'decide-request', tells: true,
    refuse: (facts) => {
      const lock = requestLock(facts.tracks, false)
      return lock && because(`request.${lock}`, facts)
    },
    change: ruledOn,
  },

  'ask-endorsement': { permission: 'applications.write', takenBackBy: 'take-back-endorsement', refuse: all(underWay, unless(f => f.tracks.scrutiny !== 'refused', 'act.form-over')) },
  'take-back-endorsement': { permission: 'applications.write', refuse: underWay },
  // Who answers has no account: the product writes it down, with the name that they gave.
  'give-endorsement': { permission: 'clock.act', tells: true, refuse: all(underWay, unless(f => f.tracks.scrutiny !== 'refused', 'act.form-over')) },
  'record-endorsement': { permission: 'applications.override', needsReason: true, tells: true, refuse: all(underWay, unless(f => f.tracks.scrutiny !== 'refused', 'act.form-over')) },

  // Whoever already has an account loses the application to another one: two people look at who asks.
  'give-access': { permission: 'applications.override', needsReason: true, isSeenTwice: ({ facts }) => facts.isOwned, isFinal: true, tells: true, refuse: nothing },

  // A paper form, keyed by two people: what the first has keyed stands still while the second keys it and somebody compares.
  'finish-keying': { permission: 'forms.key', takenBackBy: 'take-back-keying', refuse: all(drafting, unless(keyed('first'), 'act.not-keying'), unless(f => !f.isEmpty, 'act.keyed-nothing')) },
  'take-back-keying': { permission: 'forms.key', refuse: all(drafting, unless(keyed('second'), 'act.not-keying'), unless(f => f.keying?.second === null, 'act.keying-begun')) },
  'finish-second-keying': { permission: 'forms.key', refuse: all(drafting, unless(keyed('second'), 'act.not-keying')), refusePerson: ({ id }, facts) => facts.keying?.second === id ? null : because('act.keying-others', facts) },
  'settle-keying': { permission: 'forms.key', refuse: all(drafting, unless(keyed('differing'), 'act.not-keying')) },

  'ask-correction': { permission: 'applications.write', takenBackBy: 'take-back-correction', tells: true, refuse: all(correctable, unless(corrects('drafting'), 'act.no-correction')), change: paymentEnd },
  'add-to-correction': { permission: 'applications.write', refuse: all(correctable, unless(corrects('drafting'), 'act.no-correction')) },
  'take-back-correction': { permission: 'applications.write', tells: true, refuse: all(unless(corrects('unpaid', 'waiting'), 'act.no-correction'), noPayment), change: paymentEnd },
  'accept-correction': { permission: 'scrutiny.decide', tells: true, refuse: all(unless(corrects('waiting'), 'act.no-correction'), correctable), change: correct },
  'refuse-correction': { permission: 'scrutiny.decide', needsReason: true, tells: true, refuse: unless(corrects('waiting'), 'act.no-correction'), change: paymentEnd },
  'apply-correction': { permission: 'clock.act', tells: true, refuse: all(unless(corrects('waiting'), 'act.no-correction'), correctable), change: correct },
  'end-correction': { permission: 'clock.act', tells: true, refuse: all(unless(corrects('drafting', 'unpaid', 'waiting'), 'act.no-correction'), noPayment), change: paymentEnd },

  'place': { permission: 'centres.run', refuse: unless(f => isPlaceable(f.tracks), 'place.not-placeable'), change: ({ tracks }) => tracks.placement === 'unplaced' ? { placement: 'placed' } : {} },
  'place-by-hand': { permission: 'centres.run', needsReason: true, takenBackBy: 'release-by-hand', refuse: unless(f => isPlaceable(f.tracks), 'place.not-placeable') },
  'release-by-hand': { permission: 'centres.run', needsReason: true, refuse: nothing },
  'publish-seat': {
    permission: 'centres.publish', period: 'publication', takenBackBy: 'take-seat-back', isFinal: true, tells: true, refuse: unless(f => isPlaceable(f.tracks), 'place.not-placeable'),
    change: ({ tracks }) => ({ placement: holdsSeat(tracks) ? 'moved' : 'published', card: withoutCard(tracks) }),
  },
  'take-seat-back': { permission: 'centres.run', needsReason: true, tells: true, isFinal: true, refuse: unless(f => holdsSeat(f.tracks), 'act.no-seat'), change: ({ tracks }) => ({ placement: 'unplaced', card: withoutCard(tracks) }) },
  // Another chair in the same city and session, or the same chair at another hour: what was printed does not hold.
  'change-seat': { permission: 'centres.publish', isFinal: true, tells: true, refuse: unless(f => holdsSeat(f.tracks), 'act.no-seat'), change: ({ tracks }) => ({ placement: 'moved', card: withoutCard(tracks) }) },

  'issue-card': { permission: 'cards.issue', period: 'cards', takenBackBy: 'void-card', isFinal: true, tells: true, refuse: all(unless(f => holdsSeat(f.tracks), 'act.no-seat'), unless(f => !f.hasCard, 'act.card-held')), change: () => ({ card: 'issued' }) },
  'replace-card': { permission: 'cards.issue', period: 'cards', needsReason: true, takenBackBy: 'void-card', isFinal: true, tells: true, refuse: all(unless(f => f.hasCard, 'act.no-card'), unless(f => f.tracks.card !== 'withheld', 'act.card-held')), change: () => ({ card: 'replaced' }) },
  'void-card': { permission: 'cards.issue', needsReason: true, isFinal: true, tells: true, refuse: unless(f => f.hasCard, 'act.no-card'), change: () => ({ card: 'not issued' }) },
  'withhold-card': { permission: 'cards.issue', needsReason: true, takenBackBy: 'let-card-go', tells: true, refuse: all(underWay, unless(f => f.tracks.card !== 'withheld', 'act.card-held')), change: () => ({ card: 'withheld' }) },
  'let-card-go': { permission: 'cards.issue', needsReason: true, tells: true, refuse: unless(f => f.tracks.card === 'withheld', 'act.not-withheld'), change: ({ hasCard }) => ({ card: hasCard ? 'issued' : 'not issued' }) },
}

/** What is proposed of many people at once, on no single application. */
export const actsOnMany = ['publish-run', 'change-rooms', 'release-erasing'] as const
export type ProposedAct = ActId | typeof actsOnMany[number]
export const isOnMany = (act: ProposedAct): act is typeof actsOnMany[number] => (actsOnMany as readonly string[]).includes(act)

export const actRule = (act: ActId): ActRule => actRules[act]

/** Who may settle what somebody else has proposed: those who may do it themselves. */
export const settlePermission = (proposed: ProposedAct): Permission => proposed === 'release-erasing' ? 'records.erase' : isOnMany(proposed) ? 'centres.publish' : actRules[proposed].permission
