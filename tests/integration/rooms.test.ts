import { randomUUID } from 'node:crypto'
import { and, eq, isNull } from 'drizzle-orm'
import { afterAll, beforeAll, describe, expect, it } from 'vitest'
import { loadCrowd } from '../../demo/crowd'
import { marineCollegesNotice, withTestPapers } from '../../demo/marine-colleges'
import type { CardContent } from '../../core/admit-card/content'
import { seatKey, seatsOfCity } from '../../core/seating/seats'
import { withoutCentres } from '../../core/notice/centres'
import type { Notice } from '../../core/notice/schema'
import { admitCard, application, message, roomBooking, seat } from '../../server/database/schema'
import { publishRun } from '../../server/services/centres/publish'
import { changeRooms, changeVenue } from '../../server/services/centres/rooms'
import { runAllocation } from '../../server/services/centres/runs'
import { solveHere } from '../../server/services/centres/solver'
import { acceptReview } from '../../server/services/eligibility/take-over'
import { openReview, readReview } from '../../server/services/eligibility/reviews'
import { runReview } from '../../server/services/eligibility/review-run'
import { withdrawProposal } from '../../server/services/acts/proposals'
import { currentNotice, proposeNotice, putNotice } from '../../server/services/notice/notices'
import { runRequestSchema } from '../../shared/centres'
import type { RoomsChange } from '../../shared/places'
import { openOffice, type Office } from '../support/office'
import { testNow } from '../support/sample'

describe.each([['without test papers', (notice: Notice) => notice], ['with test papers', withTestPapers]] as const)(
  'rooms in which people have seats, %s',
  (_, made) => {
    let office: Office
    beforeAll(async () => {
      office = await openOffice()
      const notice = made(marineCollegesNotice(office.notice, testNow))
      notice.keyDates = office.notice.keyDates
      for (const room of notice.cities.flatMap(c => c.venues).flatMap(v => v.rooms)) {
        Object.assign(room, {
          seats: Math.ceil(room.seats / 8),
          accessibleSeats: Math.ceil(room.accessibleSeats / 8),
        })
      }
      await putNotice(office.as(), notice)
      await loadCrowd(office.db, notice, 300, office.now)
      const { runId } = await runAllocation(office.as(), 'MC27', runRequestSchema.parse({}), solveHere)
      await publishRun(office.as(), runId, { outsideDates: true, reason: 'tried before the close' })
    })
    afterAll(() => office.close())

    const held = () => office.db.select().from(seat).where(eq(seat.cycle, 'MC27')).orderBy(seat.roll, seat.ordinal)
    const notice = async () => (await currentNotice(office.db, 'MC27')).notice
    const use = async (code: string, more: Partial<RoomsChange['rooms'][number]> = {}): Promise<RoomsChange['rooms'][number]> => {
      const [row] = await office.db.select().from(roomBooking).where(and(eq(roomBooking.cycle, 'MC27'), eq(roomBooking.room, code)))
      return {
        room: code,
        seats: row?.seats ?? 0,
        stepFree: row?.accessibleSeats ?? 0,
        unusable: row?.unusable ?? [],
        closedIn: row?.closedIn ?? [],
        lost: row?.lost ?? false,
        ...more,
      }
    }
    const change = (rooms: RoomsChange['rooms'], mode: 'try' | 'do', given = {}) =>
      changeRooms(office.as(), 'MC27', { rooms, reason: 'The roof came down.' }, mode, given)
    /** Every seat is one that there is, and nobody has two in one session. */
    const areSound = async () => {
      const { cities, sessions } = await notice()
      const real = new Map(cities.flatMap(city => seatsOfCity(city, sessions)).map(one => [seatKey(one), one.accessible]))
      const rows = await held()
      expect(rows.map(row => real.get(seatKey(row))).filter((accessible, i) => accessible !== rows[i]?.accessible)).toEqual([])
      expect(new Set(rows.map(row => `${row.applicationId} ${row.session}`)).size).toBe(rows.length)
    }
    /** The room with the most people in it, in a city that has another. */
    const fullest = async () => {
      const rows = await held()
      const inRoom = (room: string) => new Set(rows.filter(row => row.room === room).map(row => row.applicationId)).size
      const rooms = (await notice()).cities.filter(city => city.venues.flatMap(v => v.rooms).length > 1).flatMap(city =>
        city.venues.flatMap(v => v.rooms)
      ).filter(room => !room.lost)
      return rooms.reduce((a, b) => inRoom(b.id) > inRoom(a.id) ? b : a).id
    }

    it('tells before what a change would do, does just that, and gives whoever it can another chair in the same city and session', async () => {
      const room = await fullest()
      const before = await held()
      const [one] = before.filter(row => row.room === room)
      await office.db.insert(admitCard).values({
        id: randomUUID(),
        applicationId: one?.applicationId ?? '',
        version: 1,
        content: {} as CardContent,
        code: 'x',
        photographSha256: '',
        signatureSha256: '',
        by: office.as().principal.id,
        at: office.now,
      })
      const lost = [await use(room, { lost: true })]
      const tried = await change(lost, 'try')
      expect([await held(), (await use(room)).lost]).toEqual([before, false])
      const done = await change(lost, 'do')
      expect(done).toEqual(tried)
      const people = new Set(before.filter(row => row.room === room).map(row => row.applicationId))
      expect([done.people, done.moved + done.without, done.moved > 0]).toEqual([people.size, people.size, true])
      const after = await held()
      for (const row of after) {
        const was = before.find(old => old.applicationId === row.applicationId && old.ordinal === row.ordinal)
        expect([row.city, row.session, row.roll, row.paper]).toEqual([was?.city, was?.session, was?.roll, was?.paper])
        if (was?.room !== room) expect([row.room, row.seat]).toEqual([was?.room, was?.seat])
      }
      await areSound()
      const placements = await office.db.select({ id: application.id, placement: application.placement }).from(application)
        .where(eq(application.cycle, 'MC27'))
      expect(placements.filter(row => people.has(row.id)).map(row => row.placement).sort()).toEqual([
        ...Array<string>(done.moved).fill('moved'),
        ...Array<string>(done.without).fill('unplaced'),
      ])
      expect((await office.db.select().from(message).where(eq(message.cycle, 'MC27'))).filter(row =>
        ['change-seat', 'take-seat-back'].includes(row.kind)
      ).length).toBe(people.size)
      expect(await office.db.select().from(admitCard)
        .where(and(eq(admitCard.applicationId, one?.applicationId ?? ''), isNull(admitCard.voidAt)))).toEqual([])
      await expect(change(lost, 'do')).rejects.toMatchObject({ problem: { code: 'register.rooms-as-before' } })
    })

    it('closes a room in one session, takes seats out that nobody can sit on, and keeps step-free ones for those who need them', async () => {
      const room = await fullest()
      const [session] = (await notice()).sessions
      const seats = (await held()).filter(row => row.room === room && row.session !== session?.id)
      const unusable = seats.slice(0, 2).map(row => row.seat)
      await change([await use(room, { closedIn: [session?.id ?? ''], unusable, stepFree: 0 })], 'do')
      expect((await held()).filter(row => row.room === room && (row.session === session?.id || unusable.includes(row.seat)))).toEqual([])
      await areSound()
      const [waiting] = await office.db.select().from(application)
        .where(and(eq(application.cycle, 'MC27'), eq(application.placement, 'unplaced'), eq(application.scrutiny, 'accepted'))).limit(1)
      if (waiting) await runAllocation(office.as(), 'MC27', runRequestSchema.parse({ scope: 'waiting' }), solveHere)
    })

    it('refuses what does not go together, in words, and waits for a second person where the notice says so', async () => {
      const room = await fullest()
      const code = (given: Promise<unknown>) => given.then(() => 'done', (error: { problem: { code: string } }) => error.problem.code)
      expect(await Promise.all([
        code(change([await use('nowhere', { seats: 1 })], 'try')),
        code(change([await use(room, { seats: 2, stepFree: 3 })], 'try')),
        code(change([await use(room, { seats: 2, stepFree: 0, unusable: [3] })], 'try')),
        code(change([await use(room, { closedIn: ['never'] })], 'try')),
        code(changeRooms(office.as(), 'MC27', { rooms: [await use(room, { lost: true })], reason: 'a' }, 'do')),
      ])).toEqual(['register.room-unknown', 'register.room-seats', 'register.room-seats', 'register.session-unknown', 'act.reason'])
      const before = await held()
      await putNotice(office.as(), { ...withoutCentres(await notice()), secondPerson: ['change-rooms'] })
      const waits = await change([await use(room, { lost: true })], 'do')
      expect([waits.proposal !== null, waits.people > 0, await held()]).toEqual([true, true, before])
      await expect(change([await use(room, { lost: true })], 'do', {
        confirmed: { proposal: waits.proposal, by: office.as().principal.id },
      })).rejects.toMatchObject({ problem: { code: 'access.second-self' } })
      await withdrawProposal(office.as(), waits.proposal ?? '')
    })

    it('lets a venue say whom to ask, for every examination', async () => {
      const [venue] = (await notice()).cities[0]?.venues ?? []
      await changeVenue(office.as(), venue?.id ?? '', { title: venue?.title ?? '', address: '3 New Quay', contact: 'Ona Brill, 0555 0199' })
      expect((await notice()).cities[0]?.venues[0]).toMatchObject({ address: '3 New Quay', contact: 'Ona Brill, 0555 0199' })
      await expect(changeVenue(office.as(), 'nowhere', { title: 'x', address: 'x', contact: '' })).rejects.toMatchObject({
        problem: { code: 'register.venue-unknown' },
      })
    })

    it('counts and lists whose seats an amended notice takes away or puts at another hour, and does it when it is accepted', async () => {
      const now = await notice()
      const [first, second] = now.sessions
      const before = await held()
      // Papers that were held in the first session only are held in the last from now on.
      const elsewhere = (sessions: string[]) =>
        sessions.some(id => id !== first?.id) ? sessions.filter(id => id !== first?.id) : [now.sessions.at(-1)?.id ?? '']
      const amended = {
        ...withoutCentres(now),
        testPapers: now.testPapers.map(paper => ({ ...paper, sessions: elsewhere(paper.sessions) })),
        sessions: now.sessions.filter(one => one.id !== first?.id).map(one => one.id === second?.id ? { ...one, ends: '19:45' } : one),
      }
      const id = randomUUID()
      await office.db.transaction(async (tx) => {
        const context = await office.as().authorise('notice.amend')
        await openReview(tx, context, 'MC27', id, await proposeNotice(tx, context, 'MC27', amended, 'The hall is let.'), 'The hall is let.')
      })
      await runReview(office.as(), id, () => Promise.resolve(true))
      const review = await readReview(office.as(), id, { limit: 500 })
      const gone = new Set(before.filter(row => row.session === first?.id).map(row => row.applicationId))
      const moved = new Set(before.filter(row => row.session === second?.id && !gone.has(row.applicationId)).map(row => row.applicationId))
      expect(review.totals.seats).toEqual({ gone: gone.size, anotherHour: moved.size })
      expect(review.seatChanges.rows.map(row => row.fate).sort()).toEqual([...Array<string>(moved.size).fill('another hour'),
        ...Array<string>(gone.size).fill('gone')])
      const { seats } = await acceptReview(office.as(), id)
      expect([seats.moved + seats.without, seats.anotherHour]).toEqual([gone.size, moved.size])
      expect((await held()).filter(row => row.session === first?.id)).toEqual([])
      await areSound()
    })
  },
)
