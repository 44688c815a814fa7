import { addDays, type CalendarDate } from '../calendar/calendar-date'
import { isClosedDay, type ClosedDays } from '../calendar/closed-days'

/** When a queue will be empty at the present pace, and what it takes to be done by a day. */

/** What happened on one day of work: cases decided, and cases that came. */
export interface WorkedDay {
  day: CalendarDate
  decided: number
  came: number
}

export interface Outlook {
  /** Days of work that it was told from, and the mean of each. */
  days: number
  decidedADay: number
  cameADay: number
  /** The days between which the queue will be empty, in eight cases of ten; null where it does not empty within two years at this pace. */
  emptyFrom: CalendarDate | null
  emptyBy: CalendarDate | null
}

/** Standard normal deviate that leaves a tenth above it. */
const tenth = 1.2816
const longest = 520

/**
 * @param waiting cases that wait now.
 * @param days past days of work, of which the present one is none; null where fewer than two tell anything.
 *
 * The queue falls by what is decided less what comes. Over k days that is taken as normal with k times mean and variance of the days seen,
 * so that the range widens with the root of the days.
 */
export function outlook(waiting: number, days: readonly WorkedDay[], today: CalendarDate, closed: ClosedDays): Outlook | null {
  if (days.length < 2) return null
  const falls = days.map(day => day.decided - day.came)
  const mean = average(falls)
  const deviation = Math.sqrt(falls.reduce((sum, fall) => sum + (fall - mean) ** 2, 0) / (falls.length - 1))
  const emptyAfter = (sign: 1 | -1): CalendarDate | null => {
    let day = today
    for (let k = 1; k <= longest; k++) {
      day = nextWorkDay(day, closed)
      if (k * mean + sign * tenth * deviation * Math.sqrt(k) >= waiting) return day
    }
    return null
  }
  const isEmpty = waiting === 0
  return {
    days: days.length,
    decidedADay: average(days.map(day => day.decided)),
    cameADay: average(days.map(day => day.came)),
    emptyFrom: isEmpty ? today : emptyAfter(1),
    emptyBy: isEmpty ? today : emptyAfter(-1),
  }
}

/**
 * Cases that have to be decided on each day of work after today to have none left at the end of a day, if as many come as before; null
 * where no day is left.
 */
export function neededADay(
  waiting: number,
  cameADay: number,
  today: CalendarDate,
  by: CalendarDate,
  closed: ClosedDays,
): { days: number, aDay: number } | null {
  let days = 0
  for (let day = nextWorkDay(today, closed); day <= by && days < longest; day = nextWorkDay(day, closed)) days++
  return days === 0 ? null : { days, aDay: Math.ceil(waiting / days + cameADay) }
}

const average = (values: readonly number[]): number => values.reduce((a, b) => a + b, 0) / values.length

function nextWorkDay(day: CalendarDate, closed: ClosedDays): CalendarDate {
  let next = addDays(day, 1)
  // A notice whose office never works is refused; the bound keeps a fault of it from hanging the page.
  for (let i = 0; isClosedDay(closed, next) && i < 400; i++) next = addDays(next, 1)
  return next
}
