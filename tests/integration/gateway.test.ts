import { createServer, type Server } from 'node:http'
import { eq } from 'drizzle-orm'
import { afterAll, beforeAll, describe, expect, it } from 'vitest'
import { gatewayEvent, payment, standinGatewayCall, standinGatewayOrder } from '../../server/database/schema'
import { LiveWatch } from '../../server/services/applications/live'
import { takeSettlements } from '../../server/services/bank/settlements'
import { BankStandin } from '../../server/standins/bank'
import { readRefunds } from '../../server/services/bank/refunds'
import { openPayment, reconcilePayments, sweepOverduePayments } from '../../server/services/fees/payments'
import { receiveGatewayEvent } from '../../server/services/fees/events'
import { GatewayStandin } from '../../server/standins/gateway'
import { GatewayClient } from '../../server/standins/gateway-client'
import { GatewayServer } from '../../server/standins/gateway-server'
import { balances, expectSoundBooks } from '../support/books'
import type { PayingWay } from '../../core/notice/schema'
import { openOffice, type Office } from '../support/office'
import { problemOf } from '../support/problem'

/** The gateway as a server of its own, and an office that takes its calls over HTTP. */
const secret = 'a secret of both'
let office: Office
let door: Server
let isDown = false
let gateway: GatewayServer
let address: string
let client: GatewayClient
let gatewayBook: GatewayStandin

beforeAll(async () => {
  office = await openOffice()
  door = createServer((request, response) => {
    const parts: Buffer[] = []
    request.on('data', (part: Buffer) => parts.push(part))
    request.on('end', () => {
      if (isDown) return void response.writeHead(503).end()
      receiveGatewayEvent(office.product, client, { body: Buffer.concat(parts), signature: String(request.headers['x-gateway-signature']) })
        .then(() => response.end('{}'), () => response.writeHead(403).end())
    })
  })
  await new Promise<void>(done => door.listen(0, '127.0.0.1', done))
  const at = door.address()
  const setting = {
    db: office.db,
    secret,
    office: `http://127.0.0.1:${typeof at === 'object' && at ? at.port : 0}`,
    host: '127.0.0.1',
    port: 0,
    now: () => office.now,
  }
  gateway = new GatewayServer(setting)
  address = await gateway.start()
  client = new GatewayClient(address, secret)
  gatewayBook = new GatewayStandin(office.db, secret)
})
afterAll(async () => {
  await gateway.close()
  door.closeAllConnections()
  door.close()
  await office.close()
})

async function owing(way?: PayingWay): Promise<{ id: string, order: string, page: string, amount: number }> {
  const id = await office.complete()
  await office.act(id, 'submit', { revision: 1, declared: true })
  return { ...await openPayment(office.as(), client, id, { way }), id }
}
const form = (page: string, values: Record<string, string>) =>
  fetch(page, { method: 'POST', body: new URLSearchParams(values), redirect: 'follow' })
const choose = (page: string, act: string, method = 'wallet') => form(page, { method, act, office: 'http://office.example' })
const fee = async (id: string) => (await office.dossier(id)).tracks.fee
const stateOf = async (order: string) =>
  (await office.db.select().from(standinGatewayOrder).where(eq(standinGatewayOrder.id, order)))[0]?.state
/** Long enough for a machine that does much else. */
const patient = { timeout: 60_000 }
/** Lets all calls that are due arrive. */
async function callNow(): Promise<void> {
  await expect.poll(async () => {
    await gateway.callNow()
    return (await office.db.select().from(standinGatewayCall)).filter(call =>
      call.doneAt === null && (call.tries > 0 || call.dueAt <= office.now)
    ).length
  }, patient).toBe(0)
}

describe('the page of the gateway', () => {
  it('says what is paid for and until when, leads back, and lets no text of the office become a part of it', async () => {
    const { order, page } = await owing()
    await office.db.update(standinGatewayOrder).set({ description: '<script>alert(1)</script>' }).where(eq(standinGatewayOrder.id, order))
    const answer = await fetch(`${page}?office=http://office.example`)
    const text = await answer.text()
    expect(text).toContain('IMK 790.00')
    expect(text).toMatch(/data-ends="2026-/)
    expect(text).not.toContain('<script>alert')
    expect(text).toContain('href="http://office.example/intake/')
    expect(answer.headers.get('content-security-policy')).toMatch(/script-src 'nonce-/)
    expect(await (await fetch(`${page}?office=javascript:alert(1)//`)).text()).not.toContain('javascript:')
    expect((await fetch(`${address}/pay/nothing`)).status).toBe(404)
    expect((await choose(page, 'steal')).status).toBe(400)
  })

  it('takes a wallet at once, and a card only with the word of the bank; three wrong ones decline it', async () => {
    const [one, two] = [await owing(), await owing('card')]
    expect(await (await choose(one.page, 'twice')).text()).toContain('✓ Charged')
    await callNow()
    expect([await fee(one.id), (await office.dossier(one.id)).payments[0]?.deliveries]).toEqual(['settled', 2])
    const asked = await (await choose(two.page, 'pay', 'card')).text()
    const word = /the word (\d{4})/.exec(asked)?.[1] ?? ''
    expect([word.length, await stateOf(two.order), await fee(two.id)]).toEqual([4, 'open', 'confirming'])
    const say = (given: string) => form(`${two.page}/word`, { word: given, office: '' }).then(answer => answer.text())
    expect(await say('0000')).toContain('2 tries are left')
    expect(await say(word)).toContain('✓ Charged')
    const three = await owing('net banking')
    await choose(three.page, 'pay', 'net banking')
    for (let i = 0; i < 3; i += 1) await form(`${three.page}/word`, { word: '0000', office: '' })
    await callNow()
    expect([await stateOf(three.order), await fee(three.id)]).toEqual(['declined', 'due'])
  })

  it('charges nothing when the time is over, on both sides', async () => {
    const { id, order, page } = await owing()
    office.pass(4)
    expect(await (await choose(page, 'pay')).text()).toContain('The time to pay is over')
    await sweepOverduePayments(office.product, client)
    expect([await stateOf(order), await fee(id), (await office.dossier(id)).payments[0]?.state]).toEqual(['expired', 'due', 'expired'])
  })
})

describe('calls of the gateway', () => {
  it('are made again until the office answers, also by a gateway that was ended in between, and count once', async () => {
    const { id, page } = await owing()
    isDown = true
    await choose(page, 'twice')
    expect(await fee(id)).toBe('confirming')
    isDown = false
    await gateway.close()
    gateway = new GatewayServer({
      db: office.db,
      secret,
      office: `http://127.0.0.1:${(door.address() as { port: number }).port}`,
      host: '127.0.0.1',
      port: 0,
      now: () => office.now,
    })
    address = await gateway.start()
    client = new GatewayClient(address, secret)
    office.now = new Date(office.now.getTime() + 5000)
    await callNow()
    expect([await fee(id), (await office.dossier(id)).received]).toEqual(['settled', 79_000])
  })

  it('that come late find the office told already, and a gateway that does not answer has decided nothing', async () => {
    const { id, page } = await owing()
    await choose(page, 'late')
    await callNow()
    expect(await fee(id)).toBe('confirming')
    // The office gives the first up only once the gateway was asked: it says that it has charged.
    office.pass(4)
    await sweepOverduePayments(office.product, client)
    expect(await fee(id)).toBe('settled')
    await callNow()
    expect((await office.dossier(id)).received).toBe(79_000)
    const again = await owing()
    await choose(again.page, 'late')
    // While the gateway does not answer, nothing is given up; nor can it reach the office by itself.
    isDown = true
    const deaf = new GatewayClient('http://127.0.0.1:1', secret)
    office.pass(4)
    expect(await sweepOverduePayments(office.product, deaf)).toBe(0)
    expect((await office.dossier(again.id)).payments[0]?.state).toBe('open')
    expect(await problemOf(reconcilePayments(office.as('accounts'), deaf, again.id))).toMatchObject({ code: 'payment.gateway-silent' })
    expect(await problemOf(openPayment(office.as(), deaf, again.id))).toMatchObject({ code: 'payment.gateway-silent' })
    isDown = false
    office.pass(1)
    await callNow()
    expect(await fee(again.id)).toBe('settled')
  })

  it('that are forged are refused, and of less money than was asked for say so', async () => {
    const { id, order, page } = await owing()
    await choose(page, 'forged')
    await callNow()
    expect([await stateOf(order), await fee(id),
      (await office.db.select().from(gatewayEvent).where(eq(gatewayEvent.gatewayOrder, order))).length]).toEqual(['open', 'confirming', 0])
    await choose(page, 'less')
    await callNow()
    expect([await fee(id), (await office.dossier(id)).received]).toEqual(['due', 78_900])
    expect((await office.db.select().from(gatewayEvent).where(eq(gatewayEvent.gatewayOrder, order)))[0]?.fault).toBe('amount')
    const rest = await openPayment(office.as(), client, id)
    expect(rest.amount).toBe(100)
    await choose(rest.page, 'pay')
    await callNow()
    expect(await fee(id)).toBe('settled')
    // A bank takes the rest again: from the gateway's own book.
    expect(await (await fetch(address)).text()).toContain(rest.order)
    await form(`${address}/back/${encodeURIComponent(rest.order)}`, {})
    await callNow()
    expect(await fee(id)).toBe('due')
  })

  it('end with every unit on an account, and no call left that the office took', async () => {
    const by = await Promise.all(Array.from({ length: 12 }, (_, i) => owing((['card', 'net banking', 'wallet'] as const)[i % 3])))
    await Promise.all(by.map(({ page }) => choose(page, 'chance')))
    await callNow()
    office.pass(10)
    await callNow()
    await sweepOverduePayments(office.product, client)
    for (const { id } of by) await reconcilePayments(office.as('accounts'), client, id)
    const orders = await office.db.select().from(standinGatewayOrder)
    const charged = orders.filter(order => order.state === 'charged').reduce((sum, order) => sum + (order.charged ?? order.amount), 0)
    const events = await office.db.select().from(gatewayEvent)
    const told = (outcome: string) => events.filter(event => event.outcome === outcome).reduce((sum, event) => sum + (event.amount ?? 0), 0)
    expect(told('charged')).toBe(charged)
    await expect.poll(async () => (await office.db.select().from(standinGatewayCall)).filter(call => call.doneAt === null).length, patient)
      .toBe(0)
    expect((await office.db.select().from(payment)).filter(one => one.state === 'open' && one.expiresAt < office.now)).toEqual([])
    // What it pays out is what it has charged, less what a payer's bank took again.
    const [paidOut] =
      (await takeSettlements(office.as('accounts'), Buffer.from(await new BankStandin(office.db, () => office.now).settlement()))).taken
    expect(paidOut).toMatchObject({ gross: charged - told('charged back'), faults: [] })
    await expectSoundBooks(office)
    expect((await readRefunds(office.as('auditor'))).owed.filter(one => by.some(({ id }) => id === one.applicationId))).toEqual([])
  })

  it('and questions are believed only with the signature', async () => {
    const { order } = await owing()
    expect((await fetch(`${address}/orders`, {
      method: 'POST',
      body: JSON.stringify({ id: 'x', amount: 1, currency: 'IMK', description: '', returnTo: '/' }),
    })).status).toBe(401)
    await expect(new GatewayClient(address, 'another secret').query(order)).rejects.toMatchObject({
      problem: { code: 'payment.gateway-silent' },
    })
    expect(await client.query(order)).toBeNull()
  })
})

describe('what a way of paying costs', () => {
  const items = async (id: string) => (await office.dossier(id)).assessment?.items.map(item => [item.code, item.amount])

  // 1.2 % of 790.00, and 15 % tax on it: worked by hand in the tests of the fees.
  it('is charged with the payment, becomes due with the money that carries it, and goes back with it', async () => {
    const { id, order, page, amount } = await owing('card')
    expect([amount, await items(id)]).toEqual([80_090, [['base', 64_000], ['additional-post', 15_000]]])
    // Whatever a form says, it is paid by card: the bank asks for its word.
    expect(await (await choose(page, 'pay', 'wallet')).text()).toContain('the word')
    const [{ bankWord } = { bankWord: '' }] = await office.db.select().from(standinGatewayOrder).where(eq(standinGatewayOrder.id, order))
    await form(`${page}/word`, { word: bankWord ?? '', office: '' })
    await callNow()
    expect(await office.dossier(id)).toMatchObject({ received: 80_090, tracks: { fee: 'settled' }, assessment: { total: 80_090 } })
    expect(await items(id)).toEqual([['base', 64_000], ['additional-post', 15_000], ['way', 948], ['way-tax', 142]])
    expect(await balances(office, id)).toMatchObject({
      'receivable': 0,
      'gateway clearing': 80_090,
      'fee income': -79_000,
      'surcharges': -948,
      'tax payable': -142,
    })
    await form(`${address}/back/${encodeURIComponent(order)}`, {})
    await callNow()
    expect(await office.dossier(id)).toMatchObject({ received: 0, tracks: { fee: 'due' }, assessment: { total: 79_000 } })
    expect(await balances(office, id)).toMatchObject({ 'receivable': 79_000, 'gateway clearing': 0, 'surcharges': 0, 'tax payable': 0 })
    await expectSoundBooks(office)
  })

  it('is given back with all the money where nothing was due any more, and shares what comes short', async () => {
    const [late, short] = [await owing('card'), await owing('net banking')]
    office.pass(4)
    // Both orders are over for the office, which opens another; then money of the first comes all the same.
    await sweepOverduePayments(office.product, client)
    const again = await openPayment(office.as(), client, late.id, { way: 'wallet' })
    const told = (order: string, amount: number) =>
      receiveGatewayEvent(
        office.product,
        client,
        gatewayBook.deliver({ eventId: `told-${order}`, order, outcome: 'charged', amount, currency: 'IMK' }),
      )
    await told(again.order, 79_000)
    await told(late.order, 80_090)
    expect(await office.dossier(late.id)).toMatchObject({ received: 159_090, tracks: { fee: 'refund due' }, assessment: { total: 79_000 } })
    expect(await balances(office, late.id)).toMatchObject({ 'receivable': 0, 'refunds payable': -80_090 })
    await told(short.order, 79_100)
    expect(await office.dossier(short.id)).toMatchObject({ tracks: { fee: 'settled' }, assessment: { total: 79_100 } })
    expect(await balances(office, short.id)).toMatchObject({ 'receivable': 0, 'surcharges': -87, 'tax payable': -13 })
    // Its bank takes all of that again: nothing is kept for the way of paying.
    await receiveGatewayEvent(
      office.product,
      client,
      gatewayBook.deliver({ eventId: 'short-back', order: short.order, outcome: 'charged back', amount: 79_100, currency: 'IMK' }),
    )
    expect(await office.dossier(short.id)).toMatchObject({ received: 0, tracks: { fee: 'due' }, assessment: { total: 79_000 } })
    await expectSoundBooks(office)
  })
})

describe('whoever watches an application', () => {
  it('is told when it changes, by whichever process, and not of others; too many are refused', async () => {
    const { id, page } = await owing()
    const other = await owing()
    const live = new LiveWatch(office.db)
    let told = 0
    const stop = await live.watch(office.as(), id, () => {
      told += 1
    })
    expect(await problemOf(live.watch(office.by(await office.candidate('Stranger')), id, () => undefined))).toMatchObject({
      code: 'access.relation',
    })
    await expect.poll(() => told, patient).toBe(1)
    office.pass(1)
    await choose(other.page, 'decline')
    await callNow()
    await new Promise(done => setTimeout(done, 1200))
    // It was told where it stands, and nothing since.
    expect(told).toBe(1)
    await choose(page, 'pay')
    await callNow()
    await expect.poll(() => told, patient).toBeGreaterThan(1)
    for (let i = 0; i < 5; i += 1) await live.watch(office.as(), other.id, () => undefined)
    expect(await problemOf(live.watch(office.as(), other.id, () => undefined))).toMatchObject({ code: 'live.too-many' })
    stop()
    await live.watch(office.as(), other.id, () => undefined)
    live.close()
  })
})
