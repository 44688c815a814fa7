import { createHmac, randomBytes, timingSafeEqual } from 'node:crypto'
import { and, eq } from 'drizzle-orm'
import type { Database } from '../database/client'
import { standinGatewayOrder } from '../database/schema'
import { refusal } from '../../shared/problem'

/**
 * A simulated payment gateway that ships with the product. It keeps a book of its own and speaks to the office only by
 * signed events and by answering questions, as a company elsewhere would.
 */
export interface GatewayOrder { id: string, amount: number, currency: string, description: string, returnTo: string }
export interface GatewayEvent { eventId: string, order: string, outcome: 'charged' | 'declined', amount: number, signature: string }

/** The gateway as the office sees it. */
export interface PaymentGateway {
  open(order: GatewayOrder): Promise<void>
  /** What became of an order: its closing event, or null while it is open. */
  query(order: string): Promise<GatewayEvent | null>
  isGenuine(event: GatewayEvent): boolean
}

/** What the person at the simulated payment page does. `silent` charges and never calls back; `twice` calls back twice. */
export type GatewayAct = 'pay' | 'decline' | 'silent' | 'twice'

export class GatewayStandin implements PaymentGateway {
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
    return row && row.state !== 'open' && row.eventId ? this.event(row.eventId, order, row.state, row.amount) : null
  }

  /** Closes an open order and gives the events to deliver. A closed order stays as it is and delivers nothing more. */
  async act(order: string, act: GatewayAct): Promise<GatewayEvent[]> {
    const state = act === 'decline' ? 'declined' : 'charged'
    const [row] = await this.db.update(standinGatewayOrder).set({ state, eventId: `ev-${randomBytes(9).toString('base64url')}` })
      .where(and(eq(standinGatewayOrder.id, order), eq(standinGatewayOrder.state, 'open'))).returning()
    if (!row?.eventId) return []
    const event = this.event(row.eventId, order, state, row.amount)
    return act === 'silent' ? [] : act === 'twice' ? [event, event] : [event]
  }

  isGenuine(event: GatewayEvent): boolean {
    const expected = Buffer.from(this.sign(event))
    const given = Buffer.from(event.signature)
    return expected.length === given.length && timingSafeEqual(expected, given)
  }

  private event(eventId: string, order: string, outcome: 'charged' | 'declined', amount: number): GatewayEvent {
    const event = { eventId, order, outcome, amount, signature: '' }
    return { ...event, signature: this.sign(event) }
  }

  private sign(event: GatewayEvent): string {
    return createHmac('sha256', this.secret).update([event.eventId, event.order, event.outcome, event.amount].join('|')).digest('base64url')
  }
}
