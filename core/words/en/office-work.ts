import type { MatterKind } from '../../application/open-matters'
import type { CardBlocker } from '../../admit-card/content'
import type { CodeVerdict } from '../../admit-card/code'

export * from './work'

/** Open matters of a kind over a whole cycle, as a line of a list. */
export const matterLines: Record<MatterKind, string> = {
  'gaps': 'forms with missing or wrong answers',
  'file-missing': 'pictures or papers missing',
  'file-fails': 'pictures or papers that break a rule',
  'submission': 'forms not submitted',
  'fee-due': 'fees due',
  'payer-due': 'fees that others pay',
  'payment-unanswered': 'payments not confirmed',
  'return-unanswered': 'returns not answered',
  'correction-open': 'corrections open',
  'scrutiny': 'cases in scrutiny',
  'placement': 'without a centre',
  'publication': 'placed, not published',
  'card': 'without a card',
  'card-withheld': 'cards withheld',
  'referred': 'questions to a desk',
  'likely-duplicate': 'likely of somebody who applied before',
  'charged-back': 'payments taken back',
  'barred': 'barred, or likely so',
  'proof-follows': 'papers that may follow',
  'request-open': 'requests not decided',
  'message-bounced': 'messages that did not arrive',
  'slip-waits': 'deposit slips to look at',
  'endorsement-awaited': 'what others have to say',
  'keying': 'paper forms not keyed twice',
  'correction-unpaid': 'corrections not paid',
  'correction-waits': 'corrections to look at',
}

export const blockerWords: Record<CardBlocker, string> = {
  form: 'The form is not submitted or is back for correction.',
  fee: 'The fee is not settled.',
  scrutiny: 'Scrutiny has not accepted the application.',
  placement: 'No published seat.',
  hold: 'Withheld by hand:',
  request: 'Something that was asked for waits for the office.',
  letters: 'No face of this server can print a letter of the name. Ask the applicant for the name in another script, or have a face added:',
  photograph: 'The photograph is missing, or no copy of it can be printed.',
  signature: 'The signature is missing, or no copy of it can be printed.',
  thumb: 'The thumb impression is missing.',
}

export const codeRefusalWords: Record<Extract<CodeVerdict, { ok: false }>['why'], string> = {
  'not-a-code': "This is not a card's code, or part of it is missing or wrong. Read it again from the paper.",
  'unknown-key':
    "The code was signed by somebody else's key, or with one that this page does not know yet. Load the page anew with a network and try again.",
  'bad-signature': 'The signature does not fit what the code says: at least one sign was changed. Do not let this card pass.',
}

/** Kinds of long work. */
export const workTitles: Record<string, string> = {
  'allocate': 'Run of the allocation',
  'publish': 'Publishing a run',
  'issue-cards': 'Issuing cards',
  'review': 'Judging all applications again',
  'try-roll': 'Trying a nominal roll',
  'enter-roll': 'Entering a nominal roll',
  'hand-in-roll': 'Handing in what a nominal roll has brought',
  'assess-anew': 'Assessing fees anew',
  'settle-matters': 'What is open, after a change of the notice',
  'match-lines': 'Explaining lines of statements',
  'prove-counts': 'Proving the counts',
  'find-pairs': 'Comparing all applications',
  'act-on-many': 'One act on many',
  'announce': 'A letter to many',
  'check-log': 'Checking the sealed log',
}
