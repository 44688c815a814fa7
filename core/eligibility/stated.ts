import { isAnswered, listAnswer } from '../application/answers'
import { addDays, dayNumber, parseCalendarDate, type CalendarDate } from '../calendar/calendar-date'
import {
  addFractions,
  compareFractions,
  floorOf,
  parseDecimal,
  parseSignedDecimal,
  spellExact,
  subtractFractions,
  zero,
  type Fraction,
} from '../marks/decimal'
import type { Bound, Verdict } from '../finding/finding'
import type { RuleOf } from '../notice/rules'
import { findingAt, labelOf, missing, questionOf, unreadable, type Check, type Place } from './place'
import { easing, type Eased } from './relaxation'

/** An answer that must be one of several; of a list, one member is enough. */
export function oneOfCheck(place: Place, rule: RuleOf<'oneOf'>): Check {
  const label = labelOf(place.notice, rule.question)
  const question = questionOf(place.notice, rule.question)
  const titles = new Map(question?.kind === 'choice' ? question.options.map(o => [o.id, o.title]) : [])
  const title = (value: string) => titles.get(value) ?? value
  const wanted = rule.values.map(title).join(' or ')
  const said = (own: string, good: boolean) =>
    findingAt(place, 'eligibility.oneOf', good ? 'pass' : 'fail', {
      question: label,
      questionId: rule.question,
      own: titles.get(own) ?? own,
      wanted,
    })
  return (facts) => {
    // A question that is not asked of this person has no answer that could be one of those wanted.
    const text = facts.text(rule.question)
    if (text !== '') return said(text, rule.values.includes(text))
    if (!isAnswered(facts.answers, rule.question) && !facts.live.closed.has(rule.question)) {
      return missing(place, label, rule.question, facts.live)
    }
    const own = listAnswer(facts.answers, rule.question)
    return said(own.map(title).join(', '), own.some(value => rule.values.includes(value)))
  }
}

/** Bounds as eased, exact and as shown. */
interface Limits {
  low: Fraction | null
  high: Fraction | null
  possibleLow: Fraction | null
  possibleHigh: Fraction | null
  bound: Bound
}

/** Any number within inclusive bounds; a relaxation lowers the lower one and raises the upper one. */
export function numberCheck(place: Place, rule: RuleOf<'number'>): Check {
  const label = labelOf(place.notice, rule.question)
  const { minus } = rule
  const lessLabel = minus === undefined ? '' : labelOf(place.notice, minus)
  const eased = easing(rule)
  const known = new Map<Eased, Limits>()
  const limitsFor = (ease: Eased): Limits => {
    let limits = known.get(ease)
    if (!limits) known.set(ease, limits = limitsOf(rule, ease))
    return limits
  }
  return (facts) => {
    const text = facts.text(rule.question)
    if (text === '') return missing(place, label, rule.question, facts.live)
    const own = parseSignedDecimal(text)
    if (!own) return unreadable(place, label, rule.question, 'unreadable', { value: text })
    const less = minus === undefined ? '' : facts.text(minus)
    if (minus !== undefined && less === '') return missing(place, lessLabel, minus, facts.live)
    const off = minus === undefined ? zero : parseSignedDecimal(less)
    if (!off) return unreadable(place, lessLabel, minus ?? '', 'unreadable', { value: less })
    const value = subtractFractions(own, off)
    const ease = eased(facts.live)
    const { low, high, possibleLow, possibleHigh, bound } = limitsFor(ease)
    const verdict: Verdict = isWithin(value, low, high)
      ? 'pass'
      : ease.maybe !== '' && isWithin(value, possibleLow, possibleHigh)
      ? 'unsure'
      : 'fail'
    const parameters: Record<string, string> = {
      question: label,
      questionId: verdict === 'unsure' ? ease.question : rule.question,
      unit: rule.unit,
      relaxation: ease.titles,
      distance: spellExact(roomWithin(value, low, high)),
    }
    if (verdict === 'unsure') parameters.maybe = ease.maybe
    if (minus !== undefined) Object.assign(parameters, { lessQuestion: lessLabel, less })
    return findingAt(place, 'eligibility.number', verdict, parameters, Number(spellExact(value).replace('−', '-')), 'count', bound)
  }
}

function limitsOf(rule: RuleOf<'number'>, ease: Eased): Limits {
  const [min, max] = [rule.min === undefined ? null : parseDecimal(rule.min), rule.max === undefined ? null : parseDecimal(rule.max)]
  const [low, high] = [min && subtractFractions(min, ease.by), max && addFractions(max, ease.by)]
  const bound: Bound = {}
  if (low) bound.min = Number(spellExact(low))
  if (high) bound.max = Number(spellExact(high))
  return { low, high, possibleLow: min && subtractFractions(min, ease.atMost), possibleHigh: max && addFractions(max, ease.atMost), bound }
}

function isWithin(value: Fraction, low: Fraction | null, high: Fraction | null): boolean {
  return (!low || compareFractions(value, low) >= 0) && (!high || compareFractions(value, high) <= 0)
}

/** How far inside the nearer bound a value lies; below zero for outside. */
function roomWithin(value: Fraction, low: Fraction | null, high: Fraction | null): Fraction {
  const [below, above] = [low && subtractFractions(value, low), high && subtractFractions(high, value)]
  if (below && above) return compareFractions(below, above) <= 0 ? below : above
  return below ?? above ?? zero
}

/** A day between two others, both ends inclusive. */
export function dayCheck(place: Place, { question, notBefore, notAfter }: RuleOf<'day'>): Check {
  const label = labelOf(place.notice, question)
  return (facts) => {
    const day = facts.text(question)
    if (day === '') return missing(place, label, question, facts.live)
    if (parseCalendarDate(day) === null) {
      return unreadable(place, label, question, 'no-day', { value: day, bound: notAfter ?? notBefore ?? '' })
    }
    // Days inside the nearer bound; below zero for days outside.
    const [since, left] = [notBefore === undefined ? Infinity : dayNumber(day) - dayNumber(notBefore),
      notAfter === undefined ? Infinity : dayNumber(notAfter) - dayNumber(day)]
    const distance = Math.min(since, left)
    return findingAt(place, 'eligibility.day', distance < 0 ? 'fail' : 'pass', {
      question: label,
      questionId: question,
      day,
      notBefore: notBefore ?? null,
      notAfter: notAfter ?? null,
      distance,
      early: String(since < 0),
      unit: 'days',
    })
  }
}

interface Period {
  from: number
  to: number
}

/** Days of experience by a date: the union of the periods, both ends counted. A period without an end runs to the date. */
export function experienceCheck(place: Place, rule: RuleOf<'experience'>): Check {
  const on = rule.on ?? place.notice.keyDates.ageOn
  const label = labelOf(place.notice, rule.question)
  const { only, after } = rule
  const eased = easing(rule)
  return (facts) => {
    const all = facts.rows(rule.question)
    const rows = only ? all.filter(row => only.values.includes(row[only.column] ?? '')) : all
    // Somebody who is not asked for periods, having worked nowhere, has no days.
    if (all.length === 0 && !facts.live.closed.has(rule.question)) return missing(place, label, rule.question, facts.live)
    const since = after === undefined ? '' : facts.text(after)
    if (after !== undefined && rows.length > 0) {
      if (since === '') return missing(place, labelOf(place.notice, after), after, facts.live)
      if (parseCalendarDate(since) === null) {
        return unreadable(place, labelOf(place.notice, after), after, 'no-day', { value: since, bound: on })
      }
    }
    const periods: Period[] = []
    for (const row of rows) {
      const [from, to] = [row[rule.from] ?? '', row[rule.to] || on]
      const wrong = [from, to].find(day => parseCalendarDate(day) === null)
      if (wrong !== undefined) return unreadable(place, label, rule.question, 'no-day', { value: wrong, bound: on })
      if (from > to && row[rule.to]) return unreadable(place, label, rule.question, 'ends-before', { value: to, bound: from })
      const begins = since !== '' && from <= since ? addDays(since, 1) : from
      if (begins <= on && begins <= to) periods.push(periodUntil(begins, to, on))
    }
    const ease = eased(facts.live)
    const [days, off] = [unionDays(periods), (by: Fraction) => Math.max(1, rule.minDays - floorOf(by))]
    const least = off(ease.by)
    const verdict: Verdict = days >= least ? 'pass' : ease.maybe !== '' && days >= off(ease.atMost) ? 'unsure' : 'fail'
    const parameters: Record<string, string | number> = {
      question: label,
      questionId: verdict === 'unsure' ? ease.question : rule.question,
      on,
      periods: rows.length,
      base: rule.minDays,
      relaxation: ease.titles,
      distance: days - least,
      unit: 'days',
    }
    if (verdict === 'unsure') parameters.maybe = ease.maybe
    if (only) parameters.otherKinds = all.length - rows.length
    if (since !== '') parameters.after = since
    return findingAt(place, 'eligibility.experience', verdict, parameters, days, 'days', { min: least })
  }
}

function periodUntil(from: CalendarDate, to: CalendarDate, on: CalendarDate): Period {
  return { from: dayNumber(from), to: dayNumber(to < on ? to : on) }
}

/** Days covered by at least one period. */
export function unionDays(periods: Period[]): number {
  const sorted = [...periods].sort((a, b) => a.from - b.from)
  let days = 0
  let covered = -Infinity
  for (const { from, to } of sorted) {
    const start = Math.max(from, covered + 1)
    if (to >= start) days += to - start + 1
    covered = Math.max(covered, to)
  }
  return days
}
