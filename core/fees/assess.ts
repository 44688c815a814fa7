import { conditionHolds, listAnswer, liveAnswers, textAnswer, type Answers, type LiveAnswers } from '../application/answers'
import type { Condition, Notice } from '../notice/schema'

/** One line of an assessment; `amount` in minor units, negative for a waiver. */
export interface FeeItem { code: string, title: string, amount: number, because: string }

/** What one application owes and why. `total` is the sum of the items and never below zero. */
export interface Assessment { currency: { code: string, exponent: number }, items: FeeItem[], total: number }

/**
 * The itemised fee of a sheet by the notice's schedule. Null until the category is known, since the base hangs on it.
 * `at` decides the late fee: the moment of submission, or now for a sheet still in work.
 */
export function assessFee(notice: Notice, sheet: Answers, at: Date): Assessment | null {
  const { fees, body } = notice
  const live = liveAnswers(notice, sheet)
  const { answers } = live
  const category = notice.categories.find(c => c.id === textAnswer(answers, 'category'))
  const base = fees.base.find(row => row.category === category?.id)
  if (!category || !base) return null
  const items: FeeItem[] = [{ code: 'base', title: 'Examination fee', amount: base.amount, because: `category ${category.title}` }]
  const further = Math.max(0, listAnswer(answers, 'posts').length - 1)
  if (further > 0 && fees.additionalPost > 0) {
    items.push({ code: 'additional-post', title: 'Further posts', amount: further * fees.additionalPost, because: `${further} beyond the first` })
  }
  for (const waiver of fees.waivers) {
    if (!holds(waiver.when, live)) continue
    const sum = items.reduce((n, item) => n + item.amount, 0)
    const off = Math.floor((sum * waiver.percent + 50) / 100)
    if (off > 0) items.push({ code: waiver.code, title: waiver.title, amount: -off, because: `${waiver.percent} % of the lines above` })
  }
  if (fees.late && at >= new Date(fees.late.from)) {
    items.push({ code: 'late', title: 'Late fee', amount: fees.late.amount, because: 'submitted in the late period' })
  }
  if (items.some(item => item.amount !== 0) && items.reduce((n, i) => n + i.amount, 0) > 0) {
    for (const line of fees.surcharges) {
      if (line.when === undefined || holds(line.when, live)) {
        items.push({ code: line.code, title: line.title, amount: line.amount, because: 'charged by the payment channel' })
      }
    }
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
