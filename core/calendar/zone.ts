import type { CalendarDate } from './calendar-date'

/**
 * The zone of the body: a name people know, and the distance from UTC in minutes. Where clocks are set forward and back, `timeZone` names
 * the zone in the IANA time zone database, and the distance is what that says of each moment.
 */
export interface Zone {
  name: string
  utcOffsetMinutes: number
  timeZone?: string
}

const weekdays = ['Sun', 'Mon', 'Tue', 'Wed', 'Thu', 'Fri', 'Sat']
const months = ['Jan', 'Feb', 'Mar', 'Apr', 'May', 'Jun', 'Jul', 'Aug', 'Sep', 'Oct', 'Nov', 'Dec']

const clocks = new Map<string, Intl.DateTimeFormat | null>()
const numbers = {
  year: 'numeric',
  month: 'numeric',
  day: 'numeric',
  hour: 'numeric',
  minute: 'numeric',
  second: 'numeric',
  hourCycle: 'h23',
} as const

/** The clock of a zone of the database; null where it has none of that name. */
function clockOf(timeZone: string): Intl.DateTimeFormat | null {
  const known = clocks.get(timeZone)
  if (known !== undefined) return known
  let clock: Intl.DateTimeFormat | null = null
  try {
    clock = new Intl.DateTimeFormat('en', { ...numbers, timeZone })
  } catch {
    // The checks of the notice say so; until it is mended the fixed distance holds.
  }
  clocks.set(timeZone, clock)
  return clock
}

/** Minutes east of UTC in the zone at an instant. */
export function offsetAt(instant: Date | string, { timeZone, utcOffsetMinutes }: Zone): number {
  const at = new Date(instant).getTime()
  const clock = timeZone === undefined || Number.isNaN(at) ? null : clockOf(timeZone)
  if (!clock) return utcOffsetMinutes
  const part = Object.fromEntries(clock.formatToParts(at).map(({ type, value }) => [type, Number(value)]))
  const { year = 0, month = 0, day = 0, hour = 0, minute = 0, second = 0 } = part
  return Math.round((Date.UTC(year, month - 1, day, hour, minute, second) - Math.floor(at / 1000) * 1000) / 60_000)
}

/** Whether the time zone database has a zone of this name. */
export const isTimeZone = (name: string): boolean => clockOf(name) !== null

function local(instant: Date | string, zone: Zone): Date {
  return new Date(new Date(instant).getTime() + offsetAt(instant, zone) * 60_000)
}

const two = (n: number) => String(n).padStart(2, '0')

/** The calendar date in the zone at an instant. */
export function dateInZone(instant: Date | string, zone: Zone): CalendarDate {
  return local(instant, zone).toISOString().slice(0, 10)
}

/** The clock time in the zone at an instant, as HH:MM:SS. */
export const clockInZone = (instant: Date | string, zone: Zone): string => local(instant, zone).toISOString().slice(11, 19)

/**
 * The instants at which a clock in the zone shows a time (HH:MM or HH:MM:SS) on a date, in their order: one; two where the clock was set
 * back; none where it was set forward.
 */
export function instantsOf(date: CalendarDate, time: string, zone: Zone): Date[] {
  const shown = Date.parse(`${date}T${time.length === 5 ? `${time}:00` : time}Z`)
  const offsets = [...new Set([-1, 1].map(days => offsetAt(new Date(shown + days * 86_400_000), zone)))]
  return offsets.map(offset => new Date(shown - offset * 60_000)).filter((at, i) => offsetAt(at, zone) === offsets[i]).sort((a, b) =>
    a.getTime() - b.getTime()
  )
}

/**
 * The instant of a clock time (HH:MM or HH:MM:SS) on a date in the zone. A time that the clock shows twice is the first one; one that it
 * never shows is read with the distance from UTC that held before the clock was set (RFC 5545, section 3.3.5).
 */
export function instantInZone(date: CalendarDate, time: string, zone: Zone): Date {
  const shown = Date.parse(`${date}T${time.length === 5 ? `${time}:00` : time}Z`)
  if (zone.timeZone === undefined || Number.isNaN(shown)) return new Date(shown - zone.utcOffsetMinutes * 60_000)
  return instantsOf(date, time, zone)[0] ?? new Date(shown - offsetAt(new Date(shown - 86_400_000), zone) * 60_000)
}

/** The hour of the clock in the zone at an instant, from 0 to 23. */
export const hourInZone = (instant: Date | string, zone: Zone): number => local(instant, zone).getUTCHours()

/** `Fri 27 Nov 2026, 17:00 Ilmara time`: the month is spelled so that no one can mix it with the day. */
export function spellInstant(instant: Date | string, zone: Zone): string {
  return `${spellInstantShort(instant, zone)} ${zone.name}`
}

/** As `spellInstant`, without the name of the zone: for columns whose head carries it. */
export function spellInstantShort(instant: Date | string, zone: Zone): string {
  const at = local(instant, zone)
  return `${spellDay(at)}, ${two(at.getUTCHours())}:${two(at.getUTCMinutes())}`
}

/** `Fri 27 Nov 2026` for a calendar date; of days long past, such as birthdays, the weekday tells nothing: see `spellBirthday`. */
export function spellDate(date: CalendarDate): string {
  return spellDay(new Date(`${date}T00:00:00Z`))
}

/** `29 Feb 2004` */
export function spellBirthday(date: CalendarDate): string {
  return spellDate(date).slice(4)
}

/** `Feb 2004`, of the month that a day lies in. */
export function spellMonth(date: CalendarDate): string {
  return spellBirthday(date).replace(/^\d+ /, '')
}

function spellDay(at: Date): string {
  return `${weekdays[at.getUTCDay()]} ${at.getUTCDate()} ${months[at.getUTCMonth()]} ${at.getUTCFullYear()}`
}

/** `3 d 4 h 12 min` until an instant, or null when it has passed. */
export function spellUntil(instant: Date | string, now: Date): string | null {
  const minutes = Math.floor((new Date(instant).getTime() - now.getTime()) / 60_000)
  return minutes < 0 ? null : spellMinutes(minutes)
}

/** `2 d 6 h`, `6 h 10 min` or `4 min`: the two largest units that matter. */
export function spellMinutes(minutes: number): string {
  const [d, h, m] = [Math.floor(minutes / 1440), Math.floor((minutes % 1440) / 60), minutes % 60]
  if (d > 0) return `${d} d ${h} h`
  if (h > 0) return `${h} h ${m} min`
  return `${m} min`
}
