import { claimLock } from '../../eligibility/claims'
import { isSeenTwice } from '../../scrutiny/second-look'
import { requestLock } from '../requests'
import {
  because,
  unless,
  all,
  isPlaceable,
  seatless,
  underWay,
  noPayment,
  waiting,
  feeClear,
  answered,
  unheld,
  corrects,
  uncorrected,
  correctable,
  refused,
  paymentEnd,
  ruledOn,
  correct,
} from './guards'
import type { ActId, ActRule } from './rule'

/** The acts of scrutiny, of what was asked for, and of corrections. */
export const scrutinyActs = {
  'accept': {
    permission: 'scrutiny.decide',
    isSeenTwice: ({ id, notice }) => isSeenTwice(notice, id),
    takenBackBy: 'take-back-acceptance',
    tells: true,
    refuse: all(
      unless(
        f => f.tracks.form === 'submitted' && (f.tracks.scrutiny === 'waiting' || f.tracks.scrutiny === 'not started'),
        'act.not-waiting',
      ),
      feeClear,
      unheld,
      uncorrected,
    ),
    change: () => ({ scrutiny: 'accepted' }),
  },
  'return': {
    permission: 'scrutiny.decide',
    period: 'corrections',
    takenBackBy: 'recall-return',
    tells: true,
    refuse: all(waiting, feeClear, answered, uncorrected),
    change: () => ({ scrutiny: 'returned', form: 'correcting' }),
  },
  'refuse': {
    permission: 'scrutiny.decide',
    takenBackBy: 'take-back-refusal',
    tells: true,
    isFinal: true,
    refuse: all(waiting, feeClear, answered, uncorrected),
    change: () => ({ scrutiny: 'refused' }),
  },
  'refer': { permission: 'scrutiny.decide', needsReason: true, takenBackBy: 'answer-referral', refuse: all(waiting, answered) },
  'answer-referral': { permission: 'matters.answer', needsReason: true, refuse: unless(f => f.heldBy === 'referred', 'act.not-referred') },
  // What becomes of an application whose person has another one that stands.
  'set-aside': {
    permission: 'scrutiny.decide',
    needsReason: true,
    takenBackBy: 'bring-back',
    tells: true,
    refuse: all(underWay, unless(f => f.tracks.scrutiny !== 'refused', 'act.form-over'), noPayment),
    change: ({ tracks }, { fee = tracks.fee }) => ({ form: 'withdrawn', fee, placement: 'unplaced', card: 'not issued' }),
  },
  'take-back-acceptance': {
    permission: 'scrutiny.decide',
    needsReason: true,
    tells: true,
    refuse: all(unless(f => isPlaceable(f.tracks), 'act.not-accepted'), seatless),
    change: () => ({ scrutiny: 'waiting', placement: 'unplaced' }),
  },
  'recall-return': {
    permission: 'scrutiny.decide',
    tells: true,
    refuse: all(
      unless(f => f.tracks.form === 'correcting' && f.tracks.scrutiny === 'returned', 'act.not-returned'),
      unless(f => !f.isCorrected, 'act.answered'),
    ),
    change: () => ({ form: 'submitted', scrutiny: 'waiting' }),
  },
  'take-back-refusal': {
    permission: 'scrutiny.decide',
    needsReason: true,
    needsSecond: true,
    tells: true,
    refuse: refused,
    change: () => ({ scrutiny: 'waiting' }),
  },
  'reopen': {
    permission: 'scrutiny.reopen',
    needsReason: true,
    needsSecond: true,
    tells: true,
    refuse: refused,
    change: () => ({ scrutiny: 'waiting' }),
  },
  'back-to-scrutiny': {
    permission: 'notice.amend',
    refuse: all(unless(f => f.tracks.scrutiny === 'accepted', 'act.not-accepted'), seatless),
    change: () => ({ scrutiny: 'waiting', placement: 'unplaced' }),
  },
  'rule-on-claim': {
    permission: 'scrutiny.decide',
    needsReason: true,
    takenBackBy: 'rule-on-claim',
    refuse: (facts) => {
      const lock = claimLock(facts.tracks)
      return lock && because(`claim.${lock}`, facts)
    },
    change: ruledOn,
  },
  // Whether it may be decided anew, and what it does to a seat, is for its effect: that knows the request.
  'decide-request': {
    permission: 'requests.decide',
    needsReason: true,
    takenBackBy: 'decide-request',
    tells: true,
    refuse: (facts) => {
      const lock = requestLock(facts.tracks, false)
      return lock && because(`request.${lock}`, facts)
    },
    change: ruledOn,
  },
  'ask-correction': {
    permission: 'applications.write',
    takenBackBy: 'take-back-correction',
    tells: true,
    refuse: all(correctable, unless(corrects('drafting'), 'act.no-correction')),
    change: paymentEnd,
  },
  'add-to-correction': { permission: 'applications.write', refuse: all(correctable, unless(corrects('drafting'), 'act.no-correction')) },
  'take-back-correction': {
    permission: 'applications.write',
    tells: true,
    refuse: all(unless(corrects('unpaid', 'waiting'), 'act.no-correction'), noPayment),
    change: paymentEnd,
  },
  'accept-correction': {
    permission: 'scrutiny.decide',
    tells: true,
    refuse: all(unless(corrects('waiting'), 'act.no-correction'), correctable),
    change: correct,
  },
  'refuse-correction': {
    permission: 'scrutiny.decide',
    needsReason: true,
    tells: true,
    refuse: unless(corrects('waiting'), 'act.no-correction'),
    change: paymentEnd,
  },
  'apply-correction': {
    permission: 'clock.act',
    tells: true,
    refuse: all(unless(corrects('waiting'), 'act.no-correction'), correctable),
    change: correct,
  },
  'end-correction': {
    permission: 'clock.act',
    tells: true,
    refuse: all(unless(corrects('drafting', 'unpaid', 'waiting'), 'act.no-correction'), noPayment),
    change: paymentEnd,
  },
} satisfies Partial<Record<ActId, ActRule>>
