import type { ActId } from '../../application/acts/rule'
import { spellInstant } from '../../calendar/zone'
import { spellAmount } from '../../fees/assess'
import { ownLetter } from '../../letters/own'
import type { EndorsementRule, Notice } from '../../notice/schema'
import { formatMessage } from '../message'

/** What candidates are told, by act. Nothing in it is secret, and what is still open is said. */
const letters: Partial<Record<ActId, { subject: string, body: string }>> = {
  'submit': {
    subject: '{number}: your form has arrived',
    body:
      'Your form for {examination} has arrived. It is complete once the fee is settled, at the latest {lastPayment}. Answers and files are frozen now.',
  },
  'take-back-submission': {
    subject: '{number}: your form is open again',
    body: 'The submission was taken back. The form must be handed in again before {closes}.',
  },
  'remind': {
    subject: '{number}: two days are left',
    body:
      '{what, select, drafting {Your form has not been handed in. It counts only if it arrives before {until}.} returned {What the office asked you to correct is still open. Hand it in before {until}; what nobody answers is not waited for.} paper {A paper that was to follow is not there yet. Add it before {until}; nobody is accepted without it.} other {Your form has arrived, and its fee is still due. Pay before {until}.}}',
  },
  'set-aside': {
    subject: '{number}: set aside',
    body: 'You have another application for this examination, and that one stands. What was paid for {number} is owed back to you.',
  },
  'withdraw': { subject: '{number}: withdrawn', body: 'The application was withdrawn. If that was not you, write to the office at once.' },
  'bring-back': { subject: '{number}: back again', body: 'The application that had been withdrawn or had lapsed counts again.' },
  'open-for-correction': {
    subject: '{number}: open for correction',
    body: 'The office has opened items of your application for correction. Sign in to see which and until when.',
  },
  'hand-in-correction': { subject: '{number}: your correction has arrived', body: 'Your correction has arrived and will be looked at.' },
  'waive-fee': {
    subject: '{number}: a fee was waived',
    body: 'The office has waived {amount} of your fee. Sign in to see whether anything is left to pay.',
  },
  'claim-fee-again': {
    subject: '{number}: your fee is due again',
    body: 'A part of your fee that had been waived is due again. Sign in to see what, and pay at the latest {lastPayment}.',
  },
  'payment-charged-back': {
    subject: '{number}: your payment was taken back',
    body:
      'Your bank has taken {amount} back that you had paid. The fee is due again, and an admit card does not hold until it is settled. Sign in to pay, or write to the office.',
  },
  'add-late-file': { subject: '{number}: your paper has arrived', body: 'The paper that was to follow has arrived and will be looked at.' },
  'ask-correction': {
    subject: '{number}: your correction has arrived',
    body:
      'Your correction has arrived. {state, select, unpaid {It goes on once {amount} is paid.} other {It is looked at.}} Until it takes effect the form stays as it is.',
  },
  'take-back-correction': {
    subject: '{number}: correction taken back',
    body: 'The correction was taken back; your form stays as it is. What was paid for it is owed back to you.',
  },
  'give-endorsement': {
    subject: '{number}: {word, select, given {given} other {declined}}, {request}',
    body:
      '{request}: {word, select, given {the answer has arrived.} other {whoever you asked has declined. Sign in to ask somebody else.}}',
  },
  'record-endorsement': {
    subject: '{number}: {word, select, given {given} other {declined}}, {request}',
    body:
      '{request}: the office has recorded {word, select, given {what came on paper.} other {that it was declined. Sign in to ask somebody else.}}',
  },
  'decide-request': {
    subject: '{number}: {word, select, granted {granted} other {declined}}, {request}',
    body:
      'You asked for: {request}. The office has {word, select, granted {granted it.} other {declined it.}} {reason} What follows from it stands with your application.',
  },
  'accept-correction': {
    subject: '{number}: your correction counts',
    body:
      'Your correction was accepted. Sign in to see your form{card, select, anew { and print the new admit card: the one before does not hold any more} other {}}.',
  },
  'refuse-correction': {
    subject: '{number}: correction refused',
    body: 'Your correction was refused; sign in to see why. Your form stays as it is, and what was paid for it is owed back to you.',
  },
  'apply-correction': { subject: '{number}: your correction counts', body: 'Your correction has taken effect. Sign in to see your form.' },
  'end-correction': {
    subject: '{number}: correction ended',
    body: 'The correction was not handed in or paid in time. Your form stays as it is; what was paid for it is owed back to you.',
  },
  'lapse': { subject: '{number}: lapsed', body: 'The application has ended by the clock: it was not handed in or not paid in time.' },
  'assess-fee': {
    subject: '{number}: your fee has changed',
    body:
      'The notice was amended, and your fee was assessed anew: {after} instead of {before}. What lacks is open until {lastPayment}; what was paid too much is owed back to you.',
  },
  'payment-settled': {
    subject: '{number}: paid',
    body:
      'Your payment of {amount} has been booked. {open, select, yes {A part of the fee is still due, at the latest {lastPayment}.} draft {The form is not handed in yet: that is open until {closes}.} other {The application is complete and waits to be looked at.}}',
  },
  'answer-question': {
    subject: '{number}: the office has answered you',
    body: 'The office has answered what you asked about {number}. Sign in to read it; the answer stands with your application.',
  },
  'confirm-slip': {
    subject: '{number}: paid',
    body:
      'The slip of your deposit of {amount} was confirmed. {open, select, yes {A part of the fee is still due, at the latest {lastPayment}.} draft {The form is not handed in yet: that is open until {closes}.} other {The application is complete and waits to be looked at.}}',
  },
  'refuse-slip': {
    subject: '{number}: your deposit slip was refused',
    body: 'The slip of your deposit was refused: {reason} The form is not complete: the fee is open until {lastPayment}.',
  },
  'refund-sent': {
    subject: '{number}: your refund is on its way',
    body: 'What was owed back to you, {amount}, is on its way: to the account that you gave, or back the way that you had paid.',
  },
  'refund-returned': {
    subject: '{number}: your refund came back',
    body: 'Your refund of {amount} could not be delivered. Write to the office with an account to which it can go.',
  },
  'payment-taken-back': {
    subject: '{number}: a payment was for something else',
    body:
      'Money of {amount} that had been booked to your application was for something else, and was taken back. Sign in to see what is due.',
  },
  'payment-refused': {
    subject: '{number}: the payment was refused',
    body: 'Nothing was charged. The form is not complete: the fee is open until {lastPayment}.',
  },
  'accept': {
    subject: '{number}: accepted',
    body: 'Your application was accepted. City and seat are told after the allocation, the card from {cardsFrom}.',
  },
  'return': {
    subject: '{number}: something is to be mended',
    body:
      'Something in your application is to be mended. Sign in to see what, and hand it in again in time; what nobody answers is not waited for.',
  },
  'refuse': {
    subject: '{number}: refused',
    body: 'Your application was refused. The order with its reasons stands with your application.',
  },
  'publish-seat': { subject: '{number}: your test city', body: 'City, venue and session of your test stand with your application.' },
  'take-seat-back': {
    subject: '{number}: your seat has changed',
    body: 'The seat that you were told is not yours any more. Another will be told; a card that was printed does not hold.',
  },
  'change-seat': {
    subject: '{number}: look at your seat again',
    body:
      'Seat, room or hour of your test have changed; they stand with your application as they are now. A card that was printed before does not hold.',
  },
  'issue-card': {
    subject: '{number}: your admit card',
    body: 'Your admit card can be printed. Bring it with the identity proof named on it.',
  },
  'replace-card': {
    subject: '{number}: a new admit card',
    body: 'A new version of your admit card was made. The one before does not hold any more: print the new one.',
  },
  'give-access': {
    subject: '{number}: yours by this address',
    body: 'The office has opened your application for {examination} to this address. Sign in with it: a code is sent here.',
  },
  'release-data': {
    subject: '{number}: your data are to be erased',
    body:
      'The office has released what your application for {examination} says of you for erasing. Soon your answers, files and letters will be gone, and nobody can bring them back. If that is not what you want, write to the office now.',
  },
  'keep-data': {
    subject: '{number}: your data are kept',
    body: 'What your application for {examination} says of you is kept after all. Nothing was erased.',
  },
  'void-card': { subject: '{number}: your card does not hold', body: 'Your admit card was made void. Sign in to see why.' },
}
const accountChanges = {
  'added': { subject: 'An address was added to your account', body: '{address} was added to your account: codes sent there let in, too.' },
  'removed': {
    subject: 'An address was taken off your account',
    body: '{address} was taken off your account. It does not let in any more.',
  },
  'password': {
    subject: 'Your account has a new password',
    body: 'A password was set on your account. You are signed out everywhere else.',
  },
  'no-password': {
    subject: 'Your account has no password any more',
    body: 'The password was taken off your account. A code that is sent to you lets you in.',
  },
} as const

/** What every address of an account is told when something changes in how one comes in. */
export function accountLetter(what: keyof typeof accountChanges, address: string): { subject: string, body: string } {
  return {
    subject: accountChanges[what].subject,
    body: `${formatMessage('en', accountChanges[what].body, { address })} If that was not you, write to the office at once.`,
  }
}

/** What the addresses are told that had an application before the office gave it to another. */
export const accessLetter = ({ body: { name } }: Notice, number: string): { subject: string, body: string } => ({
  subject: `${number}: opened to another address`,
  body:
    `Somebody has proved to the office that ${number} is theirs and cannot be reached here any more, so it was opened to another address. If that was not you, write to the office at once. ${name}`,
})

const other = {
  subject: '{number}: something has changed',
  body: 'Something has changed in your application for {examination}. Sign in to see it.',
}

/**
 * A letter about an act on an application, in the notice's own words where it has them; `told` is what the act has said of it, amounts in
 * minor units.
 */
export function actLetter(
  notice: Notice,
  act: ActId,
  { number, name: person }: { number: string, name: string },
  told: Readonly<Record<string, string | number>> = {},
  toTelephone = false,
): { subject: string, body: string } {
  const { title, keyDates, body: { zone, name } } = notice
  const amount = (key: string) => typeof told[key] === 'number' ? spellAmount(told[key], notice.body.currency) : ''
  const values = {
    number,
    before: amount('before'),
    after: amount('after'),
    amount: amount('amount'),
    open: told.open ?? 'no',
    what: told.what ?? '',
    request: told.request ?? '',
    word: told.word ?? '',
    reason: told.reason ?? '',
    state: told.state ?? '',
    card: told.card === 'made anew' ? 'anew' : 'same',
    until: typeof told.until === 'string' && told.until !== '' ? spellInstant(told.until, zone) : '',
    examination: title,
    closes: spellInstant(keyDates.closes, zone),
    lastPayment: spellInstant(keyDates.lastPayment, zone),
    cardsFrom: spellInstant(keyDates.cardsFrom, zone),
  }
  const { subject, body } = letters[act] ?? other
  const usual = formatMessage('en', body, values)
  const own = notice.letters?.find(letter => letter.act === act)
  if (own) {
    return ownLetter(
      own,
      new Map(Object.entries({ ...values, name: person, body: name, usual }).map(([key, value]) => [key, String(value)])),
      toTelephone,
    )
  }
  return { subject: formatMessage('en', subject, values), body: `${usual} ${name}` }
}

/** One letter for several applications of one account, of each of which something is to be told. */
export function groupLetter(
  { title, body: { name } }: Notice,
  all: readonly { number: string, name: string, subject: string }[],
  toTelephone: boolean,
): { subject: string, body: string } {
  const subject = formatMessage('en', '{count} of your applications for {examination}', { count: all.length, examination: title })
  const what = (one: { number: string, subject: string }) => one.subject.replace(`${one.number}: `, '')
  const news = [...new Set(all.map(what))].join(', ')
  if (toTelephone) {
    return {
      subject,
      body: formatMessage('en', '{count} of your applications: {news}. Sign in to read which. {name}', { count: all.length, news, name }),
    }
  }
  return {
    subject,
    body: [
      formatMessage('en', 'There is news of {count} of your applications for {examination}:', { count: all.length, examination: title }),
      ...all.map(one => `${one.number} ${one.name}: ${what(one)}`),
      `Sign in to read what each of it means. ${name}`,
    ].join('\n'),
  }
}

/** What somebody is asked by a link, who has no account. */
export function endorsementLetter(
  { title, body: { name, zone } }: Notice,
  rule: EndorsementRule,
  { candidate, name: person, link, isReminder }: { candidate: string, name: string, link: string, isReminder: boolean },
): { subject: string, body: string } {
  const values = {
    person,
    candidate,
    examination: title,
    what: rule.title,
    kind: rule.kind,
    link,
    office: name,
    isReminder: String(isReminder),
    hasUntil: String(rule.until !== undefined),
    until: rule.until ? spellInstant(rule.until, zone) : '',
  }
  return {
    subject: formatMessage('en', '{isReminder, select, true {Reminder: } other {}}{candidate} asks you: {what}', values),
    body: formatMessage(
      'en',
      '{person}, {candidate} applies for {examination} and has named you: {kind, select, consent {your consent is needed} other {you are asked for a recommendation}}. Read what it is about and answer here, without an account: {link} {hasUntil, select, true {It can be answered until {until}. } other {}}If you do not know {candidate}, do nothing. {office}',
      values,
    ),
  }
}

/** The code that proves an address. */
export const codeLetter = (code: string, minutes: number): { subject: string, body: string } => ({
  subject: 'Your code',
  body: `${code} is your code. It holds for ${minutes} minutes and only for you: nobody of the office asks for it.`,
})
