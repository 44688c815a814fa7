import { eq } from 'drizzle-orm'
import { afterAll, beforeAll, describe, expect, it } from 'vitest'
import { loadCrowd } from '../../demo/crowd'
import { marineCollegesNotice, withTestPapers } from '../../demo/marine-colleges'
import { placeableOf } from '../../core/application/sheet'
import type { Notice } from '../../core/notice/schema'
import { venueSeats } from '../../core/seating/seats'
import { application, seat } from '../../server/database/schema'
import { tryNow } from '../../server/services/centres/demand'
import { runCsv } from '../../server/services/centres/exports'
import { placeByHand } from '../../server/services/centres/moves'
import { publishRun } from '../../server/services/centres/publish'
import { runReport } from '../../server/services/centres/report'
import { instanceOfRun, readRun, readRunPeople, readWhy } from '../../server/services/centres/run-view'
import { runAllocation, storedRun } from '../../server/services/centres/runs'
import { takeSeatBack } from '../../server/services/centres/seats'
import { solveHere } from '../../server/services/centres/solver'
import { putNotice } from '../../server/services/notice/notices'
import { runRequestSchema } from '../../shared/centres'
import { openOffice, type Office } from '../support/office'
import { testNow } from '../support/sample'

// Two cities keep seats for people who became residents: the one that most name first, where they are wanted, and one where they are not.
const [wanted, plenty] = ['lohnstadt', 'kessandry']
describe.each([['without test papers', (notice: Notice) => notice, 3.3], ['with test papers', withTestPapers, 6]] as const)(
  'seats kept for some, %s',
  (_, made, closer) => {
    let office: Office
    let notice: Notice
    const people = 500
    beforeAll(async () => {
      office = await openOffice()
      notice = made(marineCollegesNotice(office.notice, testNow))
      notice.keyDates = office.notice.keyDates
      for (const room of notice.cities.flatMap(c => c.venues).flatMap(v => v.rooms)) {
        Object.assign(room, {
          seats: Math.ceil(room.seats / closer / 2.8),
          accessibleSeats: Math.ceil(room.accessibleSeats / closer / 2.8),
        })
      }
      const size = (id: string) => Math.min(...venueSeats(notice).filter(row => row.city === id).map(row => row.seats))
      notice.allocation.kept = [{
        title: 'Residents by years',
        when: { question: 'residence', in: ['years'] },
        seats: [wanted, plenty].map(city => ({ city, seats: Math.floor(size(city) / 2) })),
        unused: 'open to all',
      }]
      await putNotice(office.as(), notice)
      await loadCrowd(office.db, notice, people, office.now)
    })
    afterAll(() => office.close())

    const run = async (request: object = {}) => (await runAllocation(office.as(), 'MC27', runRequestSchema.parse(request), solveHere)).runId
    const publish = (runId: string) => publishRun(office.as(), runId, { outsideDates: true, reason: 'tried before the close' })
    const members = async () =>
      new Set((await office.db.select().from(application).where(eq(application.cycle, 'MC27'))).flatMap(row =>
        placeableOf(notice, row.answers)?.kept ? [row.id] : []
      ))

    it('are given to nobody else, opened where they stay over, told on the run, in its report and as a reason', async () => {
      const theirs = await members()
      const runId = await run()
      const detail = await readRun(office.as(), runId)
      const [group] = detail.kept
      const at = (city: string) => group?.cities.find(row => row.city === city) ?? { kept: -1, opened: -1, had: -1 }
      // Where everybody sits once the placement is exact.
      expect(notice.testPapers.length === 0 ? ['certified'] : ['certified', 'bounded']).toContain(detail.standing)
      expect([detail.kept.length, at(plenty).opened > 0, at(wanted).kept > 0]).toEqual([1, true, true])
      const { people: placed } = await readRunPeople(office.as(), runId, { limit: 5000 })
      const sum = (rows: typeof placed) => rows.reduce((n, p) => n + (p.sessions?.length ?? 0), 0)
      for (const city of [wanted, plenty]) {
        const there = placed.filter(p => p.city === city)
        const [own, others] = [there.filter(p => theirs.has(p.applicationId)), there.filter(p => !theirs.has(p.applicationId))]
        const all = venueSeats(notice).reduce((n, row) => row.city === city ? n + row.seats : n, 0)
        expect(at(city).had).toBe(sum(own))
        expect(sum(others)).toBeLessThanOrEqual(all - at(city).kept + at(city).opened)
      }
      const passed = (isTheirs: boolean) =>
        placed.find(p => theirs.has(p.applicationId) === isTheirs && p.choices.includes(wanted) && p.city !== null)
      const why = async (isTheirs: boolean) =>
        (await readWhy(office.as('auditor'), runId, passed(isTheirs)?.applicationId ?? '')).words.join('\n')
      expect([await why(true), await why(false)]).toEqual([expect.stringMatching(/“Residents by years”. You belong to them/),
        expect.stringMatching(/“Residents by years”. These are not counted here/)])
      expect((await runReport(office.as(), runId)).pdf.length).toBeGreaterThan(1000)
      let csv = ''
      for await (const text of await runCsv(office.as(), runId)) csv += text
      expect(csv).not.toContain('+0')
      const trial = await tryNow(office.as(), 'MC27', solveHere)
      expect(trial.cost).toBe(detail.cost)
    })

    it('can be asked again from what was kept with the run', async () => {
      const stored = await storedRun(office.db, await run())
      expect((await solveHere(await instanceOfRun(office.db, stored), stored.policy)).cost).toBe(stored.cost)
    })

    it('are fewer by those whom people of theirs have by hand or by an earlier run', async () => {
      const theirs = await members()
      const kept = async (runId: string) => (await readRun(office.as(), runId)).kept[0]?.cities.find(row => row.city === wanted)?.kept ?? 0
      const first = await run()
      await publish(first)
      const inCity = () => office.db.select().from(seat).where(eq(seat.city, wanted))
      const [back] = (await inCity()).filter(row => theirs.has(row.applicationId))
      if (!back) throw new Error('nobody of theirs sits in the city')
      const mine = (await inCity()).filter(row => row.applicationId === back.applicationId).length
      await takeSeatBack(office.as(), back.applicationId, { reason: 'asked to be placed anew' })
      const taken = await inCity()
      const asked = notice.allocation.kept[0]?.seats[0]?.seats ?? 0
      const again = await run({ scope: 'waiting' })
      // Of each session as many less as their people sit in it, and no more than are free: some were opened to others.
      expect(await kept(again)).toBe(venueSeats(notice).filter(row => row.city === wanted).reduce((n, { session, seats: all }) => {
        const there = taken.filter(row => row.session === session)
        return n + Math.max(0, Math.min(all - there.length, asked - there.filter(row => theirs.has(row.applicationId)).length))
      }, 0))
      await placeByHand(office.as(), back.applicationId, wanted, { reason: 'lives next door' })
      const byHand = await run({ scope: 'everyone' })
      expect(await kept(byHand)).toBe(asked * notice.sessions.length - mine)
      await publish(byHand)
    })
  },
)
