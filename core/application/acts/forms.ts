import { newTracks } from '../tracks'
import {
  because,
  unless,
  all,
  isFormEditable,
  isOver,
  keyed,
  drafting,
  editable,
  seatless,
  underWay,
  noPayment,
  waiting,
  nothing,
  changesAWord,
  scrutinyAfterFee,
  backToQueue,
  handIn,
  lapse,
} from './guards'
import type { ActId, ActRule } from './rule'

/** The acts of the form, of what others say about it, and of who has it. */
export const formActs = {
  'begin': {
    permission: 'applications.begin',
    period: 'applications',
    takenBackBy: 'delete-draft',
    refuse: nothing,
    change: () => newTracks,
  },
  // A fee that was asked for before the form is handed in follows what is typed.
  'save-answers': {
    permission: 'applications.write',
    asksWhy: changesAWord,
    refuse: editable,
    change: ({ tracks }, { fee = tracks.fee }) => ({ fee }),
  },
  'add-file': {
    permission: 'applications.write',
    asksWhy: (principal, facts) => principal.kind === 'staff' && facts.isOwned,
    refuse: unless(f => isFormEditable(f.tracks), 'act.form-frozen'),
  },
  // A paper that the notice lets follow.
  'add-late-file': {
    permission: 'applications.write',
    tells: true,
    refuse: all(
      unless(f => f.tracks.form === 'submitted', 'act.form-not-submitted'),
      unless(f => f.tracks.scrutiny !== 'refused' && f.tracks.scrutiny !== 'accepted', 'act.decided'),
    ),
  },
  // What the notice has people read before they write: until then the form does not open.
  'accept-texts': { permission: 'applications.write', refuse: unless(f => isFormEditable(f.tracks), 'act.form-frozen') },
  'delete-draft': {
    permission: 'applications.write',
    refuse: all(unless(f => f.tracks.form === 'drafting', 'act.form-frozen'), unless(f => f.isEmpty, 'act.not-empty')),
  },
  'submit': {
    permission: 'applications.write',
    period: 'applications',
    takenBackBy: 'take-back-submission',
    tells: true,
    refuse: all(drafting, unless(f => f.keying === null, 'act.keying')),
    change: (_, { fee = 'not assessed' }) => ({ form: 'submitted', fee, scrutiny: backToQueue(fee) }),
  },
  'take-back-submission': {
    permission: 'applications.write',
    period: 'applications',
    tells: true,
    refuse: all(
      unless(f => f.tracks.form === 'submitted', 'act.form-not-submitted'),
      unless(f => !f.isDecided, 'act.decided'),
      noPayment,
      unless(f => !f.isPaid || f.isPaidFirst, 'act.paid'),
      waiting,
    ),
    change: (_, { fee = 'not assessed' }) => ({ form: 'drafting', fee, scrutiny: 'not started' }),
  },
  'withdraw': {
    permission: 'applications.write',
    needsReason: true,
    takenBackBy: 'bring-back',
    tells: true,
    refuse: all(underWay, unless(f => f.tracks.scrutiny !== 'refused', 'act.form-over'), noPayment),
    change: ({ tracks }, { fee = tracks.fee }) => ({ form: 'withdrawn', fee, placement: 'unplaced', card: 'not issued' }),
  },
  'bring-back': {
    permission: 'applications.write',
    period: 'applications',
    needsReason: true,
    takenBackBy: 'withdraw',
    tells: true,
    refuse: unless(f => isOver(f.tracks), 'act.form-not-withdrawn'),
    change: ({ tracks }, { fee = tracks.fee, former = newTracks }) => ({
      form: former.form,
      fee,
      scrutiny: scrutinyAfterFee(former.scrutiny, former.form, fee),
      placement: 'unplaced',
      card: 'not issued',
    }),
  },
  'open-for-correction': {
    permission: 'applications.override',
    period: 'corrections',
    needsReason: true,
    takenBackBy: 'close-correction',
    tells: true,
    refuse: all(
      unless(f => f.tracks.form === 'submitted', 'act.form-not-submitted'),
      unless(f => f.tracks.scrutiny !== 'refused', 'act.form-over'),
      seatless,
      noPayment,
    ),
    change: () => ({ form: 'correcting' }),
  },
  'close-correction': {
    permission: 'applications.write',
    refuse: all(
      unless(f => f.tracks.form === 'correcting' && f.tracks.scrutiny !== 'returned', 'act.not-correcting'),
      unless(f => !f.isCorrected, 'act.changed'),
    ),
    change: () => ({ form: 'submitted' }),
  },
  'hand-in-correction': {
    permission: 'applications.write',
    tells: true,
    refuse: unless(f => f.tracks.form === 'correcting', 'act.not-correcting'),
    change: handIn,
  },
  'lapse': {
    permission: 'clock.act',
    takenBackBy: 'bring-back',
    tells: true,
    refuse: all(underWay, unless(f => f.tracks.scrutiny !== 'refused', 'act.not-lapsing'), noPayment),
    change: lapse,
  },
  'remind': { permission: 'clock.act', tells: true, refuse: underWay },
  // Whatever became of an application, somebody may ask about it.
  'ask-question': { permission: 'questions.ask', refuse: nothing },
  'answer-question': { permission: 'questions.answer', tells: true, refuse: nothing },
  'ask-endorsement': {
    permission: 'applications.write',
    takenBackBy: 'take-back-endorsement',
    refuse: all(underWay, unless(f => f.tracks.scrutiny !== 'refused', 'act.form-over')),
  },
  'take-back-endorsement': { permission: 'applications.write', refuse: underWay },
  // Who answers has no account: the product writes it down, with the name that they gave.
  'give-endorsement': {
    permission: 'clock.act',
    tells: true,
    refuse: all(underWay, unless(f => f.tracks.scrutiny !== 'refused', 'act.form-over')),
  },
  'record-endorsement': {
    permission: 'applications.override',
    needsReason: true,
    tells: true,
    refuse: all(underWay, unless(f => f.tracks.scrutiny !== 'refused', 'act.form-over')),
  },
  // Whoever already has an account loses the application to another one: two people look at who asks.
  'give-access': {
    permission: 'applications.override',
    needsReason: true,
    isSeenTwice: ({ facts }) => facts.isOwned,
    isFinal: true,
    tells: true,
    refuse: nothing,
  },
  // Somebody asks that what the office holds of them goes before its time: only of a form that nothing is open on.
  'release-data': {
    permission: 'records.erase',
    needsReason: true,
    needsSecond: true,
    takenBackBy: 'keep-data',
    tells: true,
    refuse: all(
      unless(f => isOver(f.tracks) || f.tracks.scrutiny === 'refused', 'act.data-in-use'),
      noPayment,
      unless(f => f.slip !== 'waiting', 'act.payment-under-way'),
      unless(f => f.tracks.fee !== 'refund due', 'act.money-owed'),
    ),
  },
  'keep-data': { permission: 'records.erase', needsReason: true, tells: true, refuse: unless(f => f.isReleased, 'act.data-kept') },
  // A paper form, keyed by two people: what the first has keyed stands still while the second keys it and somebody compares.
  'finish-keying': {
    permission: 'forms.key',
    takenBackBy: 'take-back-keying',
    refuse: all(drafting, unless(keyed('first'), 'act.not-keying'), unless(f => !f.isEmpty, 'act.keyed-nothing')),
  },
  'take-back-keying': {
    permission: 'forms.key',
    refuse: all(drafting, unless(keyed('second'), 'act.not-keying'), unless(f => f.keying?.second === null, 'act.keying-begun')),
  },
  'finish-second-keying': {
    permission: 'forms.key',
    refuse: all(drafting, unless(keyed('second'), 'act.not-keying')),
    refusePerson: ({ id }, facts) => facts.keying?.second === id ? null : because('act.keying-others', facts),
  },
  'settle-keying': { permission: 'forms.key', refuse: all(drafting, unless(keyed('differing'), 'act.not-keying')) },
} satisfies Partial<Record<ActId, ActRule>>
