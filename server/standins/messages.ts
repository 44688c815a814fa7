import type { Handed, HandedMessage, MessageGateway } from '../messages/gateway'

/** The simulated gateway that ships: it reaches everybody but those at `.invalid`, a domain that nobody ever has (RFC 2606, section 2). */
export class MessageStandin implements MessageGateway {
  take({ channel, address }: HandedMessage): Promise<Handed> {
    return Promise.resolve(channel === 'email' && address.endsWith('.invalid') ? 'refused' : 'taken')
  }
}
