import { unless, all, underWay, noPayment, corrects, slipWaits, nothing, paymentEnd, paymentBack } from './guards'
import type { ActId, ActRule } from './rule'

/** The acts of fees and of the money that comes in for them. */
export const feeActs = {
  'assess-fee': { permission: 'clock.act', tells: true, refuse: nothing, change: paymentEnd },
  'ask-for-fee': {
    permission: 'fees.collect',
    period: 'applications',
    refuse: all(
      unless(f => f.tracks.form === 'drafting', 'act.form-not-open'),
      unless(f => f.isPaidFirst && f.tracks.fee === 'not assessed', 'act.fee-not-due'),
    ),
    change: paymentEnd,
  },
  'start-payment': {
    permission: 'fees.collect',
    period: 'payments',
    refuse: all(underWay, unless(f => f.tracks.fee === 'due' || corrects('unpaid')(f), 'act.fee-not-due')),
    change: ({ tracks }) => tracks.fee === 'due' ? { fee: 'confirming' } : {},
  },
  'payment-settled': { permission: 'clock.act', tells: true, isFinal: true, refuse: nothing, change: paymentEnd },
  'payment-refused': { permission: 'clock.act', tells: true, refuse: nothing, change: paymentEnd },
  'payment-ended': { permission: 'clock.act', refuse: nothing, change: paymentEnd },
  'give-account': { permission: 'refunds.account', refuse: unless(f => f.tracks.fee === 'refund due', 'act.nothing-owed') },
  'refund-sent': { permission: 'clock.act', tells: true, isFinal: true, refuse: nothing, change: paymentEnd },
  'refund-returned': { permission: 'clock.act', tells: true, refuse: nothing, change: paymentEnd },
  'payment-taken-back': { permission: 'clock.act', tells: true, refuse: nothing, change: paymentBack },
  // A card that is out does not hold while its fee is due again.
  'payment-charged-back': {
    permission: 'clock.act',
    tells: true,
    refuse: nothing,
    change: (facts, outcome) => ({
      ...paymentBack(facts, outcome),
      ...facts.tracks.card === 'issued' || facts.tracks.card === 'replaced' ? { card: 'withheld' } : {},
    }),
  },
  // Without an amount all of the due is meant: whoever may grant that alone says how much it is.
  'waive-fee': {
    permission: 'fees.waive',
    needsReason: true,
    isSeenTwice: ({ notice, input }) => !(typeof input.amount === 'number' && input.amount <= notice.fees.waivedAlone),
    takenBackBy: 'claim-fee-again',
    tells: true,
    refuse: all(underWay, unless(f => f.tracks.fee === 'due', 'act.fee-not-due'), noPayment),
    change: paymentEnd,
  },
  // A slip is what the payer says; money is booked once somebody has looked at it, or a statement shows it.
  'hand-in-slip': {
    permission: 'fees.collect',
    period: 'payments',
    takenBackBy: 'take-back-slip',
    refuse: all(
      underWay,
      unless(f => f.slip !== 'waiting', 'act.slip-waits'),
      unless(f => f.tracks.fee === 'due' || corrects('unpaid')(f), 'act.fee-not-due'),
    ),
    change: ({ tracks }) => tracks.fee === 'due' ? { fee: 'confirming' } : {},
  },
  'take-back-slip': { permission: 'fees.collect', refuse: slipWaits, change: paymentEnd },
  'confirm-slip': { permission: 'bank.work', takenBackBy: 'refuse-slip', tells: true, refuse: slipWaits, change: paymentEnd },
  // One that was taken for good, and whose money never came.
  'refuse-slip': {
    permission: 'bank.work',
    needsReason: true,
    isSeenTwice: ({ facts }) => facts.slip === 'confirmed',
    tells: true,
    refuse: unless(f => f.slip !== null, 'act.no-slip'),
    change: paymentBack,
  },
  'write-off-fee': {
    permission: 'fees.waive',
    needsReason: true,
    needsSecond: true,
    takenBackBy: 'claim-fee-again',
    refuse: all(unless(f => f.tracks.fee === 'due', 'act.fee-not-due'), noPayment),
    change: paymentEnd,
  },
  'claim-fee-again': {
    permission: 'fees.waive',
    needsReason: true,
    needsSecond: true,
    tells: true,
    refuse: all(underWay, unless(f => f.isRelieved, 'act.no-relief'), noPayment),
    change: paymentBack,
  },
} satisfies Partial<Record<ActId, ActRule>>
