import { eq, sql } from 'drizzle-orm'
import { afterAll, beforeAll, describe, expect, it } from 'vitest'
import { application, contact } from '../../server/database/schema'
import { confirmProposal } from '../../server/jobs/confirm'
import { saveAnswers } from '../../server/services/applications/answers'
import { listProposals } from '../../server/services/acts/proposals'
import { askOffice } from '../../server/services/letters/questions'
import { writeLetters } from '../../server/services/letters/write'
import { readErasure } from '../../server/services/records/erase'
import { erasePeople } from '../../server/services/records/erasing'
import { checkSealed, sealLog } from '../../server/services/records/seal'
import type { Principal } from '../../core/access/principal'
import { everything } from '../support/everything'
import { openOffice, queueTo, type Office } from '../support/office'
import { problemOf } from '../support/problem'

let office: Office
let owner: Principal
let own: string
let other: string
const told = ['Wendelgard Ulfsdatter-Krenn', 'wendelgard@mail.lanternreach.example', 'behind the old net loft', 'the step is high']
const others = ['Ottokar Brannvik', 'above the sail maker']
const reason = 'asked for in a letter of hers'

beforeAll(async () => {
  office = await openOffice()
  owner = await office.candidate(told[0], told[1])
  const somebody = await office.candidate(others[0])
  ;[own, other] = [await office.complete(owner), await office.complete(somebody)]
  await saveAnswers(office.by(owner), own, { revision: 1, changes: { certificateName: told[0] ?? '', address: told[2] ?? '' } })
  await saveAnswers(office.by(somebody), other, { revision: 1, changes: { certificateName: others[0] ?? '', address: others[1] ?? '' } })
  await askOffice(office.by(owner), own, { about: '', text: told[3] ?? '' })
  for (const [id, who] of [[own, owner], [other, somebody]] as const) {
    await office.act(id, 'submit', { revision: 2, declared: true }, office.by(who))
  }
  await writeLetters(office.product)
})
afterAll(() => office.close())

const release = async () => {
  await office.act(own, 'release-data', { reason })
  const [{ id = '' } = {}] = await listProposals(office.second(), 'HL27')
  await confirmProposal(office.second(), queueTo([]), id)
}
const erase = async () => {
  await sealLog(office.product, 'now')
  return erasePeople({ app: office.db, files: office.in('files') }, await office.context())
}
const setFee = (fee: 'due' | 'refund due') => office.db.update(application).set({ fee }).where(eq(application.id, own))

describe('what one application tells of its person', () => {
  it('is needed while the application is under way, and while money is owed back', async () => {
    expect(await problemOf(office.act(own, 'release-data', { reason }))).toMatchObject({ code: 'act.data-in-use' })
    await office.act(own, 'withdraw', { reason })
    await setFee('refund due')
    expect(await problemOf(office.act(own, 'release-data', { reason }))).toMatchObject({ code: 'act.money-owed' })
    await setFee('due')
  })

  it('is released by two people, is not worked on then, and can be kept after all', async () => {
    await release()
    expect(await problemOf(office.act(own, 'bring-back', { reason }))).toMatchObject({ code: 'act.data-released' })
    expect(await problemOf(office.act(own, 'bring-back', { reason }, office.by(owner)))).toMatchObject({ code: 'act.data-released' })
    await office.act(own, 'keep-data', { reason })
    expect(await problemOf(office.act(own, 'keep-data', { reason }))).toMatchObject({ code: 'act.data-kept' })
    expect(await erase()).toBe(0)
    await release()
    // Money that came in meanwhile is owed to somebody whose account must be known.
    await setFee('refund due')
    expect(await erase()).toBe(0)
    expect(await readErasure(office.as('auditor'), 'HL27')).toMatchObject({ alone: { erased: 0, waiting: 1, first: [{ id: own }] } })
    await setFee('due')
  })

  it('goes from every table with its account, while all of the others stays and the log is proven as before', async () => {
    const before = await everything(office)
    for (const value of [...told, ...others]) expect(before).toContain(value)
    // Broken off before the evidence went, it is found again, and nobody can keep it meanwhile.
    await sealLog(office.product, 'now')
    const files = { transaction: () => Promise.reject(new Error('the power is gone')) } as unknown as Office['db']
    await expect(erasePeople({ app: office.db, files }, await office.context())).rejects.toThrow('the power is gone')
    expect(await problemOf(office.act(own, 'keep-data', { reason }))).toMatchObject({ code: 'application.erased' })
    expect(await erase()).toBe(1)
    const after = await everything(office)
    for (const value of [...told, reason]) expect(after).not.toContain(value)
    for (const value of others) expect(after).toContain(value)
    expect((await office.dossier(other)).answers.certificateName).toBe(others[0])
    expect(await problemOf(office.dossier(own))).toMatchObject({ code: 'application.erased' })
    expect((await office.db.select().from(contact).where(eq(contact.principalId, owner.id))).length).toBe(0)
    await sealLog(office.product, 'now')
    expect(await checkSealed(office.as('auditor'))).toMatchObject({ fault: null })
    expect((await office.db.execute(sql`select 1 from audit_event where act = 'erase-person' and subject = ${own}`)).rows.length).toBe(1)
    expect(await readErasure(office.as('auditor'), 'HL27')).toMatchObject({ alone: { erased: 1, waiting: 0 } })
    expect(await erase()).toBe(0)
  })
})
