import type { FeeSchedule } from '../../notice/schema'

/** Parts of a notice as people call them; one that is missing here is said by its key, word by word. */
const parts: Record<string, string> = {
  title: 'title', body: 'body', name: 'name', address: 'address', zone: 'zone', currency: 'currency', keyDates: 'key dates', opens: 'applications open', closes: 'applications close', lastPayment: 'last moment to pay',
  correctionOpens: 'corrections open', correctionCloses: 'corrections close', cardsFrom: 'cards go out', ageOn: 'day on which ages count', outcomes: 'what ends by the clock', unanswered: 'a return that nobody answers', answerDays: 'days to answer a return',
  secondPerson: 'acts that a second person confirms', leapDayBirthday: 'birthday of people born on 29 February', percentageCompared: 'how percentages are compared', categories: 'categories', qualifications: 'ladder of qualifications',
  disciplines: 'disciplines', subjects: 'subjects', boards: 'boards', claims: 'claims', sections: 'sheet', questions: 'questions', label: 'label', posts: 'posts', clauses: 'clauses', rule: 'rule', text: 'text', images: 'images', documents: 'documents',
  fees: 'fees', base: 'base fees', amount: 'amount', further: 'further posts', late: 'late fee', order: 'when it is paid', unsubmitted: 'paid for a form never handed in', post: 'post', groups: 'groups of posts', load: 'load', mostLoad: 'most load', from: 'since', surcharges: 'surcharges', waivers: 'waivers', severalWaivers: 'where several waivers fit', payers: 'who pays for somebody else', percent: 'percent', paymentWindowSeconds: 'seconds to pay', sessions: 'sessions', testPapers: 'test papers',
  date: 'date', reporting: 'report at', gateCloses: 'gate closes', starts: 'starts', ends: 'ends', cities: 'cities', number: 'number', allocation: 'allocation', choiceCosts: 'costs of the choices', offListBase: 'cost of a city off the list',
  kilometreCap: 'most kilometres counted', unseated: 'cost of no seat', timeStamp: 'time stamp', staying: 'weight on staying', restrictions: 'restrictions', kept: 'kept seats', unused: 'those that nobody of theirs takes', declaration: 'declaration', card: 'admit card', instructions: 'instructions',
  relaxations: 'relaxations', lowered: 'least age lowered', by: 'by', when: 'for whom', minYears: 'least years', maxYears: 'most years', min: 'least', max: 'most', bytes: 'bytes', width: 'width in pixels', height: 'height in pixels', accessibleSeatWhen: 'who needs a step-free seat', holidays: 'days on which the office is closed', restDays: 'weekly days of rest', quietHours: 'hours without messages to telephones', expected: 'expected numbers', applicants: 'applicants', stepFree: 'who need a step-free seat', openDays: 'fewest days open', information: 'information for everybody', summary: 'in short',
  steps: 'steps', desks: 'desks', contact: 'contact', hours: 'hours', institutions: 'institutions', news: 'news', at: 'moment', issuedBy: 'who may issue it', mostDaysOld: 'most days old when the form closes', leadDays: 'days to get the proof', proof: 'proof', ifFalse: 'what becomes of it when found false', code: 'code', id: 'id', clause: 'where it stands in the notice',
  kind: 'kind', help: 'help', required: 'required', options: 'options', columns: 'columns', minRows: 'fewest rows', maxRows: 'most rows', maxLength: 'most characters', digits: 'digits', notAbove: 'not above', notBefore: 'not before', notAfter: 'not after', future: 'may lie ahead', formats: 'formats',
  pages: 'pages', shows: 'what it must show', identity: 'tells who somebody is', aspect: 'width to height', takenFrom: 'taken on this day or later', sharpness: 'sharpness', exposure: 'brightness', burntOut: 'burnt out', contrast: 'contrast', backgroundEvenness: 'evenness of the background', backgrounds: 'background colours', colour: 'colour',
  backgroundDistance: 'distance from the colours', backgroundShadow: 'shadow on the background', face: 'face', preset: 'published bounds', sameFace: 'compare faces', photograph: 'photograph', signature: 'signature', thumb: 'thumb impression', island: 'island', lat: 'latitude', lon: 'longitude',
  postalPrefix: 'postal codes begin with', venues: 'venues', rooms: 'rooms', seats: 'seats', accessibleSeats: 'step-free seats', unusable: 'seats that nobody can sit on', closedIn: 'not free in the sessions', lost: 'lost', format: 'format of the file', utcOffsetMinutes: 'minutes east of UTC', letters: 'letters in your own words', act: 'about', subject: 'subject', short: 'to a telephone', language: 'language', translations: 'other languages', texts: 'texts', as: 'translation', timeZone: 'name in the time zone database (IANA), where clocks are set forward and back', exponent: 'digits after the point', category: 'category', question: 'question', in: 'is one of', to: 'to',
  all: 'all of these', any: 'one of these', not: 'not', equals: 'counts as', named: 'named subjects', best: 'so many of the best', compulsory: 'compulsory subjects', excluded: 'subjects that never count', minimum: 'fewest subjects', grades: 'grades', grade: 'grade', points: 'points', factor: 'factor',
  combine: 'several at once', cap: 'at most together', on: 'on the day', maxYearsSince: 'most years since', bornNotBefore: 'born not before', bornNotAfter: 'born not after', atLeast: 'at least', oneOf: 'one of', awaitedUntil: 'awaited until', mostYearsSince: 'most years since passing', wanted: 'wanted',
  anyOf: 'any of', values: 'one of', unit: 'unit', minDays: 'least days', rules: 'rules', if: 'if', then: 'then', otherwise: 'otherwise', answer: 'years from the answer', plus: 'and so many more', atMost: 'at most', closedCities: 'closed cities', withinKm: 'within kilometres of home',
  endorsements: 'what others have to say', count: 'of how many people', shownToCandidate: 'candidates may read what was answered', requests: 'what may be asked for', papers: 'papers that decide it', holds: 'what waits for it', minutesAnHour: 'minutes for each hour', follow: 'papers that may follow', until: 'until',
  channels: 'ways of paying online', way: 'way', fixed: 'fixed charge', shareBasisPoints: 'share of what is paid, in hundredths of a percent', taxBasisPoints: 'tax on the charge, in hundredths of a percent', borneBy: 'borne by',
  minus: 'less the answer to', of: 'of these subjects together', only: 'only rows of some kinds', column: 'column', after: 'only after the day in',
  rulings: 'lines across the paper', inks: 'colours of ink', strange: 'neither paper nor ink', parts: 'parts that lie apart', enclosed: 'enclosed by one loop', inkAspect: 'width to height of the ink',
  corrections: 'corrections', items: 'what may be corrected', takesEffect: 'takes effect once it is', charge: 'charge', followsUntil: 'may follow until', waivedAlone: 'largest waiver that one person grants alone',
}

/** A part of a notice by its key, as it is said inside a sentence. */
export const partTitle = (key: string): string => Object.hasOwn(parts, key) ? parts[key] ?? key : key.replace(/([A-Z])/g, letter => ` ${letter.toLowerCase()}`)

export const capital = (text: string): string => text.charAt(0).toUpperCase() + text.slice(1)

/** Groups of parts, in the order in which a notice is made. */
export const groupTitles = {
  examination: 'The examination', dates: 'Dates and sessions', lists: 'Categories and lists', sheet: 'The sheet and claims', posts: 'Posts and rules', fees: 'Fees', files: 'Images and documents', centres: 'Cities and seats', texts: 'Texts', acts: 'Scrutiny, corrections, requests, second persons',
}

const values: Record<string, string> = {
  'name': 'a name', 'text': 'text', 'date': 'a day', 'choice': 'one of several', 'email': 'an e-mail address', 'mobile': 'a mobile number', 'postalCode': 'a postal code', 'number': 'a whole number', 'marks': 'marks', 'table': 'rows of a table', 'posts': 'posts applied for', 'cities': 'cities in order',
  'age': 'age', 'percentage': 'percentage', 'qualification': 'qualification', 'subjects': 'subjects', 'oneOf': 'an answer that is one of several', 'experience': 'experience', 'day': 'a day within bounds', 'all': 'all of several rules', 'any': 'one of several rules', 'not': 'not a rule', 'when': 'a rule for some',
  'largest': 'the largest counts', 'sum': 'they add up', 'exact': 'unrounded', 'rounded': 'rounded to two decimals', 'feb-28': '28 February', 'mar-01': '1 March', 'lapsed': 'the application ends', 'as it stood': 'it is judged as it stands', 'submitted': 'when the sheet was submitted', 'fee settled': 'when the fee was settled',
  'pdf': 'PDF', 'jpeg': 'JPEG', 'png': 'PNG', 'publish-run': 'publish a run of the allocation', 'refuse': 'refuse', 'accept': 'accept', 'take-back-acceptance': 'take an acceptance back', 'take-seat-back': 'take a seat back', 'void-card': 'make a card void', 'withdraw': 'withdraw',
  'handed in': 'handed in', 'looked at': 'looked at by the office', 'candidate': 'the candidate', 'institution': 'the institution', 'office': 'the office',
  'card': 'card', 'net banking': 'net banking', 'wallet': 'wallet',
  'before the form': 'before more is asked', 'before submission': 'before the form is handed in', 'after submission': 'after the form was handed in', 'owed back': 'it is owed back', 'kept': 'it is kept', 'open to all': 'are opened to all', 'stay empty': 'stay empty', 'in turn': 'each, of what the others leave', 'first': 'the first of the table counts', 'one only': 'only one may ever fit', 'limits': 'more posts than allowed',
  'scribe': 'a scribe', 'time': 'compensatory time', 'exception': 'an exception from clauses', 'late proof': 'more time for papers', 'decision': 'the decision', 'decide-request': 'decide on a request', 'submit': 'the form has arrived', 'payment-settled': 'a payment was booked', 'payment-refused': 'a payment was refused', 'remind': 'time runs out', 'return': 'something is to be mended', 'publish-seat': 'city and seat are known', 'change-seat': 'seat or hour have changed', 'issue-card': 'the card can be printed', 'replace-card': 'there is a new card', 'refund-sent': 'money is on its way back', 'lapse': 'the application has lapsed', 'change-rooms': 'change rooms in which people have seats',
  'black': 'black', 'blue': 'blue', 'violet': 'violet', 'magenta': 'pink', 'red': 'red', 'brown': 'brown or orange', 'green': 'green', 'turquoise': 'turquoise',
  'consent': 'consent', 'recommendation': 'recommendation', 'submission': 'the form', 'nothing': 'nothing',
  'open-for-correction': 'open for correction', 'bring-back': 'bring back',
}
/** A value that is chosen from a fixed list. */
export const valueTitle = (value: string): string => Object.hasOwn(values, value) ? values[value] ?? value : value

/** Which of several waivers that fit one person count. */
export const severalWaiversWords: Record<FeeSchedule['severalWaivers'], string> = {
  'in turn': 'Where several reductions fit, each is taken of what the others leave.',
  'largest': 'Where several reductions fit, the largest one counts.',
  'first': 'Where several reductions fit, the first one of this table counts.',
  'one only': 'Only one reduction fits anybody.',
}
