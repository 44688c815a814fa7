import { readFileSync } from 'node:fs'
import { fileURLToPath } from 'node:url'
import { addDays, type CalendarDate } from '../core/calendar/calendar-date'
import { dateInZone, instantInZone, type Zone } from '../core/calendar/zone'

/**
 * The demo's notice with its dates set relative to a day: `today+38` becomes a calendar date, `today+3 17:00` an instant
 * in the zone of the body. Everything else stands in the file as it is.
 */
export function demoNotice(now: Date): unknown {
  const path = fileURLToPath(new URL('./harbour-lighthouse.notice.json', import.meta.url))
  const json = JSON.parse(readFileSync(path, 'utf8')) as { body: { zone: Zone } }
  return resolveDates(json, dateInZone(now, json.body.zone), json.body.zone)
}

/** A cycle of the same service that is over: the first notice as it would have been at an earlier moment, for one post's promotion. */
export function finishedNotice(then: Date): { code: string } & Record<string, unknown> {
  const notice = demoNotice(then) as { code: string, title: string, card: { title: string } } & Record<string, unknown>
  return { ...notice, code: 'LK26', title: 'Lighthouse Keepers Test 2026', card: { ...notice.card, title: 'Admit card' } }
}

function resolveDates(value: unknown, today: CalendarDate, zone: Zone): unknown {
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
