import type { ActId } from '../../application/acts/rule'
import { actButtons as ofCandidates } from './acts'

/** An act as a button says it, and what it does, said before it is pressed: all of them, as the office meets them. */
export const actButtons: Record<ActId, { press: string, says: string }> = {
  ...ofCandidates,
  'open-for-correction': { press: 'Open for correction', says: 'The named items open for a stated time; the rest stays frozen.' },
  'lapse': { press: 'Lapse', says: 'Time has ended the application.' },
  'assess-fee': { press: 'Assess the fee', says: 'The fee follows from the facts.' },
  'payment-settled': { press: 'Payment settled', says: 'The money is booked.' },
  'payment-refused': { press: 'Payment refused', says: 'Nothing was charged; the fee is due again.' },
  'payment-ended': { press: 'Payment ended', says: 'The time to pay has run out.' },
  'accept': { press: 'Accept', says: 'The application waits for a centre.' },
  'return': { press: 'Return', says: 'The named items open for correction until a stated moment.' },
  'refuse': { press: 'Refuse', says: 'The application ends with a reasoned order, which is sent.' },
  'take-back-acceptance': { press: 'Take the acceptance back', says: 'The case waits for a decision again.' },
  'recall-return': { press: 'Recall the return', says: 'The case waits for a decision again; nothing was changed since it was returned.' },
  'take-back-refusal': {
    press: 'Take the refusal back',
    says: 'The order was sent: a second person has to confirm. The case then waits for a decision again.',
  },
  'reopen': { press: 'Reopen after an appeal', says: 'A second person has to confirm. The case then waits for a decision again.' },
  'back-to-scrutiny': { press: 'Back to scrutiny', says: 'The case waits for a decision again.' },
  'rule-on-claim': { press: 'Rule on a claim', says: 'Verdicts, fee and place in the flow follow.' },
  'place': { press: 'Place', says: 'A run has given a city.' },
  'place-by-hand': { press: 'Place by hand', says: 'Every run leaves the person in this city.' },
  'release-by-hand': { press: 'Release', says: 'The runs place the person again.' },
  'publish-seat': { press: 'Publish', says: 'The person is told city and seat.' },
  'take-seat-back': {
    press: 'Take the seat back',
    says: 'The seat is free for others, the card is void, and the person, who was told the seat, waits for another.',
  },
  'change-seat': {
    press: 'Change the seat',
    says: 'The person is told another seat or another hour; a card that was printed does not hold.',
  },
  'issue-card': { press: 'Issue the card', says: 'The card is frozen and signed; the person may print it.' },
  'replace-card': {
    press: 'Replace the card',
    says: "A new version is made from today's facts; the one that may be printed already is void.",
  },
  'void-card': { press: 'Void the card', says: 'The card that may be printed already is refused at the gate.' },
  'withhold-card': { press: 'Withhold the card', says: 'It is not given out, or does not hold, until somebody lets it go.' },
  'refund-sent': { press: 'Refund sent', says: 'What was owed back is on its way to the payee.' },
  'refund-returned': { press: 'Refund came back', says: 'The bank could not deliver a refund; it is owed again.' },
  'payment-taken-back': { press: 'Payment taken back', says: 'Money that was booked was for something else; the fee stands as before.' },
  'remind': { press: 'Remind', says: 'The candidate is told what is still open and until when.' },
  'refer': { press: 'Ask a desk', says: 'The case leaves the queue until the desk has answered; nobody decides on it meanwhile.' },
  'answer-referral': { press: 'Answer for the desk', says: 'The case comes back into its queue with the answer.' },
  'set-aside': {
    press: 'Set aside',
    says: 'Another application of the same person stands; this one leaves the flow, and its money is owed back.',
  },
  'decide-request': { press: 'Decide on a request', says: 'Verdicts, seat and card follow; the candidate is told.' },
  'give-access': {
    press: 'Give access by an address',
    says:
      'Somebody has proved to you who they are. From then on the application belongs to the account that this address opens; it is made where there is none. Addresses that had it before are told.',
  },
  'release-data': {
    press: 'Release its data for erasing',
    says:
      'Answers, files, letters and what the log says of the person go for ever when the operator next erases; the account goes with its last form. Number, states, fee and the books stay. What a roll of the same sender was read from goes, too. The person is told.',
  },
  'keep-data': {
    press: 'Keep its data after all',
    says: 'It stands as before it was released, and is worked on again. The person is told.',
  },
  'finish-keying': { press: 'All of the paper is keyed', says: 'It stands still until a second person has keyed it, too.' },
  'take-back-keying': { press: 'Key on', says: 'The form opens again; nobody has begun to key it a second time.' },
  'finish-second-keying': {
    press: 'All of the paper is keyed',
    says: 'Both keyings are compared; where nothing differs the form holds as it is.',
  },
  'settle-keying': { press: 'This stands on the paper', says: 'What you say holds, and the form can be completed and submitted.' },
  'give-endorsement': { press: 'Answer', says: 'The candidate is told that the answer is there.' },
  'record-endorsement': { press: 'Record from paper', says: 'What came on paper counts as if it had come by the link.' },
  'answer-question': { press: 'Answer', says: 'Whoever asked is told that the answer is there.' },
  'confirm-slip': { press: 'Confirm', says: 'The fee counts as paid; the money is in transit until a statement shows it.' },
  'refuse-slip': { press: 'Refuse the slip', says: 'The fee is due again, and the payer is told why.' },
  'accept-correction': { press: 'Accept the correction', says: 'Answers, files, fee, seat and card follow as listed.' },
  'refuse-correction': { press: 'Refuse the correction', says: 'The form stays as it is; what was paid for it is owed back.' },
  'apply-correction': { press: 'Apply the correction', says: 'It takes effect as the notice says.' },
  'end-correction': { press: 'End the correction', says: 'It was not handed in or paid in time.' },
  'waive-fee': {
    press: 'Waive the fee',
    says: "What is due, or a part of it, is granted to the candidate. Above the notice's limit a second person has to confirm.",
  },
  'write-off-fee': {
    press: 'Write the fee off',
    says: 'What is due will not come; the books carry it as lost. A second person has to confirm.',
  },
  'claim-fee-again': { press: 'Claim the fee again', says: 'What was waived or written off is due again. A second person has to confirm.' },
  'payment-charged-back': { press: 'Charged back', says: 'The gateway has taken the money again.' },
  'let-card-go': { press: 'Let the card go', says: 'The card that was issued holds again, or one may be issued.' },
}
