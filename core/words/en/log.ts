import type { LogAct } from '../../records/log'

/** What the log says was done. */
export const logWords: Record<LogAct, string> = {
  'begin': 'registered', 'save-answers': 'changed answers', 'add-file': 'added a file', 'delete-draft': 'deleted the empty draft', 'submit': 'submitted', 'take-back-submission': 'took the submission back',
  'withdraw': 'withdrew the application', 'bring-back': 'brought the application back', 'open-for-correction': 'opened it for correction', 'close-correction': 'closed the correction', 'hand-in-correction': 'handed the correction in',
  'lapse': 'ended by the clock', 'assess-fee': 'assessed the fee', 'start-payment': 'opened a payment', 'payment-settled': 'booked a payment', 'payment-refused': 'noted a refused payment', 'payment-ended': 'ended an overdue payment',
  'accept': 'accepted', 'return': 'returned for correction', 'refuse': 'refused', 'take-back-acceptance': 'took the acceptance back', 'recall-return': 'recalled the return', 'take-back-refusal': 'took the refusal back',
  'reopen': 'reopened after an appeal', 'back-to-scrutiny': 'sent back to scrutiny', 'rule-on-claim': 'ruled on a claim', 'place': 'placed', 'place-by-hand': 'placed by hand', 'release-by-hand': 'released from placing by hand',
  'publish-seat': 'published the seat', 'take-seat-back': 'took the seat back', 'change-seat': 'changed the seat', 'issue-card': 'issued the card', 'replace-card': 'replaced the card', 'void-card': 'made the card void', 'withhold-card': 'withheld the card', 'let-card-go': 'let the card go', 'payment-taken-back': 'took a booked payment back', 'refund-sent': 'sent a refund', 'refund-returned': 'noted a refund that came back', 'propose-refund': 'proposed a refund', 'approve-refund': 'approved a refund', 'withdraw-refund': 'laid a refund aside', 'send-refunds': 'made a payment file', 'change-bank-account': 'changed a bank account', 'read-statement': 'read a bank statement', 'match-line': 'explained a line of a statement', 'unmatch-line': 'took the explanation of a line back', 'read-settlement': 'read a settlement of the gateway', 'close-day': 'closed a day', 'remind': 'reminded the candidate', 'refer': 'asked a desk', 'answer-referral': 'answered for a desk', 'set-aside': 'set aside: the same person has another one', 'judge-pair': 'judged a likely pair', 'prove-counts': 'proved the counts',
  'sign-in': 'signed in', 'sign-out': 'signed out', 'end-session': 'ended sessions', 'change-password': 'changed the password', 'set-second-factor': 'set a second factor up', 'remove-second-factor': 'removed the second factor',
  'use-link': 'used a one-time link', 'invite-staff': 'invited', 'change-staff': 'changed the account of', 'deactivate-staff': 'ended the account of', 'activate-staff': 'opened the account again of', 'make-link': 'made a one-time link for',
  'move-files': 'moved pictures and papers to another home', 'read-paper': 'read a paper', 'rotate-card-key': 'made a new key that signs cards', 'rotate-office-key': 'put a new key in place of the one that seals secrets', 'release-erasing': 'released the cycle for erasing', 'erase-cycle': 'erased what the cycle told of people', 'change-office': 'changed the office\'s rules', 'put-notice': 'put a notice in force', 'propose-notice': 'proposed a notice', 'accept-review': 'accepted a review', 'agree-amendment': 'agreed to an amendment that holds later', 'read-roll': 'took in a nominal roll', 'enter-roll': 'entered a nominal roll', 'move-dates': 'moved dates of the notice', 'discard-review': 'laid a review aside',
  'run-allocation': 'ran the allocation', 'publish-run': 'published a run', 'load-demo': 'loaded the demo', 'add-room': 'added a room', 'change-rooms': 'changed rooms', 'change-venue': 'changed a venue', 'add-handout': 'laid out a file to read', 'take-out-handout': 'took a file to read away', 'measure-file': 'measured a file', 'refuse-file': 'refused a file',
  'waive-fee': 'waived the fee', 'write-off-fee': 'wrote the fee off', 'claim-fee-again': 'claimed the fee again', 'payment-charged-back': 'booked a charge-back',
  'add-late-file': 'added a paper that may follow', 'ask-correction': 'handed a correction in', 'add-to-correction': 'added a file to a correction', 'take-back-correction': 'took a correction back', 'accept-correction': 'accepted a correction',
  'refuse-correction': 'refused a correction', 'apply-correction': 'let a correction take effect', 'end-correction': 'ended a correction',
  'decide-request': 'decided on a request',
  'look-up-standing': 'looked up where it stands, without signing in',
  'announce': 'wrote to many', 'change-register': 'entered a file of the register',
  'ask-for-fee': 'had the fee assessed',
  'give-account': 'gave an account for what is owed back', 'ask-question': 'asked the office', 'answer-question': 'answered a question',
  'ask-endorsement': 'asked somebody else to answer', 'take-back-endorsement': 'took back what somebody was asked', 'give-endorsement': 'wrote down what somebody answered by their link', 'record-endorsement': 'recorded an answer from paper',
  'finish-keying': 'keyed a paper form the first time', 'take-back-keying': 'took the first keying back', 'finish-second-keying': 'keyed a paper form the second time', 'settle-keying': 'settled where two keyings differ',
  'hand-in-slip': 'handed a deposit slip in', 'take-back-slip': 'took a deposit slip back', 'confirm-slip': 'confirmed a deposit slip', 'refuse-slip': 'refused a deposit slip',
  'add-address': 'added an address to an account', 'remove-address': 'took an address off an account', 'remove-password': 'took the password off an account', 'give-access': 'gave access by an address',
  'resend-letter': 'sent a letter again', 'make-bill': 'made a bill for several', 'withdraw-bill': 'withdrew a bill for several',
  'bar-person': 'barred somebody', 'lift-bar': 'lifted a bar', 'judge-barred': 'judged whether somebody barred has applied',
  'propose-act': 'began what a second person confirms', 'confirm-act': 'confirmed as second person', 'withdraw-proposal': 'withdrew what waited for a second person',
}

/** Why the clock brought an application back. */
export const closeMoved = 'The close was moved to a later moment.'
