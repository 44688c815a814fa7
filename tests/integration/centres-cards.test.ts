import { and, eq, notInArray } from 'drizzle-orm'
import { buffer } from 'node:stream/consumers'
import { afterAll, beforeAll, describe, expect, it } from 'vitest'
import { verifyCode } from '../../core/admit-card/code'
import { alone } from '../../server/database/client'
import { image, job, runPlacement, seat } from '../../server/database/schema'
import { cancelJob, performWork, readJob, startPublishing, startRun } from '../../server/jobs/jobs'
import { centreCards } from '../../server/services/cards/centre'
import { issueCards } from '../../server/services/cards/issue'
import { publicKeys } from '../../server/services/cards/keys'
import { cardsOverview } from '../../server/services/cards/overview'
import { cardPdf } from '../../server/services/cards/pdf'
import { visualRuns } from '../../server/paper/typeset'
import { readRunPeople } from '../../server/services/centres/run-view'
import { listRuns } from '../../server/services/centres/runs'
import { inspectorWith } from '../../pictures/inspect'
import { solveHere } from '../../server/services/centres/solver'
import { runRequestSchema } from '../../shared/centres'
import { printed } from '../support/printed'
import { early, openOffice, queueTo, type Office } from '../support/office'

let office: Office
let people: string[]
beforeAll(async () => {
  office = await openOffice()
  people = []
  for (let i = 0; i < 8; i += 1) {
    people.push(await office.accepted({
      certificateName: i === 6 ? 'Osk ᚠᚢ' : ['Tavirel Osk-Anundé', 'कामिशा अर्वेणी', 'نورة السالم'][i % 3] ?? '',
      ...(i === 3 ? { pwd: 'yes', pwdDegree: 'below', pwdKind: 'movement', stepFree: 'yes' } : {}),
    }, i + 1))
  }
})
afterAll(() => office.close())

const issue = () => issueCards(office.as(), office.cycle, early, () => Promise.resolve(true))

describe('from the allocation to the card', () => {
  it('keeps every run, publishes one once, and gives seats and roll numbers without doubles', async () => {
    const first = await office.run()
    const second = await office.run()
    const runs = await listRuns(office.as(), office.cycle)
    expect(runs.map(r => r.serial)).toEqual([2, 1])
    expect(runs.every(r => r.standing === 'certified' && r.cost === 0 && r.inputsSha256 === runs[0]?.inputsSha256)).toBe(true)
    const ends = await Promise.allSettled([first, first, second].map(r => office.publish(r.runId)))
    expect(ends.filter(e => e.status === 'fulfilled').length).toBe(1)
    const seats = await office.db.select().from(seat)
    expect(seats.length).toBe(8)
    expect(new Set(seats.map(s => s.roll)).size).toBe(8)
    expect(seats.find(s => s.applicationId === people[3])?.accessible).toBe(true)
    const detail = await readRunPeople(office.as(), first.runId, { city: 'skarnholm', limit: 50 })
    expect(detail.people.every(p => p.choice === 1)).toBe(true)
  })

  it('withholds the card of somebody whose photograph is gone, and of one whose name cannot be printed, and says so', async () => {
    const id = people[7] ?? ''
    await office.in('owner').delete(image).where(eq(image.applicationId, id))
    expect(await issue()).toEqual({ issued: 6, withheld: 2 })
    expect(await issue()).toEqual({ issued: 0, withheld: 2 })
    const cards = await cardsOverview(office.as(), office.cycle)
    expect(cards).toMatchObject({
      issued: 6,
      ready: 0,
      withheld: [{ applicationId: people[6], blockers: ['letters'], letters: ['ᚠ (U+16A0)', 'ᚢ (U+16A2)'] }, {
        applicationId: id,
        blockers: ['photograph', 'signature'],
        held: null,
        letters: [],
      }],
    })
  })

  it('signs a code that says what the card says, and prints the same bytes each time', async () => {
    const { card, number, placement } = await office.dossier(people[0] ?? '')
    const keys = (await publicKeys(office.as())).map(k => ({ id: k.id, key: new Uint8Array(Buffer.from(k.key, 'base64')) }))
    expect(verifyCode(card?.code ?? '', keys)).toMatchObject({
      ok: true,
      content: { application: number, roll: placement?.roll, version: 1 },
    })
    const [once, again] = [await cardPdf(office.as(), people[0] ?? ''), await cardPdf(office.as(), people[0] ?? '')]
    expect(once.pdf.equals(again.pdf)).toBe(true)
    for (const id of people.slice(1, 3)) expect((await cardPdf(office.as(), id)).pdf.length).toBeGreaterThan(20_000)
  })

  it('is printed with all others of its venue in one file, in the order of the seats', async () => {
    const [{ venue } = { venue: '' }] = await office.db.select({ venue: seat.venue }).from(seat)
      .where(eq(seat.applicationId, people[0] ?? ''))
    const here = await office.db.select({ roll: seat.roll }).from(seat)
      .where(and(eq(seat.venue, venue), notInArray(seat.applicationId, people.slice(6)))).orderBy(seat.room, seat.session, seat.seat)
    expect((await cardsOverview(office.as(), office.cycle)).venues.map(one => one.id)).toContain(venue)
    const { pdf } = await centreCards(office.as(), office.cycle, { venue })
    const { text, pages } = printed(await buffer(pdf))
    expect(here.length).toBeGreaterThan(1)
    expect(pages).toBe(here.length)
    const places = here.map(({ roll }) => text.indexOf(roll))
    expect(places.every((place, i) => place > (places[i - 1] ?? 0))).toBe(true)
    await expect(centreCards(office.as(), office.cycle, { venue: 'none' })).rejects.toThrow('Issue the cards first')
  })

  it('has no card to print for somebody without one, and no letter to lose', async () => {
    await expect(cardPdf(office.as(), people[7] ?? '')).rejects.toThrow('has no card yet')
    expect(visualRuns('Osk كمال', 'sans').map(r => r.face)).toEqual(['sans', 'arabic'])
    expect(() => visualRuns('Osk ᚠ', 'sans')).toThrow('U+16A0')
  })
})

describe('publishing as long work', () => {
  it('tells the same once more when the server died before it could say that it was done', async () => {
    await office.accepted({ certificateName: 'Orsel Tamrin' }, 77)
    const { runId } = await office.run()
    const sent: string[] = []
    const queue = queueTo(sent)
    const { job: started } = await startPublishing(office.as(), queue, runId, early)
    const hand = () => performWork(office.db, sent[0] ?? '', { solve: solveHere, inspect: inspectorWith() })
    await hand()
    const first = await readJob(office.as(), started?.id ?? '')
    expect(first).toMatchObject({ state: 'done', result: { seated: 1, moved: 0, leftOut: 0 } })
    await office.db.update(job).set({ state: 'running', result: null }).where(eq(job.id, started?.id ?? ''))
    await hand()
    expect(await readJob(office.as(), started?.id ?? '')).toMatchObject({ state: 'done', result: first.result })
    await expect(startPublishing(office.as(), queue, runId, early)).rejects.toThrow('was published by')
  })
})

describe('long work', () => {
  it('that was asked for otherwise is refused while one is under way, and not passed off as the other', async () => {
    const sent: string[] = []
    const queue = queueTo(sent)
    const asked = (kind: 'best-fit' | 'first-come') =>
      startRun(office.as(), queue, office.cycle, runRequestSchema.parse({ policy: { kind } }))
    const first = await asked('best-fit')
    expect((await asked('best-fit')).id).toBe(first.id)
    await expect(asked('first-come')).rejects.toMatchObject({
      problem: { kind: 'conflict', message: expect.stringContaining('started by the officer') as string },
    })
    await cancelJob(office.as(), first.id)
    const second = await asked('first-come')
    expect(second.id).not.toBe(first.id)
    await cancelJob(office.as(), second.id)
  })

  it('is started once by a double press, ends in words when there is nothing to do, and a second delivery does nothing', async () => {
    const sent: string[] = []
    const queue = queueTo(sent)
    const [one, two] = await Promise.all([1, 2].map(() => startRun(office.as(), queue, office.cycle, runRequestSchema.parse({}))))
    expect(two?.id).toBe(one?.id)
    const before = (await office.db.select().from(runPlacement)).length
    const again = () => performWork(office.db, sent[0] ?? '', { solve: solveHere, inspect: inspectorWith() })
    // Handed out again while somebody does it, it is turned away; handed out again later, nothing is left to do.
    expect(await alone(office.db, `job:${sent[0] ?? ''}`, again)).toEqual({ result: false })
    expect([await again(), await again()]).toEqual([true, true])
    // Nor does the request that asked for it, sent again because its answer was lost, start more of it.
    const lost = office.as()
    const third = await startRun(lost, queue, office.cycle, runRequestSchema.parse({}))
    await cancelJob(office.as(), third.id)
    expect((await startRun(lost, queue, office.cycle, runRequestSchema.parse({}))).id).toBe(third.id)
    expect(await readJob(office.as(), one?.id ?? '')).toMatchObject({
      state: 'failed',
      error: expect.stringContaining('No accepted application waits') as string,
    })
    expect((await office.db.select().from(runPlacement)).length).toBe(before)
  })
})
