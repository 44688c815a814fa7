import { refusal } from '../../shared/refusal'
import { z } from 'zod'
import {
  isSigned,
  readDelivery,
  signatureOf,
  type GatewayDelivery,
  type GatewayEvent,
  type GatewayOrder,
  type GatewayRefund,
  type GatewayRefundState,
  type PaymentGateway,
} from './gateway'

/** How long the gateway may take to answer, in milliseconds. */
const patience = 10_000

const refundAnswer = z.object({ state: z.enum(['under way', 'paid back', 'refused']) })
const deliveryOf = async (answer: Response): Promise<GatewayDelivery> => ({
  body: Buffer.from(await answer.arrayBuffer()),
  signature: answer.headers.get('x-gateway-signature') ?? '',
})

/** The gateway as a company elsewhere: asked over HTTP, each question and answer signed with the secret that both sides know. */
export class GatewayClient implements PaymentGateway {
  readonly isSet = true

  constructor(private readonly address: string, private readonly secret: string) {}

  pageOf(order: string): string {
    return `${this.address}/pay/${encodeURIComponent(order)}`
  }

  async open(order: GatewayOrder): Promise<void> {
    await this.ask('/orders', Buffer.from(JSON.stringify(order)))
  }

  async query(order: string): Promise<GatewayEvent | null> {
    const said = await deliveryOf(await this.ask('/orders/state', Buffer.from(JSON.stringify({ order }))))
    return said.body.length === 0 ? null : this.read(said)
  }

  async refund(asked: GatewayRefund): Promise<GatewayRefundState> {
    const said = await deliveryOf(await this.ask('/refunds', Buffer.from(JSON.stringify(asked))))
    // Whoever else answers in its place has said nothing.
    if (!isSigned(this.secret, said)) throw refusal('payment.unsigned')
    return refundAnswer.parse(JSON.parse(said.body.toString('utf8'))).state
  }

  read(delivery: GatewayDelivery): GatewayEvent {
    return readDelivery(this.secret, delivery)
  }

  private async ask(path: string, body: Buffer): Promise<Response> {
    const answer = await fetch(`${this.address}${path}`, {
      method: 'POST',
      body: new Uint8Array(body),
      signal: AbortSignal.timeout(patience),
      headers: { 'content-type': 'application/json', 'x-gateway-signature': signatureOf(this.secret, body) },
    }).catch(() => null)
    if (!answer?.ok) throw refusal('payment.gateway-silent')
    return answer
  }
}
