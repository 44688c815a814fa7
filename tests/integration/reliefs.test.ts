import { afterAll, beforeAll, describe, expect, it } from 'vitest'
import { confirmAct } from '../../server/services/acts/named'
import { lapseOverdue } from '../../server/services/clock/lapse'
import { openPayment } from '../../server/services/fees/payments'
import { receiveGatewayEvent } from '../../server/services/fees/events'
import { demoNotice } from '../../demo/notice'
import { expectSoundBooks, balances } from '../support/books'
import { openOffice, type Office } from '../support/office'
import { problemOf } from '../support/problem'
import { testNow } from '../support/sample'

let office: Office
beforeAll(async () => {
  const { fees } = demoNotice(testNow) as { fees: object }
  office = await openOffice({ fees: { ...fees, waivedAlone: 10_000 } })
})
afterAll(() => office.close())

const reason = 'granted by the board of the office'
async function submitted(): Promise<string> {
  const id = await office.complete()
  await office.act(id, 'submit', { revision: 1, declared: true })
  return id
}
async function pay(id: string): Promise<string> {
  const { order } = await openPayment(office.as(), office.gateway, id)
  for (const event of await office.gateway.act(order, 'pay')) await receiveGatewayEvent(office.product, office.gateway, event)
  return order
}
const fee = async (id: string) => (await office.dossier(id)).tracks.fee
const back = async (order: string) => {
  for (const event of await office.gateway.act(order, 'back')) await receiveGatewayEvent(office.product, office.gateway, event)
}

describe('a due that is given up', () => {
  it("is waived alone up to the notice's limit, and with a second person above it", async () => {
    const id = await submitted()
    const { total } = (await office.dossier(id)).assessment ?? { total: 0 }
    expect((await office.act(id, 'waive-fee', { reason, amount: 10_000 }, office.as('accounts'))).isDone).toBe(true)
    expect((await office.dossier(id)).assessment).toMatchObject({ total: total - 10_000 })
    const begun = await office.act(id, 'waive-fee', { reason }, office.as('accounts'))
    if (begun.isDone) throw new Error('nobody else was asked')
    expect(await problemOf(confirmAct(office.as('accounts'), begun.proposal))).toMatchObject({ code: 'access.second-self' })
    await confirmAct(office.as(), begun.proposal)
    expect([await fee(id), (await office.dossier(id)).tracks.scrutiny]).toEqual(['nothing due', 'waiting'])
    expect(await problemOf(office.act(id, 'waive-fee', { reason }))).toMatchObject({ code: 'act.fee-not-due' })
    expect((await balances(office)).waivers).toBe(total)
    await expectSoundBooks(office)
    // Claimed again, it is due as before and leaves the queue.
    const again = await office.act(id, 'claim-fee-again', { reason })
    if (again.isDone) throw new Error('nobody else was asked')
    await confirmAct(office.second(), again.proposal)
    expect([await fee(id), (await office.dossier(id)).tracks.scrutiny, (await balances(office)).waivers]).toEqual(['due', 'not started', 0])
    await pay(id)
    await expectSoundBooks(office)
  })

  it('is written off by two people, and refused beyond what is due', async () => {
    const id = await submitted()
    const begun = await office.act(id, 'write-off-fee', { reason }, office.as('accounts'))
    if (begun.isDone) throw new Error('nobody else was asked')
    await confirmAct(office.as(), begun.proposal)
    expect([await fee(id), (await balances(office))['write-offs']]).toEqual(['nothing due', 79_000])
    const other = await submitted()
    expect(await problemOf(office.act(other, 'waive-fee', { reason, amount: 1 }, office.as('scrutineer')))).toMatchObject({
      code: 'access.role',
    })
    const tooMuch = await office.act(other, 'waive-fee', { reason, amount: 90_000 })
    if (tooMuch.isDone) throw new Error('nobody else was asked')
    expect(await problemOf(confirmAct(office.second(), tooMuch.proposal))).toMatchObject({ code: 'fee.relief-amount' })
    await expectSoundBooks(office)
  })

  it('goes with an application that leaves the flow, comes back with it, and late money is owed back', async () => {
    const [withdrawn, lapsed] = [await submitted(), await submitted()]
    await office.act(withdrawn, 'withdraw', { reason })
    expect(await fee(withdrawn)).toBe('nothing due')
    await office.act(withdrawn, 'bring-back', { reason })
    expect([await fee(withdrawn), (await office.dossier(withdrawn)).assessment?.items.some(item => item.code === 'given-up')]).toEqual([
      'due',
      false,
    ])
    const { order } = await openPayment(office.as(), office.gateway, lapsed)
    const late = await office.gateway.act(order, 'pay')
    office.now = new Date(Date.parse(office.notice.keyDates.lastPayment) + 60_000)
    await office.db.execute(`update payment set state = 'expired' where gateway_order = '${order}'`)
    await office.db.execute(`update application set fee = 'due' where id = '${lapsed}'`)
    await lapseOverdue(office.product)
    expect((await office.dossier(lapsed)).tracks).toMatchObject({ form: 'lapsed', fee: 'nothing due' })
    for (const event of late) await receiveGatewayEvent(office.product, office.gateway, event)
    expect((await office.dossier(lapsed)).tracks).toMatchObject({ form: 'lapsed', fee: 'refund due' })
    office.now = testNow
    await expectSoundBooks(office)
  })
})

describe('money that a bank takes back', () => {
  it('makes the fee due again, holds the card, and is booked once', async () => {
    const id = await submitted()
    const order = await pay(id)
    await office.act(id, 'accept', {}, office.as('scrutineer'))
    await office.publish((await office.run()).runId)
    await office.issue(id)
    await back(order)
    await back(order)
    const held = await office.dossier(id)
    expect([held.tracks.fee, held.tracks.card, held.received, held.tracks.scrutiny]).toEqual(['due', 'withheld', 0, 'accepted'])
    expect(held.matters).toContainEqual(expect.objectContaining({ kind: 'charged-back', owner: 'accounts' }))
    expect(held.history.filter(row => row.act === 'payment-charged-back')).toHaveLength(1)
    await expectSoundBooks(office)
    // Settled anew, an officer lets the card go, and it is the one that was printed.
    await pay(id)
    await office.act(id, 'let-card-go', { reason })
    const after = await office.dossier(id)
    expect([after.tracks.fee, after.tracks.card, after.card?.version, after.matters.some(m => m.kind === 'charged-back')]).toEqual([
      'settled',
      'issued',
      1,
      false,
    ])
    await expectSoundBooks(office)
  })

  it('puts a case back that nobody has decided, and one that was never charged is told and not booked', async () => {
    const id = await submitted()
    const order = await pay(id)
    await back(order)
    expect((await office.dossier(id)).tracks).toMatchObject({ fee: 'due', scrutiny: 'not started' })
    const other = await submitted()
    const { order: open } = await openPayment(office.as(), office.gateway, other)
    await receiveGatewayEvent(
      office.product,
      office.gateway,
      office.gateway.deliver({ eventId: 'never', order: open, outcome: 'charged back', amount: 100, currency: 'IMK' }),
    )
    expect((await office.dossier(other)).tracks.fee).toBe('confirming')
    await expectSoundBooks(office)
  })
})
