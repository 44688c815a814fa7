import { and, eq } from 'drizzle-orm'
import { afterAll, beforeAll, describe, expect, it } from 'vitest'
import { message } from '../../server/database/schema'
import { readDossier } from '../../server/services/applications/dossier'
import { remindInTime } from '../../server/services/clock/remind'
import { addImage } from '../../server/services/images/store'
import { inspectorWith } from '../../pictures/inspect'
import { drawPortrait } from '../../demo/portraits'
import { Random } from '../../demo/random'
import { openOffice, type Office } from '../support/office'
import { problemOf } from '../support/problem'
import { sampleNotice } from '../support/sample'

const until = '2026-12-01T12:00:00Z'
let office: Office
beforeAll(async () => {
  const extra = {
    id: 'migration',
    title: 'Migration certificate',
    formats: ['jpeg', 'pdf'],
    bytes: { max: 2_000_000 },
    pages: { min: 1 },
    followsUntil: until,
  }
  office = await openOffice({ documents: [...sampleNotice().documents, extra] })
})
afterAll(() => office.close())

describe('a paper that may follow', () => {
  it('keeps nobody from handing in, holds acceptance until it is there, and may come until its moment', async () => {
    const owner = await office.candidate()
    const me = office.by(owner)
    const id = await office.complete(owner)
    await office.act(id, 'submit', { revision: 1, declared: true }, me)
    await office.settle(id)
    expect((await readDossier(me, id)).matters).toContainEqual(expect.objectContaining({
      kind: 'proof-follows',
      owner: 'candidate',
      about: 'migration',
      until: new Date(until).toISOString(),
    }))
    expect(await problemOf(office.act(id, 'accept', {}, office.as('scrutineer')))).toMatchObject({ code: 'decision.file-missing' })
    const paper = await drawPortrait(new Random(3), 'none')
    const add = (slot: string, who = me) => addImage(who, inspectorWith(), id, slot, { bytes: paper })
    // Nothing else opens with it.
    expect(await problemOf(add('identity-proof'))).toMatchObject({ code: 'act.form-frozen' })
    expect(await problemOf(add('migration', office.by(await office.candidate('Somebody'))))).toMatchObject({ code: 'access.relation' })
    // Reminded once, when two days are left.
    const now = office.now
    const told = async () =>
      (await office.db.select().from(message).where(and(eq(message.applicationId, id), eq(message.kind, 'remind')))).map(one =>
        one.parameters?.what
      )
    await remindInTime(office.product)
    expect(await told()).toEqual([])
    office.now = new Date(Date.parse(until) - 47 * 3_600_000)
    await Promise.all([remindInTime(office.product), remindInTime(office.product)])
    await remindInTime(office.product)
    expect(await told()).toEqual(['paper'])
    office.now = now
    await add('migration')
    expect((await readDossier(me, id)).matters.map(m => m.kind)).not.toContain('proof-follows')
    expect((await office.db.select().from(message).where(eq(message.applicationId, id))).map(m => m.kind)).toContain('add-late-file')
    await office.act(id, 'accept', { reasons: [{ item: 'migration', reason: 'legible all the same' }] }, office.as('scrutineer'))

    const late = await office.complete(owner)
    await office.act(late, 'submit', { revision: 1, declared: true }, me)
    office.now = new Date(until)
    expect(await problemOf(addImage(me, inspectorWith(), late, 'migration', { bytes: paper }))).toMatchObject({ code: 'act.form-frozen' })
    office.now = now
  })

  it("tells candidates of their own other applications, and of nobody else's", async () => {
    const owner = await office.candidate()
    const [one, two] = [await office.complete(owner), await office.complete(owner)]
    await office.complete(await office.candidate('Somebody'))
    const other = (await office.dossier(two)).number
    expect((await readDossier(office.by(owner), one)).ownOthers).toEqual([other])
    expect((await office.dossier(one)).ownOthers).toEqual([])
    await office.act(two, 'withdraw', { reason: 'entered twice' })
    expect((await readDossier(office.by(owner), one)).ownOthers).toEqual([])
  })
})
