import type { RequestWord } from '../../application/requests'
import type { Headline, Tracks } from '../../application/tracks'
import type { SlipState } from '../../bank/slip'
import type { EventFault } from '../../fees/gateway-event'
import type { LedgerAccount } from '../../fees/ledger'

/** The one word for where an application stands. */
export const headlineWords: Record<Headline, string> = {
  'drafting': 'drafting', 'fee due': 'fee due', 'in scrutiny': 'in scrutiny', 'returned': 'returned', 'accepted': 'accepted', 'placed': 'placed', 'card issued': 'card issued',
  'refused': 'refused', 'withdrawn': 'withdrawn', 'lapsed': 'lapsed',
}

export const feeStateWords: Record<Tracks['fee'], string> = {
  'not assessed': 'not assessed', 'nothing due': 'nothing due', 'due': 'due', 'confirming': 'confirming', 'settled': 'settled', 'refund due': 'refund due',
}

export const paymentWords: Record<'open' | 'succeeded' | 'failed' | 'expired', string> = { open: 'open', succeeded: 'succeeded', failed: 'failed', expired: 'expired' }

export const decisionWords: Record<'accept' | 'return' | 'refuse', string> = { accept: 'Accepted', return: 'Returned', refuse: 'Refused' }

export const workStateWords: Record<'waiting' | 'running' | 'done' | 'failed' | 'cancelled', string> = { waiting: 'waiting', running: 'running', done: 'done', failed: 'failed', cancelled: 'cancelled' }

/** The accounts of the ledger: their names, and what a balance there is. */
export const accountWords: Record<LedgerAccount, { title: string, says: string }> = {
  'receivable': { title: 'receivable', says: 'owed by applicants' },
  'fee income': { title: 'fee income', says: 'fees earned' },
  'gateway clearing': { title: 'gateway clearing', says: 'received, held by the gateway' },
  'bank expected': { title: 'bank expected', says: 'paid out by the gateway, not on a statement yet' },
  'slips in transit': { title: 'slips in transit', says: 'deposit slips confirmed by eye, not on a statement yet' },
  'bank': { title: 'bank', says: 'what statements show' },
  'unmatched payments': { title: 'unmatched payments', says: 'left the bank, not explained yet' },
  'refunds in transit': { title: 'refunds in transit', says: 'sent, not on a statement yet' },
  'gateway charges': { title: 'gateway charges', says: 'kept by the gateway' },
  'bank charges': { title: 'bank charges', says: 'taken by the bank' },
  'waivers': { title: 'waivers', says: 'granted by the office' },
  'write-offs': { title: 'write-offs', says: 'given up as lost' },
  'refunds payable': { title: 'refunds payable', says: 'to be paid back' },
  'unmatched receipts': { title: 'unmatched receipts', says: 'received, explained by nobody\'s due' },
}

/** What of a gateway's event did not fit, and what was done. */
export const eventFaultWords: Record<EventFault, { title: string, says: string }> = {
  'order unknown': { title: 'order unknown', says: 'The office opened no such order. Money that was charged stands under unmatched receipts.' },
  'amount': { title: 'another amount', says: 'Booked as it was charged: what is missing is still due, what is too much is owed back.' },
  'currency': { title: 'another currency', says: 'Nothing is converted: the money stands under unmatched receipts, and the fee is still due.' },
  'charged again': { title: 'charged again', says: 'The order had been charged before. This money is owed back, unless more became due.' },
  'declined after charged': { title: 'declined after charged', says: 'The order had been charged. Nothing was changed.' },
  'back without charge': { title: 'taken back without a charge', says: 'The gateway took money back for an order that it never told as charged. Nothing was booked; ask the gateway.' },
  'told otherwise before': { title: 'told otherwise before', says: 'The same event had come with another content. The first counts; ask the gateway which is right.' },
}

/** What the office said of something that was asked for. */
export const requestWords: Record<RequestWord | 'open', string> = { open: 'not decided', granted: 'granted', declined: 'declined' }

/** Where a deposit slip stands. */
export const slipWords: Record<SlipState, string> = { 'waiting': 'waits to be looked at', 'confirmed': 'confirmed', 'refused': 'refused', 'taken back': 'taken back', 'arrived': 'the money has arrived' }
