import { addDays } from '../calendar/calendar-date'
import { isClosedDay } from '../calendar/closed-days'
import { dateInZone, instantInZone } from '../calendar/zone'
import type { Notice } from '../notice/schema'

/** Days on which the office is open within which it answers a question. */
export const answeredWithin = 3
/** Questions of one application that may wait at once. */
export const openAtMost = 5

/** Until when a question is answered: the last minute of the last of these days, the day on which it was asked not counted. */
export function answerBy(asked: Date, { body }: Pick<Notice, 'body'>): Date {
  let day = dateInZone(asked, body.zone)
  for (let left = answeredWithin, looked = 0; left > 0 && looked < 400; looked += 1) {
    day = addDays(day, 1)
    if (!isClosedDay(body, day)) left -= 1
  }
  return instantInZone(day, '23:59', body.zone)
}
