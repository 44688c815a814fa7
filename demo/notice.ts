import { readFileSync } from 'node:fs'
import { fileURLToPath } from 'node:url'
import { dateInZone, type Zone } from '../core/calendar/zone'
import { resolveDates } from '../core/notice/relative-dates'

/** The demo's notice with its dates, which are relative to a day, set for that of `now`. */
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
