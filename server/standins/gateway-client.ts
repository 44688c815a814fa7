import { refusal } from '../../shared/problem'
import { readDelivery, signatureOf, type GatewayDelivery, type GatewayEvent, type GatewayOrder, type PaymentGateway } from './gateway'

/** How long the gateway may take to answer, in milliseconds. */
const patience = 10_000

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
    const answer = await this.ask('/orders/state', Buffer.from(JSON.stringify({ order })))
    const body = Buffer.from(await answer.arrayBuffer())
    return body.length === 0 ? null : this.read({ body, signature: answer.headers.get('x-gateway-signature') ?? '' })
  }

  read(delivery: GatewayDelivery): GatewayEvent {
    return readDelivery(this.secret, delivery)
  }

  private async ask(path: string, body: Buffer): Promise<Response> {
    const answer = await fetch(`${this.address}${path}`, {
      method: 'POST', body: new Uint8Array(body), signal: AbortSignal.timeout(patience), headers: { 'content-type': 'application/json', 'x-gateway-signature': signatureOf(this.secret, body) },
    }).catch(() => null)
    if (!answer?.ok) throw refusal('payment.gateway-silent')
    return answer
  }
}
