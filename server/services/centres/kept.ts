import { and, asc, eq, gt, inArray, sql } from 'drizzle-orm'
import { placeableOf } from '../../../core/application/sheet'
import { setApart, type SeatRow } from '../../../core/allocation/kept'
import type { Notice } from '../../../core/notice/schema'
import type { SessionSeats } from '../../../shared/centres'
import type { Executor } from '../../database/client'
import { application, seat } from '../../database/schema'
import { countedAnswers } from '../applications/store'
import type { InputScope, Locked } from './asked'

/** Sets the seats apart that the notice keeps for some, less those that people of theirs have been given already, by a run or by hand. */
export async function seatsApart(
  db: Executor,
  cycle: string,
  notice: Notice,
  scope: InputScope,
  free: readonly SessionSeats[],
  locked: readonly Locked[],
): Promise<SeatRow[]> {
  const { kept } = notice.allocation
  if (kept.length === 0) return [...free]
  const had = new Map<string, number>()
  const count = (held: number, city: string, session: string) => {
    const group = kept.findIndex((one, i) => (held >> i & 1) === 1 && one.seats.some(row => row.city === city))
    if (group >= 0) had.set(`${group}/${city}/${session}`, (had.get(`${group}/${city}/${session}`) ?? 0) + 1)
  }
  for (const one of locked) for (const session of one.sessions ?? []) count(one.kept, one.city, session)
  if (scope === 'waiting') await countSeated(db, cycle, notice, count)
  return setApart(free, kept, (group, city, session) => had.get(`${group}/${city}/${session}`) ?? 0)
}

/** Goes through everybody who has a seat in a city with kept ones; the answers tell who belongs to whom seats are kept for. */
async function countSeated(
  db: Executor,
  cycle: string,
  notice: Notice,
  count: (held: number, city: string, session: string) => void,
): Promise<void> {
  const cities = notice.allocation.kept.flatMap(one => one.seats.map(row => row.city))
  const sessions = sql<string[]>`(select array_agg(s.session) from ${seat} s where s.application_id = ${application.id})`
  const columns = {
    sessions,
    answers: application.answers,
    falseClaims: application.falseClaims,
    requests: application.requests,
    number: application.number,
    city: seat.city,
  }
  for (let after = '';;) {
    const page = await db.select(columns).from(application).innerJoin(
      seat,
      and(eq(seat.applicationId, application.id), eq(seat.ordinal, 0)),
    ).where(and(eq(application.cycle, cycle), inArray(seat.city, cities), gt(application.number, after))).orderBy(asc(application.number))
      .limit(5000)
    for (const row of page) {
      const kept = placeableOf(notice, countedAnswers(notice, row))?.kept ?? 0
      if (kept !== 0) { for (const session of row.sessions) count(kept, row.city, session) }
    }
    after = page.at(-1)?.number ?? ''
    if (page.length < 5000) return
  }
}
