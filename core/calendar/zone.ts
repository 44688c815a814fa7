import type { CalendarDate } from './calendar-date'

/** The zone of the body: a name people know and a fixed distance from UTC in minutes. */
export interface Zone { name: string, utcOffsetMinutes: number }

const weekdays = ['Sun', 'Mon', 'Tue', 'Wed', 'Thu', 'Fri', 'Sat']
const months = ['Jan', 'Feb', 'Mar', 'Apr', 'May', 'Jun', 'Jul', 'Aug', 'Sep', 'Oct', 'Nov', 'Dec']

function local(instant: Date | string, zone: Zone): Date {
  return new Date(new Date(instant).getTime() + zone.utcOffsetMinutes * 60_000)
}

const two = (n: number) => String(n).padStart(2, '0')

/** The calendar date in the zone at an instant. */
export function dateInZone(instant: Date | string, zone: Zone): CalendarDate {
  return local(instant, zone).toISOString().slice(0, 10)
}

/** The instant of a clock time (HH:MM or HH:MM:SS) on a date in the zone. */
export function instantInZone(date: CalendarDate, time: string, zone: Zone): Date {
  return new Date(Date.parse(`${date}T${time.length === 5 ? `${time}:00` : time}Z`) - zone.utcOffsetMinutes * 60_000)
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
