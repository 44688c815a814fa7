import { randomUUID } from 'node:crypto'
import { eq } from 'drizzle-orm'
import { afterAll, beforeAll, describe, expect, it } from 'vitest'
import { dayClosing } from '../../server/database/schema'
import { putBankAccount } from '../../server/services/bank/accounts'
import { closeDay, readClosing } from '../../server/services/bank/closing'
import { ledgerCsv } from '../../server/services/bank/export'
import { explainLine, listLines } from '../../server/services/bank/lines'
import { matchOpenLines } from '../../server/services/bank/matching'
import { listSettlements, takeSettlements } from '../../server/services/bank/settlements'
import { depositSlip, readDeposit } from '../../server/services/bank/slip'
import { takeStatements } from '../../server/services/bank/statements'
import { openPayment } from '../../server/services/fees/payments'
import { receiveGatewayEvent } from '../../server/services/fees/events'
import { BankStandin } from '../../server/standins/bank'
import { lineQuerySchema, type ClosingView } from '../../shared/bank'
import { settlementFile, type Payout } from '../../statements/settlement'
import { openOffice, type Office } from '../support/office'
import { testNow } from '../support/sample'

let office: Office
const account = randomUUID()
const today = testNow.toISOString().slice(0, 10)
beforeAll(async () => {
  office = await openOffice()
  await putBankAccount(office.as('accounts'), account, {
    title: 'Fees',
    holder: 'The office',
    bank: 'A bank',
    number: 'DE89370400440532013000',
    bic: '',
    currency: 'IMK',
    takesDeposits: true,
  })
})
afterAll(() => office.close())

const take = (payouts: Payout[]) => takeSettlements(office.as('accounts'), Buffer.from(settlementFile(payouts)))
const closing = () => readClosing(office.as('auditor'), office.cycle, { on: today })
const explained = (view: ClosingView) => expect(view.accounts.filter(one => one.difference !== 0)).toEqual([])
/** An application paid through the gateway, by its order. */
async function paid(act: 'pay' | 'silent' = 'pay'): Promise<string> {
  const id = await office.complete()
  const { revision } = await office.dossier(id)
  await office.act(id, 'submit', { revision, declared: true })
  const { order } = await openPayment(office.as(), office.gateway, id)
  for (const event of await office.gateway.act(order, act)) await receiveGatewayEvent(office.product, office.gateway, event)
  return order
}
const bank = () => new BankStandin(office.db, () => office.now)

describe('a payout of the gateway', () => {
  it('is booked once, order by order held against what was told, and met by its line on the statement', async () => {
    const [one, two] = [await paid(), await paid()]
    const payout: Payout = {
      reference: 'PO-1',
      on: '2027-01-10',
      currency: 'IMK',
      orders: [{ order: one, gross: 79_000, charge: 1204 }, { order: two, gross: 78_750, charge: 1200 }, {
        order: 'X-1',
        gross: 500,
        charge: 8,
      }],
    }
    const both = await Promise.all([take([payout]), take([payout])])
    expect(both.map(({ taken, repeated }) => [taken.length, repeated]).sort()).toEqual([[0, 1], [1, 0]])
    await expect(take([{ ...payout, on: '2027-01-11' }])).rejects.toMatchObject({ problem: { code: 'statement.otherwise' } })
    expect((await listSettlements(office.as('auditor')))[0]).toMatchObject({
      gross: 158_250,
      charges: 2412,
      net: 155_838,
      isBrought: false,
      faults: [{ order: two, fault: 'amount' }, { order: 'X-1', fault: 'order unknown' }],
    })
    await take([{ reference: 'PO-2', on: '2027-01-11', currency: 'IMK', orders: [{ order: one, gross: 79_000, charge: 0 }] }])
    expect((await listSettlements(office.as('auditor'))).find(row => row.reference === 'PO-2')?.faults).toMatchObject([{
      fault: 'settled before',
    }])
    const { view } = await closing()
    explained(view)
    // 79,000 of one order were paid out twice, 250 of the other not at all, 500 for nothing that is known.
    expect(view.accounts.find(row => row.account === 'gateway clearing')).toMatchObject({
      balance: -79_000 + 250 - 500,
      explained: [{ count: 3 }],
    })
    expect(view.accounts.find(row => row.account === 'bank expected')).toMatchObject({ balance: 155_838 + 79_000 })
  })

  it('whose lines do not add up, or are cut, is refused whole', async () => {
    const file = settlementFile([{
      reference: 'PO-9',
      on: '2027-01-10',
      currency: 'IMK',
      orders: [{ order: 'a', gross: 100, charge: 1 }, { order: 'b', gross: 100, charge: 1 }],
    }])
    const code = (text: string) =>
      takeSettlements(office.as('accounts'), Buffer.from(text)).then(
        () => 'taken',
        (error: { problem: { code: string } }) => error.problem.code,
      )
    expect(await Promise
      .all([file.replace('0.99', '1.00'), file.replace('paid_out', 'net'), file.replace('2027-01-10', '2027-13-10'),
        file.split('\r\n')[0] ?? '', file.replace('IMK', 'EUR')].map(code))).toEqual(['settlement.sum', 'statement.headings',
        'statement.date', 'statement.empty', 'settlement.mixed'])
    expect((await listSettlements(office.as('auditor'))).some(row => row.reference === 'PO-9')).toBe(false)
  })
})

describe('a day at the simulated bank', () => {
  it('brings payouts and payers of every kind to a closing in which every account is explained', async () => {
    const accounts = office.as('accounts')
    for (let i = 0; i < 3; i += 1) await paid(i === 0 ? 'silent' : 'pay')
    await takeSettlements(accounts, Buffer.from(await bank().settlement()))
    const number = 'DE89370400440532013000'
    const dues = await Promise.all(Array.from({ length: 12 }, async () => {
      const id = await office.complete()
      const { revision } = await office.dossier(id)
      await office.act(id, 'submit', { revision, declared: true })
      const { number: of, name } = await office.dossier(id)
      return { application: id, number: of, name, currency: 'IMK', due: 79_000, isOver: false }
    }))
    const sequence = await bank().passDay({ number, currency: 'IMK' }, dues)
    const [camt, again] = [await bank().statement(number, sequence, 'camt'), await bank().statement(number, sequence, 'camt')]
    expect(again).toBe(camt)
    await takeStatements(accounts, account, 'day.xml', Buffer.from(camt))
    await matchOpenLines(accounts, () => Promise.resolve(true))
    expect((await listSettlements(accounts)).filter(row => row.isBrought).length).toBe(1)
    const [out] = (await listLines(accounts, lineQuerySchema.parse({ side: 'out' }))).lines
    await explainLine(accounts, out?.id ?? '', { as: 'bank charge' })
    const { view, byDay } = await closing()
    explained(view)
    expect(view.receipts.map(row => row.channel)).toEqual(expect.arrayContaining(['gateway', 'bank']))
    expect(view.papers?.reduce((sum, row) => sum + row.amount, 0)).toBe(view.receipts.reduce((sum, row) => sum + row.amount, 0))
    expect(view.papers?.[0]).toMatchObject({ cycle: 'HL27', posts: expect.stringContaining('Pilot cadet') as string })
    expect(byDay.filter(row => row.on === today).reduce((sum, row) => sum + row.amount, 0))
      .toBe(view.receipts.reduce((sum, row) => sum + row.amount, 0))
  })

  it("is closed once, by the office's clock, and stays as it was", async () => {
    const accounts = office.as('accounts')
    await expect(closeDay(accounts, office.cycle, { on: '2999-01-01', currency: 'IMK', note: '' })).rejects.toMatchObject({
      problem: { code: 'closing.ahead' },
    })
    const both = await Promise
      .allSettled([1, 2].map(() => closeDay(accounts, office.cycle, { on: today, currency: 'IMK', note: 'all there' })))
    expect(both.some(result => result.status === 'fulfilled')).toBe(true)
    expect((await office.db.select().from(dayClosing)).length).toBe(1)
    const before = (await closing()).closed
    await paid()
    expect((await closing()).closed).toEqual(before)
    expect(before).toMatchObject({ note: 'all there', view: { on: today } })
    await expect(office.db.update(dayClosing).set({ note: 'other' }).where(eq(dayClosing.on, today))).rejects.toThrow()
    const lines: string[] = []
    for await (const part of ledgerCsv(accounts, { from: today, to: today })) lines.push(...part.trim().split('\r\n'))
    const sum = (column: number) =>
      lines.slice(1).reduce((total, line) => total + Math.round(Number(line.split(',')[column] || 0) * 100), 0)
    expect(lines.length).toBeGreaterThan(20)
    expect(sum(5)).toBe(sum(6))
  })
})

describe('a deposit slip', () => {
  it('says what is due and where, to whoever the application belongs, as long as something is due', async () => {
    const owner = await office.candidate()
    const id = await office.complete(owner)
    await expect(depositSlip(office.by(owner), id)).rejects.toMatchObject({ problem: { code: 'slip.nothing-due' } })
    await office.act(id, 'submit', { revision: 1, declared: true }, office.by(owner))
    expect(await readDeposit(office.by(owner), id)).toMatchObject({
      amount: 79_000,
      currency: 'IMK',
      account: { number: 'DE89370400440532013000' },
      reference: expect.stringMatching(/^RF\d\dHL27\d{7}$/) as string,
    })
    expect((await depositSlip(office.by(owner), id)).pdf.subarray(0, 5).toString()).toBe('%PDF-')
    await expect(depositSlip(office.by(await office.candidate('A Stranger')), id)).rejects.toMatchObject({
      problem: { kind: 'not-allowed' },
    })
  })
})
