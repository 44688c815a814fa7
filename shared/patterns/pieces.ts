/** Pieces that patterns of notices are put together from. Everything in them is invented, and is there to be changed. */

export interface Question {
  id: string
  kind: string
  label: string
  [part: string]: unknown
}
const choice = (id: string, label: string, titles: Record<string, string>, more: object = {}): Question => ({
  id,
  kind: 'choice',
  label,
  options: Object.entries(titles).map(([option, title]) => ({ id: option, title })),
  ...more,
})
const yesNo = (id: string, label: string, more: object = {}) => choice(id, label, { yes: 'Yes', no: 'No' }, more)

export const identityProofs = { 'passport': 'Passport', 'residence-card': 'Residence card', 'driving-licence': 'Driving licence' }
export const person = {
  id: 'person',
  title: 'Person',
  questions: [
    {
      id: 'certificateName',
      kind: 'name',
      label: 'Name on the school certificate',
      help: 'Exactly as printed there; the admit card shows it.',
    },
    { id: 'identityName', kind: 'name', label: 'Name on the identity proof', help: 'As on the proof that will be carried to the test.' },
    { id: 'bornOn', kind: 'date', label: 'Date of birth', notBefore: '1930-01-01' },
    choice('gender', 'Gender', { woman: 'Woman', man: 'Man', other: 'Another' }),
    choice('identityKind', 'Identity proof', identityProofs),
    { id: 'identityNumber', kind: 'text', label: 'Number of the proof', maxLength: 20 },
  ] satisfies Question[],
}
export const contact = {
  id: 'contact',
  title: 'Contact',
  questions: [
    { id: 'mobile', kind: 'mobile', label: 'Mobile telephone', digits: 10 },
    { id: 'email', kind: 'email', label: 'E-mail', required: false },
    { id: 'postalCode', kind: 'postalCode', label: 'Postal code', digits: 5 },
    { id: 'address', kind: 'text', label: 'Street and house', maxLength: 120 },
  ] satisfies Question[],
}

export const categories = [{ id: 'general', title: 'General' }, { id: 'reserved', title: 'Reserved' }]
export const claimQuestions = {
  id: 'claims',
  title: 'Category and claims',
  questions: [
    choice('category', 'Category', { general: 'General', reserved: 'Reserved' }),
    yesNo('pwd', 'Disability declared'),
    choice('pwdDegree', 'Degree of the disability', { below: 'Below 40 %', benchmark: '40 % and above' }, {
      when: { question: 'pwd', in: ['yes'] },
    }),
    yesNo('stepFree', 'Step-free seat needed', { when: { question: 'pwd', in: ['yes'] } }),
  ] satisfies Question[],
}
export const disabled = { question: 'pwdDegree', in: ['benchmark'] }
export const claims = [
  {
    id: 'reserved',
    title: 'Reserved category',
    when: { question: 'category', in: ['reserved'] },
    proof: 'Certificate of the district office in the candidate’s own name',
    ifFalse: { category: 'general' },
    leadDays: 21,
  },
  {
    id: 'disability',
    title: 'Disability of 40 % and above',
    when: disabled,
    proof: 'Certificate of a public physician that states the degree',
    ifFalse: { pwdDegree: 'below' },
    leadDays: 14,
  },
]

export const ladder = [{ id: 'year-10', title: 'School, year 10' }, { id: 'year-12', title: 'Senior school, year 12' }, {
  id: 'degree',
  title: 'Degree',
}]
const known = { question: 'resultAwaited', in: ['no'] }
export const schooling = {
  id: 'schooling',
  title: 'Schooling',
  questions: [
    choice('qualification', 'Highest qualification', Object.fromEntries(ladder.map(({ id, title }) => [id, title]))),
    yesNo('resultAwaited', 'Result awaited'),
    { id: 'resultBy', kind: 'date', label: 'Result expected by', when: { question: 'resultAwaited', in: ['yes'] }, future: true },
    { id: 'passedIn', kind: 'number', label: 'Year of passing', when: known, min: 1960, max: 2099 },
    { id: 'marksObtained', kind: 'marks', label: 'Marks obtained', when: known, notAbove: 'marksTotal' },
    { id: 'marksTotal', kind: 'marks', label: 'Marks in total', when: known },
  ] satisfies Question[],
}
export const wishes = (postsLabel: string, mostPosts: number) => ({
  id: 'wishes',
  title: 'Wishes',
  questions: [
    { id: 'posts', kind: 'posts', label: postsLabel, min: 1, max: mostPosts },
    { id: 'cities', kind: 'cities', label: 'Test cities in order of preference', min: 1, max: 3 },
  ] satisfies Question[],
})

export const images = {
  photograph: {
    title: 'Photograph',
    formats: ['jpeg'],
    bytes: { min: 10240, max: 102400 },
    width: { min: 350, max: 1200 },
    height: { min: 450, max: 1600 },
    aspect: { min: 0.7, max: 0.85 },
    sharpness: { min: 5 },
    contrast: { min: 18 },
    exposure: { min: 130 },
    backgrounds: [{ title: 'white', colour: '#ffffff' }, { title: 'light grey', colour: '#e2e5e8' }],
    backgroundDistance: { max: 12 },
    face: {
      headHeight: { min: 38, max: 65 },
      eyeLine: { min: 30, max: 58 },
      offCentre: { max: 9 },
      eyeDistance: { min: 60 },
      roll: { min: -8, max: 8 },
      yaw: { min: -18, max: 18 },
      pitch: { min: -18, max: 18 },
      blur: { max: 0.63 },
    },
  },
  signature: {
    title: 'Signature',
    formats: ['jpeg', 'png'],
    bytes: { min: 2048, max: 61440 },
    width: { min: 280, max: 1200 },
    height: { min: 80, max: 600 },
    aspect: { min: 1.8, max: 4.5 },
    contrast: { min: 70 },
    inkShare: { min: 1, max: 20 },
    boxShare: { min: 10 },
    rulings: { max: 0 },
    inks: ['black', 'blue'],
    strange: { max: 0.8 },
    parts: { max: 1 },
    enclosed: { max: 40 },
    inkAspect: { min: 1.2 },
  },
}
const scan = {
  formats: ['pdf', 'jpeg', 'png'],
  bytes: { max: 1_048_576 },
  pages: { min: 1, max: 4 },
  blankPages: { max: 0 },
  letters: { min: 8 },
  blur: { max: 20 },
  skew: { max: 4 },
}
export const identityProof = {
  id: 'identity-proof',
  title: 'Identity proof',
  shows: 'The page with name, number and portrait.',
  identity: true,
  ...scan,
}
export const categoryCertificate = {
  id: 'category-certificate',
  title: 'Category certificate',
  shows: 'The whole certificate, with seal and date.',
  when: { question: 'category', in: ['reserved'] },
  ...scan,
}
export const disabilityCertificate = {
  id: 'disability-certificate',
  title: 'Disability certificate',
  shows: 'The degree of the disability, with seal and date.',
  when: disabled,
  ...scan,
}

export const body = {
  name: '',
  address: '',
  zone: { name: 'UTC', utcOffsetMinutes: 0 },
  currency: { code: '', title: '', exponent: 2 },
  holidays: [],
  restDays: [0],
}
/** Days from today on; whoever sets the notice up moves them. */
export const keyDates = {
  opens: 'today+14 09:00',
  closes: 'today+42 17:00',
  lastPayment: 'today+44 17:00',
  correctionOpens: 'today+46 09:00',
  correctionCloses: 'today+52 17:00',
  cardsFrom: 'today+70 09:00',
  ageOn: 'today+84',
}
export const allocation = { choiceCosts: [0, 1, 3], offListBase: 20, kilometreCap: 1000, unseated: 1_000_000 }
export const card = {
  title: 'Admit card',
  instructions: [
    'Bring this card on paper and the original of the identity proof named above.',
    'Be at the test centre at the reporting time. The gate closes at the time above and opens to no one after it.',
  ],
}
export const declaration =
  'I have read the notice. What is stated here is true and mine; the photograph and signature are my own. I know that a false statement ends the candidature.'

const sessionTimes = { reporting: '08:30', gateCloses: '09:15', starts: '09:30', ends: '12:30' }
export const session = (id: string, title: string, date: string, times = sessionTimes) => ({ id, title, date, ...times })
export const afternoon = { reporting: '13:00', gateCloses: '13:45', starts: '14:00', ends: '17:00' }
