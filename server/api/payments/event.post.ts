import { z } from 'zod'
import { body, route } from '../../http/handle'
import { receiveGatewayEvent } from '../../services/fees/payments'
import { systemActor } from '../../services/context'
import { runtime } from '../../runtime'

const eventSchema = z.object({ eventId: z.string().max(100), order: z.string().max(100), outcome: z.enum(['charged', 'declined']), amount: z.int().min(0), signature: z.string().max(200) })

/** Where the gateway calls. It has no session; its signature is what is believed. */
export default route(async ({ event, context }) =>
  receiveGatewayEvent({ ...context, actor: { ...systemActor, name: 'gateway' } }, runtime().gateway, await body(event, eventSchema)), { anonymous: true })
