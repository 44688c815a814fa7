import { and, asc, eq, gt, inArray, sql } from 'drizzle-orm'
import { listAnswer } from '../../../core/application/answers'
import { needsStepFree } from '../../../core/application/requests'
import { testPapersOf } from '../../../core/application/timetable'
import type { Notice } from '../../../core/notice/schema'
import { assignSeats, seatKey, seatsOfCity, venueSeats, type Seat } from '../../../core/seating/seats'
import { papersByPost, StandingSeats, type SeatFate } from '../../../core/seating/stands'
import { grouped } from '../../../shared/grouped'
import type { Executor } from '../../database/client'
import { application, seat } from '../../database/schema'
import { carryOutOnMany } from '../acts/carry-out'
import { countedAnswers, standingColumns, type StandingRow } from '../applications/store'
import type { Context } from '../context'
import type { CurrentNotice } from '../notice/notices'
import { seatsApart } from './kept'
import { noSeat, seatsAsRecorded, unseat, voidCards } from './seats'
import { freeSeats } from './sittings'

/** Seats that people were told and that do not stand any more, since a room, a session or a test paper changed. */

type SeatRow = typeof seat.$inferSelect
/** Somebody whose seats do not all stand: `gone` are those that they lose. */
export interface Unsettled {
  row: StandingRow
  seats: SeatRow[]
  gone: SeatRow[]
  needs: boolean
  fate: Exclude<SeatFate, 'stands'>
  /** They must sit other papers now: another chair does not help. */
  isOtherwise: boolean
}
/** What is done to them, in people: another chair in the same city and sessions, none any more, and the same chair at another hour. */
export interface Resettled {
  moved: number
  without: number
  anotherHour: number
}

/** Rooms, and the venues in which they lie. */
export interface RoomsAt {
  rooms: readonly string[]
  venues: readonly string[]
}
/** Seats of a cycle in some rooms; by their venues the index of places finds them. */
export const seatIn = (cycle: string, { rooms, venues }: RoomsAt) =>
  and(eq(seat.cycle, cycle), inArray(seat.venue, [...venues]), inArray(seat.room, [...rooms]))

const pageSize = 1000

/**
 * Goes through everybody whose seats do not all stand under another notice, by application number.
 *
 * @param asked `rooms`: those that change; without any, all of the cycle. `isHeld`: the applications are held until the transaction ends.
 */
export async function* unsettledPeople(
  db: Executor,
  cycle: string,
  before: Notice,
  after: Notice,
  { rooms = null, isHeld = false }: { rooms?: RoomsAt | null, isHeld?: boolean } = {},
): AsyncGenerator<Unsettled[]> {
  const standing = new StandingSeats(before, after)
  const papersChange = papersByPost(before) !== papersByPost(after)
  const inRooms = rooms ? inArray(application.id, db.select({ id: seat.applicationId }).from(seat).where(seatIn(cycle, rooms))) : undefined
  const columns = { ...standingColumns, answers: application.answers, falseClaims: application.falseClaims, requests: application.requests }
  for (let last = '';;) {
    const found = db.select(columns).from(application).innerJoin(seat, and(eq(seat.applicationId, application.id), eq(seat.ordinal, 0)))
      .where(and(eq(application.cycle, cycle), gt(application.number, last), inRooms)).orderBy(asc(application.number)).limit(pageSize)
    const page = await (isHeld ? found.for('update', { of: application }) : found)
    if (page.length === 0) return
    const held = grouped(
      await db.select().from(seat).where(inArray(seat.applicationId, page.map(row => row.id))).orderBy(
        asc(seat.applicationId),
        asc(seat.ordinal),
      ),
      one => one.applicationId,
    )
    yield page.flatMap(({ answers, falseClaims, requests, ...row }): Unsettled[] => {
      const counted = countedAnswers(after, { answers, falseClaims, requests })
      const needs = needsStepFree(after, counted)
      const seats = held.get(row.id) ?? []
      const isOtherwise = papersChange && after.testPapers.length > 0
        && testPapersOf(after, listAnswer(counted, 'posts')).map(paper => paper.id).sort().join()
          !== seats.map(one => one.paper).sort().join()
      const fates = seats.map(one => isOtherwise ? 'gone' : standing.fateOf(one, needs))
      const fate = fates.includes('gone') ? 'gone' : fates.includes('another hour') ? 'another hour' : null
      return fate ? [{ row, seats, gone: seats.filter((_, i) => fates[i] === 'gone'), needs, fate, isOtherwise }] : []
    })
    last = page.at(-1)?.number ?? ''
  }
}

/**
 * Gives those whose seats are gone another chair in the same city and sessions where one is free, takes the seats of those for whom there
 * is none, and tells those whose sessions lie at another hour. Their cards are void. The cycle is held, and the notice is the one that
 * holds now.
 *
 * @param rooms those that change; without any, all of the cycle.
 */
export async function resettle(
  tx: Executor,
  context: Context,
  current: CurrentNotice,
  before: Notice,
  reason: string,
  rooms: RoomsAt | null = null,
): Promise<Resettled> {
  const { notice } = current
  const done: Resettled = { moved: 0, without: 0, anotherHour: 0 }
  const losing: Unsettled[] = []
  for await (const page of unsettledPeople(tx, notice.code, before, notice, { rooms, isHeld: true })) {
    losing.push(...page.filter(one => one.fate === 'gone'))
    const told = page.filter(one => one.fate === 'another hour')
    done.anotherHour += told.length
    await tell(tx, context, current, before, told, reason)
  }
  // All are taken out first: a chair that one of them leaves may be another's.
  for (const { people } of inThousands(losing)) await takeOut(tx, people)
  const chairs = await otherChairs(tx, notice, before, losing)
  const moved = losing.filter(one => chairs.has(one.row.id))
  const without = losing.filter(one => !chairs.has(one.row.id))
  done.moved = moved.length
  done.without = without.length
  for (const { people } of inThousands(moved)) {
    await tx.insert(seat).values(people.flatMap(one => one.gone.map(row => ({ ...row, ...chairs.get(one.row.id)?.get(row.ordinal) }))))
  }
  await tell(tx, context, current, before, moved, reason)
  await unseat(tx, context, without.map(one => one.row.id))
  const seatsBefore = recordOf(before, without)
  await carryOutOnMany(
    tx,
    context,
    'take-seat-back',
    current,
    without.map(one => one.row),
    { reason },
    row => ({ before: seatsBefore.get(row.id), after: { ...noSeat(seatsBefore.get(row.id)), placement: 'unplaced' } }),
  )
  return done
}

const takeOut = (tx: Executor, people: readonly Unsettled[]) => {
  const rows = people.flatMap(one => one.gone)
  return tx
    .execute(sql`delete from ${seat} using unnest(${sql.param(rows.map(row => row.applicationId))}::uuid[], ${
      sql.param(rows.map(row => row.ordinal))
    }::int[]) as out(id, place)
    where ${seat.applicationId} = out.id and ${seat.ordinal} = out.place`)
}

// As the rooms and sessions were called when the seats were told.
const recordOf = (before: Notice, people: readonly Unsettled[]) =>
  new Map(people.map(one => [one.row.id, seatsAsRecorded(before, one.seats)]))

async function tell(
  tx: Executor,
  context: Context,
  current: CurrentNotice,
  before: Notice,
  people: readonly Unsettled[],
  reason: string,
): Promise<void> {
  const seatsBefore = recordOf(before, people)
  await voidCards(tx, context, people.map(one => one.row.id))
  for (const { people: some, ids } of inThousands(people)) {
    const now = grouped(
      await tx.select().from(seat).where(inArray(seat.applicationId, ids)).orderBy(asc(seat.ordinal)),
      one => one.applicationId,
    )
    await carryOutOnMany(
      tx,
      context,
      'change-seat',
      current,
      some.map(one => one.row),
      { reason },
      row => ({ before: seatsBefore.get(row.id), after: seatsAsRecorded(current.notice, now.get(row.id) ?? []) }),
    )
  }
}

function* inThousands(people: readonly Unsettled[]): Generator<{ people: Unsettled[], ids: string[] }> {
  for (let from = 0; from < people.length; from += 1000) {
    const some = people.slice(from, from + 1000)
    yield { people: some, ids: some.map(one => one.row.id) }
  }
}

/**
 * For each person who can be moved within their city and sessions, the chairs by the place of the seat among theirs. Who needs a step-free
 * one comes first, then the order of numbers.
 */
async function otherChairs(
  tx: Executor,
  notice: Notice,
  before: Notice,
  losing: readonly Unsettled[],
): Promise<Map<string, Map<number, Seat>>> {
  const standing = new StandingSeats(before, notice)
  const found = new Map<string, Map<number, Seat>>()
  if (losing.length === 0) return found
  const free = await freeSeats(tx, notice.code, 'waiting', venueSeats(notice))
  // Seats that are kept for some stay kept: what is counted here is open to all.
  const open = new Map((await seatsApart(tx, notice.code, notice, 'waiting', free, [])).map(row => [`${row.city}/${row.session}`, row]))
  const wanted = new Map<string, { one: Unsettled, ordinal: number }[]>()
  const inOrder = [...losing].sort((a, b) => Number(b.needs) - Number(a.needs) || (a.row.number < b.row.number ? -1 : 1))
  for (const one of inOrder) {
    const rows = one.gone.map(row => ({
      key: `${row.city}/${row.session}`,
      ordinal: row.ordinal,
      left: open.get(`${row.city}/${row.session}`),
    }))
    const fits = !one.isOtherwise && one.gone.every(row => standing.isPaperHeld(row))
      && rows.every(({ left }) => left && (one.needs ? left.accessibleSeats : left.seats) > 0)
    if (!fits) continue
    for (const { key, ordinal, left } of rows) {
      if (!left) continue
      left.seats -= 1
      left.accessibleSeats = Math.min(left.seats, left.accessibleSeats - (one.needs ? 1 : 0))
      const there = wanted.get(key) ?? []
      there.push({ one, ordinal })
      wanted.set(key, there)
    }
  }
  const taken = await heldIn(tx, notice.code, [...new Set([...wanted.keys()].map(key => key.slice(0, key.indexOf('/'))))])
  for (const [key, some] of wanted) {
    const [cityCode = '', session = ''] = key.split('/')
    const city = notice.cities.find(c => c.id === cityCode)
    const seats = city ? seatsOfCity(city, notice.sessions.filter(s => s.id === session)).filter(one => !taken.has(seatKey(one))) : []
    const given = assignSeats(cityCode, seats, some.map(({ one }) => ({ id: one.row.number, needsAccessible: one.needs })))
    for (const { one, ordinal } of some) {
      const chair = given.get(one.row.number)
      if (chair) found.set(one.row.id, (found.get(one.row.id) ?? new Map<number, Seat>()).set(ordinal, chair))
    }
  }
  return found
}

/** Every chair of some cities that somebody holds. */
async function heldIn(tx: Executor, cycle: string, cities: readonly string[]): Promise<Set<string>> {
  if (cities.length === 0) return new Set()
  const rows = await tx.select({ venue: seat.venue, room: seat.room, session: seat.session, seat: seat.seat }).from(seat)
    .where(and(eq(seat.cycle, cycle), inArray(seat.city, [...cities])))
  return new Set(rows.map(seatKey))
}
