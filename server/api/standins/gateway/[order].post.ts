import { z } from 'zod'
import { route } from '../../../http/handle'
import { body, textParam } from '../../../http/input'
import { gatewayStandin } from '../../../runtime'

const actSchema = z.object({ act: z.enum(['pay', 'decline', 'silent', 'twice', 'back']) })

/** The simulated gateway: closes the order in its own book, then calls the office as a company elsewhere would. */
export default route(async ({ event }) => {
  const gateway = gatewayStandin()
  const order = textParam(event, 'order')
  const deliveries = await gateway.act(order, (await body(event, actSchema)).act)
  await Promise.all(deliveries.map(({ body: bytes, signature }) => event.$fetch('/api/payments/event', {
    method: 'POST', body: bytes, headers: { 'content-type': 'application/json', 'x-gateway-signature': signature },
  })))
  return gateway.show(order)
}, { anonymous: true })
