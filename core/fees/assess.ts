import { conditionHolds, listAnswer, liveAnswers, textAnswer, type Answers, type LiveAnswers } from '../application/answers'
import type { Condition, Notice } from '../notice/schema'

/** Why a line is in an assessment. */
export type FeeReason = { code: 'category', category: string } | { code: 'further-posts', count: number } | { code: 'percent', percent: number } | { code: 'late' } | { code: 'channel' } | { code: 'correction' } | { code: 'relief', kind: ReliefKind }

/** One line of an assessment; `amount` in minor units, negative for a waiver; `title` where the notice names it. Assessments of earlier versions hold sentences instead of reasons. */
export interface FeeItem { code: string, title: string | null, amount: number, because: FeeReason | string }

/** How the office gives a due up: granted to somebody, given up as lost, or ended with an application that left the flow unpaid. */
export const reliefKinds = ['waived', 'written off', 'given up'] as const
export type ReliefKind = typeof reliefKinds[number]
/** One due given up; amount in minor units, above zero. */
export interface Relief { kind: ReliefKind, amount: number }
/** What comes to the schedule's lines from what happened since: charges of corrections that took effect, and dues given up. */
export interface FeeExtras { correctionCharges: readonly CorrectionCharge[], feeReliefs: readonly Relief[] }
const noExtras: FeeExtras = { correctionCharges: [], feeReliefs: [] }
/** Codes of the lines by which a due is given up. */
export const reliefCodes: Readonly<Record<ReliefKind, string>> = { 'waived': 'waived', 'written off': 'written-off', 'given up': 'given-up' }

/** What a correction that took effect costs; amount in minor units. */
export interface CorrectionCharge { correction: string, title: string, amount: number }

/** What one application owes and why. `total` is the sum of the items and never below zero. */
export interface Assessment { currency: { code: string, exponent: number }, items: FeeItem[], total: number }

/**
 * The itemised fee of a sheet by the notice's schedule. Null until it is known which base fee holds: that hangs on the category and what else the schedule asks.
 * `at` decides the late fee: the moment of submission, or now for a sheet still in work. What came to it since stands in the last parameter.
 */
export function assessFee(notice: Notice, sheet: Answers, at: Date, { correctionCharges, feeReliefs }: FeeExtras = noExtras): Assessment | null {
  const { fees, body } = notice
  const live = liveAnswers(notice, sheet)
  const { answers } = live
  const category = notice.categories.find(c => c.id === textAnswer(answers, 'category'))
  const base = fees.base.find(row => row.category === category?.id && (row.when === undefined || holds(row.when, live)))
  if (!category || !base) return null
  const items: FeeItem[] = [{ code: 'base', title: null, amount: base.amount, because: { code: 'category', category: category.title } }]
  const further = Math.max(0, listAnswer(answers, 'posts').length - 1)
  if (further > 0 && fees.additionalPost > 0) {
    items.push({ code: 'additional-post', title: null, amount: further * fees.additionalPost, because: { code: 'further-posts', count: further } })
  }
  for (const waiver of fees.waivers) {
    if (!holds(waiver.when, live)) continue
    const sum = items.reduce((n, item) => n + item.amount, 0)
    const off = Math.floor((sum * waiver.percent + 50) / 100)
    if (off > 0) items.push({ code: waiver.code, title: waiver.title, amount: -off, because: { code: 'percent', percent: waiver.percent } })
  }
  if (fees.late && at >= new Date(fees.late.from)) {
    items.push({ code: 'late', title: null, amount: fees.late.amount, because: { code: 'late' } })
  }
  if (items.some(item => item.amount !== 0) && items.reduce((n, i) => n + i.amount, 0) > 0) {
    for (const line of fees.surcharges) {
      if (line.when === undefined || holds(line.when, live)) {
        items.push({ code: line.code, title: line.title, amount: line.amount, because: { code: 'channel' } })
      }
    }
  }
  for (const { title, amount } of correctionCharges) items.push({ code: 'correction', title, amount, because: { code: 'correction' } })
  for (const { kind, amount } of feeReliefs) {
    // More than is left is never given up: a fee that fell since takes the rest of it along.
    const left = items.reduce((n, item) => n + item.amount, 0)
    if (left > 0) items.push({ code: reliefCodes[kind], title: null, amount: -Math.min(amount, left), because: { code: 'relief', kind } })
  }
  return { currency: { code: body.currency.code, exponent: body.currency.exponent }, items, total: items.reduce((n, item) => n + item.amount, 0) }
}

// A waiver or surcharge whose answer is still open does not apply yet: the fee shown grows only by what is known.
function holds(condition: Condition, live: LiveAnswers): boolean {
  return conditionHolds(condition, live) === true
}

/** `IMK 640.00`: an amount of minor units with its currency. */
export function spellAmount(minor: number, currency: { code: string, exponent: number }): string {
  const sign = minor < 0 ? '−' : ''
  const digits = String(Math.abs(minor)).padStart(currency.exponent + 1, '0')
  const cut = digits.length - currency.exponent
  const whole = digits.slice(0, cut).replace(/\B(?=(\d{3})+$)/g, ',')
  return `${sign}${currency.code} ${whole}${currency.exponent > 0 ? `.${digits.slice(cut)}` : ''}`
}
