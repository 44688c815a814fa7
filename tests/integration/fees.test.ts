import { eq, sql } from 'drizzle-orm'
import { afterAll, beforeAll, describe, expect, it } from 'vitest'
import { application, ledgerLine, ledgerTransaction } from '../../server/database/schema'
import { feesOverview, openPayment, receiveGatewayEvent, reconcilePayments, sweepOverduePayments } from '../../server/services/fees/payments'
import { openOffice, type Office } from '../support/office'
import { testNow } from '../support/sample'

let office: Office
beforeAll(async () => { office = await openOffice() })
afterAll(() => office.close())

const open = (id: string) => openPayment(office.as(), office.gateway, id)
const receive = (event: Parameters<typeof receiveGatewayEvent>[2]) => receiveGatewayEvent(office.product, office.gateway, event)

describe('a payment', () => {
  it('is opened once by a double press, and paid once when told many times at once', async () => {
    const id = await office.submitted()
    const [first, second] = await Promise.all([open(id), open(id)])
    expect(second.order).toBe(first.order)
    const [event] = await office.gateway.act(first.order, 'pay')
    if (!event) throw new Error('the gateway gave no event')
    const counted = await Promise.all([1, 2, 3, 4].map(() => receive(event)))
    expect(counted.filter(c => c.counted).length).toBe(1)
    expect(await office.dossier(id)).toMatchObject({ headline: 'in scrutiny', received: 80_250, payments: [{ state: 'succeeded', deliveries: 4 }] })
    await expect(open(id)).rejects.toThrow('Nothing is due')
  })

  it('may be tried again after it was declined', async () => {
    const id = await office.submitted()
    const { order } = await open(id)
    for (const event of await office.gateway.act(order, 'decline')) await receive(event)
    expect((await office.dossier(id)).tracks.fee).toBe('due')
    expect((await open(id)).order).not.toBe(order)
  })

  it('whose result never came is asked for, by hand or by the timer', async () => {
    const [byHand, byTimer] = [await office.submitted(), await office.submitted()]
    for (const id of [byHand, byTimer]) await office.gateway.act((await open(id)).order, 'silent')
    await reconcilePayments(office.as('accounts'), office.gateway, byHand)
    expect((await office.dossier(byHand)).tracks.fee).toBe('settled')
    expect((await office.dossier(byTimer)).tracks.fee).toBe('confirming')
    office.pass(4)
    await sweepOverduePayments(office.product, office.gateway)
    expect((await office.dossier(byTimer)).tracks.fee).toBe('settled')
    office.now = testNow
  })

  // Window of 180 seconds: 179 is inside, 181 is outside. Common practice, no source.
  it('expires after its window, and money that comes later still is booked, once', async () => {
    const id = await office.submitted()
    const { order } = await open(id)
    office.now = new Date(testNow.getTime() + 179_000)
    expect((await open(id)).order).toBe(order)
    office.now = new Date(testNow.getTime() + 181_000)
    const second = await open(id)
    expect(second.order).not.toBe(order)
    for (const event of await office.gateway.act(order, 'pay')) await receive(event)
    for (const event of await office.gateway.act(second.order, 'pay')) await receive(event)
    expect(await office.dossier(id)).toMatchObject({ received: 160_500, tracks: { fee: 'refund due' } })
    office.now = testNow
  })

  it('is not believed without the gateway\'s signature, and an unknown order is said to be unknown', async () => {
    const id = await office.submitted()
    const { order } = await open(id)
    const forged = { eventId: 'ev-x', order, outcome: 'charged' as const, amount: 80_250, signature: 'AAAA' }
    await expect(receive(forged)).rejects.toThrow('not signed by the gateway')
    expect((await office.dossier(id)).received).toBe(0)
  })
})

describe('the ledger', () => {
  it('sums to zero over all accounts after everything above', async () => {
    const fees = await feesOverview(office.as('accounts'), office.cycle)
    expect(fees.accounts.reduce((n, a) => n + a.balance, 0)).toBe(0)
    const [row] = await office.db.select({ n: sql<string>`count(*)` }).from(application)
    expect(fees.states.reduce((n, s) => n + s.count, 0)).toBe(Number(row?.n))
  })

  it('takes no transaction that does not balance, and never changes or loses a line, whatever the code does', async () => {
    const [row] = await office.db.select().from(application).limit(1)
    const unbalanced = office.db.transaction(async (tx) => {
      const id = office.as().newId()
      await tx.insert(ledgerTransaction).values({ id, applicationId: row?.id ?? '', source: 'test', at: office.now })
      await tx.insert(ledgerLine).values([{ id: office.as().newId(), transactionId: id, account: 'receivable', amount: 5 }, { id: office.as().newId(), transactionId: id, account: 'fee income', amount: -4 }])
    })
    await expect(unbalanced).rejects.toThrow()
    expect(await office.db.select().from(ledgerTransaction).where(eq(ledgerTransaction.source, 'test'))).toEqual([])
    await expect(office.db.update(ledgerLine).set({ amount: 1 })).rejects.toThrow()
    // One without lines, which no foreign key protects.
    await office.db.insert(ledgerTransaction).values({ id: office.as().newId(), applicationId: row?.id ?? '', source: 'bare', at: office.now })
    const why = await office.db.delete(ledgerTransaction).where(eq(ledgerTransaction.source, 'bare')).then(() => '', (error: Error) => String(error.cause))
    expect(why).toContain('never changed or removed')
  })
})
