import fc from 'fast-check'
import { afterAll, beforeAll, describe, expect, it } from 'vitest'
import type { Principal } from '../../core/access/principal'
import { payment } from '../../server/database/schema'
import { receiveGatewayEvent } from '../../server/services/fees/events'
import { sweepOverduePayments } from '../../server/services/fees/payments'
import { openForList, openTogether, owedByList } from '../../server/services/fees/together'
import { answerRefund, proposeRefund } from '../../server/services/bank/refunds'
import { ordersLeft } from '../../server/services/bank/refund-sources'
import { readOwn } from '../../server/services/candidates/own'
import { demoNotice } from '../../demo/notice'
import type { GatewayAct } from '../../server/standins/gateway-acts'
import { expectSoundBooks } from '../support/books'
import { openOffice, type Office } from '../support/office'
import { problemOf } from '../support/problem'
import { testNow } from '../support/sample'

let office: Office
let parent: Principal
beforeAll(async () => {
  const { fees } = demoNotice(testNow) as { fees: object }
  // Worked by hand for two who owe 790.00 each: 1.2 % of 1,580.00 are 18.96, and 15 % tax on that 2.84.
  office = await openOffice({ fees: { ...fees, channels: [{ way: 'card', shareBasisPoints: 120, taxBasisPoints: 1500 }] } })
  parent = await office.candidate()
})
afterAll(() => office.close())

async function submitted(owner = parent): Promise<string> {
  const id = await office.complete(owner)
  await office.act(id, 'submit', { revision: 1, declared: true })
  return id
}
const open = (ids: string[], who: Principal = parent) => openTogether(office.by(who), office.gateway, ids)
async function tell(order: string, act: GatewayAct): Promise<void> {
  for (const event of await office.gateway.act(order, act)) await receiveGatewayEvent(office.product, office.gateway, event)
}
/** A second payment of 790.00 for somebody who has paid: an order of their own whose time ran out before, charged all the same. */
async function openPaid(id: string): Promise<string> {
  const order = `${id.slice(0, 8)}.late`
  const [made] = await office.db.insert(payment).values({
    id: crypto.randomUUID(),
    applicationId: id,
    amount: 79_000,
    currency: 'IMK',
    state: 'expired',
    gatewayOrder: order,
    openedAt: office.now,
    expiresAt: office.now,
  }).returning()
  if (!made) throw new Error('no payment was written')
  await office.gateway.open({ id: order, amount: 79_000, currency: 'IMK', description: 'again', returnTo: '/' })
  await tell(order, 'pay')
  return order
}
async function standing(id: string) {
  const { tracks: { fee }, received, assessment } = await office.dossier(id)
  return { fee, received, total: assessment?.total }
}

describe('one payment for several', () => {
  it("settles each with a part of its own, its share of the way's charge, and a receipt", async () => {
    const [one, other] = [await submitted(), await submitted()]
    const { together } = await readOwn(office.by(parent))
    expect(together).toMatchObject([{
      cycle: 'HL27',
      applications: [other, one],
      due: 158_000,
      costs: [{ way: 'card', charge: 1896, tax: 284 }],
    }])
    const paid = await open([one, other])
    expect(paid.amount).toBe(160_180)
    expect((await office.dossier(one)).payments).toMatchObject([{ order: paid.order, others: 1 }])
    // Pressed again, it is the same; while it is open neither is paid for otherwise.
    expect((await open([other, one])).order).toBe(paid.order)
    const third = await submitted()
    expect(await problemOf(open([one, third]))).toMatchObject({ code: 'act.fee-not-due' })
    expect(await standing(third)).toMatchObject({ fee: 'due' })
    await tell(paid.order, 'twice')
    expect([await standing(one), await standing(other)]).toEqual([{ fee: 'settled', received: 80_090, total: 80_090 }, {
      fee: 'settled',
      received: 80_090,
      total: 80_090,
    }])
    await expectSoundBooks(office)
  })

  it("refuses what is not one's own, paid already, or nobody's", async () => {
    const [own, theirs] = [await submitted(), await submitted(await office.candidate('Somebody else'))]
    expect(await problemOf(open([own, theirs]))).toMatchObject({ code: 'access.relation' })
    const paid = await open([own])
    await tell(paid.order, 'pay')
    expect(await problemOf(open([own, await submitted()]))).toMatchObject({ code: 'payment.nothing-due' })
    expect(await problemOf(open([]))).toMatchObject({ code: 'application.unknown' })
    await expectSoundBooks(office)
  })

  it('gives back no more than the part of one who has it owed back, and leaves the others as they are', async () => {
    const [one, other] = [await submitted(), await submitted()]
    const paid = await open([one, other])
    await tell(paid.order, 'pay')
    // Paid once more from elsewhere: 790.00 are owed back to one of them, and of the order no more than 800.90 is theirs.
    const again = await openPaid(one)
    expect(await standing(one)).toMatchObject({ fee: 'refund due', received: 80_090 + 79_000 })
    expect((await ordersLeft(office.db, [one, other])).get(other)).toMatchObject([{ order: paid.order, left: 80_090 }])
    const refund = (order: string, amount: number) =>
      proposeRefund(office.as('accounts'), { application: one, amount, order, reason: 'paid twice' })
    expect(await problemOf(refund(paid.order, 80_091))).toMatchObject({ code: 'refund.too-much' })
    const { id } = await refund(paid.order, 79_000)
    await answerRefund(office.second('accounts'), office.gateway, id, 'approve')
    const left = new Map((await ordersLeft(office.db, [one])).get(one)?.map(({ order, left }) => [order, left]))
    expect(left).toEqual(new Map([[again, 79_000], [paid.order, 80_090 - 79_000]]))
    expect([await standing(one), await standing(other)]).toMatchObject([{ fee: 'settled', received: 80_090 }, { fee: 'settled' }])
    await expectSoundBooks(office)
  })

  it('is opened by the office for those of a list who owe, and for none of the others', async () => {
    const named = { filter: { search: 'Berrow' } as const }
    expect(await problemOf(openForList(office.as('accounts'), office.gateway, office.cycle, { filter: { search: 'nobody of this name' } })))
      .toMatchObject({ code: 'payment.together-none' })
    expect(await problemOf(owedByList(office.as(), office.cycle, { is: ['fee:settled'] }))).toMatchObject({ code: 'payment.together-none' })
    expect(await problemOf(owedByList(office.as('scrutineer'), office.cycle, {}))).toMatchObject({ code: 'access.role' })
    const school = ['Aldis Berrow', 'Osmer Berrow'].map(async (name) => {
      const id = await office.draft({ certificateName: name, identityName: name })
      await office.addPapers(id)
      await office.addPictures(id)
      await office.act(id, 'submit', { revision: 1, declared: true })
      return id
    })
    const ids = await Promise.all(school)
    expect(await owedByList(office.as('accounts'), office.cycle, named.filter)).toMatchObject({
      people: 2,
      due: 158_000,
      costs: [{ way: 'card', charge: 1896, tax: 284 }],
    })
    const { order, amount } = await openForList(office.as('accounts'), office.gateway, office.cycle, named)
    expect(amount).toBe(160_180)
    await tell(order, 'pay')
    expect(await Promise.all(ids.map(standing))).toMatchObject([{ fee: 'settled' }, { fee: 'settled' }])
    expect(await problemOf(owedByList(office.as('accounts'), office.cycle, named.filter))).toMatchObject({ code: 'payment.together-none' })
    await expectSoundBooks(office)
  })

  it('is given up for all of them when nobody pays, and money that comes later still counts for each', async () => {
    const ids = [await submitted(), await submitted()]
    const { order } = await open(ids)
    const before = office.now
    office.now = new Date(office.now.getTime() + 3_600_000)
    await sweepOverduePayments(office.product, office.gateway)
    expect(await Promise.all(ids.map(standing))).toMatchObject([{ fee: 'due', received: 0 }, { fee: 'due', received: 0 }])
    office.now = before
    await tell(order, 'pay')
    expect(await Promise.all(ids.map(standing))).toMatchObject([{ fee: 'settled' }, { fee: 'settled' }])
    await expectSoundBooks(office)
  })

  it('ends with sound books whatever the gateway tells, in any order and number', async () => {
    const acts = fc.array(fc.constantFrom<GatewayAct>('pay', 'twice', 'less', 'decline', 'back'), { minLength: 1, maxLength: 5 })
    await fc.assert(
      fc.asyncProperty(fc.integer({ min: 2, max: 4 }), acts, async (people, told) => {
        const ids: string[] = []
        for (let i = 0; i < people; i++) ids.push(await submitted())
        const { order } = await open(ids)
        for (const act of told) {
          const events = await office.gateway.act(order, act).catch(() => [])
          for (const event of [...events, ...events]) await receiveGatewayEvent(office.product, office.gateway, event)
        }
        await expectSoundBooks(office)
      }),
      { numRuns: 6 },
    )
  })
})
