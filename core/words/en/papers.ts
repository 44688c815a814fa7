import type { CardLabel } from '../../admit-card/content'

/** What stands beside each fact on an admit card. */
export const cardLabels: Record<CardLabel, string> = {
  born: 'Date of birth',
  category: 'Category',
  posts: 'Posts',
  identity: 'Identity proof to carry',
  identityName: 'Name on the proof',
  centre: 'Test centre',
  address: 'Address',
  session: 'Session',
  report: 'Report at',
  gate: 'Gate closes',
  test: 'Test',
  time: 'Compensatory time',
  scribe: 'Scribe',
  seat: 'Room and seat',
}

/** What else a card says. */
export const cardTexts = {
  roll: 'Roll number',
  number: 'Application number',
  photograph: 'Photograph of {name}',
  signature: 'Signature of {name}',
  signed: 'Signed by the Board; any gate can check it',
  instructions: 'What to know',
  proof: '{kind} ending {last}',
  original: '{proof}, the original',
  time: '{starts} to {ends}',
  sitting: '{date}, {starts} to {ends}. Report at {reporting}, the gate closes at {gate}, {zone}. {seat}',
  sittingLonger:
    '{date}, {starts} to {ends}, {minutes} minutes more included. Report at {reporting}, the gate closes at {gate}, {zone}. {seat}',
  moreTime: '{minutes} minutes more, until {ends}',
  ownScribe: '{title}{isSaid, select, yes {: {said}} other {}}',
  seat: '{room}, seat {seat}',
  stepFree: '{seat} (step-free)',
  stepFreeOnly: '{seat} (step-free; no other was left)',
  version: 'Card version {version}. A newer version makes this one void.',
} as const

/** The report of an allocation run. */
/** A receipt. */
export const receiptTexts = {
  title: 'Receipt {number}',
  heading: 'Receipt {number}',
  who: 'Received from {name} for application {number}, {title}:',
  received: 'received',
  issued: 'Issued {at}.',
  void: 'This receipt holds no longer since {at}: the money was taken back.',
  check: 'Anybody may ask on the page Receipts of this office whether this paper is genuine, with number {number} and code {code}.',
} as const

/** An application on paper. */
export const formTexts = {
  title: 'Application {number}',
  who: 'Application {number} of {name}',
  handedIn: 'Handed in {at}.',
  notHandedIn: 'Not handed in: it counts only if it is submitted before {closes}.',
  stands: 'As it stood {at}: {headline}.',
  papers: 'Pictures and papers',
  paper: '{format}, {kb} KB, added {at}',
  noPaper: 'not there',
  others: 'What others have to say',
  given: '{given} of {count} given{asked, plural, =0 {} other {, # asked}}',
  fee: 'Fee',
  total: 'Total',
  received: 'Received',
  open: 'Still to pay',
  lastPayment: 'at the latest {at}',
  declaration: 'Declaration',
  declared: 'Declared {at}{signed, select, signed {, signed by the name} initialled {, signed by initials} other {}}.',
  notDeclared: 'Not declared yet.',
  accepted:
    'Accepted: {title}, as version {version} of the notice has it, {at}{signed, select, signed {, signed by the name} initialled {, signed by initials} other {}}.',
  foot: 'Application {number}, as it stood {at} · page {page} of {pages}',
} as const

/** The slip with which a fee is paid in at a bank. */
export const slipTexts = {
  title: 'Deposit slip {number}',
  heading: 'Deposit slip',
  how:
    '{title}. Pay this amount at the counter of any bank or by transfer. The reference tells the office whose money it is; nothing else is needed.',
  applicant: 'application',
  amount: 'amount',
  lastDay: 'received by the bank before',
  holder: 'payee',
  bank: 'bank',
  account: 'account',
  bic: 'bank code (BIC)',
  reference: 'reference',
  copyWhole:
    'Copy the reference whole, or have the code scanned. One wrong sign is noticed, because two of its digits check the others; it is mended where the name of the payer agrees.',
  after:
    'The fee counts from the moment when the bank tells the office, which takes one to two working days. Keep the paper that the bank gives you.',
  machine: 'For machines: reference, currency with the amount in its smallest unit, account.',
} as const

export const billTexts = {
  title: 'Bill {number}',
  heading: 'Bill {number}',
  how: '{title}. {office} asks for the fees of the people below in one sum, at the counter of any bank or by transfer.',
  withdrawn: 'This bill was withdrawn: do not pay it.',
  payer: 'who pays',
  amount: 'amount',
  lastDay: 'received by the bank before',
  holder: 'payee',
  bank: 'bank',
  account: 'account',
  bic: 'bank code (BIC)',
  reference: 'reference',
  one:
    'Pay the whole amount under this one reference: it is then divided by itself, and each has a receipt of their own. Another amount waits until the office knows whose fees it is for.',
  machine: 'For machines: reference, currency with the amount in its smallest unit, account.',
  whom: 'Whose fees, {count, plural, one {# person} other {# people}}',
  paid: 'nothing is due any more',
  left: 'has left the examination',
  foot: '{number} · as it stood {at} · page {page} of {pages}',
} as const

export const runReportTexts = {
  title: 'Allocation run {serial}',
  heading: 'Allocation of test cities, run {serial}',
  people: '{title}. {count, plural, one {# person} other {# people}}, {at}, by {by}.',
  note: '{note}.',
  policy: '{title}. {does}',
  seed: 'The published seed is {seed}.',
  held: 'Held to: {title}.',
  kept:
    'Kept {kept, plural, one {# seat} other {# seats}} for some: {title}. Of these {opened, plural, one {# was} other {# were}} opened to all, as nobody of theirs took {opened, plural, one {it} other {them}}.',
  inputs: 'SHA-256 of what went in: {hash}',
  published: 'Published {at} by {by}.',
  notPublished: 'Not published.',
  choices: 'Which choice people got',
  choice: 'Choice {n}',
  offList: 'Off the list',
  noSeat: 'No seat',
  distances: 'How far from home',
  distance: '{from} to {to} km',
  farther: '{from} km and more',
  city: 'city',
  seats: 'seats',
  firstChoices: 'first choices',
  placed: 'placed',
  accessible: 'accessible used',
  offTheirList: 'off their list',
  price: 'price of a seat',
  ofSeats: '{used} of {all}',
} as const
