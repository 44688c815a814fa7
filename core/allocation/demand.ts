import type { CalendarDate } from '../calendar/calendar-date'

/** A count with its range: one in twenty times the truth lies above it, one in twenty below, if days go on as before. */
export interface Range {
  low: number
  middle: number
  high: number
}

/** Applications a day, oldest first, days without any included. */
export interface DayCount {
  day: CalendarDate
  count: number
}

const lookBack = 14
/** 95th percentile of the normal distribution. */
const z95 = 1.645

/**
 * What will have come in when the window closes, if days go on as the last fortnight did: so many days at the mean of the last
 * seven whole days, with the scatter of single days around the mean of the last fourteen (never less than that of a Poisson count).
 * Common practice, no source. It knows nothing of a rush on the last day; that is said beside it.
 *
 * @param daysLeft days from the end of the last whole day to the close; fractions count.
 * @returns null with fewer than three whole days behind.
 */
export function forecast(wholeDays: readonly DayCount[], soFar: number, daysLeft: number): Range | null {
  if (wholeDays.length < 3) return null
  const mean = (days: readonly DayCount[]) => days.reduce((sum, d) => sum + d.count, 0) / days.length
  const rate = mean(wholeDays.slice(-7))
  const past = wholeDays.slice(-lookBack)
  const centre = mean(past)
  const variance = past.reduce((sum, d) => sum + (d.count - centre) ** 2, 0) / (past.length - 1)
  const left = Math.max(0, daysLeft)
  const spread = z95 * Math.sqrt(Math.max(variance, rate) * left)
  return {
    low: Math.round(Math.max(soFar, soFar + rate * left - spread)),
    middle: Math.round(soFar + rate * left),
    high: Math.round(soFar + rate * left + spread),
  }
}

/** The first day on which the running total came to more than the seats; null while it has not. */
export function shortSince(days: readonly DayCount[], seats: number): CalendarDate | null {
  let sum = 0
  for (const { day, count } of days) {
    sum += count
    if (sum > seats) return day
  }
  return null
}

/** The days from the first to the last with their counts; days that are missing count nothing. */
export function everyDay(
  counts: ReadonlyMap<CalendarDate, number>,
  first: CalendarDate,
  last: CalendarDate,
  next: (day: CalendarDate) => CalendarDate,
): DayCount[] {
  const days: DayCount[] = []
  for (let day = first; day <= last; day = next(day)) days.push({ day, count: counts.get(day) ?? 0 })
  return days
}
