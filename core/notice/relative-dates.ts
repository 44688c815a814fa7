import { addDays, type CalendarDate } from '../calendar/calendar-date'
import { instantInZone, type Zone } from '../calendar/zone'

/**
 * A notice, or any part of one, with the dates that it states relative to a day: `today+38` becomes a calendar date, `today+3 17:00` an
 * instant in the zone of the body. Everything else stays as it is.
 */
export function resolveDates(value: unknown, today: CalendarDate, zone: Zone): unknown {
  if (typeof value === 'string') return resolveDate(value, today, zone)
  if (Array.isArray(value)) return value.map(inner => resolveDates(inner, today, zone))
  if (typeof value !== 'object' || value === null) return value
  return Object.fromEntries(Object.entries(value).map(([key, inner]) => [key, resolveDates(inner, today, zone)]))
}

function resolveDate(text: string, today: CalendarDate, zone: Zone): string {
  const match = /^today([+-]\d+)(?: (\d\d:\d\d))?$/.exec(text)
  if (!match) return text
  const date = addDays(today, Number(match[1]))
  return match[2] ? instantInZone(date, match[2], zone).toISOString() : date
}
