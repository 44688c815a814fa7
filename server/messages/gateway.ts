import type { Channel } from '../../core/identity/address'

/** One message as it is handed over; its id makes handing it over again harmless where the other side knows it by that. */
export interface HandedMessage {
  id: string
  channel: Channel
  address: string
  subject: string
  body: string
}

/**
 * What became of handing a message over: it was taken, or refused for good, as for an address that nobody has; or it may be tried later; or
 * the other side is not there at all, so that no other message gets through now.
 */
export type Handed = 'taken' | 'refused' | 'later' | 'down'

/** What carries messages out of the house. */
export interface MessageGateway {
  take: (message: HandedMessage) => Promise<Handed>
}
