import { randomUUID } from 'node:crypto'
import { SaxesParser } from 'saxes'
import { afterAll, beforeAll, describe, expect, it } from 'vitest'
import { referenceOf } from '../../core/bank/references'
import { putBankAccount } from '../../server/services/bank/accounts'
import { listLines, readLine, takeExplanationBack } from '../../server/services/bank/lines'
import { matchOpenLines } from '../../server/services/bank/matching'
import { giveRefundAccount, readRefundAccount } from '../../server/services/bank/refund-account'
import {
  answerRefund,
  proposeRefund,
  readPaymentFile,
  readRefunds,
  sendRefunds,
  sweepGatewayRefunds,
} from '../../server/services/bank/refunds'
import { takeSettlements } from '../../server/services/bank/settlements'
import { takeStatements } from '../../server/services/bank/statements'
import { feesOverview } from '../../server/services/fees/overview'
import { openPayment } from '../../server/services/fees/payments'
import { receiveGatewayEvent } from '../../server/services/fees/events'
import { BankStandin } from '../../server/standins/bank'
import { GatewayClient } from '../../server/standins/gateway-client'
import { lineQuerySchema, type RefundView } from '../../shared/bank'
import { camtFile, type MadeLine } from '../../statements/made'
import { balances, expectSoundBooks } from '../support/books'
import { problemOf } from '../support/problem'
import { openOffice, type Office } from '../support/office'

let office: Office
const account = randomUUID()
const number = 'DE89370400440532013000'
const due = 79_000
beforeAll(async () => {
  office = await openOffice()
  await putBankAccount(office.as('accounts'), account, {
    title: 'Fees',
    holder: 'The office & sons',
    bank: 'A bank',
    number,
    bic: '',
    currency: 'IMK',
    takesDeposits: true,
  })
})
afterAll(() => office.close())

let [day, balance] = [0, 0]
async function statement(...lines: Omit<MadeLine, 'on' | 'name'>[]): Promise<void> {
  day += 1
  const made = {
    account: number,
    currency: 'IMK',
    identification: `S${day}`,
    sequence: day,
    opening: balance,
    lines: lines.map(line => ({ on: `2027-02-${String(day).padStart(2, '0')}`, name: 'Somebody', ...line })),
  }
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
const propose = (id: string, amount: number) =>
  proposeRefund(office.as('accounts'), {
    application: id,
    amount,
    payee: 'Tavirel <Osk> & Anundé',
    number: 'GB29NWBK60161331926819',
    reason: 'paid twice',
  })
const one = async (id: string): Promise<RefundView | undefined> =>
  (await readRefunds(office.as('auditor'))).refunds.find(row => row.id === id)

describe('a refund', () => {
  it('is proposed by one, approved by another, sent once, seen to have left, and owed again when it comes back', async () => {
    const id = await overpaid()
    await expect(propose(id, due + 1)).rejects.toMatchObject({ problem: { code: 'refund.too-much' } })
    await expect(proposeRefund(office.as('accounts'), {
      application: id,
      amount: 1,
      payee: 'x y',
      number: 'GB29NWBK60161331926818',
      reason: 'paid twice',
    })).rejects.toMatchObject({ problem: { code: 'bank.number' } })
    const both = await Promise.allSettled([propose(id, due), propose(id, due)])
    expect(both.map(result => result.status).sort()).toEqual(['fulfilled', 'rejected'])
    const [refund] = (await readRefunds(office.as('accounts'))).refunds
    if (!refund) throw new Error('no refund was proposed')
    await expect(answerRefund(office.as('accounts'), office.gateway, refund.id, 'approve')).rejects.toMatchObject({
      problem: { code: 'refund.self' },
    })
    await expect(sendRefunds(office.as('accounts'), account)).rejects.toMatchObject({ problem: { code: 'refund.none' } })
    await answerRefund(office.as('officer'), office.gateway, refund.id, 'approve')
    const sent = await Promise.allSettled([sendRefunds(office.as('accounts'), account), sendRefunds(office.as('accounts'), account)])
    expect(sent.map(result => result.status).sort()).toEqual(['fulfilled', 'rejected'])
    expect(await office.dossier(id)).toMatchObject({ received: due, tracks: { fee: 'settled' } })
    await expect(answerRefund(office.as('officer'), office.gateway, refund.id, 'withdraw')).rejects.toMatchObject({
      problem: { code: 'refund.state' },
    })

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
    await takeExplanationBack(
      office.as('accounts'),
      (await readLine(office.as('accounts'), line?.id ?? '')).explained?.matchId ?? '',
      'looked at again',
    )
    expect((await one(refund.id))?.state).toBe('sent')
    await statement({ amount: 100, text: 'nothing of it' })
    expect((await one(refund.id))?.state).toBe('left')
    await statement({ amount: due, text: `RETURN ${refund.reference} account closed` })
    expect((await one(refund.id))?.state).toBe('returned')
    expect(await office.dossier(id)).toMatchObject({ received: 2 * due, tracks: { fee: 'refund due' } })
  })

  it('goes back the way that it came, as far as the gateway has so much of it, and stands in the next payout', async () => {
    const id = await office.complete()
    await office.act(id, 'submit', { revision: 1, declared: true })
    const { order } = await openPayment(office.as(), office.gateway, id)
    const tell = async (eventId: string) =>
      receiveGatewayEvent(
        office.product,
        office.gateway,
        office.gateway.deliver({ eventId, order, outcome: 'charged', amount: due, currency: 'IMK' }),
      )
    for (const event of await office.gateway.act(order, 'pay')) await receiveGatewayEvent(office.product, office.gateway, event)
    const payout = async () =>
      (await takeSettlements(office.as('accounts'), Buffer.from(await new BankStandin(office.db, () => office.now).settlement()))).taken[0]
    expect(await payout()).toMatchObject({ gross: due, faults: [] })
    await statement({ amount: due, reference: referenceOf((await office.dossier(id)).number), text: 'paid at the bank as well' })
    const back = (amount: number) => proposeRefund(office.as('accounts'), { application: id, amount, order, reason: 'paid twice' })
    await expect(back(due + 1)).rejects.toMatchObject({ problem: { code: 'refund.too-much' } })
    await expect(proposeRefund(office.as('accounts'), { application: id, amount: 5, order: 'another', reason: 'paid twice' })).rejects
      .toMatchObject({ problem: { code: 'refund.order' } })
    expect((await readRefunds(office.as('accounts'))).owed.find(row => row.applicationId === id)).toMatchObject({
      amount: due,
      orders: [{ order, left: due }],
    })
    const [first, second] = [await back(60_000), await back(due - 60_000)]
    // A gateway that is silent when it is sent is asked again; asked twice, it gives back once.
    const silent = new GatewayClient('http://127.0.0.1:1', 'nothing')
    await answerRefund(office.as('officer'), silent, first.id, 'approve')
    expect(await one(first.id)).toMatchObject({ state: 'sent', order })
    await Promise.all([sweepGatewayRefunds(office.product, office.gateway), sweepGatewayRefunds(office.product, office.gateway)])
    await answerRefund(office.as('officer'), office.gateway, second.id, 'approve')
    expect([(await one(first.id))?.state, (await one(second.id))?.state, (await office.dossier(id)).tracks.fee]).toEqual(['left', 'left',
      'settled'])
    expect(await balances(office, id)).toMatchObject({ 'receivable': 0, 'refunds payable': 0, 'gateway clearing': 0 })
    await expectSoundBooks(office)
    // Somebody else pays: what is paid out is less by what was given back, and every line of it is explained.
    const other = await office.complete()
    await office.act(other, 'submit', { revision: 1, declared: true })
    const next = await openPayment(office.as(), office.gateway, other)
    for (const event of await office.gateway.act(next.order, 'pay')) await receiveGatewayEvent(office.product, office.gateway, event)
    expect(await payout()).toMatchObject({ gross: due - 60_000, lines: 2, faults: [] })
    await expectSoundBooks(office)
    // What the gateway refuses is owed again.
    await tell('once more')
    const refused = await back(due)
    await answerRefund(office.as('officer'), office.gateway, refused.id, 'approve')
    expect([(await one(refused.id))?.state, (await office.dossier(id)).tracks.fee]).toEqual(['returned', 'refund due'])
    await expectSoundBooks(office)
  })

  it('goes to the account that its applicant has given, where it cannot go back the way that it came', async () => {
    const me = await office.candidate('Tavirel')
    const id = await office.complete(me)
    const give = (number: string, by = office.by(me)) => giveRefundAccount(by, id, { payee: 'Tavirel Osk', number })
    await office.act(id, 'submit', { revision: 1, declared: true })
    expect(await problemOf(give('GB29NWBK60161331926819'))).toMatchObject({ code: 'act.nothing-owed' })
    const reference = referenceOf((await office.dossier(id)).number)
    await statement({ amount: due + 500, reference, text: 'a little more' })
    expect(await problemOf(give('GB29NWBK60161331926818'))).toMatchObject({ code: 'bank.number' })
    expect(await problemOf(give('12345678', office.by(await office.candidate('Stranger'))))).toMatchObject({ code: 'access.relation' })
    await give('12345678')
    await give('GB29NWBK60161331926819')
    expect(await readRefundAccount(office.by(me), id)).toMatchObject({ payee: 'Tavirel Osk', number: 'GB29NWBK60161331926819' })
    expect((await readRefunds(office.as('auditor'))).owed.find(row => row.applicationId === id)).toMatchObject({
      amount: 500,
      orders: [],
      account: { number: 'GB29NWBK60161331926819' },
    })
  })

  it('of money that nobody’s due explains takes it along, and lets it wait again when it is laid aside or comes back', async () => {
    await statement({ amount: 12_345, text: 'books and pencils' })
    const find = async () =>
      (await listLines(office.as('accounts'), lineQuerySchema.parse({ state: 'open', side: 'in', search: 'pencils' }))).lines[0]
    const line = await find()
    const sendBack = () =>
      proposeRefund(office.as('accounts'), { line: line?.id ?? '', payee: 'A Stranger', number: '12345678', reason: 'nobody knows it' })
    const both = await Promise.allSettled([sendBack(), sendBack()])
    expect(both.map(result => result.status).sort()).toEqual(['fulfilled', 'rejected'])
    const [proposed] = (await readRefunds(office.as('auditor'))).refunds.filter(row => row.state === 'proposed')
    expect(proposed).toMatchObject({ of: null, amount: 12_345 })
    await expectSoundBooks(office)
    expect(await problemOf(takeExplanationBack(
      office.as('accounts'),
      (await readLine(office.as('accounts'), line?.id ?? '')).explained?.matchId ?? '',
      'looked at again',
    ))).toMatchObject({ code: 'refund.lay-aside' })
    await answerRefund(office.as('officer'), office.gateway, proposed?.id ?? '', 'withdraw')
    expect((await find())?.id).toBe(line?.id)
    const again = await sendBack()
    await answerRefund(office.as('officer'), office.gateway, again.id, 'approve')
    await sendRefunds(office.as('accounts'), account)
    const reference = (await one(again.id))?.reference ?? ''
    await statement({ amount: -12_345, text: reference })
    expect((await one(again.id))?.state).toBe('left')
    await statement({ amount: 12_345, text: `${reference} no such account` })
    expect([(await one(again.id))?.state, (await find())?.id]).toEqual(['returned', line?.id])
    await expectSoundBooks(office)
  })

  it('of an order that the office does not know goes back through the gateway', async () => {
    const order = { id: 'of another office', amount: 4000, currency: 'IMK' }
    await office.gateway.open({ ...order, description: '', returnTo: '/' })
    for (const event of await office.gateway.act(order.id, 'pay')) await receiveGatewayEvent(office.product, office.gateway, event)
    const misfit = async () => (await feesOverview(office.as('accounts'), office.cycle)).misfits.find(row => row.order === order.id)
    const event = (await misfit())?.event ?? ''
    expect(await misfit()).toMatchObject({ fault: 'order unknown', isOpen: true })
    const { id } = await proposeRefund(office.as('accounts'), { event, reason: 'not for this office' })
    expect([await problemOf(proposeRefund(office.as('accounts'), { event, reason: 'not for this office' })), (await misfit())?.isOpen])
      .toMatchObject([{ code: 'refund.event' }, false])
    await expectSoundBooks(office)
    await answerRefund(office.as('officer'), office.gateway, id, 'approve')
    expect((await one(id))?.state).toBe('left')
    await expectSoundBooks(office)
  })

  it('of several in one file may leave in one sum; one that was laid aside is in none', async () => {
    const ids = [await overpaid(), await overpaid(), await overpaid()]
    const refunds = [await propose(ids[0] ?? '', due), await propose(ids[1] ?? '', 50_000), await propose(ids[2] ?? '', due)]
    for (const { id } of refunds.slice(0, 2)) await answerRefund(office.second('officer'), office.gateway, id, 'approve')
    await answerRefund(office.as('officer'), office.gateway, refunds[2]?.id ?? '', 'withdraw')
    const { id: fileId } = await sendRefunds(office.as('accounts'), account)
    const file = (await readRefunds(office.as('auditor'))).files.find(row => row.id === fileId)
    expect(file).toMatchObject({ payments: 2, sum: due + 50_000 })
    await statement({ amount: -due, text: `${file?.reference}` })
    expect((await one(refunds[0]?.id ?? ''))?.state).toBe('sent')
    await statement({ amount: -due - 50_000, text: `BATCH ${file?.reference}` })
    expect([(await one(refunds[0]?.id ?? ''))?.state, (await one(refunds[1]?.id ?? ''))?.state]).toEqual(['left', 'left'])
    expect((await readRefunds(office.as('auditor'))).owed.filter(row => ids.includes(row.applicationId)).map(row => row.amount).sort((
      a,
      b,
    ) => a - b)).toEqual([due - 50_000, due])
  })
})
