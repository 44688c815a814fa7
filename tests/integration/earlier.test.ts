import { afterAll, beforeAll, describe, expect, it } from 'vitest'
import { drawPortrait } from '../../demo/portraits'
import { Random } from '../../demo/random'
import { drawSignature } from '../../demo/signatures'
import { inspectorWith } from '../../pictures/inspect'
import { readDossier } from '../../server/services/applications/dossier'
import { earlierForms, takeFileOver } from '../../server/services/applications/earlier'
import { addImage } from '../../server/services/images/store'
import { openOffice, type Office } from '../support/office'
import { problemOf } from '../support/problem'
import { sampleAnswers } from '../support/sample'

let office: Office
beforeAll(async () => {
  office = await openOffice()
})
afterAll(() => office.close())

describe('what an account has handed in before', () => {
  it('is offered to its next draft, with its files, which are measured anew; to nobody else, and of nobody else', async () => {
    const [me, stranger] = [await office.candidate(), await office.candidate('Somebody Else')]
    const [former, draft] = [await office.complete(me), await office.begin(me)]
    const theirs = await office.complete(stranger)
    for (const kind of ['photograph', 'signature']) {
      const bytes = kind === 'photograph' ? await drawPortrait(new Random(4), 'none') : await drawSignature(new Random(4), 'none')
      await addImage(office.by(me), inspectorWith(), former, kind, { bytes })
    }
    const isOffered = async () => (await readDossier(office.by(me), draft)).hasEarlier
    expect(await isOffered()).toBe(false)
    expect(await earlierForms(office.by(me), draft)).toEqual([])
    for (const id of [former, theirs]) await office.act(id, 'submit', { revision: 1, declared: true })
    expect(await isOffered()).toBe(true)
    const [form, ...more] = await earlierForms(office.by(me), draft)
    expect(more).toEqual([])
    expect(form).toMatchObject({ id: former, answers: { certificateName: sampleAnswers.certificateName } })
    expect(form?.files).toEqual(expect.arrayContaining(['photograph', 'signature']))
    const view = await takeFileOver(office.by(me), inspectorWith(), draft, { from: former, slot: 'photograph' })
    expect(view).toMatchObject({ version: 1, measured: true })
    // The same again is the same file.
    expect((await takeFileOver(office.by(me), inspectorWith(), draft, { from: former, slot: 'photograph' })).version).toBe(1)
    for (const wrong of [{ from: theirs, slot: 'photograph' }, { from: former, slot: 'thumb' }, { from: draft, slot: 'photograph' }]) {
      expect(await problemOf(takeFileOver(office.by(me), inspectorWith(), draft, wrong))).toMatchObject({ code: 'earlier.unknown' })
    }
    expect(await problemOf(earlierForms(office.by(stranger), draft))).toMatchObject({ code: 'access.relation' })
    expect(await earlierForms(office.by(me), former)).toEqual([])
  })
})
