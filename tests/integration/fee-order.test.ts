import { randomUUID } from 'node:crypto'
import { afterAll, beforeAll, describe, expect, it } from 'vitest'
import { spellInstant } from '../../core/calendar/zone'
import { putBankAccount } from '../../server/services/bank/accounts'
import { readDeposit } from '../../server/services/bank/slip'
import { lapseOverdue } from '../../server/services/clock/lapse'
import { saveAnswers } from '../../server/services/applications/answers'
import { registerApplication } from '../../server/services/applications/begin'
import { openPayment } from '../../server/services/fees/payments'
import { receiveGatewayEvent } from '../../server/services/fees/events'
import { sampleAnswers, testNow } from '../support/sample'
import { demoNotice } from '../../demo/notice'
import { balances, expectSoundBooks } from '../support/books'
import { openOffice, type Office } from '../support/office'
import { problemOf } from '../support/problem'

const order = (wanted: 'before the form' | 'before submission', more: object = {}) => {
  const { fees } = demoNotice(testNow) as { fees: object }
  return openOffice({ fees: { ...fees, order: wanted, ...more } })
}
const pay = async (office: Office, id: string) => {
  const { order: made, amount } = await openPayment(office.as(), office.gateway, id)
  for (const event of await office.gateway.act(made, 'pay')) await receiveGatewayEvent(office.product, office.gateway, event)
  return amount
}
const standing = async (office: Office, id: string) => {
  const { tracks: { form, fee, scrutiny }, assessment, received } = await office.dossier(id)
  return { form, fee, scrutiny, total: assessment?.total, received }
}
const begin = async (office: Office) => (await registerApplication(office.as(), office.cycle, randomUUID())).id
const asked = { certificateName: 'Tavirel Osk', category: 'general', posts: ['pilot-cadet'], lowIncome: 'no', pwd: 'no' }
const save = async (office: Office, id: string, changes: Record<string, string | string[]>) =>
  saveAnswers(office.as(), id, { revision: (await office.dossier(id)).revision, changes })

describe('a fee that is paid before the form is handed in', () => {
  let office: Office
  beforeAll(async () => {
    office = await order('before submission')
  })
  afterAll(() => office.close())

  it('is asked for, follows what is typed, and opens the way to submission', async () => {
    const id = await office.complete()
    const { revision, matters } = await office.dossier(id)
    expect(matters).toContainEqual(expect.objectContaining({ kind: 'fee-due', holds: 'submission' }))
    expect(await problemOf(office.act(id, 'submit', { revision, declared: true }))).toMatchObject({ code: 'sheet.unpaid' })
    expect(await problemOf(openPayment(office.as(), office.gateway, id))).toMatchObject({ code: 'payment.not-assessed' })
    await office.act(id, 'ask-for-fee', {})
    expect(await problemOf(office.act(id, 'ask-for-fee', {}))).toMatchObject({ code: 'act.fee-not-due' })
    // Paid at a bank, it is wanted before the form closes, and not at the last payment after that.
    await putBankAccount(office.as('accounts'), randomUUID(), {
      title: 'Fees',
      holder: 'The office',
      bank: 'A bank',
      number: 'DE89370400440532013000',
      bic: '',
      currency: 'IMK',
      takesDeposits: true,
    })
    expect(await readDeposit(office.as(), id)).toMatchObject({
      amount: 79_000,
      lastDay: spellInstant(office.notice.keyDates.closes, office.notice.body.zone),
    })
    // One post less is 150.00 less, at once.
    await save(office, id, { posts: ['pilot-cadet'] })
    expect(await standing(office, id)).toEqual({ form: 'drafting', fee: 'due', scrutiny: 'not started', total: 64_000, received: 0 })
    expect(await pay(office, id)).toBe(64_000)
    // What is added after the fee was paid is due before the form is handed in.
    await save(office, id, { posts: sampleAnswers.posts as string[] })
    expect(await standing(office, id)).toMatchObject({ fee: 'due', total: 79_000, received: 64_000 })
    expect(await problemOf(office.act(id, 'submit', { revision: (await office.dossier(id)).revision, declared: true }))).toMatchObject({
      code: 'sheet.unpaid',
    })
    expect(await pay(office, id)).toBe(15_000)
    await office.act(id, 'submit', { revision: (await office.dossier(id)).revision, declared: true })
    expect(await standing(office, id)).toEqual({ form: 'submitted', fee: 'settled', scrutiny: 'waiting', total: 79_000, received: 79_000 })
    await expectSoundBooks(office)
  })

  it('makes nobody late who paid before the late period, and everybody who had not', async () => {
    const [early, waited] = [await office.complete(), await office.complete()]
    for (const id of [early, waited]) await office.act(id, 'ask-for-fee', {})
    await pay(office, early)
    const before = office.now
    office.now = new Date(Date.parse(office.notice.fees.late[0]?.from ?? '') + 1000)
    // A letter more in a name leaves the fee as it was paid.
    await save(office, early, { address: '2 Old Quay' })
    await office.act(early, 'submit', { revision: (await office.dossier(early)).revision, declared: true })
    expect(await standing(office, early)).toMatchObject({ fee: 'settled', total: 79_000 })
    expect(await pay(office, waited)).toBe(79_000 + (office.notice.fees.late[0]?.amount ?? 0))
    office.now = before
    await expectSoundBooks(office)
  })
})

describe('a fee that is paid before more is asked', () => {
  let office: Office
  beforeAll(async () => {
    office = await order('before the form', { unsubmitted: 'owed back' })
  })
  afterAll(() => office.close())

  it('keeps other questions and files closed until it has come', async () => {
    const id = await begin(office)
    await save(office, id, { ...asked, mobile: '5550100001' })
    expect(await problemOf(save(office, id, { address: '1 Old Quay' }))).toMatchObject({ code: 'sheet.fee-first' })
    expect(await problemOf(office.addPictures(id))).toMatchObject({ code: 'sheet.fee-first' })
    await office.act(id, 'ask-for-fee', {})
    await pay(office, id)
    await save(office, id, { address: '1 Old Quay' })
    expect(await standing(office, id)).toMatchObject({ form: 'drafting', fee: 'settled', received: 64_000 })
  })

  it('is owed back for a form that the close ends, but due again when the close is moved', async () => {
    const paid = await begin(office)
    await save(office, paid, { ...asked, mobile: '5550100002' })
    await office.act(paid, 'ask-for-fee', {})
    await pay(office, paid)
    const before = office.now
    office.now = new Date(Date.parse(office.notice.keyDates.closes) + 60_000)
    await lapseOverdue(office.product)
    expect(await standing(office, paid)).toMatchObject({ form: 'lapsed', fee: 'refund due', total: 0, received: 64_000 })
    expect((await balances(office))['fee income'] ?? 0).toBe(0)
    await expectSoundBooks(office)
    // As if the close had been moved to a later moment.
    office.now = before
    await lapseOverdue(office.product)
    expect(await standing(office, paid)).toMatchObject({ form: 'drafting', fee: 'settled', total: 64_000 })
    await expectSoundBooks(office)
  })
})
