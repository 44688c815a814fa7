import { policyFaults } from '../allocation/policy'
import { pagesAtMost } from '../documents/document'
import { takenAtMost } from '../imaging/picture'
import { joinCentres } from './centres'
import { checkRules } from './check-rules'
import { checkLeaf, type NoticeFault } from './faults'
import { upgradeNotice } from './formats'
import { conditionLeaves } from './questions'
import { imageKinds, noticeFileSchema, type City, type Condition, type Notice, type NoticeFile } from './schema'

/**
 * Facts that the rest of the core reads by name, with the kind of question that gives each. A notice that leaves one
 * out cannot be opened: the work would stop at the first application.
 */
export const factQuestions = {
  certificateName: 'name', identityName: 'name', bornOn: 'date', mobile: 'mobile', category: 'choice',
  qualification: 'choice', marksObtained: 'marks', marksTotal: 'marks', posts: 'posts', cities: 'cities',
  postalCode: 'postalCode', identityKind: 'choice', identityNumber: 'text',
} as const

type Read<T> = T & { faults: [], newerFormat?: undefined } | { [K in keyof T]: null } & { faults: NoticeFault[], newerFormat?: number }
/** A notice that was read, or every fault that was found. */
export type NoticeRead = Read<{ notice: Notice }>
/** Cities by their codes. */
export type CentreRegister = ReadonlyMap<string, Omit<City, 'number'>>

/**
 * Reads a notice of any format from parsed JSON: the notice in the present format, or every fault found, never both.
 *
 * @param register cities that the notice may name without describing them.
 */
export function readNotice(json: unknown, register: CentreRegister = new Map()): NoticeRead {
  const parsed = parseNotice(json, register)
  return parsed.notice ? soundness(parsed.notice) : parsed
}

/** As `readNotice`, for one that was sound when it was stored: later checks do not make it unreadable. */
export function parseNotice(json: unknown, register: CentreRegister = new Map()): NoticeRead {
  const { file, ...rest } = parseNoticeFile(json)
  if (!file) return { notice: null, faults: rest.faults, ...(rest.newerFormat === undefined ? {} : { newerFormat: rest.newerFormat }) }
  const { notice, unknown } = joinCentres(file, register)
  if (unknown.length === 0) return { notice, faults: [] }
  return { notice: null, faults: unknown.map(id => ({ at: `cities.${id}`, message: 'is neither in the register of centres nor described here' })) }
}

/** A notice of any format as a file of the present one, before its centres are looked up. */
export function parseNoticeFile(json: unknown): Read<{ file: NoticeFile }> {
  const upgraded = upgradeNotice(json)
  if (upgraded.newerFormat !== undefined) return { file: null, faults: [], newerFormat: upgraded.newerFormat }
  const parsed = noticeFileSchema.safeParse(upgraded.json)
  return parsed.success ? { file: parsed.data, faults: [] } : { file: null, faults: parsed.error.issues.map(i => ({ at: i.path.join('.') || 'notice', message: i.message })) }
}

function soundness(notice: Notice): NoticeRead {
  const faults = [
    ...checkQuestions(notice), ...checkImages(notice), ...checkDocuments(notice), ...checkDates(notice), ...checkFees(notice), ...checkCities(notice), ...checkRules(notice),
  ]
  return faults.length > 0 ? { notice: null, faults } : { notice, faults: [] }
}

function checkQuestions(notice: Notice): NoticeFault[] {
  const faults: NoticeFault[] = []
  const questions = new Map(notice.sections.flatMap(s => s.questions).map(q => [q.id, q]))
  const count = notice.sections.reduce((n, s) => n + s.questions.length, 0)
  if (questions.size !== count) faults.push({ at: 'sections', message: 'two questions share one id' })
  for (const [name, kind] of Object.entries(factQuestions)) {
    const found = questions.get(name)
    if (!found) faults.push({ at: 'sections', message: `no question "${name}"; a question of kind "${kind}" must give it` })
    else if (found.kind !== kind) faults.push({ at: `sections.${name}`, message: `kind is "${found.kind}", must be "${kind}"` })
  }
  const check = (condition: Condition | undefined, at: string) => {
    for (const leaf of conditionLeaves(condition)) faults.push(...checkLeaf(notice, leaf, at))
  }
  const asked = [...questions.keys()]
  for (const question of questions.values()) {
    check(question.when, `sections.${question.id}.when`)
    for (const leaf of conditionLeaves(question.when)) {
      if (asked.indexOf(leaf.question) >= asked.indexOf(question.id)) {
        faults.push({ at: `sections.${question.id}.when`, message: `refers to question "${leaf.question}", which is not asked before it` })
      }
    }
  }
  check(notice.accessibleSeatWhen, 'accessibleSeatWhen')
  for (const waiver of notice.fees.waivers) check(waiver.when, `fees.waivers.${waiver.code}`)
  for (const line of notice.fees.surcharges) check(line.when, `fees.surcharges.${line.code}`)
  return faults
}

/** Faces are looked for in photographs only, and only by a rule that asks for one. */
function checkImages({ images }: Notice): NoticeFault[] {
  return imageKinds.filter(kind => images[kind]?.sameFace && (kind !== 'photograph' || !images[kind].face))
    .map(kind => ({ at: `images.${kind}.sameFace`, message: kind === 'photograph' ? 'faces cannot be compared without a rule for the face' : `a ${kind} shows no face to be compared` }))
}

/** Reasons of a return name questions, posts, images and documents alike: no two may share an id. */
function checkDocuments(notice: Notice): NoticeFault[] {
  const taken = new Set<string>([...imageKinds, ...notice.posts.map(p => p.id), ...notice.sections.flatMap(s => s.questions).map(q => q.id)])
  return notice.documents.flatMap(({ id, when, bytes, pages }) => {
    const faults: NoticeFault[] = []
    const at = `documents.${id}`
    if (taken.has(id)) faults.push({ at, message: `"${id}" is the id of something else: an image, a document, a question or a post` })
    taken.add(id)
    if ((bytes.min ?? 0) > (bytes.max ?? Infinity)) faults.push({ at: `${at}.bytes`, message: `at least ${bytes.min} and at most ${bytes.max} bytes: no file is both` })
    if ((bytes.max ?? 0) > takenAtMost.bytes) faults.push({ at: `${at}.bytes`, message: `${bytes.max} bytes are more than the ${takenAtMost.bytes} that are taken at the door` })
    if ((pages.max ?? 0) > pagesAtMost) faults.push({ at: `${at}.pages`, message: `${pages.max} pages are more than the ${pagesAtMost} that are taken at the door` })
    for (const leaf of conditionLeaves(when)) faults.push(...checkLeaf(notice, leaf, `${at}.when`))
    return faults
  })
}

function checkDates(notice: Notice): NoticeFault[] {
  const faults: NoticeFault[] = []
  const { opens, closes, lastPayment, correctionOpens, correctionCloses, cardsFrom } = notice.keyDates
  const order = { opens, closes, correctionOpens, correctionCloses }
  const entries = Object.entries(order)
  entries.slice(1).forEach(([name, value], i) => {
    const [before, earlier] = entries[i] ?? ['', '']
    if (Date.parse(value) < Date.parse(earlier)) {
      faults.push({ at: `keyDates.${name}`, message: `${value} lies before ${before} (${earlier})` })
    }
  })
  if (Date.parse(lastPayment) < Date.parse(opens)) faults.push({ at: 'keyDates.lastPayment', message: `${lastPayment} lies before opens (${opens})` })
  if (Date.parse(cardsFrom) < Date.parse(closes)) faults.push({ at: 'keyDates.cardsFrom', message: 'cards before the closing moment' })
  for (const session of notice.sessions) {
    const times = [session.reporting, session.gateCloses, session.starts, session.ends]
    if ([...times].sort().join() !== times.join()) {
      faults.push({ at: `sessions.${session.id}`, message: 'reporting, gate closing, start and end must follow each other' })
    }
    if (Date.parse(`${session.date}T23:59:59Z`) < Date.parse(cardsFrom)) {
      faults.push({ at: `sessions.${session.id}.date`, message: `${session.date} lies before the cards (${cardsFrom})` })
    }
  }
  return faults
}

function checkFees(notice: Notice): NoticeFault[] {
  const faults: NoticeFault[] = []
  for (const category of notice.categories) {
    const rows = notice.fees.base.filter(row => row.category === category.id).length
    if (rows !== 1) faults.push({ at: 'fees.base', message: `category "${category.id}" has ${rows} base fees, must have 1` })
  }
  for (const row of notice.fees.base) {
    if (!notice.categories.some(c => c.id === row.category)) {
      faults.push({ at: 'fees.base', message: `category "${row.category}" is not one of the notice's` })
    }
  }
  return faults
}

function checkCities(notice: Notice): NoticeFault[] {
  const faults: NoticeFault[] = []
  const unique = (values: (string | number)[], at: string) => {
    if (new Set(values).size !== values.length) faults.push({ at, message: 'two entries share one id' })
  }
  unique(notice.cities.map(c => c.id), 'cities')
  unique(notice.cities.map(c => c.number), 'cities.number')
  unique(notice.cities.map(c => c.postalPrefix), 'cities.postalPrefix')
  unique(notice.cities.flatMap(c => c.venues.map(v => v.id)), 'cities.venues')
  unique(notice.sessions.map(s => s.id), 'sessions')
  for (const city of notice.cities) {
    for (const room of city.venues.flatMap(v => v.rooms)) {
      if (room.accessibleSeats > room.seats) {
        faults.push({ at: `cities.${city.id}.${room.id}`, message: `${room.accessibleSeats} accessible of ${room.seats} seats` })
      }
    }
  }
  const { choiceCosts } = notice.allocation
  for (const { title, closedCities } of notice.allocation.restrictions) {
    const unknown = closedCities.find(city => !notice.cities.some(c => c.id === city))
    if (unknown !== undefined) faults.push({ at: 'allocation.restrictions', message: `"${title}" closes "${unknown}", which is not among the cities` })
  }
  for (const message of policyFaults({ ...notice.allocation, kind: 'best-fit', seed: 0 })) faults.push({ at: 'allocation', message })
  const list = notice.sections.flatMap(s => s.questions).find(q => q.kind === 'cities')
  if (list?.kind === 'cities' && list.max > choiceCosts.length) {
    faults.push({ at: 'allocation.choiceCosts', message: `${choiceCosts.length} costs for up to ${list.max} choices` })
  }
  return faults
}
