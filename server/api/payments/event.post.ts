import { z } from 'zod'
import { product } from '../../../core/access/principal'
import { route } from '../../http/handle'
import { body } from '../../http/input'
import { runtime } from '../../runtime'
import { receiveGatewayEvent } from '../../services/fees/payments'

const eventSchema = z.object({ eventId: z.string().max(100), order: z.string().max(100), outcome: z.enum(['charged', 'declined']), amount: z.int().min(0).max(2_147_483_647), signature: z.string().max(200) })

/** Where the gateway calls. It has no session; its signature is what is believed. */
export default route(async ({ event, caller }) => receiveGatewayEvent(caller.as(product), runtime().gateway, await body(event, eventSchema)), { anonymous: true })
