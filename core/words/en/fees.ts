import type { FeeItem, IncomeAccount } from '../../fees/assess'
import type { FeeChannel, FeeSchedule, PayingWay } from '../../notice/schema'
import { formatMessage } from '../message'

const titles: Record<string, string> = {
  'base': 'Examination fee',
  'additional-post': 'Further posts',
  'late': 'Late fee',
  'waived': 'Waived',
  'written-off': 'Written off',
  'given-up': 'Given up',
  'way': 'Charge of the way of paying',
  'way-tax': 'Tax on this charge',
}
const reasons = {
  'category': 'category {category}',
  'post': 'for this post',
  'further-posts': '{count} beyond the first',
  'percent': '{percent} % of the lines above',
  'late': 'in the late period',
  'channel': 'charged by the payment channel',
  'correction': 'for a correction',
  'way': 'paid {way, select, card {by card} wallet {by wallet} other {by net banking}}',
  'way-tax': 'on the charge for paying {way, select, card {by card} wallet {by wallet} other {by net banking}}',
  'relief': '{kind, select, waived {granted by the office} other {not collected any more}}',
  'relief-of': '{of}, not collected any more',
} as const
const clauses: Record<IncomeAccount, string> = {
  'fee income': 'the fee',
  'late fee income': 'the late fee',
  'correction charges': 'for corrections',
  'surcharges': 'on top of the fee',
  'tax payable': 'tax',
}

export const wayTitles: Record<PayingWay, string> = { 'card': 'Card', 'net banking': 'Net banking', 'wallet': 'Wallet' }

export const orderWords: Record<FeeSchedule['order'], string> = {
  'before the form': 'The fee is paid first: the rest of the form opens once it has come.',
  'before submission': 'The fee is paid before the form can be handed in.',
  'after submission': 'The fee is paid after the form was handed in.',
}

/** What a way of paying costs on top, in words. */
export function wayCostWords({ fixed, shareBasisPoints, taxBasisPoints, borneBy }: FeeChannel, amount: (minor: number) => string): string {
  const parts = [...fixed > 0 ? [amount(fixed)] : [], ...shareBasisPoints > 0 ? [`${shareBasisPoints / 100} % of what is paid`] : []]
  if (borneBy === 'office' || parts.length === 0) return 'nothing on top'
  return `${parts.join(' and ')} on top${taxBasisPoints > 0 ? `, and ${taxBasisPoints / 100} % tax on that` : ''}`
}

/** A line of an assessment: what it is, by the notice's own words where it has some, and why it is there. */
export function feeWords({ code, title, because }: FeeItem): { title: string, because: string } {
  // Assessments of earlier versions hold their sentences.
  if (typeof because === 'string') return { title: title ?? code, because }
  if (because.code === 'relief' && because.of) {
    return { title: title ?? titles[code] ?? code, because: formatMessage('en', reasons['relief-of'], { of: clauses[because.of] }) }
  }
  const { code: reason, ...parameters } = because
  return { title: title ?? titles[code] ?? code, because: formatMessage('en', reasons[reason], parameters) }
}
