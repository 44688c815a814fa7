import { dayNumber, type CalendarDate } from './calendar-date'

/** Days on which an office is closed, and its weekly days of rest (0 is Sunday). */
export interface ClosedDays {
  holidays: readonly CalendarDate[]
  restDays: readonly number[]
}

// Day 0, 1 January 1970, was a Thursday.
export const isClosedDay = ({ holidays, restDays }: ClosedDays, date: CalendarDate): boolean =>
  holidays.includes(date) || restDays.includes((dayNumber(date) + 4) % 7)
