/** An act as a button says it, and what it does, said before it is pressed: those that candidates may do themselves. */
export const actButtons = {
  'begin': { press: 'Register a candidate', says: 'A new application with its number.' },
  'accept-texts': { press: 'Accept', says: 'What was read counts as accepted.' },
  'save-answers': { press: 'Save', says: 'The answers are kept as typed.' },
  'add-file': { press: 'Add', says: 'The file becomes the newest version; earlier ones stay.' },
  'delete-draft': { press: 'Delete the empty draft', says: 'Nothing was typed into it. Its number is not given again.' },
  'submit': { press: 'Submit', says: 'The answers freeze, the fee is assessed, and the case waits for scrutiny once the fee is clear.' },
  'take-back-submission': {
    press: 'Take the submission back',
    says: 'The form opens again for changes. It must be submitted again before the close.',
  },
  'withdraw': {
    press: 'Withdraw the application',
    says: 'It leaves the flow: its seat is free for others and its card is void. Money that came in stays on record until it is refunded.',
  },
  'bring-back': {
    press: 'Bring the application back',
    says: 'Form and scrutiny are as they were. A seat that was given up is not restored.',
  },
  'close-correction': { press: 'Close the correction', says: 'Nothing was changed: the application is submitted as before.' },
  'hand-in-correction': { press: 'Hand the correction in', says: 'Verdicts, fee and files are looked at again.' },
  'start-payment': { press: 'Pay', says: 'The payment page opens for a limited time.' },
  'add-late-file': { press: 'Add', says: 'The paper that may follow is added.' },
  'ask-for-fee': {
    press: 'Have the fee assessed',
    says: 'The fee is paid before the form is handed in; it follows what is typed until then.',
  },
  'give-account': { press: 'Give an account', says: 'What is owed back may go there.' },
  'ask-endorsement': { press: 'Ask somebody else', says: 'A letter with a link goes to them.' },
  'take-back-endorsement': { press: 'Take it back', says: 'The link that was sent leads nowhere any more.' },
  'ask-question': { press: 'Ask the office', says: 'The office answers within three days on which it is open.' },
  'hand-in-slip': { press: 'Send the paid slip', says: 'Accounts look at it; until then the fee counts as being confirmed.' },
  'take-back-slip': { press: 'Take the slip back', says: 'The fee is due as before.' },
  'ask-correction': { press: 'Hand the correction in', says: 'The form stays as it is until the correction takes effect.' },
  'add-to-correction': { press: 'Add', says: 'The file counts once the correction takes effect.' },
  'take-back-correction': { press: 'Take the correction back', says: 'Nothing changes; what was paid for it is owed back.' },
} satisfies Record<string, { press: string, says: string }>
