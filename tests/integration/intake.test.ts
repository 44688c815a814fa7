import { randomUUID } from 'node:crypto'
import { afterAll, beforeAll, describe, expect, it } from 'vitest'
import { drawSignature } from '../../demo/signatures'
import { Random } from '../../demo/random'
import { saveAnswers } from '../../server/services/applications/answers'
import { registerApplication } from '../../server/services/applications/begin'
import { findPeople, readBand, readRoster } from '../../server/services/roster/page'
import { openPayment } from '../../server/services/fees/payments'
import { receiveGatewayEvent } from '../../server/services/fees/events'
import type { SheetConflict } from '../../shared/applications'
import { problemOf } from '../support/problem'
import { openOffice, type Office } from '../support/office'
import { testNow } from '../support/sample'

let office: Office
beforeAll(async () => {
  office = await openOffice()
})
afterAll(() => office.close())

describe('registering', () => {
  it('gives one application for one id, however often and however close together it is asked for', async () => {
    const id = randomUUID()
    const answers = await Promise.all([1, 2, 3].map(() => registerApplication(office.as(), office.cycle, id)))
    expect(new Set(answers.map(a => a.number)).size).toBe(1)
  })

  it('numbers people without doubles when many come at once', async () => {
    const numbers = await Promise.all(Array.from({ length: 12 }, () => registerApplication(office.as(), office.cycle, randomUUID())))
    expect(new Set(numbers.map(n => n.number)).size).toBe(12)
  })

  it('is for officers only, and only while the form is open', async () => {
    expect(await problemOf(registerApplication(office.as('auditor'), office.cycle, randomUUID()))).toMatchObject({ kind: 'not-allowed' })
    expect(await problemOf(registerApplication(office.nobody, office.cycle, randomUUID()))).toMatchObject({ kind: 'not-signed-in' })
    office.pass(4 * 24 * 60)
    const refused = await problemOf(registerApplication(office.as(), office.cycle, randomUUID()))
    office.now = testNow
    expect(refused.kind).toBe('not-now')
    expect(refused.message).toContain('Applications closed on Fri 27 Nov 2026, 17:00 Ilmara time')
  })
})

describe('saving a sheet', () => {
  it('keeps what was typed, right or wrong, in composed letters, and the same again changes nothing', async () => {
    const id = await office.draft({ mobile: '12', certificateName: 'Osk  Anunde\u0301' })
    const saved = await saveAnswers(office.as(), id, { revision: 1, changes: { mobile: '12', certificateName: 'Osk Anundé' } })
    expect(saved).toMatchObject({ revision: 1, answers: { mobile: '12', certificateName: 'Osk Anundé' } })
  })

  it('tells the later of two officers what the earlier one changed, and writes nothing of theirs', async () => {
    const id = await office.draft()
    await saveAnswers(office.as(), id, { revision: 1, changes: { address: '5 Net Lane', board: 'Lohn School Board' } })
    const problem = await problemOf(saveAnswers(office.as('officer', 'auditor'), id, { revision: 1, changes: { address: '6 Net Lane' } }))
    expect(problem.kind).toBe('conflict')
    const conflict = problem.data as SheetConflict
    expect(conflict.differences).toMatchObject([
      { question: 'address', theirs: '5 Net Lane', yours: '6 Net Lane', by: 'the officer' },
      { question: 'board', theirs: 'Lohn School Board', yours: null },
    ])
    expect((await office.dossier(id)).answers.address).toBe('5 Net Lane')
  })

  it('refuses questions that the notice does not ask', async () => {
    const id = await office.draft()
    expect(await problemOf(saveAnswers(office.as(), id, { revision: 1, changes: { wings: 'two' } }))).toMatchObject({ kind: 'bad-input' })
  })
})

describe('submitting', () => {
  it('needs every answer, both images, the declaration and an open post, and says which is missing', async () => {
    const id = await office.draft({ mobile: '' })
    const submit = (declared = true, revision = 1) => office.act(id, 'submit', { revision, declared })
    expect((await problemOf(submit())).message).toContain('Mobile telephone is missing')
    await saveAnswers(office.as(), id, { revision: 1, changes: { mobile: '5550100042', marksObtained: '120' } })
    expect((await problemOf(submit(true, 2))).message).toContain('Missing: Photograph and Signature')
    await office.addPictures(id)
    expect((await problemOf(submit(false, 2))).message).toContain('declaration')
    expect((await problemOf(submit(true, 2))).message).toContain('Not open to this person: Pilot cadet, Lighthouse keeper')
    expect((await problemOf(submit(true, 1))).kind).toBe('conflict')
    await saveAnswers(office.as(), id, { revision: 2, changes: { marksObtained: '412' } })
    await submit(true, 3)
    await submit(true, 3)
    expect(await office.dossier(id)).toMatchObject({
      headline: 'fee due',
      tracks: { form: 'submitted', fee: 'due', scrutiny: 'not started' },
      assessment: { total: 79_000 },
    })
  })

  it('freezes answers and images until a return opens them', async () => {
    const id = await office.paid()
    expect(await problemOf(saveAnswers(office.as(), id, { revision: 1, changes: { address: 'elsewhere' } }))).toMatchObject({
      kind: 'not-now',
    })
    const { files } = await office.dossier(id)
    expect(files.photograph?.version).toBe(1)
    await office.act(id, 'return', { reasons: [{ item: 'address', reason: 'The house number is missing.' }] }, office.as('scrutineer'))
    expect(await office.dossier(id)).toMatchObject({
      headline: 'returned',
      decisions: [{ decision: 'return', answerUntil: '2026-12-02T01:14:00.000Z' }],
    })
    await saveAnswers(office.as(), id, { revision: 1, changes: { address: '4a Beacon Street' } })
    await office.act(id, 'submit', { revision: 2, declared: true })
    expect(await office.dossier(id)).toMatchObject({ headline: 'in scrutiny', received: 79_000 })
  })

  it('books the difference when a correction changes the fee', async () => {
    const id = await office.paid()
    await office.act(id, 'return', { reasons: [{ item: 'category', reason: 'No proof of the claim.' }] }, office.as('scrutineer'))
    await saveAnswers(office.as(), id, { revision: 1, changes: { category: 'fisher-families' } })
    await office.addPapers(id)
    await office.act(id, 'submit', { revision: 2, declared: true })
    expect(await office.dossier(id)).toMatchObject({ assessment: { total: 55_000 }, received: 79_000, tracks: { fee: 'refund due' } })
  })

  it('is over for good once withdrawn', async () => {
    const id = await office.submitted()
    await office.act(id, 'withdraw', { reason: 'took up another post' })
    const after = await office.dossier(id)
    expect(after.headline).toBe('withdrawn')
    expect(after.history[0]).toMatchObject({ act: 'withdraw', reason: 'took up another post' })
  })
})

describe('deciding', () => {
  it('comes once: the second of two people is told', async () => {
    const id = await office.paid()
    const ends = await Promise.allSettled([1, 2].map(() => office.act(id, 'accept', { reasons: [] }, office.as('scrutineer'))))
    expect(ends.map(e => e.status).sort()).toEqual(['fulfilled', 'rejected'])
  })

  it('needs a reason against a failed finding, for a return and for a refusal, and a settled fee', async () => {
    const unpaid = await office.submitted()
    expect((await problemOf(office.act(unpaid, 'accept', { reasons: [] }, office.as('scrutineer')))).message).toContain('The fee of')
    const id = await office.draft()
    await office.addPictures(id)
    await office.addPicture(id, 'signature', await drawSignature(new Random(3), 'scribbled block'))
    await office.act(id, 'submit', { revision: 1, declared: true })
    const { order } = await openPayment(office.as(), office.gateway, id)
    for (const event of await office.gateway.act(order, 'pay')) await receiveGatewayEvent(office.product, office.gateway, event)
    expect((await problemOf(office.act(id, 'accept', { reasons: [] }, office.as('scrutineer')))).message).toContain('write why')
    expect((await problemOf(office.act(id, 'refuse', { reasons: [] }, office.as('scrutineer')))).message).toContain('at least one item')
    await office.act(
      id,
      'accept',
      { reasons: [{ item: 'signature', reason: 'Compared with the proof: it is the same hand.' }] },
      office.as('scrutineer'),
    )
    expect((await office.dossier(id)).headline).toBe('accepted')
  })
})

describe('the roster and the band', () => {
  it('pages by key without losing or doubling anybody, in either order', async () => {
    for (const sort of ['number', 'waiting'] as const) {
      const seen: string[] = []
      for (let after: string | undefined;;) {
        const page = await readRoster(office.as(), office.cycle, { sort, limit: 3, after })
        seen.push(...page.rows.map(r => r.number))
        if (!page.next) break
        after = page.next
      }
      const all = await readRoster(office.as(), office.cycle, { sort, limit: 500 })
      expect(seen).toEqual(all.rows.map(r => r.number))
      expect(new Set(seen).size).toBe(seen.length)
    }
  })

  it('finds people by number, name without accents, and telephone, and takes signs of patterns literally', async () => {
    await office.draft({ certificateName: 'Zéphra 100% Quillor', mobile: '5550199123' })
    const names = async (text: string) => (await findPeople(office.as(), office.cycle, text)).map(r => r.name)
    expect(await names('zephra')).toEqual(['Zéphra 100% Quillor'])
    expect(await names('55501 99123')).toEqual(['Zéphra 100% Quillor'])
    expect(await names('%')).toEqual([])
    expect(await names('_')).toEqual([])
  })

  it('counts every application once', async () => {
    const band = await readBand(office.as(), office.cycle)
    const all = await readRoster(office.as(), office.cycle, { sort: 'number', limit: 500 })
    const open = all.rows.filter(r => band.points.some(p => p.headline === r.headline))
    expect(band.points.reduce((n, p) => n + p.count, 0)).toBe(open.length)
    expect(await problemOf(readRoster(office.as(), office.cycle, { sort: 'waiting', limit: 3, after: 'nonsense' }))).toMatchObject({
      kind: 'bad-input',
    })
  })
})
