import { randomUUID } from 'node:crypto'
import { afterAll, beforeAll, describe, expect, it } from 'vitest'
import { eq, sql } from 'drizzle-orm'
import { openOffice, queueTo, type Office } from '../support/office'
import { alone } from '../../server/database/client'
import { application, job } from '../../server/database/schema'
import { cancelJob, newestJob, performWork, readJob, startReview, takeUpWork } from '../../server/jobs/jobs'
import { readDesk } from '../../server/services/roster/desk'
import { findPeople, readBand, readRoster } from '../../server/services/roster/page'
import { inspectorWith } from '../../pictures/inspect'
import { solveHere } from '../../server/services/centres/solver'
import { readReview } from '../../server/services/eligibility/reviews'
import { openPayment } from '../../server/services/fees/payments'

let office: Office
beforeAll(async () => {
  office = await openOffice()
})
afterAll(() => office.close())

describe('the desk', () => {
  it('counts what waits, names the oldest, and agrees with the band and the roster', async () => {
    await office.draft()
    office.pass(30)
    await office.paid()
    office.pass(30)
    await office.paid({ category: 'outer-isles', islesCertificate: 'OI-1' })
    const hanging = await office.submitted()
    await openPayment(office.as(), office.gateway, hanging)
    const desk = await readDesk(office.as('auditor'), office.cycle)
    const band = await readBand(office.as('auditor'), office.cycle)
    for (const wait of desk.waits) {
      expect(band.points.find(p => p.headline === wait.headline)?.count).toBe(wait.count)
      expect((await readRoster(office.as(), office.cycle, { is: [`at:${wait.headline}`], sort: 'number', limit: 100 })).rows)
        .toHaveLength(wait.count)
    }
    const scrutiny = desk.waits.find(w => w.headline === 'in scrutiny')
    expect(scrutiny?.count).toBe(2)
    expect(new Date(scrutiny?.oldest ?? '').getTime()).toBe(office.now.getTime() - 30 * 60_000)
    expect(desk.hangingPayments).toMatchObject({ count: 1, oldest: office.now.toISOString() })
    expect(desk.unpublishedRun).toBeNull()
  })

  it('is shut to strangers', async () => {
    await expect(readDesk(office.nobody, office.cycle)).rejects.toMatchObject({ problem: { kind: 'not-signed-in' } })
    await expect(readBand(office.as(), 'XX99')).rejects.toMatchObject({ problem: { kind: 'not-found' } })
  })
})

describe('the command field', () => {
  it('finds a person by roll number, application number, name and telephone', async () => {
    const id = await office.accepted({ certificateName: 'Zoral Quindé', mobile: '5550199887' })
    const { runId } = await office.run()
    expect((await readDesk(office.as(), office.cycle)).unpublishedRun?.id).toBe(runId)
    await office.publish(runId)
    await office.issue(id)
    const { number, placement } = await office.dossier(id)
    for (const search of [placement?.roll ?? '', number, number.toLowerCase(), 'zoral', 'quinde', '5550 199-887']) {
      const found = await findPeople(office.as(), office.cycle, search)
      expect([search, found.map(p => p.id).includes(id)]).toEqual([search, true])
    }
    expect(await findPeople(office.as(), office.cycle, '   ')).toEqual([])
  })
})

describe('long work', () => {
  it('goes on where the server was killed, and shows its progress to whoever comes back', async () => {
    await office.submitted()
    const sent: string[] = []
    const started = await startReview(office.as(), queueTo(sent), office.cycle, undefined)
    const [message] = sent
    if (!message) throw new Error('nothing was sent')
    // The first worker was killed after it had begun.
    await office.db.update(job).set({ state: 'running', done: 1, total: 9 }).where(eq(job.id, started.id))
    expect(await newestJob(office.as('auditor'), 'review', office.cycle)).toMatchObject({
      id: started.id,
      state: 'running',
      done: 1,
      total: 9,
    })
    await performWork(office.db, message, { solve: solveHere, inspect: inspectorWith() })
    const done = await readJob(office.as(), started.id)
    expect(done).toMatchObject({ state: 'done', error: null })
    expect((await readReview(office.as(), started.id, { limit: 10 })).state).toBe('listed')
    const [count] = await office.db.select({ n: sql<string>`count(*)` }).from(application)
      .where(sql`form in ('submitted', 'correcting') and scrutiny <> 'refused'`)
    expect(done.result?.applications).toBe(Number(count?.n))
  })

  it('is taken up by another process within half a minute of the death of the one that had it', async () => {
    const sent: string[] = []
    const started = await startReview(office.as(), queueTo(sent), office.cycle, undefined)
    const tools = { solve: solveHere, inspect: inspectorWith() }
    await office.db.update(job).set({ state: 'running', updatedAt: new Date() }).where(eq(job.id, started.id))
    // Somebody who was heard of a moment ago is left alone, and so is work that another process holds.
    expect(await takeUpWork(office.db, tools)).toBe(0)
    await office.db.update(job).set({ updatedAt: new Date(Date.now() - 11_000) }).where(eq(job.id, started.id))
    await alone(office.db, `job:${started.id}`, async () => expect(await takeUpWork(office.db, tools)).toBe(0))
    expect(await takeUpWork(office.db, tools)).toBe(1)
    expect((await readJob(office.as(), started.id)).state).toBe('done')
  })

  it('is stopped by a press, and only by somebody who may start it', async () => {
    const sent: string[] = []
    const started = await startReview(office.as(), queueTo(sent), office.cycle, undefined)
    await expect(cancelJob(office.as('scrutineer'), started.id)).rejects.toMatchObject({ problem: { kind: 'not-allowed' } })
    expect((await cancelJob(office.as(), started.id)).state).toBe('cancelled')
    if (sent[0]) await performWork(office.db, sent[0], { solve: solveHere, inspect: inspectorWith() })
    expect((await readJob(office.as(), started.id)).state).toBe('cancelled')
    await expect(readJob(office.as(), randomUUID())).rejects.toMatchObject({ problem: { kind: 'not-found' } })
  })

  it('keeps or refuses each of several amended notices that come at once, and drops none without a word', async () => {
    const amended = (title: string) => ({ ...office.notice, title })
    const sent: string[] = []
    const ends = await Promise
      .allSettled(['One', 'Two', 'Three'].map(title =>
        startReview(office.as(), queueTo(sent), office.cycle, { notice: amended(title), reason: 'Another title.' })
      ))
    const refused = ends.flatMap(end => end.status === 'rejected' ? [(end.reason as { problem: { code: string } }).problem.code] : [])
    expect([ends.length - refused.length, refused]).toEqual([1, ['work.other', 'work.other']])
    const [kept] = ends.flatMap(end => end.status === 'fulfilled' ? [end.value] : [])
    await cancelJob(office.as(), kept?.id ?? '')
  })

  it('starts nothing when what it begins with is refused', async () => {
    const sent: string[] = []
    await expect(startReview(office.as(), queueTo(sent), office.cycle, { notice: { code: 'HL27' }, reason: 'Half a notice.' })).rejects
      .toMatchObject({ problem: { kind: 'bad-input' } })
    await expect(startReview(office.as('accounts'), queueTo(sent), office.cycle, undefined)).rejects.toMatchObject({
      problem: { kind: 'not-allowed' },
    })
    expect(sent).toEqual([])
  })

  it('is done by one process at a time, and free again when that one fails', async () => {
    let inside = 0
    let turnedAway = () => {}
    const others = new Promise<void>((done) => {
      turnedAway = done
    })
    const work = () =>
      alone(office.db, 'a name', async () => {
        inside += 1
        expect(inside).toBe(1)
        await others
        inside -= 1
        return 'done'
      })
    // The one that is inside stays until the two others were turned away, however slow the machine is.
    const all = [work(), work(), work()]
    let away = 0
    for (const one of all) {
      one.then((r) => {
        if (r === null && (away += 1) === 2) turnedAway()
      }, () => undefined)
    }
    const results = await Promise.all(all)
    expect(results.filter(r => r?.result === 'done')).toHaveLength(1)
    await expect(alone(office.db, 'a name', async () => {
      throw new Error('broke')
    })).rejects.toThrow('broke')
    expect(await work()).toEqual({ result: 'done' })
  })
})
