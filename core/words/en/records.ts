import type { Answer } from '../../application/answers'
import { slotOf } from '../../application/slots'
import { spellInstant } from '../../calendar/zone'
import { spellAmount, type FeeItem } from '../../fees/assess'
import type { Notice } from '../../notice/schema'
import { spellAnswer } from './answers'
import { feeWords } from './fees'

/** The state that a record tells of, as short lines `name: value`: nested parts by their path, hashes cut to what an eye compares. */
export function recordPairs(value: unknown, path = ''): [string, string][] {
  if (value === null || value === undefined) return path === '' ? [] : [[path, '–']]
  if (Array.isArray(value)) return [[path, value.map(spellMember).join('; ') || '–']]
  if (typeof value === 'object') {
    return Object.entries(value).flatMap(([key, inner]) => recordPairs(inner, path === '' ? key : `${path}, ${key}`))
  }
  return [[path, spellMember(value)]]
}

function spellMember(value: unknown): string {
  if (typeof value === 'object' && value !== null) return Object.values(value).map(String).filter(text => text !== '').join(' ')
  return String(value).replace(/\b([0-9a-f]{12})[0-9a-f]{52}\b/g, '$1…')
}

/** Names of what rows of the log hold, as people say them; what is missing here stands as it is. */
const names: Record<string, string> = {
  form: 'form',
  fee: 'fee',
  keepMonths: 'months that data of people are kept',
  applications: 'applications',
  accounts: 'accounts',
  keys: 'keys',
  factors: 'second factors',
  way: 'way of paying',
  question: 'question',
  refund: 'refund',
  scrutiny: 'scrutiny',
  placement: 'placement',
  card: 'card',
  amount: 'amount',
  total: 'total',
  order: 'order at the gateway',
  event: 'event',
  state: 'state',
  version: 'version',
  slot: 'file',
  bytes: 'bytes',
  sha256: 'fingerprint',
  edits: 'changed before sending',
  failed: 'rules broken',
  number: 'number',
  city: 'test city',
  venue: 'test centre',
  room: 'room',
  session: 'session',
  seat: 'seat',
  sittings: 'sits',
  roll: 'roll number',
  accessible: 'step-free',
  reasons: 'reasons',
  until: 'until',
  items: 'items',
  verdicts: 'eligibility',
  falseClaims: 'claims that do not count',
  claim: 'claim',
  ruling: 'ruling',
  slip: 'slip',
  branch: 'bank and branch',
  paidOn: 'paid in on',
  bankReference: "the bank's number",
  request: 'asked for',
  word: 'answer',
  run: 'run',
  blockers: 'blocked by',
  review: 'review',
  notice: 'notice version',
  category: 'category',
  reason: 'reason',
  payer: 'who pays',
  bill: 'bill',
  people: 'people',
  rooms: 'rooms',
  moved: 'with another seat',
  without: 'without a seat',
  anotherHour: 'at another hour',
  seated: 'with a seat',
  address: 'address',
  contact: 'contact',
  title: 'title',
  files: 'files',
  lines: 'lines',
  roles: 'roles',
  venues: 'venues',
  name: 'name',
  signInName: 'sign-in name',
  act: 'act',
  subject: 'subject',
}
// Links between rows of the database tell people nothing.
const hidden = new Set(['applicationId', 'runId', 'ordinal', 'paper', 'cycle', 'id', 'currency'])

type Speller = (notice: Notice, value: string) => string | undefined
const bySpelling: Record<string, Speller> = {
  charge: (notice, value) => spellAmount(Number(value), notice.body.currency),
  tax: (notice, value) => spellAmount(Number(value), notice.body.currency),
  amount: (notice, value) => spellAmount(Number(value), notice.body.currency),
  total: (notice, value) => spellAmount(Number(value), notice.body.currency),
  until: (notice, value) => spellInstant(value, notice.body.zone),
  city: (notice, value) => notice.cities.find(c => c.id === value)?.title,
  venue: (notice, value) => notice.cities.flatMap(c => c.venues).find(v => v.id === value)?.title,
  room: (notice, value) => notice.cities.flatMap(c => c.venues).flatMap(v => v.rooms).find(r => r.id === value)?.title,
  session: (notice, value) => notice.sessions.find(s => s.id === value)?.title,
  slot: (notice, value) => slotOf(notice, value)?.title,
  accessible: (_, value) => value === 'true' ? 'yes' : 'no',
}

/**
 * What an act has changed, a line each, in the words of the notice: labels for questions, amounts with their currency, moments in the
 * body's zone.
 */
export function recordLines(notice: Notice | null, before: unknown, after: unknown): string[] {
  const questions = new Map((notice?.sections ?? []).flatMap(s => s.questions).map(q => [q.id, q.label]))
  const old = answersOf(before)
  return Object.entries(answersOf(after)).flatMap(([key, value]) => {
    const former = old[key]
    if (hidden.has(key) || JSON.stringify(former) === JSON.stringify(value)) return []
    const name = questions.get(key) ?? names[key] ?? key
    const spell = (what: unknown) => spellRecord(notice, key, what)
    return [
      former === undefined || former === null || former === '' ? `${name}: ${spell(value)}` : `${name}: ${spell(former)} → ${spell(value)}`,
    ]
  })
}

const answersOf = (value: unknown): Record<string, unknown> =>
  typeof value === 'object' && value !== null && !Array.isArray(value) ? value as Record<string, unknown> : {}

function spellRecord(notice: Notice | null, key: string, value: unknown): string {
  if (value === null || value === undefined || value === '') return '–'
  if (notice && (typeof value === 'string' || typeof value === 'number' || typeof value === 'boolean')) {
    const spelled = bySpelling[key]?.(notice, String(value))
    if (spelled !== undefined) return spelled
  }
  if (notice && notice.sections.some(s => s.questions.some(q => q.id === key))) return spellAnswer(notice, key, value as Answer)
  const { title } = answersOf(value)
  if (key === 'payer' && typeof title === 'string') return title
  if (Array.isArray(value) && notice) {
    return value.map(member => typeof member === 'string' ? itemTitle(notice, member) : spellReason(notice, member)).join('; ') || '–'
  }
  return recordPairs(value).map(([path, text]) => path === '' ? text : `${path} ${text}`).join(', ') || '–'
}

const itemTitle = (notice: Notice, id: string) =>
  notice.sections.flatMap(s => s.questions).find(q => q.id === id)?.label ?? slotOf(notice, id)?.title ?? notice.posts.find(p =>
    p.id === id
  )?.title ?? notice.claims.find(c => c.id === id)?.title ?? id

function spellReason(notice: Notice, member: unknown): string {
  const { item, reason, title, amount, because, seats, stepFree, unusable, closedIn, lost } = answersOf(member)
  if (typeof title === 'string' && typeof seats === 'number') {
    const listed = (list: unknown, spell: (one: unknown) => string = String) => Array.isArray(list) ? list.map(spell).join(', ') : ''
    const parts = [`${seats} seats`, `${Number(stepFree)} step-free`, listed(unusable) && `nobody can sit on ${listed(unusable)}`,
      listed(closedIn) && `not free in ${listed(closedIn, id => notice.sessions.find(s => s.id === id)?.title ?? String(id))}`,
      lost === true && 'lost']
    return `${title}: ${parts.filter(Boolean).join(', ')}`
  }
  if (because !== undefined && typeof amount === 'number') {
    return `${feeWords(member as FeeItem).title} ${spellAmount(amount, notice.body.currency)}`
  }
  if (typeof title === 'string' && typeof amount === 'number') return `${title} ${spellAmount(amount, notice.body.currency)}`
  return typeof item === 'string' && typeof reason === 'string' ? `${itemTitle(notice, item)}: ${reason}` : spellMember(member)
}
