import { afterAll, beforeAll, describe, expect, it } from 'vitest'
import { PrintEngine, PrintWaits } from '../../pictures/print'
import { readPrintOf } from '../../server/services/scrutiny/print'
import { openOffice, type Office } from '../support/office'
import { problemOf } from '../support/problem'

let office: Office
const engine = new PrintEngine()
beforeAll(async () => {
  office = await openOffice()
})
afterAll(async () => {
  await engine.close()
  await office.close()
})

describe('print on papers', () => {
  it('is read by the machine once, and held against the answers as they are', async () => {
    const id = await office.draft()
    await office.addPapers(id)
    const paper = (await office.dossier(id)).files['identity-proof']?.id ?? ''
    let asked = 0
    const read = (...args: Parameters<typeof engine.read>) => {
      asked += 1
      return engine.read(...args)
    }
    const scrutineer = office.as('scrutineer')
    // The paper of the tests bears the name, the day and the number that the sample's answers say.
    const { hints } = await readPrintOf(scrutineer, read, paper)
    expect(Object.fromEntries(hints.map(hint => [hint.question, hint.result]))).toMatchObject({
      certificateName: 'there',
      bornOn: 'there',
      identityNumber: 'there',
    })
    await readPrintOf(office.as(), read, paper)
    expect(asked).toBe(1)
    expect(await problemOf(readPrintOf(office.as('accounts'), read, paper))).toMatchObject({ code: 'access.role' })
  })

  it('waits where others wait before it, and is asked for again', async () => {
    const id = await office.draft()
    await office.addPapers(id)
    const paper = (await office.dossier(id)).files['identity-proof']?.id ?? ''
    expect(await problemOf(readPrintOf(office.as(), () => Promise.reject(new PrintWaits('busy')), paper))).toMatchObject({
      code: 'print.waits',
    })
    expect((await readPrintOf(office.as(), () => Promise.resolve([]), paper)).hints.map(hint => hint.result)).toEqual(['not read',
      'not read', 'not read', 'not read'])
  })
})
