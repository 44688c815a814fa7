import { conditionHolds, listAnswer, liveAnswers, textAnswer, type Answers, type LiveAnswers } from '../application/answers'
import type { Condition, FeeSchedule, Notice, PayingWay } from '../notice/schema'
import type { ChannelCharge } from './channel'

/** What fees are earned as, by the clause that they come from; the tax on a charge is owed on. */
export const incomeAccounts = ['fee income', 'late fee income', 'correction charges', 'surcharges', 'tax payable'] as const
export type IncomeAccount = typeof incomeAccounts[number]

/** Why a line is in an assessment. `of` names what a due that ended was to be earned as; assessments of earlier versions do not say it. */
export type FeeReason =
  | { code: 'category', category: string }
  | { code: 'post', post: string }
  | { code: 'further-posts', count: number }
  | { code: 'percent', percent: number }
  | { code: 'late' }
  | { code: 'channel' }
  | { code: 'correction' }
  | { code: 'way' | 'way-tax', way: PayingWay }
  | { code: 'relief', kind: ReliefKind, of?: IncomeAccount }

/**
 * One line of an assessment; `amount` in minor units, negative for a waiver; `title` where the notice names it. Assessments of earlier
 * versions hold sentences instead of reasons.
 */
export interface FeeItem {
  code: string
  title: string | null
  amount: number
  because: FeeReason | string
}

/** How the office gives a due up: granted to somebody, given up as lost, or ended with an application that left the flow unpaid. */
export const reliefKinds = ['waived', 'written off', 'given up'] as const
export type ReliefKind = typeof reliefKinds[number]
/** One due given up; amount in minor units, above zero. */
export interface Relief {
  kind: ReliefKind
  amount: number
}
/**
 * What comes to the schedule's lines from what happened since: charges of corrections that took effect, dues given up, and what was paid
 * for the way of paying.
 */
export interface FeeExtras {
  correctionCharges: readonly CorrectionCharge[]
  feeReliefs: readonly Relief[]
  channelCharges: readonly ChannelCharge[]
}
const noExtras: FeeExtras = { correctionCharges: [], feeReliefs: [], channelCharges: [] }
/** Codes of the lines by which a due is given up. */
export const reliefCodes: Readonly<Record<ReliefKind, string>> = {
  'waived': 'waived',
  'written off': 'written-off',
  'given up': 'given-up',
}

/** What a correction that took effect costs; amount in minor units. */
export interface CorrectionCharge {
  correction: string
  title: string
  amount: number
}

/** Who pays a fee for somebody, as the notice names them. */
export interface Payer {
  code: string
  title: string
}

/**
 * What one application owes and why. `total` is the sum of the items and never below zero. `payer` is named where somebody else pays it.
 */
export interface Assessment {
  currency: { code: string, exponent: number }
  items: FeeItem[]
  total: number
  payer?: Payer
}

/**
 * The itemised fee of a sheet by the notice's schedule. Null until it is known which base fee holds: that hangs on the category and what
 * else the schedule asks. `at` decides the late fee: the moment of submission, or now for a sheet still in work. What came to it since
 * stands in the last parameter.
 */
export function assessFee(
  notice: Notice,
  sheet: Answers,
  at: Date,
  { correctionCharges, feeReliefs, channelCharges }: FeeExtras = noExtras,
): Assessment | null {
  const { fees, body } = notice
  const live = liveAnswers(notice, sheet)
  const { answers } = live
  const category = notice.categories.find(c => c.id === textAnswer(answers, 'category'))
  const base = fees.base.find(row => row.category === category?.id && (row.when === undefined || holds(row.when, live)))
  if (!category || !base) return null
  const items: FeeItem[] = [{ code: 'base', title: null, amount: base.amount, because: { code: 'category', category: category.title } }]
  const chosen = listAnswer(answers, 'posts')
  for (const post of chosen) {
    const row = fees.posts.find(one => one.post === post && (one.when === undefined || holds(one.when, live)))
    const title = notice.posts.find(one => one.id === post)?.title
    if (row && title !== undefined && row.amount > 0) {
      items.push({ code: 'post', title, amount: row.amount, because: { code: 'post', post } })
    }
  }
  items.push(...furtherItems(fees.further, chosen.length))
  for (const waiver of waiversOf(fees, live)) {
    const sum = items.reduce((n, item) => n + item.amount, 0)
    const off = Math.floor((sum * waiver.percent + 50) / 100)
    if (off > 0) items.push({ code: waiver.code, title: waiver.title, amount: -off, because: { code: 'percent', percent: waiver.percent } })
  }
  const late = latePeriodAt(fees, at)
  if (late && late.amount > 0) items.push({ code: 'late', title: null, amount: late.amount, because: { code: 'late' } })
  if (items.some(item => item.amount !== 0) && items.reduce((n, i) => n + i.amount, 0) > 0) {
    for (const line of fees.surcharges) {
      if (line.when === undefined || holds(line.when, live)) {
        items.push({ code: line.code, title: line.title, amount: line.amount, because: { code: 'channel' } })
      }
    }
  }
  for (const { title, amount } of correctionCharges) items.push({ code: 'correction', title, amount, because: { code: 'correction' } })
  for (const relief of feeReliefs) items.push(...reliefItems(items, relief))
  for (const { way, charge, tax } of channelCharges) {
    if (charge > 0) items.push({ code: 'way', title: null, amount: charge, because: { code: 'way', way } })
    if (tax > 0) items.push({ code: 'way-tax', title: null, amount: tax, because: { code: 'way-tax', way } })
  }
  const payer = payerAmong(fees, live)
  return {
    currency: { code: body.currency.code, exponent: body.currency.exponent },
    items,
    total: items.reduce((n, item) => n + item.amount, 0),
    ...payer ? { payer } : {},
  }
}

/** The waivers that count: of those that fit, what the notice says of several. */
function waiversOf({ waivers, severalWaivers }: FeeSchedule, live: LiveAnswers): FeeSchedule['waivers'] {
  const fitting = waivers.filter(waiver => holds(waiver.when, live))
  switch (severalWaivers) {
    case 'in turn':
      return fitting
    // All are shares of one sum, so the largest share takes most off.
    case 'largest':
      return fitting.filter(({ percent }) => fitting.every(other => other.percent <= percent)).slice(0, 1)
    case 'first':
    case 'one only':
      return fitting.slice(0, 1)
  }
}

/** Who pays the fee of a sheet for somebody; null where everybody pays their own, and while it is not known. */
export const payerOf = (notice: Notice, sheet: Answers): Payer | null =>
  notice.fees.payers.length === 0 ? null : payerAmong(notice.fees, liveAnswers(notice, sheet))

function payerAmong({ payers }: FeeSchedule, live: LiveAnswers): Payer | null {
  const payer = payers.find(({ when }) => holds(when, live))
  return payer ? { code: payer.code, title: payer.title } : null
}

/**
 * One line for each rate at which further posts are counted: the rate of a post is that of the last row which its place among the chosen
 * ones has reached.
 */
function furtherItems(further: FeeSchedule['further'], chosen: number): FeeItem[] {
  const rates = [...further].sort((a, b) => a.from - b.from)
  return rates.flatMap(({ from, amount }, place) => {
    const count = Math.min(chosen, (rates[place + 1]?.from ?? Infinity) - 1) - from + 1
    return count > 0 && amount > 0
      ? [{ code: 'additional-post', title: null, amount: count * amount, because: { code: 'further-posts', count } }]
      : []
  })
}

/** The late period that an instant lies in: of those that have begun, the last. */
export function latePeriodAt({ late }: Pick<FeeSchedule, 'late'>, at: Date): FeeSchedule['late'][number] | undefined {
  return late.filter(({ from }) => at >= new Date(from)).sort((a, b) => Date.parse(b.from) - Date.parse(a.from))[0]
}

/** The lines of an assessment once a due is given up. What was paid for the way of paying came with money, and stays. */
export function withRelief(items: readonly FeeItem[], relief: Relief): FeeItem[] {
  const isOfWay = ({ because }: FeeItem) => typeof because === 'object' && (because.code === 'way' || because.code === 'way-tax')
  const others = items.filter(item => !isOfWay(item))
  return [...others, ...reliefItems(others, relief), ...items.filter(isOfWay)]
}

/**
 * The lines of a due given up. More than is left is never given up: a fee that fell since takes the rest of it along. What ends unpaid ends
 * by clause, from the last one back.
 */
function reliefItems(items: readonly FeeItem[], { kind, amount }: Relief): FeeItem[] {
  const left = items.reduce((n, item) => n + item.amount, 0)
  if (left <= 0) return []
  const given = Math.min(amount, left)
  if (kind !== 'given up') return [{ code: reliefCodes[kind], title: null, amount: -given, because: { code: 'relief', kind } }]
  const earned = new Map<IncomeAccount, number>()
  for (const item of items) {
    const account = earnedAs(item)
    if (account) earned.set(account, (earned.get(account) ?? 0) + item.amount)
  }
  let rest = given
  return [...earned].reverse().flatMap(([of, sum], place, all) => {
    // What was waived lies on no account of income: the first clause takes it along.
    const part = place === all.length - 1 ? rest : Math.min(rest, Math.max(0, sum))
    rest -= part
    return part > 0 ? [{ code: reliefCodes[kind], title: null, amount: -part, because: { code: 'relief', kind, of } }] : []
  })
}

/**
 * What a line is earned as; null for what the office bears itself, as a cost. Lines of earlier versions, which hold sentences, are fees.
 */
export function earnedAs({ because }: Pick<FeeItem, 'because'>): IncomeAccount | null {
  if (typeof because === 'string') return 'fee income'
  switch (because.code) {
    case 'late':
      return 'late fee income'
    case 'correction':
      return 'correction charges'
    case 'channel':
    case 'way':
      return 'surcharges'
    case 'way-tax':
      return 'tax payable'
    case 'relief':
      return because.kind === 'given up' ? because.of ?? 'fee income' : null
    default:
      return 'fee income'
  }
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
