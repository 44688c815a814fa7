/**
 * Calendar dates: a day without a time, written YYYY-MM-DD (ISO 8601 extended format, proleptic Gregorian).
 * They are strings on purpose: a birthday is not an instant and must never shift with a zone.
 */
export type CalendarDate = string

interface DateParts { year: number, month: number, day: number }

const shape = /^(\d{4})-(\d{2})-(\d{2})$/

/** Days in a month of a year; month is 1 to 12. */
export function isoDaysInMonth(year: number, month: number): number {
  if (month === 2) return year % 4 === 0 && (year % 100 !== 0 || year % 400 === 0) ? 29 : 28
  return month === 4 || month === 6 || month === 9 || month === 11 ? 30 : 31
}

/** The parts of a calendar date, or null when the text is not a day that exists. */
export function parseCalendarDate(text: string): DateParts | null {
  const match = shape.exec(text)
  if (!match) return null
  const [year, month, day] = [Number(match[1]), Number(match[2]), Number(match[3])]
  if (month < 1 || month > 12 || day < 1 || day > isoDaysInMonth(year, month)) return null
  return { year, month, day }
}

/** Which day counts as the birthday of someone born on 29 February in a year that has none. */
export type LeapDayBirthday = 'feb-28' | 'mar-01'

export interface Age { years: number, months: number, days: number }

/**
 * Age in completed years, months and days on a date.
 *
 * A birthday itself counts as completed. For people born on 29 February `leapDay` says which day stands for it in
 * common years. Returns null when either date does not exist or `on` lies before `born`.
 */
export function ageOn(born: CalendarDate, on: CalendarDate, leapDay: LeapDayBirthday): Age | null {
  const from = parseCalendarDate(born)
  const to = parseCalendarDate(on)
  if (!from || !to || on < born) return null
  let months = (to.year - from.year) * 12 + (to.month - from.month)
  if (anniversary(from, months, leapDay) > on) months -= 1
  const since = anniversary(from, months, leapDay)
  return { years: Math.floor(months / 12), months: months % 12, days: daysBetween(since, on) }
}

/**
 * The day a number of whole years after `date`, by the same leap-day convention as `ageOn`.
 * Negative numbers go back in time.
 */
export function addYears(date: CalendarDate, years: number, leapDay: LeapDayBirthday): CalendarDate {
  const parts = parseCalendarDate(date)
  if (!parts) throw new RangeError(`not a calendar date: ${date}`)
  return anniversary(parts, years * 12, leapDay)
}

/** Whole days from one existing calendar date to another; negative when `to` is earlier. */
export function daysBetween(from: CalendarDate, to: CalendarDate): number {
  return Math.round((Date.parse(`${to}T00:00:00Z`) - Date.parse(`${from}T00:00:00Z`)) / 86_400_000)
}

/** The day `days` after a calendar date. */
export function addDays(date: CalendarDate, days: number): CalendarDate {
  return new Date(Date.parse(`${date}T00:00:00Z`) + days * 86_400_000).toISOString().slice(0, 10)
}

// A month that is too short ends the anniversary on its last day, except that the convention 'mar-01' moves a
// 29 February of a common year to the day after. Other months keep the clamp: the 31st of a short month is its last day.
function anniversary(from: DateParts, months: number, leapDay: LeapDayBirthday): CalendarDate {
  const index = from.year * 12 + (from.month - 1) + months
  const year = Math.floor(index / 12)
  const month = (index % 12) + 1
  const last = isoDaysInMonth(year, month)
  const isLeapBirthday = from.month === 2 && from.day === 29 && month === 2
  if (from.day > last && isLeapBirthday && leapDay === 'mar-01') return format(year, 3, 1)
  return format(year, month, Math.min(from.day, last))
}

function format(year: number, month: number, day: number): CalendarDate {
  return `${String(year).padStart(4, '0')}-${String(month).padStart(2, '0')}-${String(day).padStart(2, '0')}`
}
