import { z } from 'zod'
import { route } from '../../../http/handle'
import { body, textParam } from '../../../http/input'
import { runtime } from '../../../runtime'

const actSchema = z.object({ act: z.enum(['pay', 'decline', 'silent', 'twice']) })

/** The simulated gateway: closes the order in its own book, then calls the office as a company elsewhere would. */
export default route(async ({ event }) => {
  const { gateway } = runtime()
  const order = textParam(event, 'order')
  const events = await gateway.act(order, (await body(event, actSchema)).act)
  await Promise.all(events.map(one => event.$fetch('/api/payments/event', { method: 'POST', body: one, headers: { 'content-type': 'application/json' } })))
  return gateway.show(order)
}, { anonymous: true })
