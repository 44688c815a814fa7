import { createHmac, randomBytes, randomInt, timingSafeEqual } from 'node:crypto'
import { and, desc, eq, sql } from 'drizzle-orm'
import { z } from 'zod'
import type { Database, Executor } from '../database/client'
import { standinGatewayOrder, standinGatewayRefund } from '../database/schema'
import { refusal } from '../../shared/refusal'
import type { GatewayAct, GatewayMethod } from './gateway-acts'

/**
 * A simulated payment gateway that ships with the product. It keeps a book of its own and speaks to the office only by
 * signed events and by answering questions, as a company elsewhere would; `gateway-server` is the process that it runs in.
 */
export interface GatewayOrder {
  id: string
  amount: number
  currency: string
  description: string
  returnTo: string
  /** How it is to be paid; the payer chooses where it is left open. */
  method?: GatewayMethod
  /** Before when it has to be paid; without one it waits for ever. */
  endsAt?: string
}

const eventSchema = z.strictObject({
  eventId: z.string().min(1).max(100),
  order: z.string().min(1).max(100),
  outcome: z.enum(['charged', 'declined', 'charged back']),
  /** In minor units of the currency. */
  amount: z.int().min(0),
  currency: z.string().regex(/^[A-Z]{3}$/),
})
export type GatewayEvent = z.output<typeof eventSchema>

/** An event as it comes over the wire: bytes, and what proves that the gateway wrote them. */
export interface GatewayDelivery {
  body: Buffer
  signature: string
}

/** Money of an order that is to go back to whoever paid it. The reference stands for it for ever: asked for again it is the same one. */
export interface GatewayRefund {
  reference: string
  order: string
  amount: number
  currency: string
}
export type GatewayRefundState = 'under way' | 'paid back' | 'refused'

/** The gateway as the office sees it. */
export interface PaymentGateway {
  /** Whether the office has one at all. */
  readonly isSet: boolean
  /** @throws ProblemError `payment.gateway-silent` when it does not answer. Opening an order twice does no harm. */
  open(order: GatewayOrder): Promise<void>
  /** What became of an order: its closing event, or null while it is open. @throws ProblemError `payment.gateway-silent` */
  query(order: string): Promise<GatewayEvent | null>
  /** What becomes of a refund: the first question asks for it. @throws ProblemError `payment.gateway-silent` */
  refund(asked: GatewayRefund): Promise<GatewayRefundState>
  /**
   * @throws ProblemError `payment.unsigned` when the gateway did not write these very bytes, `payment.unreadable` when they hold no event.
   */
  read(delivery: GatewayDelivery): GatewayEvent
  /** Where the payer pays an order. */
  pageOf(order: string): string
}

/** An office that has no gateway: nothing is paid online, and no event is believed. */
export const noGateway: PaymentGateway = {
  isSet: false,
  open: () => Promise.reject(refusal('payment.no-gateway')),
  query: () => Promise.resolve(null),
  refund: () => Promise.reject(refusal('payment.gateway-silent')),
  read: () => {
    throw refusal('payment.unsigned')
  },
  pageOf: () => '',
}

/** How much less `less` charges, in minor units: never all of it. */
const lessBy = 100

export class GatewayStandin implements PaymentGateway {
  readonly isSet = true

  constructor(private readonly db: Database, private readonly secret: string, private readonly now: () => Date = () => new Date()) {}

  pageOf(order: string): string {
    return `/pay/${encodeURIComponent(order)}`
  }

  async open({ endsAt, ...order }: GatewayOrder): Promise<void> {
    await this.db.insert(standinGatewayOrder).values({ ...order, endsAt: endsAt ? new Date(endsAt) : null, state: 'open', at: this.now() })
      .onConflictDoNothing()
  }

  async show(id: string): Promise<typeof standinGatewayOrder.$inferSelect> {
    const [row] = await this.db.select().from(standinGatewayOrder).where(eq(standinGatewayOrder.id, id))
    if (!row) throw refusal('payment.order-unknown', { order: id })
    if (row.state !== 'open' || !row.endsAt || row.endsAt > this.now()) return row
    await this.db.update(standinGatewayOrder).set({ state: 'expired' })
      .where(and(eq(standinGatewayOrder.id, id), eq(standinGatewayOrder.state, 'open')))
    return { ...row, state: 'expired' }
  }

  /** The newest orders, for whoever looks into the gateway's own book. */
  newest(): Promise<(typeof standinGatewayOrder.$inferSelect)[]> {
    return this.db.select().from(standinGatewayOrder).orderBy(desc(standinGatewayOrder.at), desc(standinGatewayOrder.id)).limit(50)
  }

  async query(order: string): Promise<GatewayEvent | null> {
    const [row] = await this.db.select().from(standinGatewayOrder).where(eq(standinGatewayOrder.id, order))
    return row ? closingEvent(row) : null
  }

  /** Gives money of a charged order back, as far as there is so much of it. */
  async refund({ reference, order, amount, currency }: GatewayRefund): Promise<GatewayRefundState> {
    return this.db.transaction(async (tx) => {
      const [row] = await tx.select().from(standinGatewayOrder).where(eq(standinGatewayOrder.id, order)).for('update')
      const [before] = await tx.select().from(standinGatewayRefund).where(eq(standinGatewayRefund.reference, reference))
      if (before) return before.state
      const isFitting = row?.state === 'charged' && row.currency === currency && amount > 0
        && amount <= (row.charged ?? row.amount) - await this.givenBack(tx, order)
      const state = isFitting ? 'paid back' as const : 'refused' as const
      await tx.insert(standinGatewayRefund).values({ reference, gatewayOrder: order, amount, currency, state, at: this.now() })
      return state
    })
  }

  private async givenBack(tx: Executor, order: string): Promise<number> {
    const [row] = await tx.select({ sum: sql<string | null>`sum(${standinGatewayRefund.amount})` }).from(standinGatewayRefund)
      .where(and(eq(standinGatewayRefund.gatewayOrder, order), eq(standinGatewayRefund.state, 'paid back')))
    return Number(row?.sum ?? 0)
  }

  /** Closes an open order and gives what is to be delivered. A closed order stays as it is and delivers nothing more. */
  async act(order: string, act: GatewayAct, tx: Executor = this.db): Promise<GatewayDelivery[]> {
    if (act === 'back') return this.takeBack(order, tx)
    if (act === 'forged') return this.forge(await this.show(order))
    const outcome = act === 'decline' ? 'declined' : 'charged'
    const [open] = act === 'less'
      ? await tx.select({ amount: standinGatewayOrder.amount }).from(standinGatewayOrder).where(eq(standinGatewayOrder.id, order))
      : []
    const [row] = await tx.update(standinGatewayOrder).set({
      state: outcome,
      eventId: `ev-${randomBytes(9).toString('base64url')}`,
      pending: null,
      charged: open ? Math.max(1, open.amount - lessBy) : null,
    }).where(and(eq(standinGatewayOrder.id, order), eq(standinGatewayOrder.state, 'open'))).returning()
    const event = row && closingEvent(row)
    if (!event || act === 'silent') return []
    const delivery = this.deliver(event)
    return act === 'twice' ? [delivery, delivery] : [delivery]
  }

  /** Keeps how somebody wants to pay, and the word that their bank asks for before it does what was chosen. */
  async choose(order: string, method: GatewayMethod, pending: GatewayAct): Promise<void> {
    await this.db.update(standinGatewayOrder).set({ method, pending, bankWord: String(randomInt(1000, 10_000)), wrongWords: 0 })
      .where(and(eq(standinGatewayOrder.id, order), eq(standinGatewayOrder.state, 'open')))
  }

  /** Whether the word that somebody gives their bank is right; the third that is wrong declines the order. */
  async checkWord(order: string, word: string): Promise<'right' | 'wrong' | 'too often'> {
    const row = await this.show(order)
    if (row.bankWord !== null && row.bankWord === word.trim()) return 'right'
    const [{ wrongWords } = { wrongWords: 0 }] = await this.db.update(standinGatewayOrder).set({ wrongWords: row.wrongWords + 1 })
      .where(eq(standinGatewayOrder.id, order)).returning({ wrongWords: standinGatewayOrder.wrongWords })
    return wrongWords < 3 ? 'wrong' : 'too often'
  }

  /** The event of a charge that was taken back; asked for again it is the same one. */
  private async takeBack(order: string, tx: Executor): Promise<GatewayDelivery[]> {
    const [row] = await tx.select().from(standinGatewayOrder)
      .where(and(eq(standinGatewayOrder.id, order), eq(standinGatewayOrder.state, 'charged')))
    const charged = row && closingEvent(row)
    if (!charged) return []
    const [reference, amount] = [`${charged.eventId}-back`, charged.amount - await this.givenBack(tx, order)]
    const [fresh] = amount > 0
      ? await tx.insert(standinGatewayRefund).values({
        reference,
        gatewayOrder: order,
        amount,
        currency: charged.currency,
        state: 'paid back',
        at: this.now(),
      }).onConflictDoNothing().returning()
      : []
    const [kept] = fresh ? [fresh] : await tx.select().from(standinGatewayRefund).where(eq(standinGatewayRefund.reference, reference))
    return kept ? [this.deliver({ ...charged, eventId: reference, outcome: 'charged back', amount: kept.amount })] : []
  }

  // Signed with a secret that is not the gateway's.
  private forge({ id, amount, currency }: Pick<typeof standinGatewayOrder.$inferSelect, 'id' | 'amount' | 'currency'>): GatewayDelivery[] {
    const { body } = this.deliver({
      eventId: `ev-${randomBytes(9).toString('base64url')}`,
      order: id,
      outcome: 'charged',
      amount,
      currency,
    })
    return [{ body, signature: createHmac('sha256', `not ${this.secret}`).update(body).digest('base64url') }]
  }

  /** An event as the gateway would send it, whether or not its own book says so. */
  deliver(event: GatewayEvent): GatewayDelivery {
    const body = Buffer.from(JSON.stringify(event))
    return { body, signature: signatureOf(this.secret, body) }
  }

  read(delivery: GatewayDelivery): GatewayEvent {
    return readDelivery(this.secret, delivery)
  }
}

function closingEvent({ id, state, eventId, amount, charged, currency }: typeof standinGatewayOrder.$inferSelect): GatewayEvent | null {
  return (state === 'charged' || state === 'declined') && eventId
    ? { eventId, order: id, outcome: state, amount: charged ?? amount, currency }
    : null
}

/** Over the bytes as they are sent: what is put together from parts can be cut elsewhere and mean something else. */
export function signatureOf(secret: string, body: Buffer): string {
  return createHmac('sha256', secret).update(body).digest('base64url')
}

/** Whether whoever knows the secret has signed these bytes. */
export function isSigned(secret: string, { body, signature }: GatewayDelivery): boolean {
  const [expected, given] = [Buffer.from(signatureOf(secret, body)), Buffer.from(signature)]
  return expected.length === given.length && timingSafeEqual(expected, given)
}

export function readDelivery(secret: string, delivery: GatewayDelivery): GatewayEvent {
  if (!isSigned(secret, delivery)) throw refusal('payment.unsigned')
  try {
    return eventSchema.parse(JSON.parse(delivery.body.toString('utf8')))
  } catch {
    throw refusal('payment.unreadable')
  }
}
