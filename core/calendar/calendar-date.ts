/**
 * Calendar dates: a day without a time, written YYYY-MM-DD (ISO 8601 extended format, proleptic Gregorian).
 * They are strings on purpose: a birthday is not an instant and must never shift with a zone.
 */
export type CalendarDate = string

interface DateParts {
  year: number
  month: number
  day: number
}

/** Days in a month of a year; month is 1 to 12. */
export function isoDaysInMonth(year: number, month: number): number {
  if (month === 2) return year % 4 === 0 && (year % 100 !== 0 || year % 400 === 0) ? 29 : 28
  return month === 4 || month === 6 || month === 9 || month === 11 ? 30 : 31
}

const hyphen = 45

// Read sign by sign: dates are the most parsed text of a batch.
function digitsAt(text: string, from: number, to: number): number {
  let value = 0
  for (let i = from; i < to; i += 1) {
    const digit = text.charCodeAt(i) - 48
    if (digit < 0 || digit > 9) return NaN
    value = value * 10 + digit
  }
  return value
}

/** The parts of a calendar date, or null when the text is not a day that exists. */
export function parseCalendarDate(text: string): DateParts | null {
  if (text.length !== 10 || text.charCodeAt(4) !== hyphen || text.charCodeAt(7) !== hyphen) return null
  const [year, month, day] = [digitsAt(text, 0, 4), digitsAt(text, 5, 7), digitsAt(text, 8, 10)]
  if (Number.isNaN(year + month + day)) return null
  if (month < 1 || month > 12 || day < 1 || day > isoDaysInMonth(year, month)) return null
  return { year, month, day }
}

/** Which day counts as the birthday of someone born on 29 February in a year that has none. */
export type LeapDayBirthday = 'feb-28' | 'mar-01'

export interface Age {
  years: number
  months: number
  days: number
}

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

/** The day a number of whole months after `date`; in a month that is too short, its last day. */
export function addMonths(date: CalendarDate, months: number): CalendarDate {
  const parts = parseCalendarDate(date)
  if (!parts) throw new RangeError(`not a calendar date: ${date}`)
  return anniversary(parts, months, 'feb-28')
}

/** The earliest day of birth on which somebody is not older than exactly `years` on a date: the birthday itself still fits. */
export function earliestBirth(on: CalendarDate, years: number, leapDay: LeapDayBirthday): CalendarDate {
  const fits = (born: CalendarDate) => {
    const age = ageOn(born, on, leapDay)
    return age === null || age.years < years || (age.years === years && age.months === 0 && age.days === 0)
  }
  let born = addYears(on, -years, leapDay)
  while (!fits(born)) born = addDays(born, 1)
  while (fits(addDays(born, -1))) born = addDays(born, -1)
  return born
}

/** The latest day of birth on which somebody has completed `years` on a date. */
export function latestBirth(on: CalendarDate, years: number, leapDay: LeapDayBirthday): CalendarDate {
  const fits = (born: CalendarDate) => (ageOn(born, on, leapDay)?.years ?? -1) >= years
  let born = addYears(on, -years, leapDay)
  while (!fits(born)) born = addDays(born, -1)
  while (fits(addDays(born, 1))) born = addDays(born, 1)
  return born
}

/** Days since 1970-01-01 of an existing calendar date, by whole-number arithmetic on eras of 400 years from 1 March. */
export function dayNumber(date: CalendarDate): number {
  const month = digitsAt(date, 5, 7)
  const year = digitsAt(date, 0, 4) - (month <= 2 ? 1 : 0)
  const era = Math.floor(year / 400)
  const yearOfEra = year - era * 400
  const dayOfYear = Math.floor((153 * (month + (month > 2 ? -3 : 9)) + 2) / 5) + digitsAt(date, 8, 10) - 1
  return era * 146_097 + yearOfEra * 365 + Math.floor(yearOfEra / 4) - Math.floor(yearOfEra / 100) + dayOfYear - 719_468
}

/** Whole days from one existing calendar date to another; negative when `to` is earlier. */
export function daysBetween(from: CalendarDate, to: CalendarDate): number {
  return dayNumber(to) - dayNumber(from)
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

/** The first day of the month that a day lies in. */
export const firstOfMonth = (date: CalendarDate): CalendarDate => `${date.slice(0, 8)}01`
