import { eq, sql } from 'drizzle-orm'
import { afterAll, beforeAll, describe, expect, it } from 'vitest'
import { marineCollegesNotice } from '../../demo/marine-colleges'
import { loadCrowd } from '../../demo/crowd'
import { admitCard, allocationRun, application, auditEvent, seat } from '../../server/database/schema'
import { comparedPeople, compareRuns } from '../../server/services/centres/compare'
import { readDemand, tryNow } from '../../server/services/centres/demand'
import { runCsv, runGeoJson } from '../../server/services/centres/exports'
import { costOfMove, listHandPlacements, placeByHand, releasePlacement } from '../../server/services/centres/moves'
import { runReport } from '../../server/services/centres/report'
import { instanceOfRun, readRun, readRunPeople, readWhy } from '../../server/services/centres/run-view'
import { runAllocation, storedRun } from '../../server/services/centres/runs'
import { computeSavings } from '../../server/services/centres/savings'
import { solveHere } from '../../server/services/centres/solver'
import { addRoom } from '../../server/services/centres/rooms'
import { currentNotice, putNotice } from '../../server/services/notice/notices'
import { runRequestSchema, type RunPerson } from '../../shared/centres'
import type { CardContent } from '../../core/admit-card/content'
import { openOffice, type Office } from '../support/office'
import { testNow } from '../support/sample'

let office: Office
const people = 1400
beforeAll(async () => {
  office = await openOffice()
  const notice = marineCollegesNotice(office.notice, testNow)
  // Here the window is still open, as before the close.
  notice.keyDates = office.notice.keyDates
  // Halls smaller than the demo's, so that as many people press into them.
  for (const room of notice.cities.flatMap(c => c.venues).flatMap(v => v.rooms)) {
    Object.assign(room, { seats: Math.ceil(room.seats / 3.3), accessibleSeats: Math.ceil(room.accessibleSeats / 3.3) })
  }
  await putNotice(office.as(), notice)
  await loadCrowd(office.db, notice, people, office.now)
})
afterAll(() => office.close())

const run = async (request: Parameters<typeof runRequestSchema.parse>[0] = {}) =>
  (await runAllocation(office.as(), 'MC27', runRequestSchema.parse(request), solveHere)).runId
const all = async (runId: string): Promise<RunPerson[]> => (await readRunPeople(office.as(), runId, { limit: 5000 })).people
const seats = (city: string, more: number) =>
  ['forenoon', 'afternoon'].map(session => ({ city, session, seats: more, accessibleSeats: 10 }))

describe('runs of different policies', () => {
  it('are kept side by side with their proof, equal for equal questions', async () => {
    const [best, again, first, lottery] = [await run(), await run(), await run({ policy: { kind: 'first-come' } }),
      await run({ policy: { kind: 'lottery', seed: 7 } })]
    const [a, b, c, d] = await Promise.all([best, again, first, lottery].map(id => readRun(office.as(), id)))
    expect(a).toMatchObject({ standing: 'certified', cost: a?.bound, inputsSha256: b?.inputsSha256, moves: 0, missing: [] })
    expect(await all(best)).toEqual(await all(again))
    expect([c?.standing, d?.standing]).toEqual(['by policy', 'by policy'])
    expect(c?.bound).toBe(a?.cost)
    expect(c?.cost).toBeGreaterThan(a?.cost ?? 0)
    expect(a?.summary.people).toBe(people)
    for (const city of a?.summary.cities ?? []) expect(city.placed).toBeLessThanOrEqual(city.capacity)
  })

  it('can be computed again from what was kept, with the same answer', async () => {
    const runId = await run()
    const stored = await storedRun(office.db, runId)
    const { cityOf, cost } = await solveHere(await instanceOfRun(office.db, stored), stored.policy)
    expect(cost).toBe(stored.cost)
    expect([...cityOf].map(k => stored.cities[k]?.id ?? null)).toEqual((await all(runId)).map(p => p.city))
  })

  it('are compared person by person and group by group, and the sums agree', async () => {
    const [first, second] = [await run({ policy: { kind: 'first-come' } }), await run()]
    const comparison = await compareRuns(office.as('auditor'), first, second)
    expect(comparison.all.pointsGained - comparison.all.pointsLost).toBe(comparison.first.cost - comparison.second.cost)
    for (const { rows } of comparison.groups) {
      for (const key of ['people', 'gain', 'lose', 'pointsGained'] as const) {
        expect(rows.reduce((n, row) => n + row[key], 0)).toBe(comparison.all[key])
      }
    }
    const [top, ...rest] = await comparedPeople(office.as(), first, second, 'gain')
    expect(top?.points).toBeGreaterThan(0)
    expect((await comparedPeople(office.as(), first, second, 'gain', top)).slice(0, rest.length)).toEqual(rest)
    expect((await comparedPeople(office.as(), first, second, 'lose')).every(p => p.points < 0)).toBe(true)
  })

  it('refuse policies and seats that make no sense, naming them, and keep nothing', async () => {
    const before = await office.db.$count(allocationRun)
    await expect(run({ policy: { choiceCosts: [3, 1] } })).rejects.toThrow('choice costs fall')
    await expect(run({ seats: [{ city: 'atlantis', session: 'forenoon', seats: 1, accessibleSeats: 0 }] })).rejects
      .toThrow('no city "atlantis"')
    await expect(run({ seats: [{ city: 'skarnholm', session: 'forenoon', seats: 1, accessibleSeats: 2 }] })).rejects
      .toThrow('more than all 1')
    await expect(runAllocation(office.as('scrutineer'), 'MC27', runRequestSchema.parse({}), solveHere)).rejects.toMatchObject({
      problem: { kind: 'not-allowed' },
    })
    expect(await office.db.$count(allocationRun)).toBe(before)
  })

  it('stop when told to, and keep nothing', async () => {
    const before = await office.db.$count(allocationRun)
    const stopped: typeof solveHere = async (instance, policy, watch) => {
      watch?.(0, 1)
      await new Promise(done => setTimeout(done, 10))
      return solveHere(instance, policy, watch)
    }
    await expect(runAllocation(office.as(), 'MC27', runRequestSchema.parse({}), stopped, () => Promise.resolve(false))).rejects
      .toThrow('was stopped')
    expect(await office.db.$count(allocationRun)).toBe(before)
  })
})

describe('what would help, and why here', () => {
  it('tells what more seats save by placing everyone anew: what a run with those seats finds', async () => {
    const runId = await run()
    const { summary, cost } = await readRun(office.as(), runId)
    const dear = [...summary.cities].sort((a, b) => b.price - a.price)[0]
    const half = await computeSavings(office.as(), runId, [dear?.city ?? ''], 20, solveHere)
    expect(half[0]?.saves).toBeGreaterThan(0)
    expect(half[0]?.saves).toBeLessThanOrEqual(20 * (dear?.price ?? 0))
    const stored = (await storedRun(office.db, runId)).seats.filter(s => s.city === dear?.city)
    const more = await run({ seats: stored.map((s, i) => ({ ...s, seats: s.seats + (i === 0 ? 20 : 0) })) })
    expect(cost - (await readRun(office.as(), more)).cost).toBe(half[0]?.saves)
    await expect(computeSavings(office.as(), runId, ['atlantis'], 5, solveHere)).rejects.toThrow('"atlantis"')
  })

  it('gives a reason for every choice passed over, that holds against the run', async () => {
    for (const kind of ['best-fit', 'first-come'] as const) {
      const runId = await run({ policy: { kind } })
      const { summary } = await readRun(office.as(), runId)
      const { people: off } = await readRunPeople(office.as(), runId, { kind: 'off list', limit: 5 })
      const { people: later } = await readRunPeople(office.as(), runId, { choice: 2, limit: 5 })
      for (const person of [...off, ...later]) {
        const { why, words } = await readWhy(office.as('auditor'), runId, person.applicationId)
        expect(why.before.map(p => p.city)).toEqual(person.choices.slice(0, person.choice === null ? undefined : person.choice - 1))
        for (const passed of why.before) {
          const city = summary.cities.find(c => c.city === passed.city)
          if (passed.why.by === 'closed') continue
          expect(city?.placed === city?.capacity || (person.needs && city?.placedInNeed === city?.accessibleCapacity)).toBe(true)
          if (passed.why.by === 'stake') expect(passed.why.own).toBeLessThanOrEqual(passed.why.bar)
          if (passed.why.by === 'turn') expect(passed.why.own).toBeGreaterThan(passed.why.closedAt)
        }
        expect(words.length).toBeGreaterThan(why.before.length)
      }
    }
  })
})

describe('before the window closes', () => {
  it('counts demand against seats, says since when a city is short, and tries what a run would give', async () => {
    const view = await readDemand(office.as('auditor'), 'MC27')
    expect(view.applications).toBe(people)
    expect(view.cities.reduce((n, c) => n + c.firstChoice, 0)).toBe(people)
    expect(view.byDay.reduce((n, d) => n + d.submitted, 0)).toBe(people)
    for (const city of view.cities) expect(city.shortSince !== null).toBe(city.firstChoice > city.seats)
    expect(view.forecast?.low).toBeLessThanOrEqual(view.forecast?.middle ?? 0)
    expect(view.forecast?.middle).toBeLessThanOrEqual(view.forecast?.high ?? 0)
    const before = await office.db.$count(allocationRun)
    const trial = await tryNow(office.as(), 'MC27', solveHere)
    expect(trial).toMatchObject({ standing: 'certified', outcome: { people } })
    expect(await office.db.$count(allocationRun)).toBe(before)
  })
})

describe('exports', () => {
  it('hold everyone once as CSV, every city as GeoJSON, and a report as PDF that is the same each time', async () => {
    const runId = await run()
    let csv = ''
    for await (const part of await runCsv(office.as('auditor'), runId)) csv += part
    expect(csv.trim().split('\n').length).toBe(people + 1)
    expect(await runGeoJson(office.as(), runId)).toMatchObject({
      type: 'FeatureCollection',
      features: expect.arrayContaining([
        expect.objectContaining({ id: 'skarnholm', geometry: { type: 'Point', coordinates: [-18.4, -28.1] } }),
      ]) as unknown,
    })
    const [once, again] = [await runReport(office.as(), runId), await runReport(office.as(), runId)]
    expect(once.pdf.equals(again.pdf)).toBe(true)
  })
})

describe('placed by hand, published, and run again', () => {
  it('costs what was told, and every run leaves the person there until released', async () => {
    const base = await run()
    const [person] = (await readRunPeople(office.as(), base, { choice: 1, limit: 1 })).people
    const id = person?.applicationId ?? ''
    const { summary, cost } = await readRun(office.as(), base)
    const elsewhere = summary.cities.find(c => c.city !== person?.city && c.price === 0 && c.placed < c.capacity)?.city ?? ''
    const { points } = await costOfMove(office.as(), base, id, elsewhere, solveHere)
    await placeByHand(office.as(), id, elsewhere, { reason: 'The sibling sits there' })
    const after = await readRun(office.as(), await run())
    expect(after.cost - cost).toBe(points)
    expect((await readRunPeople(office.as(), after.id, { kind: 'locked', limit: 5 })).people).toMatchObject([{
      applicationId: id,
      city: elsewhere,
    }])
    expect((await readWhy(office.as(), after.id, id)).words.join()).toContain('by hand')
    expect(await listHandPlacements(office.as(), 'MC27')).toMatchObject([{ applicationId: id, reason: 'The sibling sits there' }])
    await expect(placeByHand(office.as(), id, 'atlantis', { reason: 'No such place' })).rejects.toThrow('"atlantis"')
    await releasePlacement(office.as(), id, { reason: 'Asked to go back' })
    expect((await readRun(office.as(), await run())).cost).toBe(cost)
  })

  it('cannot be published with seats that no room has, until the room is added', async () => {
    const runId = await run({ seats: seats('veyrane', 80) })
    expect((await readRun(office.as(), runId)).missing.map(m => m.session)).toEqual(['forenoon', 'afternoon'])
    await expect(office.publish(runId)).rejects.toThrow('that no room has')
    await addRoom(office.as(), 'MC27', { city: 'veyrane', venue: 'veyrane-a', title: 'Gymnasium', seats: 60, accessibleSeats: 8 })
    await expect(addRoom(office.as(), 'MC27', { city: 'veyrane', venue: 'veyrane-a', title: 'Gymnasium', seats: 60, accessibleSeats: 8 }))
      .rejects.toThrow('another name')
    expect((await readRun(office.as(), runId)).missing).toEqual([])
    expect(await office.publish(runId)).toMatchObject({ moved: 0, leftOut: 0 })
    const given = await office.db.select().from(seat).where(eq(seat.cycle, 'MC27'))
    expect(new Set(given.map(s => s.roll)).size).toBe(given.length)
    const { rows } = await office.db
      .execute(sql`select count(*) as n from run_placement p left join seat s using (application_id) where p.run_id = ${runId} and p.city is distinct from s.city`)
    expect(rows).toEqual([{ n: '0' }])
    const [told] = await office.db.select().from(auditEvent).where(eq(auditEvent.act, 'publish-run'))
    expect(told?.after).toMatchObject({ inputsSha256: (await storedRun(office.db, runId)).inputsSha256 })
  })

  it('moves as few of those told as the weight asks, voids their cards, and never gives a roll number twice', async () => {
    const before = await office.db.select().from(seat).where(eq(seat.cycle, 'MC27'))
    // A venue is lost: the seats of one city shrink to ten.
    const request = { scope: 'everyone', seats: seats('oruvelle', 5).map(s => ({ ...s, accessibleSeats: 2 })) }
    const [light, heavy] = [await run({ ...request, policy: { staying: 0 } }), await run({ ...request, policy: { staying: 500 } })]
    const [a, b] = [await readRun(office.as(), light), await readRun(office.as(), heavy)]
    expect(b.moves).toBeLessThanOrEqual(a.moves)
    expect(b.moves).toBeGreaterThanOrEqual(before.filter(s => s.city === 'oruvelle').length - 10)
    expect(b.standing).toBe('certified')
    const { people: movers } = await readRunPeople(office.as(), heavy, { kind: 'moved', limit: 500 })
    expect(movers.every(p => p.told !== p.city)).toBe(true)
    for (const one of movers.slice(0, 5)) {
      expect((await readWhy(office.as(), heavy, one.applicationId)).words.join(' ')).toMatch(/Before this you were told/)
    }
    const [mover] = movers
    await office.db.insert(admitCard).values({
      id: crypto.randomUUID(),
      applicationId: mover?.applicationId ?? '',
      version: 1,
      content: {} as CardContent,
      code: 'x',
      photographSha256: '',
      signatureSha256: '',
      by: office.as().principal.id,
      at: office.now,
    })
    // Somebody who would stay, on the first seat that is filled, is returned meanwhile: the run leaves them out, and their seat is nobody
    // else's.
    const [returned] =
      (await office.db
        .execute(sql`select p.application_id as id from run_placement p join seat s using (application_id) where p.run_id = ${heavy} and p.city = s.city and p.city = 'oruvelle' limit 1`))
        .rows as { id: string }[]
    const first =
      before.filter(s => s.city === 'oruvelle' && s.session === 'forenoon' && !s.accessible).sort((a, b) =>
        a.venue < b.venue ? -1 : a.venue > b.venue ? 1 : a.seat - b.seat
      )[0]
    const place = { venue: first?.venue ?? '', room: first?.room ?? '', session: 'forenoon', seat: first?.seat ?? 0 }
    await office.db.update(seat).set({ seat: 9999 }).where(eq(seat.applicationId, first?.applicationId ?? ''))
    await office.db.update(seat).set(place).where(eq(seat.applicationId, returned?.id ?? ''))
    await office.db.update(application).set({ scrutiny: 'returned', headline: 'returned' }).where(eq(application.id, returned?.id ?? ''))
    const published = await office.publish(heavy)
    expect(published).toMatchObject({ moved: movers.filter(p => p.city !== null).length, leftOut: 1 })
    const after = await office.db.select().from(seat).where(eq(seat.cycle, 'MC27'))
    expect(after.find(s => s.applicationId === returned?.id)).toMatchObject(place)
    expect(after.filter(s => s.city === 'oruvelle').length).toBeLessThanOrEqual(10)
    const oldRolls = new Map(before.map(s => [s.roll, s.applicationId]))
    for (const s of after) expect(oldRolls.get(s.roll) ?? s.applicationId).toBe(s.applicationId)
    const [row] = await office.db.select().from(application).where(eq(application.id, mover?.applicationId ?? ''))
    expect(row).toMatchObject({ placement: 'moved', card: 'not issued', headline: 'placed' })
    expect((await office.db.select().from(admitCard))[0]?.voidAt).not.toBeNull()
    // A room that was added is no new version of the notice.
    const now = await currentNotice(office.db, 'MC27')
    expect(now.version).toBe(1)
    expect(now.notice.cities.find(c => c.id === 'veyrane')?.venues.flatMap(v => v.rooms).map(r => r.title)).toContain('Gymnasium')
  })
})

describe('restrictions of the notice', () => {
  it('are held in every run, kept with it, told as a reason, and no hand places against them', async () => {
    const { notice } = await currentNotice(office.db, 'MC27')
    const closes = notice.allocation.restrictions.find(r => r.closedCities.length > 0)
    const runId = await run({ scope: 'everyone' })
    expect((await readRun(office.as(), runId)).restrictions).toEqual(notice.allocation.restrictions.map(r => r.title))
    const { rows } = await office.db.execute(sql`
      select p.application_id as id, p.city, p.choices from run_placement p join application a on a.id = p.application_id where p.run_id = ${runId} and a.answers->'posts' ? 'naval-engineering'`)
    const engineers = rows as { id: string, city: string, choices: string[] }[]
    expect(engineers.length).toBeGreaterThan(100)
    expect(engineers.some(p => closes?.closedCities.includes(p.city))).toBe(false)
    const shut = engineers.find(p => closes?.closedCities.includes(p.choices[0] ?? ''))
    expect((await readWhy(office.as(), runId, shut?.id ?? '')).words.join(' ')).toContain('is not open to you under the notice')
    await expect(costOfMove(office.as(), runId, shut?.id ?? '', closes?.closedCities[0] ?? '', solveHere)).rejects
      .toThrow('The notice closes this city')
    await expect(placeByHand(office.as(), shut?.id ?? '', closes?.closedCities[0] ?? '', { reason: 'Asked for it' })).rejects
      .toThrow('The notice closes this city')
    const stored = await storedRun(office.db, runId)
    expect((await solveHere(await instanceOfRun(office.db, stored), stored.policy)).cost).toBe(stored.cost)
  })
})
