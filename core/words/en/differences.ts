import { spellDate, spellInstant } from '../../calendar/zone'
import { spellAmount } from '../../fees/assess'
import type { Difference, Step } from '../../notice/difference'
import type { Notice } from '../../notice/schema'
import { formatMessage } from '../message'
import { capital, partTitle } from './notice-parts'

const messages = {
  added: '{at}: new. {after}',
  removed: '{at}: gone. {before}',
  changed: '{at}: {before} → {after}',
  reordered: '{at}: in another order.',
} as const

/** One difference of two notices as a line. Amounts, moments and days are spelled as `notice` has them. */
export function differenceWords(notice: Notice, difference: Difference): string {
  const { path, kind } = difference
  const last = path.at(-1)
  const key = last && 'part' in last ? last.part : ''
  const at = capital(path.map(stepWords).join(', ') || 'the notice')
  return formatMessage('en', messages[kind], {
    at,
    before: valueWords(notice, key, difference.before),
    after: valueWords(notice, key, difference.after),
  }).trim()
}

const stepWords = (step: Step): string => 'member' in step ? step.title : partTitle(step.part)

function valueWords(notice: Notice, key: string, value: unknown): string {
  if (value === undefined || value === null) return '–'
  if (typeof value === 'number') return key === 'amount' ? spellAmount(value, notice.body.currency) : String(value)
  if (typeof value === 'string' && /^\d{4}-\d{2}-\d{2}T/.test(value)) return spellInstant(value, notice.body.zone)
  if (typeof value === 'string' && /^\d{4}-\d{2}-\d{2}$/.test(value)) return spellDate(value)
  if (typeof value === 'string') return value.length > 160 ? `“${value.slice(0, 160)}…”` : `“${value}”`
  if (typeof value === 'boolean') return value ? 'yes' : 'no'
  if (Array.isArray(value)) return value.map(one => valueWords(notice, key, one)).join('; ') || '–'
  return Object.entries(value).filter(([name]) => !['id', 'code', 'title', 'clause'].includes(name)).map(([name, one]) =>
    `${stepWords({ part: name })} ${valueWords(notice, name, one)}`
  ).join(', ')
}
