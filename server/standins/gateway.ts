import { createHmac, randomBytes, timingSafeEqual } from 'node:crypto'
import { and, eq } from 'drizzle-orm'
import { z } from 'zod'
import type { Database } from '../database/client'
import { standinGatewayOrder } from '../database/schema'
import { refusal } from '../../shared/problem'

/**
 * A simulated payment gateway that ships with the product. It keeps a book of its own and speaks to the office only by
 * signed events and by answering questions, as a company elsewhere would.
 */
export interface GatewayOrder { id: string, amount: number, currency: string, description: string, returnTo: string }

const eventSchema = z.strictObject({
  eventId: z.string().min(1).max(100), order: z.string().min(1).max(100), outcome: z.enum(['charged', 'declined', 'charged back']),
  /** In minor units of the currency. */
  amount: z.int().min(0), currency: z.string().regex(/^[A-Z]{3}$/),
})
export type GatewayEvent = z.output<typeof eventSchema>

/** An event as it comes over the wire: bytes, and what proves that the gateway wrote them. */
export interface GatewayDelivery { body: Buffer, signature: string }

/** The gateway as the office sees it. */
export interface PaymentGateway {
  /** Whether the office has one at all. */
  readonly isSet: boolean
  open(order: GatewayOrder): Promise<void>
  /** What became of an order: its closing event, or null while it is open. */
  query(order: string): Promise<GatewayEvent | null>
  /** @throws ProblemError `payment.unsigned` when the gateway did not write these very bytes, `payment.unreadable` when they hold no event. */
  read(delivery: GatewayDelivery): GatewayEvent
}

/** An office that has no gateway: nothing is paid online, and no event is believed. */
export const noGateway: PaymentGateway = {
  isSet: false,
  open: () => Promise.reject(refusal('payment.no-gateway')),
  query: () => Promise.resolve(null),
  read: () => { throw refusal('payment.unsigned') },
}

/** What the person at the simulated payment page does. `silent` charges and never calls back; `twice` calls back twice; `back` is their bank, which takes a charge again. */
export type GatewayAct = 'pay' | 'decline' | 'silent' | 'twice' | 'back'

export class GatewayStandin implements PaymentGateway {
  readonly isSet = true

  constructor(private readonly db: Database, private readonly secret: string, private readonly now: () => Date = () => new Date()) {}

  async open(order: GatewayOrder): Promise<void> {
    await this.db.insert(standinGatewayOrder).values({ ...order, state: 'open', at: this.now() }).onConflictDoNothing()
  }

  async show(id: string): Promise<GatewayOrder & { state: 'open' | 'charged' | 'declined' }> {
    const [row] = await this.db.select().from(standinGatewayOrder).where(eq(standinGatewayOrder.id, id))
    if (!row) throw refusal('payment.order-unknown', { order: id })
    return { id: row.id, amount: row.amount, currency: row.currency, description: row.description, returnTo: row.returnTo, state: row.state }
  }

  async query(order: string): Promise<GatewayEvent | null> {
    const [row] = await this.db.select().from(standinGatewayOrder).where(eq(standinGatewayOrder.id, order))
    return row && row.state !== 'open' && row.eventId ? { eventId: row.eventId, order, outcome: row.state, amount: row.amount, currency: row.currency } : null
  }

  /** Closes an open order and gives what is to be delivered. A closed order stays as it is and delivers nothing more. */
  async act(order: string, act: GatewayAct): Promise<GatewayDelivery[]> {
    if (act === 'back') return this.takeBack(order)
    const outcome = act === 'decline' ? 'declined' : 'charged'
    const [row] = await this.db.update(standinGatewayOrder).set({ state: outcome, eventId: `ev-${randomBytes(9).toString('base64url')}` })
      .where(and(eq(standinGatewayOrder.id, order), eq(standinGatewayOrder.state, 'open'))).returning()
    if (!row?.eventId) return []
    const delivery = this.deliver({ eventId: row.eventId, order, outcome, amount: row.amount, currency: row.currency })
    return act === 'silent' ? [] : act === 'twice' ? [delivery, delivery] : [delivery]
  }

  /** The event of a charge that was taken back; asked for again it is the same one. */
  private async takeBack(order: string): Promise<GatewayDelivery[]> {
    const [row] = await this.db.select().from(standinGatewayOrder).where(and(eq(standinGatewayOrder.id, order), eq(standinGatewayOrder.state, 'charged')))
    return row?.eventId ? [this.deliver({ eventId: `${row.eventId}-back`, order, outcome: 'charged back', amount: row.amount, currency: row.currency })] : []
  }

  /** An event as the gateway would send it, whether or not its own book says so. */
  deliver(event: GatewayEvent): GatewayDelivery {
    const body = Buffer.from(JSON.stringify(event))
    return { body, signature: this.sign(body) }
  }

  read({ body, signature }: GatewayDelivery): GatewayEvent {
    const [expected, given] = [Buffer.from(this.sign(body)), Buffer.from(signature)]
    if (expected.length !== given.length || !timingSafeEqual(expected, given)) throw refusal('payment.unsigned')
    return readSigned(body)
  }

  // Over the bytes as they are sent: what is put together from parts can be cut elsewhere and mean something else.
  private sign(body: Buffer): string {
    return createHmac('sha256', this.secret).update(body).digest('base64url')
  }
}

function readSigned(body: Buffer): GatewayEvent {
  try {
    return eventSchema.parse(JSON.parse(body.toString('utf8')))
  } catch {
    throw refusal('payment.unreadable')
  }
}
