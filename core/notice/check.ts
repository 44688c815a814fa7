import { joinCentres } from './centres'
import { centreFindings } from './checks/centres'
import { conditionFindings, conditionsOf, questionsOf } from './checks/conditions'
import { correctionFindings } from './checks/corrections'
import { dateFindings } from './checks/dates'
import { feeFindings } from './checks/fees'
import { fileFindings } from './checks/files'
import { neverFindings, questionFindings } from './checks/questions'
import { reachFindings } from './checks/reach'
import { endorsementFindings } from './checks/endorsements'
import { termFindings } from './checks/terms'
import { requestFindings } from './checks/requests'
import { ruleFindings } from './checks/rules'
import { shapeFindings } from './checks/shape'
import { testPaperFindings } from './checks/test-papers'
import { textFindings } from './checks/texts'
import { languageFindings } from './checks/languages'
import { letterFindings } from './checks/letters'
import { placeholderFindings } from './checks/placeholders'
import { found, isError, pointer, type NoticeFinding } from './finding'
import { noticeFormat, upgradeNotice } from './formats'
import { People } from './person'
import { noticeFileSchema, noticeSchema, type Notice, type NoticeFile } from './schema'
import type { City } from './centre-schema'

/** What was read, with warnings at most; or nothing, and what is wrong. */
type Read<T> = (T | { [K in keyof T]: null }) & { findings: NoticeFinding[] }
export type NoticeRead = Read<{ notice: Notice }>
/** Cities by their codes. */
export type CentreRegister = ReadonlyMap<string, Omit<City, 'number'>>

/**
 * Reads a notice of any format from parsed JSON: the notice in the present format and what warns of it, or nothing and every finding. Never
 * throws.
 *
 * @param register cities that the notice may name without describing them.
 */
export function readNotice(json: unknown, register: CentreRegister = new Map()): NoticeRead {
  const parsed = parseNotice(json, register)
  if (!parsed.notice) return { notice: null, findings: [...parsed.findings, ...findingsOfReadable(json, register)] }
  const findings = checkNotice(parsed.notice)
  return findings.some(isError) ? { notice: null, findings } : { notice: parsed.notice, findings }
}

/** As `readNotice`, for one that was sound when it was stored: later checks do not make it unreadable. */
export function parseNotice(json: unknown, register: CentreRegister = new Map()): NoticeRead {
  const { file, findings } = parseNoticeFile(json)
  if (!file) return { notice: null, findings }
  const { notice, unknown } = joinCentres(file, register)
  if (unknown.length === 0) return { notice, findings: [] }
  return {
    notice: null,
    findings: unknown.map(value =>
      found('member.unknown', pointer('cities', file.cities.findIndex(c => c.id === value), 'id'), { value, of: 'cities' })
    ),
  }
}

/** A notice of any format as a file of the present one, before its centres are looked up. */
export function parseNoticeFile(json: unknown): Read<{ file: NoticeFile }> {
  const upgraded = upgradeNotice(json)
  if (upgraded.newerFormat !== undefined) {
    return { file: null, findings: [found('format.newer', '/format', { format: upgraded.newerFormat, known: noticeFormat })] }
  }
  const parsed = noticeFileSchema.safeParse(upgraded.json, { reportInput: true })
  return parsed.success ? { file: parsed.data, findings: [] } : { file: null, findings: shapeFindings(parsed.error.issues) }
}

/**
 * A document that may not be a notice yet, for words only: parts that can be read as they are, empty ones for the rest. Nothing may be
 * decided by it.
 */
export function readableNotice(json: unknown): Notice {
  const document = objectOf(json)
  const parts = Object.entries(noticeSchema.shape).flatMap(([key, schema]) => {
    const read = schema.safeParse(document[key])
    return read.success ? [[key, read.data] as const] : []
  })
  return { ...unwritten, ...Object.fromEntries(parts) as Partial<Notice> }
}

const nothing = { bytes: {}, width: {}, height: {}, aspect: {}, formats: [], backgrounds: [], sameFace: false }
const unwritten: Notice = {
  format: noticeFormat,
  code: '',
  title: '',
  body: {
    name: '',
    address: '',
    zone: { name: 'UTC', utcOffsetMinutes: 0 },
    currency: { code: '', title: '', exponent: 2 },
    holidays: [],
    restDays: [],
  },
  keyDates: { opens: '', closes: '', lastPayment: '', correctionOpens: '', correctionCloses: '', cardsFrom: '', ageOn: '' },
  outcomes: { unanswered: 'lapsed', answerDays: 7 },
  secondPerson: [],
  corrections: [],
  requests: [],
  leapDayBirthday: 'mar-01',
  percentageCompared: 'exact',
  categories: [],
  qualifications: [],
  disciplines: [],
  subjects: [],
  boards: [],
  claims: [],
  sections: [],
  accessibleSeatWhen: { any: [] },
  testPapers: [],
  posts: [],
  images: { photograph: { title: '', ...nothing }, signature: { title: '', ...nothing } },
  documents: [],
  fees: {
    base: [],
    posts: [],
    further: [],
    late: [],
    order: 'after submission',
    unsubmitted: 'owed back',
    surcharges: [],
    waivers: [],
    severalWaivers: 'in turn',
    payers: [],
    waivedAlone: 0,
    paymentWindowSeconds: 180,
    channels: [],
  },
  sessions: [],
  cities: [],
  allocation: {
    choiceCosts: [],
    offListBase: 0,
    kilometreCap: 0,
    unseated: 1,
    timeStamp: 'submitted',
    staying: 0,
    restrictions: [],
    kept: [],
  },
  declaration: '',
  card: { title: '', instructions: [] },
}

type Part = keyof Notice
/** What is found in the parts that can be read, while others cannot: nothing is said by a check that would look at one of those. */
function findingsOfReadable(json: unknown, register: CentreRegister): NoticeFinding[] {
  const document = objectOf(upgradeNotice(json).json)
  const isRead = (part: Part) => document[part] !== undefined && noticeFileSchema.shape[part].safeParse(document[part]).success
  const file = isRead('cities')
    ? joinCentres({ ...unwritten, cities: noticeFileSchema.shape.cities.parse(document.cities) }, register)
    : null
  const notice = { ...readableNotice(document), ...(file ? { cities: file.notice.cities } : {}) }
  const questions = questionsOf(notice)
  const lists: Part[] = ['sections', 'posts', 'categories']
  const checks: [Part[], () => NoticeFinding[]][] = [
    [['keyDates', 'body', 'sessions'], () => dateFindings(notice)],
    [lists, () => questionFindings(notice, questions)],
    [lists, () => [...conditionFindings(conditionsOf(notice), questions), ...ruleFindings(notice, questions)]],
    [['images'], () => fileFindings(notice)],
    [['corrections', 'keyDates', 'sections', 'images', 'documents'], () => correctionFindings(notice)],
    [['requests', 'keyDates', 'sections', 'documents', 'posts', 'sessions', 'body'], () => requestFindings(notice)],
    [['endorsements', 'keyDates', 'sections'], () => endorsementFindings(notice)],
    [['cities', 'sessions', 'allocation', 'sections'], () => file?.unknown.length === 0 ? centreFindings(notice) : []],
    [['declaration', 'card', 'information'], () => placeholderFindings(notice)],
    [['terms'], () => termFindings(notice)],
    [['posts', 'testPapers', 'sessions', 'sections'], () => testPaperFindings(notice)],
    [['posts', 'sections'], () => textFindings(notice)],
    [['fees', 'categories', 'sections'], () => feeFindings(notice, new People(notice, conditionsOf(notice).map(place => place.condition)))],
  ]
  return checks.flatMap(([needs, run]) => needs.every(isRead) ? run() : [])
}

const objectOf = (json: unknown): Record<string, unknown> =>
  typeof json === 'object' && json !== null && !Array.isArray(json) ? json as Record<string, unknown> : {}

/** Everything that is wrong or doubtful in a notice whose parts have the right shape. */
export function checkNotice(notice: Notice): NoticeFinding[] {
  const questions = questionsOf(notice)
  const conditions = conditionsOf(notice)
  const people = new People(notice, conditions.map(place => place.condition))
  const findings = [
    ...questionFindings(notice, questions),
    ...conditionFindings(conditions, questions),
    ...ruleFindings(notice, questions),
    ...fileFindings(notice),
    ...dateFindings(notice),
    ...correctionFindings(notice),
    ...requestFindings(notice),
    ...endorsementFindings(notice),
    ...termFindings(notice),
    ...testPaperFindings(notice),
    ...feeFindings(notice, people),
    ...centreFindings(notice),
  ]
  // Who is looked for answers questions that exist, in ways that they offer: first those are mended.
  return [...findings, ...(findings.some(isError) ? [] : [...neverFindings(conditions, people), ...reachFindings(notice)]),
    ...textFindings(notice), ...placeholderFindings(notice), ...languageFindings(notice), ...letterFindings(notice)]
}
