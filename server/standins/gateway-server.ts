import { randomBytes, randomUUID } from 'node:crypto'
import { createServer, type Server } from 'node:http'
import { and, eq, isNull, lte, sql } from 'drizzle-orm'
import {
  createApp,
  createError,
  createRouter,
  defineEventHandler,
  getHeader,
  getQuery,
  getRouterParam,
  readBody,
  readRawBody,
  sendRedirect,
  setResponseHeader,
  setResponseStatus,
  toNodeListener,
  type H3Event,
} from 'h3'
import { z } from 'zod'
import { ProblemError } from '../../shared/problem'
import type { Database } from '../database/client'
import { standinGatewayCall } from '../database/schema'
import { GatewayStandin, isSigned, signatureOf } from './gateway'
import { gatewayActs, gatewayMethods, type GatewayAct } from './gateway-acts'
import { bookPage, messagePage, orderPage, wordPage } from './gateway-page'

/** Where the simulated gateway stands, and whom it calls. `office` is the office's address. */
export interface GatewaySetting {
  db: Database
  secret: string
  office: string
  host: string
  port: number
  now?: () => Date
}

const orderSchema = z.strictObject({
  id: z.string().min(1).max(100),
  amount: z.int().min(1),
  currency: z.string().regex(/^[A-Z]{3}$/),
  description: z.string().max(300),
  returnTo: z.string().max(300),
  method: z.enum(gatewayMethods).optional(),
  endsAt: z.iso.datetime().optional(),
})
const refundSchema = z.strictObject({
  reference: z.string().min(1).max(100),
  order: z.string().min(1).max(100),
  amount: z.int().min(1),
  currency: z.string().regex(/^[A-Z]{3}$/),
})
const actSchema = z.object({ act: z.enum(gatewayActs) })
/** What the payer chooses; `chance` lets the gateway choose. */
const choiceSchema = z.object({
  method: z.enum(gatewayMethods),
  act: z.enum([...gatewayActs, 'chance']),
  office: z.string().max(200).default(''),
})
const wordSchema = z.object({ word: z.string().max(20), office: z.string().max(200).default('') })

/** How often calls that are due are looked for, and the longest wait between two tries of one, in milliseconds. */
const beat = 250
const longestWait = 30_000
/** How long after the end of the time to pay a late call comes. */
const lateBy = 30_000

/**
 * The simulated gateway as a small server of its own. What it has promised to do stands in its book: it may be killed at any moment and
 * goes on where it was.
 */
export class GatewayServer {
  private readonly book: GatewayStandin
  private readonly server: Server
  private timer: ReturnType<typeof setTimeout> | undefined
  private isClosed = false

  constructor(private readonly setting: GatewaySetting) {
    this.book = new GatewayStandin(setting.db, setting.secret, setting.now)
    this.server = createServer(toNodeListener(this.app()))
  }

  /** Begins to listen and to call; gives the address. */
  async start(): Promise<string> {
    const { host, port } = this.setting
    await new Promise<void>((done, fail) => {
      this.server.once('error', fail)
      this.server.listen(port, host, done)
    })
    this.callSoon()
    const at = this.server.address()
    return `http://${host}:${typeof at === 'object' && at ? at.port : port}`
  }

  async close(): Promise<void> {
    this.isClosed = true
    clearTimeout(this.timer)
    this.server.closeAllConnections()
    await new Promise(done => this.server.close(done))
  }

  private app() {
    const app = createApp({
      onError: (error, event) => {
        const [status, text] = error.cause instanceof ProblemError
          ? [404, error.cause.message]
          : error.cause instanceof z.ZodError || error.cause instanceof SyntaxError
          ? [400, null]
          : [error.statusCode, error.statusCode < 500 ? error.message : null]
        setResponseStatus(event, status)
        return page(event, nonce => message => messagePage(nonce, message), Promise.resolve(text)).then(html => event.node.res.end(html))
      },
    })
    app.use(this.questions())
    app.use(this.pages())
    return app
  }

  /** What machines ask: the office, by its signature, and whatever stands for payers. */
  private questions() {
    const router = createRouter({ preemptive: false })
    const signed = async (event: H3Event): Promise<unknown> => {
      const body = Buffer.from(await readRawBody(event) ?? '')
      if (!isSigned(this.setting.secret, { body, signature: getHeader(event, 'x-gateway-signature') ?? '' })) {
        throw createError({ statusCode: 401, message: 'not signed by the office' })
      }
      return JSON.parse(body.toString('utf8'))
    }
    const answer = (event: H3Event, said: object): string => {
      const body = JSON.stringify(said)
      setResponseHeader(event, 'x-gateway-signature', signatureOf(this.setting.secret, Buffer.from(body)))
      return body
    }
    router.post(
      '/orders',
      defineEventHandler(async (event) => {
        await this.book.open(orderSchema.parse(await signed(event)))
        return { taken: true }
      }),
    )
    router.post(
      '/orders/state',
      defineEventHandler(async (event) => {
        const told = await this.book.query(z.object({ order: z.string() }).parse(await signed(event)).order)
        return told ? answer(event, told) : ''
      }),
    )
    router.post(
      '/refunds',
      defineEventHandler(async event => answer(event, { state: await this.book.refund(refundSchema.parse(await signed(event))) })),
    )
    router.post(
      '/orders/:order/acts',
      defineEventHandler(async (event) => {
        const order = orderOf(event)
        await this.perform(order, actSchema.parse(await readBody(event)).act)
        return { state: (await this.book.show(order)).state }
      }),
    )
    return router
  }

  /** What people see: an order to be paid, the bank's question, and the gateway's own book. */
  private pages() {
    const router = createRouter()
    const toOrder = (event: H3Event, order: string, office: string) =>
      sendRedirect(event, `/pay/${encodeURIComponent(order)}?office=${encodeURIComponent(office)}`, 303)
    router.get('/', defineEventHandler(async event => page(event, nonce => bookPage(nonce), this.book.newest())))
    router.post(
      '/back/:order',
      defineEventHandler(async (event) => {
        await this.perform(orderOf(event), 'back')
        return sendRedirect(event, '/', 303)
      }),
    )
    router.get(
      '/pay/:order',
      defineEventHandler(async (event) => {
        const office = this.officeOf(String(getQuery(event).office ?? ''))
        return page(
          event,
          nonce => order =>
            order.state === 'open' && order.pending ? wordPage(nonce, order, office, false) : orderPage(nonce, order, office),
          this.book.show(orderOf(event)),
        )
      }),
    )
    router.post(
      '/pay/:order',
      defineEventHandler(async (event) => {
        const { method, act, office } = choiceSchema.parse(await readBody(event))
        const order = orderOf(event)
        const chosen = act === 'chance' ? byChance() : act
        const shown = await this.book.show(order)
        // What the office has agreed on with the payer holds, whatever a form says.
        const by = shown.method ?? method
        if (shown.state === 'open') {
          // A wallet asks nobody; a bank asks for its word before it pays.
          if (by !== 'wallet' && chosen !== 'decline' && chosen !== 'forged') await this.book.choose(order, by, chosen)
          else await this.perform(order, chosen)
        }
        return toOrder(event, order, office)
      }),
    )
    router.post(
      '/pay/:order/word',
      defineEventHandler(async (event) => {
        const { word, office } = wordSchema.parse(await readBody(event))
        const order = orderOf(event)
        const { state, pending } = await this.book.show(order)
        if (state === 'open' && pending) {
          const said = await this.book.checkWord(order, word)
          if (said === 'wrong') return page(event, nonce => row => wordPage(nonce, row, this.officeOf(office), true), this.book.show(order))
          await this.perform(order, said === 'right' ? pending : 'decline')
        }
        return toOrder(event, order, office)
      }),
    )
    return router
  }

  /** Does something to an order, and keeps the calls that follow from it in the same breath. */
  private async perform(order: string, act: GatewayAct): Promise<void> {
    const { state, endsAt } = await this.book.show(order)
    if (act === 'back' ? state !== 'charged' : state !== 'open') return
    const now = this.now()
    const dueAt = act === 'late' ? new Date(Math.max(now.getTime(), endsAt?.getTime() ?? 0) + lateBy) : now
    await this.setting.db.transaction(async (tx) => {
      const calls = await this.book.act(order, act, tx)
      if (calls.length > 0) {
        await tx.insert(standinGatewayCall).values(calls.map(({ body, signature }) => ({
          id: randomUUID(),
          gatewayOrder: order,
          body: body.toString('utf8'),
          signature,
          dueAt,
        })))
      }
    })
    // The payer is not kept waiting until the office has answered.
    void this.callNow().catch(() => undefined)
  }

  private now(): Date {
    return this.setting.now?.() ?? new Date()
  }

  private callSoon(): void {
    if (this.isClosed) return
    this.timer = setTimeout(() => {
      void this.callNow().catch(() => undefined).then(() => this.callSoon())
    }, beat)
  }

  /**
   * Makes the calls that are due. One that the office does not take is made again later, each time after a longer while; what it refuses
   * for good is done.
   */
  async callNow(): Promise<void> {
    const due = await this.setting.db.transaction(async (tx) => {
      const rows = await tx.select().from(standinGatewayCall)
        .where(and(isNull(standinGatewayCall.doneAt), lte(standinGatewayCall.dueAt, this.now()))).orderBy(standinGatewayCall.dueAt)
        .limit(50).for('update', { skipLocked: true })
      for (const { id, tries } of rows) {
        await tx.update(standinGatewayCall).set({
          tries: tries + 1,
          dueAt: new Date(this.now().getTime() + Math.min(longestWait, 1000 * 2 ** tries)),
        }).where(eq(standinGatewayCall.id, id))
      }
      return rows
    })
    await Promise.all(due.map(async ({ id, body, signature }) => {
      const answer = await fetch(`${this.setting.office}/api/payments/event`, {
        method: 'POST',
        body,
        signal: AbortSignal.timeout(10_000),
        headers: { 'content-type': 'application/json', 'x-gateway-signature': signature },
      }).catch(() => null)
      if (answer && answer.status < 500 && answer.status !== 429) {
        await this.setting.db.update(standinGatewayCall).set({ doneAt: sql`now()` }).where(eq(standinGatewayCall.id, id))
      }
    }))
  }

  // Where the payer came from, if that is a place on the web at all.
  private officeOf(given: string): string {
    return /^https?:\/\/[^/\s]+$/.test(given) ? given : this.setting.office
  }
}

const orderOf = (event: H3Event): string => decodeURIComponent(getRouterParam(event, 'order') ?? '')

/** Mostly it goes well. */
function byChance(): GatewayAct {
  const drawn = randomBytes(1)[0] ?? 0
  const others = gatewayActs.filter(act => act !== 'pay' && act !== 'back' && act !== 'forged')
  return drawn < 128 ? 'pay' : others[drawn % others.length] ?? 'pay'
}

/** A page of the gateway: its few lines of script are the only ones that run. */
async function page<T>(event: H3Event, draw: (nonce: string) => (of: T) => Promise<string>, of: Promise<T>): Promise<string> {
  const nonce = randomBytes(16).toString('base64')
  setResponseHeader(event, 'content-type', 'text/html; charset=utf-8')
  setResponseHeader(event, 'cache-control', 'no-store')
  setResponseHeader(event, 'referrer-policy', 'no-referrer')
  setResponseHeader(
    event,
    'content-security-policy',
    `default-src 'none'; style-src 'nonce-${nonce}'; script-src 'nonce-${nonce}'; form-action 'self'; base-uri 'none'; frame-ancestors 'none'`,
  )
  return draw(nonce)(await of)
}
