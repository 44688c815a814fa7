/**
 * What a payment gateway tells of an order, held against what the office knows of it. Money that was really taken is always booked;
 * whatever does not fit is a fault that accounts are shown.
 */
export type EventFault =
  | 'order unknown'
  | 'amount'
  | 'currency'
  | 'charged again'
  | 'declined after charged'
  | 'told otherwise before'
  | 'back without charge'

/** Faults of a charge whose money nobody's due explains: it waits under the unmatched receipts. */
export const unmatchedFaults: readonly EventFault[] = ['order unknown', 'currency']

/** An event: `amount` in minor units of `currency`. Its id stands for one charge, one refusal, or one charge that was taken back. */
export interface ToldEvent {
  outcome: 'charged' | 'declined' | 'charged back'
  amount: number
  currency: string
}

/** What the office knows of the order; null when it opened no such order. `isCharged`: another event told already that it was charged. */
export type KnownOrder = { amount: number, currency: string, isCharged: boolean } | null

/** Where money that an event tells of belongs, and what of the event does not fit. */
export interface EventReading {
  money: 'due' | 'unmatched' | 'back' | null
  fault: EventFault | null
}

/** Reads one event that was not told before. */
export function readEvent(event: ToldEvent, order: KnownOrder): EventReading {
  const isMoney = event.outcome === 'charged' && event.amount > 0
  if (!order) return { money: isMoney ? 'unmatched' : null, fault: 'order unknown' }
  if (event.outcome === 'declined') return { money: null, fault: order.isCharged ? 'declined after charged' : null }
  if (event.outcome === 'charged back') {
    if (!order.isCharged || event.currency !== order.currency) return { money: null, fault: 'back without charge' }
    return { money: event.amount > 0 ? 'back' : null, fault: event.amount > order.amount ? 'amount' : null }
  }
  // Nothing converts one currency to another: accounts decide what becomes of it.
  if (event.currency !== order.currency) return { money: isMoney ? 'unmatched' : null, fault: 'currency' }
  return { money: isMoney ? 'due' : null, fault: order.isCharged ? 'charged again' : event.amount !== order.amount ? 'amount' : null }
}
