/** Where an application stands, for whoever has its number and knows something of it: said without a name. */
export const standing = {
  title: 'Where an application stands',
  help:
    'With the number of the application, and the date of birth or the e-mail address that stands in it. Nobody has to sign in; each look is counted, and many are slowed down.',
  number: 'Number of the application',
  proof: 'Date of birth, or e-mail address',
  proofHelp: 'A date in any usual order, such as 29 February 2004.',
  look: 'Look',
  again: 'Look at another one',
  of: '{number}, {title}',
  as: 'As it stands {at}.',
  form: 'Form',
  formIs:
    '{form, select, drafting {not handed in: it counts only if it arrives before {closes}} submitted {handed in {at}} correcting {open for correction} withdrawn {withdrawn} other {ended by the clock}}',
  fee: 'Fee',
  feeIs:
    '{fee, select, settled {settled} none {nothing is due} due {due, at the latest {lastPayment}} confirming {a payment is being confirmed} refund {something is owed back} other {not assessed yet}}',
  scrutiny: 'Scrutiny',
  scrutinyIs:
    '{scrutiny, select, waiting {waits to be looked at} accepted {accepted} returned {returned: something is to be mended} refused {refused: the order stands with the application} other {has not begun}}',
  seat: 'Test centre',
  seatIs: '{seat, select, known {is known: sign in to see it} other {not known yet}}',
  card: 'Admit card',
  cardIs: '{card, select, issued {is there: sign in to print it} withheld {is withheld: sign in to see why} other {not issued yet}}',
  ownSeatIs: '{seat, select, known {known: it stands below} other {not known yet; seats are given before cards go out on {from}}}',
  ownCardIs: '{card, select, issued {there to print, below} withheld {withheld: what comes next says why} other {goes out from {from} on}}',
  stoodFor:
    'It has stood there for {age}.{due, select, ahead { The office means to have decided by {at}.} over { The office meant to have decided by {at}; it is late.} other {}}',
  next: 'What comes next',
  nextIs:
    '{what}. {owner, select, candidate {You have it} gateway {The payment gateway has it} other {The office has it}}{until, select, none {.} other {, until {until}.}}',
  nothingNext: 'Nothing is open.',
} as const
