import { eq } from 'drizzle-orm'
import { afterAll, beforeAll, describe, expect, it } from 'vitest'
import { loadCrowd } from '../../demo/crowd'
import { marineCollegesNotice, withTestPapers } from '../../demo/marine-colleges'
import { listAnswer } from '../../core/application/answers'
import { correctionEffects } from '../../core/application/correction-effects'
import { collide, testPapersOf } from '../../core/application/timetable'
import { noCity } from '../../core/allocation/instance'
import { RestrictedClasses } from '../../core/allocation/restrictions'
import { placeableOf } from '../../core/application/sheet'
import type { Notice } from '../../core/notice/schema'
import { english } from '../../core/words/en'
import { application, seat } from '../../server/database/schema'
import { readDemand } from '../../server/services/centres/demand'
import { costOfMove, placeByHand } from '../../server/services/centres/moves'
import { publishRun } from '../../server/services/centres/publish'
import { instanceOfRun, readRun, readRunPeople, readWhy } from '../../server/services/centres/run-view'
import { runAllocation, storedRun } from '../../server/services/centres/runs'
import { computeSavings } from '../../server/services/centres/savings'
import { takeSeatBack } from '../../server/services/centres/seats'
import { solveHere } from '../../server/services/centres/solver'
import { putNotice } from '../../server/services/notice/notices'
import { readDossier } from '../../server/services/applications/dossier'
import { runRequestSchema } from '../../shared/centres'
import { grouped } from '../../shared/grouped'
import { openOffice, type Office } from '../support/office'
import { testNow } from '../support/sample'

// A cycle with test papers, from the run to the seats: what one person sits is several seats in one city.
let office: Office
let notice: Notice
const people = 400
beforeAll(async () => {
  office = await openOffice()
  notice = withTestPapers(marineCollegesNotice(office.notice, testNow))
  notice.keyDates = office.notice.keyDates
  for (const room of notice.cities.flatMap(c => c.venues).flatMap(v => v.rooms)) {
    Object.assign(room, { seats: Math.ceil(room.seats / 14), accessibleSeats: Math.ceil(room.accessibleSeats / 14) })
  }
  await putNotice(office.as(), notice)
  await loadCrowd(office.db, notice, people, office.now)
})
afterAll(() => office.close())

const run = async (request: object = {}) => (await runAllocation(office.as(), 'MC27', runRequestSchema.parse(request), solveHere)).runId
const seats = () => office.db.select().from(seat).where(eq(seat.cycle, 'MC27')).orderBy(seat.applicationId, seat.ordinal)
const publish = (runId: string) => publishRun(office.as(), runId, { outsideDates: true, reason: 'tried before the close' })

/**
 * The seats of everybody, after looking that they fit: a paper each, in its sessions, none of which collide, all in one city under one roll
 * number.
 */
async function soundSeats(): Promise<Map<string, (typeof seat.$inferSelect)[]>> {
  const held = grouped(await seats(), one => one.applicationId)
  for (const row of await office.db.select().from(application).where(eq(application.cycle, 'MC27'))) {
    const own = held.get(row.id)
    if (!own) continue
    expect(own.map(one => one.paper)).toEqual(testPapersOf(notice, listAnswer(row.answers, 'posts')).map(p => p.id))
    expect([new Set(own.map(one => one.city)).size, new Set(own.map(one => one.roll)).size]).toEqual([1, 1])
    for (const one of own) expect(notice.testPapers.find(p => p.id === one.paper)?.sessions).toContain(one.session)
    const sat = own.flatMap(one => notice.sessions.filter(s => s.id === one.session))
    sat.forEach((one, i) => sat.slice(i + 1).forEach(other => expect(collide(one, other)).toBe(false)))
  }
  return held
}

describe('a cycle with test papers', () => {
  it('is run, explained and published: a seat for each paper, in one city, under one roll number', async () => {
    const runId = await run()
    const detail = await readRun(office.as(), runId)
    expect(['certified', 'bounded']).toContain(detail.standing)
    expect(detail.sittings.reduce((n, row) => n + row.placed + row.unseated, 0)).toBe(people)
    expect(detail.sittings.map(row => row.papers.length)).toEqual(expect.arrayContaining([1, 2]))
    const { people: placed } = await readRunPeople(office.as(), runId, { limit: 5000 })
    const two = placed.find(p => p.sessions?.length === 2)
    expect((await readWhy(office.as(), runId, two?.applicationId ?? '')).words.length).toBeGreaterThan(0)
    // Whoever missed the first choice would gain by seats there.
    const [saved] = await computeSavings(office.as(), runId, [placed.find(p => p.choice !== 1)?.choices[0] ?? ''], 50, solveHere)
    expect(saved?.saves).toBeGreaterThan(0)
    await publish(runId)
    const held = await soundSeats()
    expect(held.size).toBe(placed.filter(p => p.city !== null).length)
    const dossier = await readDossier(office.as(), two?.applicationId ?? '')
    expect(dossier.placement?.sittings.map(s => s.session)).toEqual(two?.sessions)
  })

  it('can be asked again from what was kept, and what a move or more seats would change', async () => {
    const runId = await run({ scope: 'everyone' })
    const stored = await storedRun(office.db, runId)
    const instance = await instanceOfRun(office.db, stored)
    const { cityOf, cost } = await solveHere(instance, stored.policy)
    expect(cost).toBe(stored.cost)
    const { people: placed } = await readRunPeople(office.as(), runId, { limit: 5000 })
    expect([...cityOf].map(k => k === noCity ? null : stored.cities[k]?.id)).toEqual(placed.map(p => p.city))
    const [someone] = placed
    expect((await costOfMove(office.as(), runId, someone?.applicationId ?? '', someone?.city ?? '', solveHere)).points).toBe(0)
  })

  it('keeps seats that stay, moves whole people, and seats one placed by hand with both papers', async () => {
    const before = await soundSeats()
    const rows = new Map((await office.db.select().from(application).where(eq(application.cycle, 'MC27'))).map(row => [row.id, row]))
    /** Cities that the notice closes to nobody of this person's answers. */
    const openTo = (id: string) => {
      const placeable = placeableOf(notice, rows.get(id)?.answers ?? {})
      const classes = new RestrictedClasses(notice.allocation.restrictions)
      if (placeable) classes.classOf(placeable.held, placeable.home)
      const bars = classes.bars(notice.cities)
      return notice.cities.filter((_, at) => bars?.closed[at] !== 1)
    }
    const movable = [...before.values()].filter(own => own.length === 2).flat().flatMap((one) => {
      const other = openTo(one.applicationId).find(city => city.id !== one.city)
      return other ? [{ moved: one, other }] : []
    })
    const [pair] = movable
    if (!pair) throw new Error('nobody who sits two papers may sit elsewhere')
    const { moved, other } = pair
    await takeSeatBack(office.as(), moved.applicationId, { reason: 'asked for another city' })
    await placeByHand(office.as(), moved.applicationId, other.id, { reason: 'asked for another city' })
    const again = await run({ scope: 'everyone' })
    await publish(again)
    const after = await soundSeats()
    expect(after.get(moved.applicationId)?.map(one => one.city)).toEqual([other.id, other.id])
    const stayed = [...before].filter(([id, own]) => after.get(id)?.[0]?.city === own[0]?.city)
    expect(stayed.length).toBeGreaterThan(people * 0.8)
    expect(stayed.filter(([id, own]) => after.get(id)?.[0]?.roll === own[0]?.roll)).toHaveLength(stayed.length)
  })

  it('counts the seats that people want, and gives seats up when other papers are sat', async () => {
    const rows = await office.db.select().from(application).where(eq(application.cycle, 'MC27'))
    const view = await readDemand(office.as('auditor'), 'MC27')
    expect(view.applications).toBe(people)
    expect(view.cities.reduce((n, city) => n + city.firstChoice, 0))
      .toBe(rows.reduce((n, row) => n + listAnswer(row.answers, 'posts').length, 0))
    const [held] = [...(await soundSeats())].filter(([, own]) => own.length === 1)
    const row = rows.find(one => one.id === held?.[0])
    const effects = (posts: string[]) =>
      row && correctionEffects(notice, {
        number: row.number,
        before: row.answers,
        after: { ...row.answers, posts },
        schedule: notice,
        at: office.now,
        extras: row,
        charge: null,
        sittings: held?.[1] ?? [],
        roll: '',
        hasCard: false,
        hasNewPicture: false,
      }, english).seatWhy
    expect([effects(listAnswer(row?.answers ?? {}, 'posts')), effects(['oceanography', 'maritime-law'])]).toEqual([null, 'papers'])
  })
})
