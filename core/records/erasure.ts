import { addMonths, type CalendarDate } from '../calendar/calendar-date'
import { dateInZone } from '../calendar/zone'
import type { Notice } from '../notice/schema'

/** How long data of people are kept after a cycle, in months, where the office has said nothing else; and the bounds of what it may say. */
export const keptMonths = { usual: 12, least: 0, most: 240 } as const

/** The first day on which a cycle's data of people may be erased: some months after the last of its sessions and dates. */
export function erasableFrom(notice: Pick<Notice, 'keyDates' | 'sessions' | 'body'>, months: number): CalendarDate {
  const { ageOn: _, ...moments } = notice.keyDates
  const days = [...notice.sessions.map(session => session.date),
    ...Object.values(moments).map(moment => dateInZone(moment, notice.body.zone))]
  return addMonths(days.sort().at(-1) ?? '9999-12-31', months)
}
