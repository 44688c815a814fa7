import { randomUUID } from 'node:crypto'
import { and, eq, inArray } from 'drizzle-orm'
import fc from 'fast-check'
import { afterAll, beforeAll, describe, expect, it } from 'vitest'
import { referenceOf } from '../../core/bank/references'
import { application, payment, standinGatewayOrder } from '../../server/database/schema'
import { putBankAccount } from '../../server/services/bank/accounts'
import { listLines } from '../../server/services/bank/lines'
import { matchOpenLines } from '../../server/services/bank/matching'
import { ordersLeft } from '../../server/services/bank/refund-sources'
import { answerRefund, proposeRefund, readRefunds, sendRefunds } from '../../server/services/bank/refunds'
import { takeSettlements } from '../../server/services/bank/settlements'
import { takeStatements } from '../../server/services/bank/statements'
import { openPayment, reconcilePayments } from '../../server/services/fees/payments'
import { receiveGatewayEvent } from '../../server/services/fees/events'
import type { GatewayDelivery } from '../../server/standins/gateway'
import { BankStandin } from '../../server/standins/bank'
import { lineQuerySchema } from '../../shared/bank'
import { camtFile } from '../../statements/made'
import { balances, expectSoundBooks } from '../support/books'
import { openOffice, type Office } from '../support/office'

let office: Office
const account = randomUUID()
const number = 'DE89370400440532013000'
const due = 79_000
beforeAll(async () => {
  office = await openOffice()
  await putBankAccount(office.as('accounts'), account, {
    title: 'Fees',
    holder: 'The office',
    bank: 'A bank',
    number,
    bic: '',
    currency: 'IMK',
    takesDeposits: true,
  })
})
afterAll(() => office.close())

async function owing(): Promise<string> {
  const id = await office.complete()
  await office.act(id, 'submit', { revision: 1, declared: true })
  return id
}
const deliver = (event: GatewayDelivery) => receiveGatewayEvent(office.product, office.gateway, event)
const match = () => matchOpenLines(office.as('accounts'), () => Promise.resolve(true))
let [sequence, balance] = [0, 0]
/** A statement of one line. */
function statement(amount: number, text: string): string {
  sequence += 1
  const made = {
    account: number,
    currency: 'IMK',
    identification: `P${sequence}`,
    sequence,
    opening: balance,
    lines: [{ on: new Date(Date.UTC(2027, 0, sequence)).toISOString().slice(0, 10), amount, text, name: 'Somebody' }],
  }
  balance += amount
  return camtFile(made)
}
const take = (file: string) => takeStatements(office.as('accounts'), account, 'p.xml', Buffer.from(file))
const owed = async (id: string) => (await readRefunds(office.as('auditor'))).owed.find(one => one.applicationId === id)?.amount ?? 0

describe('200 people who pay at once', () => {
  it('while every call is repeated out of order end with what the gateway has in its own list, to the last unit', async () => {
    const ids: string[] = []
    for (let i = 0; i < 20; i += 1) ids.push(...await Promise.all(Array.from({ length: 10 }, owing)))
    const calls: GatewayDelivery[] = []
    await Promise.all(ids.map(async (id, i) => {
      // A double press opens one payment; one in eleven is declined and tried again, one in thirteen is never told of.
      const [{ order }] = await Promise.all([openPayment(office.as(), office.gateway, id), openPayment(office.as(), office.gateway, id)])
      if (i % 11 === 0) {
        for (const event of await office.gateway.act(order, 'decline')) await deliver(event)
        calls.push(...await office.gateway.act((await openPayment(office.as(), office.gateway, id)).order, 'twice'))
      } else calls.push(...await office.gateway.act(order, i % 13 === 0 ? 'silent' : 'twice'))
    }))
    const twice = [...calls, ...calls].map((call, i) => ({ call, turn: (i * 7919) % 1009 })).sort((a, b) => a.turn - b.turn)
    await Promise.all(twice.map(({ call }) => deliver(call)))
    await Promise.all(ids.filter((_, i) => i % 13 === 0).map(id => reconcilePayments(office.as('accounts'), office.gateway, id)))
    const charged = (await office.db.select().from(standinGatewayOrder).where(eq(standinGatewayOrder.state, 'charged'))).reduce(
      (sum, order) => sum + order.amount,
      0,
    )
    expect(charged).toBe(ids.length * due)
    expect((await balances(office))['gateway clearing']).toBe(charged)
    expect((await office.db.select().from(application).where(eq(application.fee, 'settled'))).length).toBe(ids.length)
    expect((await office.db.select().from(payment).where(eq(payment.state, 'succeeded'))).length).toBe(ids.length)
    await expectSoundBooks(office)
  })
})

/** One thing that happens to one of a few people, or to the office. */
type Step = { act: 'gateway', who: number, how: 'pay' | 'twice' | 'silent' | 'decline' } | { act: 'bank', who: number, amount: number } | {
  act: 'again' | 'ask' | 'settle' | 'refund' | 'withdraw',
  who: number,
}
const step: fc.Arbitrary<Step> = fc.oneof(
  fc.record({
    act: fc.constant('gateway' as const),
    who: fc.nat(3),
    how: fc.constantFrom('pay' as const, 'twice' as const, 'silent' as const, 'decline' as const),
  }),
  fc.record({ act: fc.constant('bank' as const), who: fc.nat(3), amount: fc.constantFrom(due, 40_000, 100_000) }),
  fc.record({
    act: fc.constantFrom('again' as const, 'ask' as const, 'settle' as const, 'refund' as const, 'withdraw' as const),
    who: fc.nat(3),
  }),
)

describe('attempts, calls, statements, payouts and refunds', () => {
  it('in any order and repeated end in sound books, with every unit on an account', async () => {
    await fc.assert(
      fc.asyncProperty(fc.array(step, { minLength: 4, maxLength: 14 }), async (steps) => {
        const ids = await Promise.all([owing(), owing(), owing(), owing()])
        const numbers = await Promise.all(ids.map(async id => (await office.dossier(id)).number))
        const calls: GatewayDelivery[] = []
        const files: string[] = []
        let took = 0
        for (const one of steps) {
          const id = ids[one.who] ?? ''
          // What the office refuses at this moment is no fault: it must have changed nothing.
          const tried = async (work: () => Promise<unknown>) =>
            work().then(() => true, (error: { problem?: object }) => {
              if (!error.problem) throw error
              return false
            })
          if (one.act === 'gateway') {
            await tried(async () => {
              calls.push(...await office.gateway.act((await openPayment(office.as(), office.gateway, id)).order, one.how))
            })
          } else if (one.act === 'bank') {
            files.push(statement(one.amount, referenceOf(numbers[one.who] ?? '')))
            await take(files.at(-1) ?? '')
            took += one.amount
          } else if (one.act === 'again') await Promise.all([...calls.map(deliver), ...files.map(take)])
          else if (one.act === 'ask') await reconcilePayments(office.as('accounts'), office.gateway, id)
          else if (one.act === 'settle') {
            await tried(async () =>
              takeSettlements(office.as('accounts'), Buffer.from(await new BankStandin(office.db, () => office.now).settlement()))
            )
          } else if (one.act === 'withdraw') await tried(() => office.act(id, 'withdraw', { reason: 'tried in a test' }))
          else {
            const amount = await owed(id)
            if (amount > 0) {
              await tried(async () => {
                const reason = 'paid too much'
                // The way that it came, where the gateway has so much of it; else to an account.
                const [order] = (await ordersLeft(office.db, [id])).get(id) ?? []
                const refund = await proposeRefund(
                  office.as('accounts'),
                  order
                    ? { application: id, amount: Math.min(amount, order.left), order: order.order, reason }
                    : { application: id, amount, payee: 'Somebody', number: '12345678', reason },
                )
                await answerRefund(office.as('officer'), office.gateway, refund.id, 'approve')
                if (!order) await sendRefunds(office.as('accounts'), account)
              })
            }
          }
          await Promise.all([match(), ...calls.slice(-2).map(deliver)])
        }
        await Promise.all(calls.map(deliver))
        for (const id of ids) await reconcilePayments(office.as('accounts'), office.gateway, id)
        await match()
        await expectSoundBooks(office)
        // What was charged and brought is with the people or under way back to them, to the last unit.
        const orders = await office.db.select({ amount: standinGatewayOrder.amount }).from(standinGatewayOrder).innerJoin(
          payment,
          eq(payment.gatewayOrder, standinGatewayOrder.id),
        ).where(and(inArray(payment.applicationId, ids), eq(standinGatewayOrder.state, 'charged')))
        took += orders.reduce((sum, order) => sum + order.amount, 0)
        const rows = await Promise.all(ids.map(id => office.dossier(id)))
        const sent = (await readRefunds(office.as('auditor'))).refunds.filter(row =>
          ids.includes(row.of?.id ?? '') && (row.state === 'sent' || (row.state === 'left' && row.order !== null))
        ).reduce((sum, row) => sum + row.amount, 0)
        const waiting = files.length === 0 ? 0 : await openOf(numbers)
        expect(rows.reduce((sum, row) => sum + row.received, 0) + sent + waiting).toBe(took)
      }),
      { numRuns: 12 },
    )
  })
})

/** Money on lines that name one of these people and that nobody has been given yet. */
async function openOf(numbers: readonly string[]): Promise<number> {
  const { lines } = await listLines(office.as('auditor'), lineQuerySchema.parse({ limit: 200 }))
  return lines.filter(line => numbers.some(of => line.text.includes(referenceOf(of)))).reduce((sum, line) => sum + line.amount, 0)
}
