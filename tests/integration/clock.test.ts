import { randomUUID } from 'node:crypto'
import { eq } from 'drizzle-orm'
import { afterAll, afterEach, beforeAll, describe, expect, it, vi } from 'vitest'
import { lookAtClock, officeNow } from '../../server/database/clock'
import { application } from '../../server/database/schema'
import { submitApplication } from '../../server/services/applications/form'
import { textsOnPaper } from '../../server/services/applications/texts'
import { Caller } from '../../server/services/context'
import { lapseOverdue } from '../../server/services/clock/lapse'
import { openOffice, type Office } from '../support/office'
import { problemOf } from '../support/problem'
import { testNow } from '../support/sample'

let office: Office
beforeAll(async () => {
  office = await openOffice()
})
afterAll(() => office.close())
afterEach(() => {
  vi.useRealTimers()
  office.now = testNow
})

describe('the close', () => {
  const closes = () => Date.parse(office.notice.keyDates.closes)
  /** Somebody whose request came in at one moment and has its turn at another. */
  const turn = (arrived: number, now: number) =>
    new Caller(office.db, office.as().principal, { now: () => new Date(now), arrived: () => new Date(arrived), requestId: randomUUID() })
  const submission = () => ({ revision: 1, declared: true, texts: textsOnPaper(office.notice) })

  it('asks when a request came in, not when its turn was, and is half open', async () => {
    const [inTime, late] = [await office.complete(), await office.complete()]
    await submitApplication(turn(closes() - 1, closes() + 20_000), inTime, submission())
    expect((await office.dossier(inTime)).submittedAt).toBe(new Date(closes() - 1).toISOString())
    expect((await problemOf(submitApplication(turn(closes(), closes()), late, submission()))).code).toBe('dates.closed')
  })

  it('ends no draft while somebody who came in time may still wait for their turn', async () => {
    const id = await office.complete()
    const form = async () => (await office.db.select({ form: application.form }).from(application).where(eq(application.id, id)))[0]?.form
    office.now = new Date(closes() + 59_000)
    await lapseOverdue(office.product)
    expect(await form()).toBe('drafting')
    office.now = new Date(closes() + 60_000)
    await lapseOverdue(office.product)
    expect(await form()).toBe('lapsed')
  })
})

describe('the clock of the office', () => {
  it('is the database’s, whatever becomes of the machine’s', async () => {
    const apart = () => Math.abs(officeNow().getTime() - before - (performance.now() - elapsed))
    const [before, elapsed] = [Date.now(), performance.now()]
    await lookAtClock(office.db)
    expect(apart()).toBeLessThan(2000)
    for (const days of [40, -40]) {
      vi.useFakeTimers({ toFake: ['Date'], now: before + days * 86_400_000 })
      expect(apart()).toBeLessThan(2000)
      await lookAtClock(office.db)
      expect(apart()).toBeLessThan(2000)
    }
  })
})
