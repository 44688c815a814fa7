import { addYears, dayNumber, earliestBirth, latestBirth, type CalendarDate } from '../calendar/calendar-date'
import type { Bound, Verdict } from '../finding/finding'
import { floorOf } from '../marks/decimal'
import type { RuleOf } from '../notice/rules'
import { findingAt, missing, unreadable, type Check, type Place } from './place'
import { easing, type Eased } from './relaxation'

/** The days of birth that fit, for one easing of the upper bound; days as numbers beside their dates. */
interface Window { extra: number, bound: Bound, earliest: CalendarDate | null, earliestDay: number, possible: CalendarDate | null }

/**
 * Age on a date, judged by day of birth: both ends fit. "Not above 24" takes the 24th birthday on the date itself and
 * no day more. A relaxation moves the upper end by whole years.
 */
export function ageCheck(place: Place, rule: RuleOf<'age'>): Check {
  const { notice } = place
  const on = rule.on ?? notice.keyDates.ageOn
  const eased = easing(rule)
  const latest = rule.bornNotAfter ?? (rule.minYears === undefined ? null : latestBirth(on, rule.minYears, notice.leapDayBirthday))
  const latestDay = latest === null ? Infinity : dayNumber(latest)
  const windows = new Map<Eased, Window>()
  const windowFor = (ease: Eased): Window => {
    let window = windows.get(ease)
    if (!window) windows.set(ease, window = windowOf(rule, on, ease, place))
    return window
  }
  return (facts) => {
    const born = facts.text('bornOn')
    if (born === '') return missing(place, 'age', 'bornOn', facts.live)
    const age = facts.age(on)
    if (!age) return unreadable(place, 'age', 'bornOn', born > on ? 'after-date' : 'no-day', { value: born, bound: on })
    const ease = eased(facts.live)
    const { extra, bound, earliest, earliestDay, possible } = windowFor(ease)
    const verdict = verdictOf(born, latest, earliest, possible)
    const parameters: Record<string, string | number | null> = {
      years: age.years, months: age.months, days: age.days, on, minYears: rule.minYears ?? null, maxYears: rule.maxYears ?? null, extra,
      relaxation: ease.titles, latestBirth: latest, earliestBirth: earliest,
      // Days to the nearer end; below zero for days outside.
      distance: Math.min(latestDay - facts.bornDay, facts.bornDay - earliestDay), unit: 'days',
    }
    if (verdict === 'unsure') Object.assign(parameters, { maybe: ease.maybe, questionId: ease.question })
    return findingAt(place, 'eligibility.age', verdict, parameters, age.years, 'years', bound)
  }
}

function windowOf(rule: RuleOf<'age'>, on: CalendarDate, ease: Eased, place: Place): Window {
  const extra = floorOf(ease.by)
  const earliest = earliestFor(rule, on, extra, place)
  const bound: Bound = {}
  if (rule.minYears !== undefined) bound.min = rule.minYears
  if (rule.maxYears !== undefined) bound.max = rule.maxYears + extra
  return { extra, bound, earliest, earliestDay: earliest === null ? -Infinity : dayNumber(earliest), possible: earliestFor(rule, on, floorOf(ease.atMost), place) }
}

function earliestFor(rule: RuleOf<'age'>, on: CalendarDate, extra: number, place: Place): CalendarDate | null {
  const { leapDayBirthday } = place.notice
  if (rule.maxYears !== undefined) return earliestBirth(on, rule.maxYears + extra, leapDayBirthday)
  return rule.bornNotBefore === undefined ? null : addYears(rule.bornNotBefore, -extra, leapDayBirthday)
}

function verdictOf(born: CalendarDate, latest: CalendarDate | null, earliest: CalendarDate | null, possible: CalendarDate | null): Verdict {
  if (latest !== null && born > latest) return 'fail'
  if (earliest === null || born >= earliest) return 'pass'
  return possible !== null && born < possible ? 'fail' : 'unsure'
}
