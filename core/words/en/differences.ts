import { spellDate, spellInstant } from '../../calendar/zone'
import { spellAmount } from '../../fees/assess'
import type { Difference, Step } from '../../notice/difference'
import type { Notice } from '../../notice/schema'
import { formatMessage } from '../message'

/** Parts of a notice as people call them; one that is missing here is said by its key, word by word. */
const parts: Record<string, string> = {
  title: 'title', body: 'body', name: 'name', address: 'address', zone: 'zone', currency: 'currency', keyDates: 'key dates', opens: 'applications open', closes: 'applications close', lastPayment: 'last moment to pay',
  correctionOpens: 'corrections open', correctionCloses: 'corrections close', cardsFrom: 'cards go out', ageOn: 'day on which ages count', outcomes: 'what ends by the clock', unanswered: 'a return that nobody answers', answerDays: 'days to answer a return',
  secondPerson: 'acts that a second person confirms', leapDayBirthday: 'birthday of people born on 29 February', percentageCompared: 'how percentages are compared', categories: 'categories', qualifications: 'ladder of qualifications',
  disciplines: 'disciplines', subjects: 'subjects', boards: 'boards', claims: 'claims', sections: 'sheet', questions: 'questions', label: 'label', posts: 'posts', clauses: 'clauses', rule: 'rule', text: 'text', images: 'images', documents: 'documents',
  fees: 'fees', base: 'base fees', amount: 'amount', additionalPost: 'each further post', late: 'late fee', from: 'since', surcharges: 'surcharges', waivers: 'waivers', percent: 'percent', paymentWindowSeconds: 'seconds to pay', sessions: 'sessions',
  date: 'date', reporting: 'report at', gateCloses: 'gate closes', starts: 'starts', ends: 'ends', cities: 'cities', number: 'number', allocation: 'allocation', choiceCosts: 'costs of the choices', offListBase: 'cost of a city off the list',
  kilometreCap: 'most kilometres counted', unseated: 'cost of no seat', timeStamp: 'time stamp', staying: 'weight on staying', restrictions: 'restrictions', declaration: 'declaration', card: 'admit card', instructions: 'instructions',
  relaxations: 'relaxations', by: 'by', when: 'for whom', minYears: 'least years', maxYears: 'most years', min: 'least', max: 'most', bytes: 'bytes', width: 'width in pixels', height: 'height in pixels', accessibleSeatWhen: 'who needs a step-free seat',
}
const messages = { added: '{at}: new. {after}', removed: '{at}: gone. {before}', changed: '{at}: {before} → {after}', reordered: '{at}: in another order.' } as const

/** One difference of two notices as a line. Amounts, moments and days are spelled as `notice` has them. */
export function differenceWords(notice: Notice, difference: Difference): string {
  const { path, kind } = difference
  const last = path.at(-1)
  const key = last && 'part' in last ? last.part : ''
  const at = capital(path.map(stepWords).join(', ') || 'the notice')
  return formatMessage('en', messages[kind], { at, before: valueWords(notice, key, difference.before), after: valueWords(notice, key, difference.after) }).trim()
}

const stepWords = (step: Step): string => 'member' in step ? step.title : parts[step.part] ?? step.part.replace(/([A-Z])/g, letter => ` ${letter.toLowerCase()}`)
const capital = (text: string) => text.charAt(0).toUpperCase() + text.slice(1)

function valueWords(notice: Notice, key: string, value: unknown): string {
  if (value === undefined || value === null) return '–'
  if (typeof value === 'number') return /amount|additionalPost/.test(key) ? spellAmount(value, notice.body.currency) : String(value)
  if (typeof value === 'string' && /^\d{4}-\d{2}-\d{2}T/.test(value)) return spellInstant(value, notice.body.zone)
  if (typeof value === 'string' && /^\d{4}-\d{2}-\d{2}$/.test(value)) return spellDate(value)
  if (typeof value === 'string') return value.length > 160 ? `“${value.slice(0, 160)}…”` : `“${value}”`
  if (typeof value === 'boolean') return value ? 'yes' : 'no'
  if (Array.isArray(value)) return value.map(one => valueWords(notice, key, one)).join('; ') || '–'
  return Object.entries(value).filter(([name]) => !['id', 'code', 'title', 'clause'].includes(name)).map(([name, one]) => `${stepWords({ part: name })} ${valueWords(notice, name, one)}`).join(', ')
}
