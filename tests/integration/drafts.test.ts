import { randomUUID } from 'node:crypto'
import { sql } from 'drizzle-orm'
import { afterAll, beforeAll, expect, it } from 'vitest'
import { noticeFormat } from '../../core/notice/formats'
import { dropDraft, keepDraft, listDrafts, readDraft } from '../../server/services/notice/drafts'
import { currentNotice, openCycle } from '../../server/services/notice/notices'
import { openOffice, type Office } from '../support/office'

let office: Office
beforeAll(async () => {
  office = await openOffice()
})
afterAll(() => office.close())
const keep = (document: object, revision = 0, id: string = randomUUID()) =>
  keepDraft(office.as(), id, { document: { ...document }, revision })

it('holds whatever means to be a notice, with what is wrong in it, and puts nothing in force', async () => {
  const empty = await keep({})
  expect(empty).toMatchObject({ cycle: null, title: '', isCycle: false, revision: 1 })
  expect(empty.errors).toBeGreaterThan(0)
  const broken = await keep({ ...office.notice, title: 'Half done', sessions: [] })
  expect(broken).toMatchObject({ errors: 1, warnings: 0 })
  expect((await readDraft(office.as(), broken.id)).findings).toEqual([
    expect.objectContaining({ code: 'shape.too-small', at: '/sessions' }),
  ])
  expect((await readDraft(office.as(), (await keep({ format: 99 })).id)).findings).toEqual([
    expect.objectContaining({ code: 'format.newer', parameters: { format: 99, known: noticeFormat } }),
  ])
  expect((await currentNotice(office.db, office.cycle)).version).toBe(1)
  expect((await listDrafts(office.as())).map(d => d.title)).toEqual(expect.arrayContaining(['', 'Half done']))
})

it('tells who keeps it against an older one, and takes the same keeping sent twice for one', async () => {
  const id = randomUUID()
  const document = { ...office.notice, title: 'First' }
  expect((await keep(document, 0, id)).revision).toBe(1)
  expect((await keep(document, 0, id)).revision).toBe(1)
  expect((await keep({ ...document, title: 'Second' }, 1, id)).revision).toBe(2)
  await expect(keep({ ...document, title: 'Of somebody else' }, 1, id)).rejects.toThrow('was kept anew')
  expect((await readDraft(office.as(), id)).document.title).toBe('Second')
})

it('says how it differs from the notice in force, and opens a cycle of its own', async () => {
  const draft = await keep({ ...office.notice, title: 'Another title' })
  const { differences } = await readDraft(office.as(), draft.id)
  expect(differences).toEqual([{ path: [{ part: 'title' }], kind: 'changed', before: office.notice.title, after: 'Another title' }])
  const fresh = await keep({ ...office.notice, code: 'QD27' })
  expect(fresh).toMatchObject({ errors: 0, isCycle: false })
  expect(await openCycle(office.as(), { notice: (await readDraft(office.as(), fresh.id)).document })).toEqual({ code: 'QD27', version: 1 })
  expect((await dropDraft(office.as(), fresh.id)).some(d => d.id === fresh.id)).toBe(false)
  await expect(readDraft(office.as(), fresh.id)).rejects.toThrow('no such draft')
})

it('opens a cycle with warnings only with a word for them, which the log keeps', async () => {
  const notice = { ...office.notice, code: 'QW27', body: { ...office.notice.body, holidays: [office.notice.keyDates.closes.slice(0, 10)] } }
  await expect(openCycle(office.as(), { notice })).rejects.toThrow('1 warning')
  expect(await openCycle(office.as(), { notice, reason: 'The desk is open that evening.' })).toEqual({ code: 'QW27', version: 1 })
  const { rows } = await office.db.execute(sql`select reason, after from audit_event where cycle = 'QW27' and act = 'put-notice'`)
  expect(rows).toEqual([{
    reason: 'The desk is open that evening.',
    after: expect.objectContaining({ warnings: ['dates.holiday /keyDates/closes'] }) as unknown,
  }])
})
