import { eq, sql } from 'drizzle-orm'
import { afterAll, beforeAll, describe, expect, it } from 'vitest'
import { application, ledgerLine, ledgerTransaction } from '../../server/database/schema'
import { feesOverview } from '../../server/services/fees/overview'
import { openPayment, reconcilePayments, sweepOverduePayments } from '../../server/services/fees/payments'
import { receiveGatewayEvent } from '../../server/services/fees/events'
import { balances } from '../support/books'
import { openOffice, type Office } from '../support/office'
import { testNow } from '../support/sample'
import { assessmentLines } from '../../core/fees/ledger'
import { readApplication } from '../../server/services/applications/store'
import { book } from '../../server/services/fees/book'
import { receivedFor } from '../../server/services/fees/received'
import type { GatewayEvent } from '../../server/standins/gateway'

let office: Office
beforeAll(async () => {
  office = await openOffice()
})
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
    expect(await office.dossier(id)).toMatchObject({
      headline: 'in scrutiny',
      received: 79_000,
      payments: [{ state: 'succeeded', deliveries: 4 }],
    })
    await expect(open(id)).rejects.toThrow('Nothing is due')
    // What was told of other orders is no affair of this one.
    const other = await office.submitted()
    for (const delivery of await office.gateway.act((await open(other)).order, 'pay')) await receive(delivery)
    expect((await office.dossier(id)).payments).toMatchObject([{ deliveries: 4 }])
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
    expect(await office.dossier(id)).toMatchObject({ received: 158_000, tracks: { fee: 'refund due' } })
    office.now = testNow
  })

  it('is not believed unless the gateway signed these very bytes', async () => {
    const id = await office.submitted()
    const { order } = await open(id)
    const signed = office.gateway.deliver({ eventId: 'ev-x', order, outcome: 'charged', amount: 79_000, currency: 'IMK' })
    await expect(receive({ ...signed, signature: 'AAAA' })).rejects.toThrow('not signed by the gateway')
    // Parts that are cut elsewhere: with a mark between the parts of a text these two would be signed alike.
    const cut = office.gateway.deliver({ eventId: 'ev|y', order, outcome: 'charged', amount: 1, currency: 'IMK' })
    await expect(receive({
      body: Buffer.from(cut.body.toString().replace('"ev|y"', '"ev"').replace(`"${order}"`, `"y|${order}"`)),
      signature: cut.signature,
    })).rejects.toThrow('not signed by the gateway')
    await expect(receive(office.gateway.deliver({ eventId: 'ev-z', order, outcome: 'charged', amount: -5, currency: 'IMK' }))).rejects
      .toThrow('holds no event')
    expect((await office.dossier(id)).received).toBe(0)
  })
})

describe('what the gateway tells', () => {
  let serial = 0
  /** A submitted application with an open order, and one more event for it. */
  const told = async (event: Partial<GatewayEvent>, paidBefore = false) => {
    const id = await office.submitted()
    const { order } = await open(id)
    if (paidBefore) { for (const delivery of await office.gateway.act(order, 'pay')) await receive(delivery) }
    const delivery = office.gateway.deliver({
      eventId: `odd-${serial += 1}`,
      order,
      outcome: 'charged',
      amount: 79_000,
      currency: 'IMK',
      ...event,
    })
    const counted = await Promise.all([receive(delivery), receive(delivery)])
    expect(counted.filter(one => one.counted).length).toBe(1)
    const { misfits } = await feesOverview(office.as('accounts'), office.cycle)
    return {
      id,
      fee: (await office.dossier(id)).tracks.fee,
      fault: misfits.find(one => one.order === (event.order ?? order))?.fault ?? null,
      books: await balances(office, id),
    }
  }

  // What is posted when: common accounting practice, no source.
  it('fits or is listed, and the money is where it belongs', async () => {
    expect(await told({})).toMatchObject({ fee: 'settled', fault: null, books: { 'receivable': 0, 'gateway clearing': 79_000 } })
    expect(await told({ amount: 1 })).toMatchObject({ fee: 'due', fault: 'amount', books: { 'receivable': 78_999, 'gateway clearing': 1 } })
    expect(await told({ amount: 158_000 })).toMatchObject({
      fee: 'refund due',
      fault: 'amount',
      books: { 'receivable': 0, 'gateway clearing': 158_000, 'refunds payable': -79_000 },
    })
    expect(await told({ amount: 0 })).toMatchObject({ fee: 'due', fault: 'amount', books: { receivable: 79_000 } })
    expect(await told({ amount: 2_147_483_648 })).toMatchObject({
      fee: 'refund due',
      fault: 'amount',
      books: { 'receivable': 0, 'gateway clearing': 2_147_483_648, 'refunds payable': 79_000 - 2_147_483_648 },
    })
    expect(await told({ currency: 'EUR' })).toMatchObject({
      fee: 'due',
      fault: 'currency',
      books: { 'receivable': 79_000, 'gateway clearing': 79_000, 'unmatched receipts': -79_000 },
    })
  })

  it('after an order was charged is owed back, or changes nothing', async () => {
    expect(await told({}, true)).toMatchObject({
      fee: 'refund due',
      fault: 'charged again',
      books: { 'receivable': 0, 'gateway clearing': 158_000, 'refunds payable': -79_000 },
    })
    const foreign = await told({ currency: 'EUR' }, true)
    expect(foreign).toMatchObject({
      fee: 'settled',
      fault: 'currency',
      books: { 'receivable': 0, 'gateway clearing': 158_000, 'unmatched receipts': -79_000 },
    })
    expect((await office.dossier(foreign.id)).payments).toMatchObject([{ state: 'succeeded' }])
    expect(await told({ outcome: 'declined' }, true)).toMatchObject({
      fee: 'settled',
      fault: 'declined after charged',
      books: { 'receivable': 0, 'gateway clearing': 79_000 },
    })
  })

  it('of an order that nobody knows is booked as unmatched', async () => {
    const before = await balances(office, null)
    expect(await told({ order: 'no such order', amount: 700 })).toMatchObject({ fee: 'confirming', fault: 'order unknown' })
    expect((await balances(office, null))['unmatched receipts'] ?? 0).toBe((before['unmatched receipts'] ?? 0) - 700)
  })

  it('under the id of another event is listed, and the first counts', async () => {
    const { id } = await told({ eventId: 'ev-same' })
    const { order } = (await office.dossier(id)).payments[0] ?? { order: '' }
    expect(await receive(office.gateway.deliver({ eventId: 'ev-same', order, outcome: 'charged', amount: 5, currency: 'IMK' }))).toEqual({
      counted: false,
    })
    expect(await office.dossier(id)).toMatchObject({ received: 79_000, tracks: { fee: 'settled' } })
    expect((await feesOverview(office.as('accounts'), office.cycle)).misfits)
      .toContainEqual(expect.objectContaining({ fault: 'told otherwise before', amount: 5 }))
  })

  it('pays a due by money that was owed back, when more becomes due', async () => {
    const { id } = await told({ amount: 100_000 })
    const row = await readApplication(office.db, id)
    const context = await office.context()
    await office.db.transaction(tx =>
      book(tx, context, {
        applicationId: row.id,
        source: 'more',
        kind: 'assessment',
        currency: 'IMK',
        lines: assessmentLines([], [{ because: { code: 'category', category: 'General' }, amount: 15_000 }]),
      })
    )
    expect(await balances(office, id)).toMatchObject({ 'receivable': 0, 'refunds payable': -6_000 })
    expect(await receivedFor(office.db, id)).toBe(100_000)
  })
})

describe('the ledger', () => {
  it('sums to zero over all accounts after everything above', async () => {
    const fees = await feesOverview(office.as('accounts'), office.cycle)
    for (const currency of ['IMK', 'EUR']) {
      expect(fees.accounts.filter(a => a.currency === currency).reduce((n, a) => n + a.balance, 0)).toBe(0)
    }
    const [row] = await office.db.select({ n: sql<string>`count(*)` }).from(application)
    expect(fees.states.reduce((n, s) => n + s.count, 0)).toBe(Number(row?.n))
  })

  it('takes no transaction that does not balance, and never changes or loses a line, whatever the code does', async () => {
    const [row] = await office.db.select().from(application).limit(1)
    const unbalanced = office.db.transaction(async (tx) => {
      const id = office.as().newId()
      await tx.insert(ledgerTransaction).values({
        id,
        applicationId: row?.id ?? '',
        source: 'test',
        kind: 'receipt',
        currency: 'IMK',
        at: office.now,
      })
      await tx.insert(ledgerLine).values([{ id: office.as().newId(), transactionId: id, account: 'receivable', amount: 5 }, {
        id: office.as().newId(),
        transactionId: id,
        account: 'fee income',
        amount: -4,
      }])
    })
    await expect(unbalanced).rejects.toThrow()
    expect(await office.db.select().from(ledgerTransaction).where(eq(ledgerTransaction.source, 'test'))).toEqual([])
    await expect(office.in('owner').update(ledgerLine).set({ amount: 1 })).rejects.toThrow()
    // One without lines, which no foreign key protects.
    await office.db.insert(ledgerTransaction).values({
      id: office.as().newId(),
      applicationId: row?.id ?? '',
      source: 'bare',
      kind: 'receipt',
      currency: 'IMK',
      at: office.now,
    })
    const why = await office.in('owner').delete(ledgerTransaction).where(eq(ledgerTransaction.source, 'bare')).then(
      () => '',
      (error: Error) => String(error.cause),
    )
    expect(why).toContain('never changed or removed')
  })
})
