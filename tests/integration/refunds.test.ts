import { randomUUID } from 'node:crypto'
import { SaxesParser } from 'saxes'
import { afterAll, beforeAll, describe, expect, it } from 'vitest'
import { referenceOf } from '../../core/bank/references'
import { putBankAccount } from '../../server/services/bank/accounts'
import { listLines, readLine, takeExplanationBack } from '../../server/services/bank/lines'
import { matchOpenLines } from '../../server/services/bank/matching'
import { answerRefund, proposeRefund, readPaymentFile, readRefunds, sendRefunds } from '../../server/services/bank/refunds'
import { takeStatements } from '../../server/services/bank/statements'
import { lineQuerySchema, type RefundView } from '../../shared/bank'
import { camtFile, type MadeLine } from '../../statements/made'
import { expectSoundBooks } from '../support/books'
import { openOffice, type Office } from '../support/office'

let office: Office
const account = randomUUID()
const number = 'DE89370400440532013000'
const due = 79_000
beforeAll(async () => {
  office = await openOffice()
  await putBankAccount(office.as('accounts'), account, { title: 'Fees', holder: 'The office & sons', bank: 'A bank', number, bic: '', currency: 'IMK', takesDeposits: true })
})
afterAll(() => office.close())

let [day, balance] = [0, 0]
async function statement(...lines: Omit<MadeLine, 'on' | 'name'>[]): Promise<void> {
  day += 1
  const made = { account: number, currency: 'IMK', identification: `S${day}`, sequence: day, opening: balance, lines: lines.map(line => ({ on: `2027-02-${String(day).padStart(2, '0')}`, name: 'Somebody', ...line })) }
  balance = lines.reduce((sum, line) => sum + line.amount, balance)
  await takeStatements(office.as('accounts'), account, 's.xml', Buffer.from(camtFile(made)))
  await matchOpenLines(office.as('accounts'), () => Promise.resolve(true))
  await expectSoundBooks(office)
}
/** Somebody who paid twice. */
async function overpaid(): Promise<string> {
  const id = await office.complete()
  await office.act(id, 'submit', { revision: 1, declared: true })
  const reference = referenceOf((await office.dossier(id)).number)
  await statement({ amount: due, reference, text: '' }, { amount: due, reference, text: 'again' })
  expect(await office.dossier(id)).toMatchObject({ received: 2 * due, tracks: { fee: 'refund due' } })
  return id
}
const propose = (id: string, amount: number) => proposeRefund(office.as('accounts'), { application: id, amount, payee: 'Tavirel <Osk> & Anundé', number: 'GB29NWBK60161331926819', reason: 'paid twice' })
const one = async (id: string): Promise<RefundView | undefined> => (await readRefunds(office.as('auditor'))).refunds.find(row => row.id === id)

describe('a refund', () => {
  it('is proposed by one, approved by another, sent once, seen to have left, and owed again when it comes back', async () => {
    const id = await overpaid()
    await expect(propose(id, due + 1)).rejects.toMatchObject({ problem: { code: 'refund.too-much' } })
    await expect(proposeRefund(office.as('accounts'), { application: id, amount: 1, payee: 'x y', number: 'GB29NWBK60161331926818', reason: 'paid twice' })).rejects.toMatchObject({ problem: { code: 'bank.number' } })
    const both = await Promise.allSettled([propose(id, due), propose(id, due)])
    expect(both.map(result => result.status).sort()).toEqual(['fulfilled', 'rejected'])
    const [refund] = (await readRefunds(office.as('accounts'))).refunds
    if (!refund) throw new Error('no refund was proposed')
    await expect(answerRefund(office.as('accounts'), refund.id, 'approve')).rejects.toMatchObject({ problem: { code: 'refund.self' } })
    await expect(sendRefunds(office.as('accounts'), account)).rejects.toMatchObject({ problem: { code: 'refund.none' } })
    await answerRefund(office.as('officer'), refund.id, 'approve')
    const sent = await Promise.allSettled([sendRefunds(office.as('accounts'), account), sendRefunds(office.as('accounts'), account)])
    expect(sent.map(result => result.status).sort()).toEqual(['fulfilled', 'rejected'])
    expect(await office.dossier(id)).toMatchObject({ received: due, tracks: { fee: 'settled' } })
    await expect(answerRefund(office.as('officer'), refund.id, 'withdraw')).rejects.toMatchObject({ problem: { code: 'refund.state' } })

    // The file says number and sum twice, and every text within it is escaped.
    const [file] = (await readRefunds(office.as('auditor'))).files
    const { xml } = await readPaymentFile(office.as('accounts'), file?.id ?? '')
    const texts: string[] = []
    const parser = new SaxesParser()
    parser.on('text', text => texts.push(text))
    parser.write(xml.toString()).close()
    expect(texts).toEqual(expect.arrayContaining(['Tavirel <Osk> & Anundé', 'The office & sons', refund.reference, '790.00']))
    expect(texts.filter(text => text === '1').length).toBe(2)

    await statement({ amount: -due, text: `REFUND ${refund.reference}` })
    expect((await one(refund.id))?.state).toBe('left')
    // Taken back and found again: on its way, and left once more.
    const [line] = (await listLines(office.as('accounts'), lineQuerySchema.parse({ state: 'explained', side: 'out' }))).lines
    await takeExplanationBack(office.as('accounts'), (await readLine(office.as('accounts'), line?.id ?? '')).explained?.matchId ?? '', 'looked at again')
    expect((await one(refund.id))?.state).toBe('sent')
    await statement({ amount: 100, text: 'nothing of it' })
    expect((await one(refund.id))?.state).toBe('left')
    await statement({ amount: due, text: `RETURN ${refund.reference} account closed` })
    expect((await one(refund.id))?.state).toBe('returned')
    expect(await office.dossier(id)).toMatchObject({ received: 2 * due, tracks: { fee: 'refund due' } })
  })

  it('of several in one file may leave in one sum; one that was laid aside is in none', async () => {
    const ids = [await overpaid(), await overpaid(), await overpaid()]
    const refunds = [await propose(ids[0] ?? '', due), await propose(ids[1] ?? '', 50_000), await propose(ids[2] ?? '', due)]
    for (const { id } of refunds.slice(0, 2)) await answerRefund(office.second('officer'), id, 'approve')
    await answerRefund(office.as('officer'), refunds[2]?.id ?? '', 'withdraw')
    const { id: fileId } = await sendRefunds(office.as('accounts'), account)
    const file = (await readRefunds(office.as('auditor'))).files.find(row => row.id === fileId)
    expect(file).toMatchObject({ payments: 2, sum: due + 50_000 })
    await statement({ amount: -due, text: `${file?.reference}` })
    expect((await one(refunds[0]?.id ?? ''))?.state).toBe('sent')
    await statement({ amount: -due - 50_000, text: `BATCH ${file?.reference}` })
    expect([(await one(refunds[0]?.id ?? ''))?.state, (await one(refunds[1]?.id ?? ''))?.state]).toEqual(['left', 'left'])
    expect((await readRefunds(office.as('auditor'))).owed.map(row => row.amount).sort((a, b) => a - b)).toEqual([due - 50_000, due, due])
  })
})
