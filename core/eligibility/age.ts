import type { LiveAnswers } from '../application/answers'
import { addYears, dayNumber, earliestBirth, latestBirth, type CalendarDate } from '../calendar/calendar-date'
import type { Bound } from '../finding/finding'
import { floorOf } from '../marks/decimal'
import type { RuleOf } from '../notice/rules'
import { findingAt, missing, unreadable, type Check, type Place } from './place'
import { easing, type Eased } from './relaxation'

/**
 * An end of the days of birth that fit, moved for one person by whole years: surely, and if what is open yet turns out in their favour;
 * null where it is open.
 */
interface End {
  ease: Eased
  years: number
  sure: CalendarDate | null
  /** The same as a number. */
  day: number
  possible: CalendarDate | null
}

/**
 * Age on a date, judged by day of birth: both ends fit. "Not above 24" takes the 24th birthday on the date itself and
 * no day more. A relaxation moves the upper end by whole years; where the least age is lowered for somebody, that moves the lower end.
 */
export function ageCheck(place: Place, rule: RuleOf<'age'>): Check {
  const on = rule.on ?? place.notice.keyDates.ageOn
  const oldest = endOf(easing(rule), years => earliestFor(rule, on, years, place), -Infinity)
  const youngest = endOf(
    easing({ relaxations: rule.lowered ?? [], combine: 'largest' }),
    years => latestFor(rule, on, years, place),
    Infinity,
  )
  return (facts) => {
    const born = facts.text('bornOn')
    if (born === '') return missing(place, 'age', 'bornOn', facts.live)
    const age = facts.age(on)
    if (!age) return unreadable(place, 'age', 'bornOn', born > on ? 'after-date' : 'no-day', { value: born, bound: on })
    const [first, last] = [oldest(facts.live), youngest(facts.live)]
    const verdict = fits(born, first.sure, last.sure) ? 'pass' : fits(born, first.possible, last.possible) ? 'unsure' : 'fail'
    const parameters: Record<string, string | number | null> = {
      years: age.years,
      months: age.months,
      days: age.days,
      on,
      minYears: rule.minYears ?? null,
      maxYears: rule.maxYears ?? null,
      extra: first.years,
      relaxation: first.ease.titles,
      latestBirth: last.sure,
      earliestBirth: first.sure,
      // Days to the nearer end; below zero for days outside.
      distance: Math.min(last.day - facts.bornDay, facts.bornDay - first.day),
      unit: 'days',
    }
    if (last.years > 0) Object.assign(parameters, { lowered: last.years, loweredFor: last.ease.titles })
    // What is open at the end that does not fit yet.
    const { maybe, question } = first.sure !== null && born < first.sure ? first.ease : last.ease
    if (verdict === 'unsure') Object.assign(parameters, { maybe, questionId: question })
    return findingAt(place, 'eligibility.age', verdict, parameters, age.years, 'years', boundOf(rule, first.years, last.years))
  }
}

/** One end for each person; what is equal for many is worked out once. */
function endOf(
  eased: (live: LiveAnswers) => Eased,
  dateFor: (years: number) => CalendarDate | null,
  open: number,
): (live: LiveAnswers) => End {
  const known = new Map<Eased, End>()
  return (live) => {
    const ease = eased(live)
    let end = known.get(ease)
    if (!end) {
      const years = floorOf(ease.by)
      const sure = dateFor(years)
      known.set(ease, end = { ease, years, sure, day: sure === null ? open : dayNumber(sure), possible: dateFor(floorOf(ease.atMost)) })
    }
    return end
  }
}

const fits = (born: CalendarDate, earliest: CalendarDate | null, latest: CalendarDate | null): boolean =>
  (earliest === null || born >= earliest) && (latest === null || born <= latest)

function boundOf({ minYears, maxYears }: RuleOf<'age'>, extra: number, lowered: number): Bound {
  const bound: Bound = {}
  if (minYears !== undefined) bound.min = Math.max(0, minYears - lowered)
  if (maxYears !== undefined) bound.max = maxYears + extra
  return bound
}

function earliestFor(rule: RuleOf<'age'>, on: CalendarDate, extra: number, { notice: { leapDayBirthday } }: Place): CalendarDate | null {
  if (rule.maxYears !== undefined) return earliestBirth(on, rule.maxYears + extra, leapDayBirthday)
  return rule.bornNotBefore === undefined ? null : addYears(rule.bornNotBefore, -extra, leapDayBirthday)
}

function latestFor(rule: RuleOf<'age'>, on: CalendarDate, lowered: number, { notice: { leapDayBirthday } }: Place): CalendarDate | null {
  if (rule.minYears !== undefined) return latestBirth(on, Math.max(0, rule.minYears - lowered), leapDayBirthday)
  return rule.bornNotAfter === undefined ? null : addYears(rule.bornNotAfter, lowered, leapDayBirthday)
}
