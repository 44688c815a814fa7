import { getHeader } from 'h3'
import { product } from '../../../core/access/principal'
import { refusal } from '../../../shared/refusal'
import { route } from '../../http/handle'
import { limitedBytes } from '../../http/input'
import { runtime } from '../../runtime'
import { receiveGatewayEvent } from '../../services/fees/events'

const bytesAtMost = 16 * 1024

/** Where the gateway calls. It has no session; its signature over the bytes is what is believed. */
export default route(async ({ event, caller }) =>
  receiveGatewayEvent(caller.as(product), runtime().gateway, {
    body: await limitedBytes(event, bytesAtMost, () => refusal('input.body', { most: bytesAtMost / 1024 })),
    signature: getHeader(event, 'x-gateway-signature') ?? '',
  }), { anonymous: true })
