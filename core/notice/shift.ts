import { addDays, dayNumber, parseCalendarDate, type CalendarDate } from '../calendar/calendar-date'
import { clockInZone, dateInZone, instantInZone, type Zone } from '../calendar/zone'

/**
 * A past notice moved to a new beginning. `weekday` moves everything by whole weeks, so that a Friday stays a Friday; `day` by whole
 * months, so that the 15th stays the 15th (the last day where a month is too short); `days` by as many days as the beginning moves.
 */
export type Anchor = 'weekday' | 'day' | 'days'

/** What holds for one cycle only, or for a calendar that the office has to look up anew, is not carried along. */
const leftOut = ['holidays', 'news']

/**
 * @param notice any part of a notice.
 * @param from the day on which the old cycle opened, in the zone.
 * @param to about the day on which the new one is to open.
 */
export function shiftDates(notice: unknown, zone: Zone, from: CalendarDate, to: CalendarDate, anchor: Anchor): unknown {
  const days = dayNumber(to) - dayNumber(from)
  const moved = anchor === 'day'
    ? (date: CalendarDate) => addMonths(date, monthsBetween(from, to))
    : (date: CalendarDate) => addDays(date, anchor === 'weekday' ? Math.round(days / 7) * 7 : days)
  return walk(notice, (text) => {
    if (parseCalendarDate(text)) return moved(text)
    if (!/^\d{4}-\d\d-\d\dT\d\d:\d\d/.test(text) || Number.isNaN(Date.parse(text))) return text
    // The clock time of the office stays as it was.
    return new Date(instantInZone(moved(dateInZone(text, zone)), clockInZone(text, zone), zone).getTime() + Date.parse(text) % 1000)
      .toISOString()
  })
}

const monthsBetween = (from: CalendarDate, to: CalendarDate): number => {
  const months = (date: CalendarDate) => Number(date.slice(0, 4)) * 12 + Number(date.slice(5, 7)) - 1
  return months(to) - months(from)
}

function addMonths(date: CalendarDate, months: number): CalendarDate {
  const index = Number(date.slice(0, 4)) * 12 + Number(date.slice(5, 7)) - 1 + months
  const start = `${String(Math.floor(index / 12)).padStart(4, '0')}-${String((index % 12) + 1).padStart(2, '0')}`
  for (let day = Number(date.slice(8)); day > 28; day--) if (parseCalendarDate(`${start}-${day}`)) return `${start}-${day}`
  return `${start}-${String(Math.min(28, Number(date.slice(8)))).padStart(2, '0')}`
}

function walk(value: unknown, change: (text: string) => string): unknown {
  if (typeof value === 'string') return change(value)
  if (Array.isArray(value)) return value.map(one => walk(one, change))
  if (typeof value !== 'object' || value === null) return value
  return Object.fromEntries(Object.entries(value).map(([key, one]) => [key, leftOut.includes(key) ? [] : walk(one, change)]))
}
