import type { Permission } from '../../access/permissions'
import type { RefusalReason } from '../../refusal/codes'
import type { Principal } from '../../access/principal'
import type { OpenCorrectionState } from '../corrections'
import type { KeyingState } from '../keying'
import type { Notice } from '../../notice/schema'
import type { Headline, Tracks } from '../tracks'
import type { Period } from './dates'

/** All acts on an application. Their names last: the log holds them. */
export const actIds = [
  'begin',
  'save-answers',
  'add-file',
  'delete-draft',
  'submit',
  'take-back-submission',
  'withdraw',
  'bring-back',
  'open-for-correction',
  'close-correction',
  'hand-in-correction',
  'lapse',
  'assess-fee',
  'start-payment',
  'payment-settled',
  'payment-refused',
  'payment-ended',
  'accept',
  'return',
  'refuse',
  'take-back-acceptance',
  'recall-return',
  'take-back-refusal',
  'reopen',
  'back-to-scrutiny',
  'rule-on-claim',
  'place',
  'place-by-hand',
  'release-by-hand',
  'publish-seat',
  'take-seat-back',
  'issue-card',
  'replace-card',
  'void-card',
  'withhold-card',
  'let-card-go',
  'payment-taken-back',
  'refund-sent',
  'refund-returned',
  'refer',
  'answer-referral',
  'set-aside',
  'remind',
  'ask-correction',
  'add-to-correction',
  'take-back-correction',
  'accept-correction',
  'refuse-correction',
  'apply-correction',
  'end-correction',
  'waive-fee',
  'write-off-fee',
  'claim-fee-again',
  'payment-charged-back',
  'add-late-file',
  'decide-request',
  'hand-in-slip',
  'take-back-slip',
  'confirm-slip',
  'refuse-slip',
  'ask-question',
  'answer-question',
  'give-account',
  'ask-for-fee',
  'change-seat',
  'ask-endorsement',
  'take-back-endorsement',
  'give-endorsement',
  'record-endorsement',
  'finish-keying',
  'take-back-keying',
  'finish-second-keying',
  'settle-keying',
  'give-access',
  'accept-texts',
  'release-data',
  'keep-data',
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
  /**
   * What keeps scrutiny from deciding: a desk that was asked and has not answered, another application that is likely of the same person,
   * or somebody barred.
   */
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
  /**
   * Of a paper form that two people key, until one set of answers holds: how far it is, who keyed any of it the first time, and who keys it
   * the second.
   */
  keying: { state: Exclude<KeyingState, 'agreed'>, first: readonly string[], second: string | null } | null
  /** When a paper form came in: the notice's dates are asked for that moment, not for when it is keyed. */
  receivedAt: Date | null
  /** What stands in it is somebody's own word: a candidate's, or what two people have read off a paper. */
  isSaid: boolean
  /** An account of a candidate has it. */
  isOwned: boolean
  /** What it tells of its person was released for erasing. */
  isReleased: boolean
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
  /**
   * Whether a second person must confirm this one, besides what the notice says: `id` is the application's, `input` what was asked with.
   */
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
