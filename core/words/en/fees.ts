import type { FeeItem } from '../../fees/assess'
import { formatMessage } from '../message'

const titles: Record<string, string> = { 'base': 'Examination fee', 'additional-post': 'Further posts', 'late': 'Late fee', 'waived': 'Waived', 'written-off': 'Written off', 'given-up': 'Given up' }
const reasons = {
  'category': 'category {category}',
  'further-posts': '{count} beyond the first',
  'percent': '{percent} % of the lines above',
  'late': 'submitted in the late period',
  'channel': 'charged by the payment channel',
  'correction': 'for a correction',
  'relief': '{kind, select, waived {granted by the office} other {not collected any more}}',
} as const

/** A line of an assessment: what it is, by the notice's own words where it has some, and why it is there. */
export function feeWords({ code, title, because }: FeeItem): { title: string, because: string } {
  // Assessments of earlier versions hold their sentences.
  if (typeof because === 'string') return { title: title ?? code, because }
  const { code: reason, ...parameters } = because
  return { title: title ?? titles[code] ?? code, because: formatMessage('en', reasons[reason], parameters) }
}
