import { afterAll, beforeAll, describe, expect, it } from 'vitest'
import { readDossier } from '../../server/services/applications/dossier'
import { judgeBarred } from '../../server/services/barred/match'
import { barPerson, liftBar, readBarred, takeBarredList } from '../../server/services/barred/people'
import { sortCases } from '../../server/services/scrutiny/sorting'
import { barredSchema } from '../../shared/barred'
import { openOffice, type Office } from '../support/office'
import { problemOf } from '../support/problem'
import { sampleAnswers } from '../support/sample'

let office: Office
beforeAll(async () => {
  office = await openOffice()
})
afterAll(() => office.close())

const person = {
  name: 'Tavirel Osk-Anunde',
  bornOn: '2004-06-15',
  identityNumber: 'SB 4471923',
  reason: "used another person's card in 2025",
}
const read = (of?: string) => readBarred(office.as('scrutineer'), office.cycle, of)
const list = (text: string) => takeBarredList(office.as(), Buffer.from(text))

describe('somebody who is barred', () => {
  it('is found when they apply, held back without their hearing why, and judged once', async () => {
    expect(await barPerson(office.as(), barredSchema.parse(person))).toMatchObject({ added: 1, repeated: 0 })
    expect(await barPerson(office.as(), barredSchema.parse(person))).toMatchObject({ added: 0, repeated: 1 })
    const owner = await office.candidate()
    const id = await office.complete(owner)
    await office.act(id, 'submit', { revision: 1, declared: true })
    await office.settle(id)
    await sortCases(office.product)
    const { matches } = await read(id)
    expect(matches).toMatchObject([{ applicationId: id, state: 'open', barred: { name: person.name } }])
    expect(matches[0]?.score).toBeGreaterThan(90)
    expect(await problemOf(office.act(id, 'accept', {}, office.as('scrutineer')))).toMatchObject({ code: 'act.barred' })
    expect((await office.dossier(id)).matters.map(m => m.kind)).toContain('barred')
    expect((await readDossier(office.by(owner), id)).matters.map(m => m.kind)).not.toContain('barred')
    expect(await problemOf(readBarred(office.by(owner), office.cycle))).toMatchObject({ code: 'access.relation' })

    // Of the same person it can only be refused, until the bar is lifted.
    const judging = Promise
      .allSettled([1, 2].map(() =>
        judgeBarred(office.as('scrutineer'), matches[0]?.id ?? '', { result: 'same', reason: 'the same paper and face' })
      ))
    expect((await judging).map(one => one.status).sort()).toEqual(['fulfilled', 'rejected'])
    expect(await problemOf(office.act(id, 'accept', {}, office.as('scrutineer')))).toMatchObject({ code: 'act.barred' })
    await liftBar(office.as(), matches[0]?.barred.id ?? '', 'the decision was set aside on appeal')
    expect((await office.dossier(id)).matters.map(m => m.kind)).not.toContain('barred')
    await office.act(id, 'accept', {}, office.as('scrutineer'))
    expect(await problemOf(liftBar(office.as(), matches[0]?.barred.id ?? '', 'once more'))).toMatchObject({ code: 'barred.unknown' })
  })

  it('is found among those who have applied already, and another person of the name goes on', async () => {
    const id = await office.at('scrutiny')
    await sortCases(office.product)
    await barPerson(
      office.as(),
      barredSchema.parse({ name: String(sampleAnswers.certificateName), bornOn: '2004-06-15', reason: 'took part for somebody else' }),
    )
    const [match] = (await read(id)).matches.filter(one => one.state === 'open')
    expect(await problemOf(office.act(id, 'accept'))).toMatchObject({ code: 'act.barred' })
    await judgeBarred(office.as(), match?.id ?? '', { result: 'different', reason: 'another face, another paper' })
    await sortCases(office.product)
    expect((await read(id)).matches.filter(one => one.state === 'open')).toEqual([])
    // What is left are the two applications of the test that bear one name and number.
    expect(await problemOf(office.act(id, 'accept'))).toMatchObject({ code: 'act.likely-duplicate' })
  })

  it('comes by list, whole or not at all, with each fault named by its row', async () => {
    expect(await list('Name,Born,Number,Reason\nAldis Berrow,15 June 1999,PA 998877,2024 impersonation\nMaren Halvist,2001-02-03,,2025 impersonation\n'))
      .toEqual({ added: 2, repeated: 0, faults: [] })
    expect(await list('Name;Born;Reason\nAldis Berrow;03/04/2001;twice\n;;nobody\nMaren Halvist;2001-02-03;\n')).toEqual({
      added: 0,
      repeated: 0,
      faults: [{ row: 2, cell: '03/04/2001', why: 'date' }, { row: 3, cell: '', why: 'who' }, { row: 4, cell: '', why: 'reason' }],
    })
    expect(await problemOf(list('who,when\nA,B\n'))).toMatchObject({ code: 'barred.headings' })
    expect((await read()).people.filter(one => one.reason.endsWith('impersonation'))).toHaveLength(2)
  })
})
