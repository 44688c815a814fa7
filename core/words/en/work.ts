import type { MatterKind, MatterOwner, OpenMatter } from '../../application/open-matters'
import type { Headline } from '../../application/tracks'
import type { Verdict } from '../../finding/finding'
import { formatMessage } from '../message'

/** What is open and what clears it, for one open matter. */
export function matterWords({ kind, parameters }: Pick<OpenMatter, 'kind' | 'parameters'>): { title: string, clears: string } {
  const known = { count: 0, title: '', payer: '', unasked: 0, ...parameters }
  return { title: formatMessage('en', matterTitles[kind], known), clears: formatMessage('en', matterClears[kind], known) }
}

const matterTitles: Record<MatterKind, string> = {
  'gaps': '{count, plural, one {# answer is} other {# answers are}} missing or wrong',
  'file-missing': '{title} is missing',
  'file-fails': '{title} breaks a rule of the notice',
  'submission': 'Not submitted',
  'fee-due': 'Fee is due',
  'payer-due': 'Fee waits for {payer}',
  'payment-unanswered': 'Payment is not confirmed',
  'return-unanswered': 'Returned for correction',
  'correction-open': 'Open for correction',
  'scrutiny': 'Waits for scrutiny',
  'placement': 'No centre yet',
  'publication': 'Placed, not published',
  'card': 'No admit card yet',
  'card-withheld': 'Admit card is withheld',
  'referred': 'The office looks into a question',
  'likely-duplicate': 'Likely of somebody who has applied before',
  'proof-follows': '{title} may still follow',
  'barred': 'Barred, or likely so',
  'charged-back': 'A payment was taken back by a bank',
  'request-open': 'Asked for: {title}',
  'slip-waits': 'A deposit slip waits to be looked at',
  'endorsement-awaited': '{title} is not there yet',
  'keying':
    '{state, select, first {A paper form is being keyed} second {A paper form waits to be keyed a second time} other {Two keyings of a paper form differ}}',
  'message-bounced': 'The last message did not arrive',
  'correction-unpaid': 'A correction waits for its money',
  'correction-waits': 'A correction waits for the office',
}
const matterClears: Record<MatterKind, string> = {
  'gaps': 'Fill in what the margin names.',
  'file-missing': 'Add the picture or paper.',
  'file-fails': 'Replace it, or let scrutiny judge it.',
  'submission': 'Submit with the declaration.',
  'fee-due': 'Pay the assessed fee.',
  'payer-due': '{payer} pays the fee. If it does not come in time, the candidate may pay it instead.',
  'payment-unanswered': 'The gateway confirms it, or accounts ask the gateway.',
  'return-unanswered': 'Correct the named items and hand the form in again.',
  'correction-open': 'Correct the opened items and hand the form in, or close the correction.',
  'scrutiny': 'A scrutineer decides.',
  'placement': 'The next allocation run places it.',
  'publication': 'An officer publishes the run.',
  'card': 'An officer issues the cards.',
  'card-withheld': 'An officer lets the card go.',
  'referred': 'The desk that was asked answers.',
  'likely-duplicate': 'A scrutineer judges the pair.',
  'proof-follows': 'Add it before its last moment; nobody is accepted without it.',
  'barred': 'A scrutineer says whether it is the person who is barred.',
  'charged-back': 'The fee is settled anew, or the office gives it up; then an officer lets the card go.',
  'request-open': 'The office grants or declines it, and says why.',
  'slip-waits': 'Accounts confirm it, or a statement of the bank shows the money.',
  'endorsement-awaited':
    '{unasked, plural, =0 {Whoever was asked answers by the link in their letter.} other {Ask somebody for it, further down on the sheet.}}',
  'keying': 'Two officers key it, and what differs is settled.',
  'message-bounced': 'A message arrives at the address, or at another that the candidate gives.',
  'correction-unpaid': 'Pay what it costs; until then the form stays as it is.',
  'correction-waits': 'A scrutineer accepts or refuses it.',
}

export const ownerWords: Record<MatterOwner, string> = {
  candidate: 'candidate',
  accounts: 'accounts',
  scrutineer: 'scrutineer',
  officer: 'officer',
  gateway: 'payment gateway',
  payer: 'who pays for them',
  endorser: 'whoever was asked',
}

/** A shape for each headline, so that no status is told by colour alone. */
export const headlineShapes: Record<Headline, string> = {
  'drafting': '○',
  'fee due': '◔',
  'in scrutiny': '◑',
  'returned': '↩',
  'accepted': '●',
  'placed': '▣',
  'card issued': '■',
  'refused': '✕',
  'withdrawn': '–',
  'lapsed': '∅',
}

export const verdictWords: Record<Verdict, string> = { pass: 'in order', fail: 'not in order', unsure: 'to be judged' }
export const verdictShapes: Record<Verdict, string> = { pass: '✓', fail: '✕', unsure: '?' }
