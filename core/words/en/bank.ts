import type { EventFault } from '../../fees/gateway-event'
import type { LedgerAccount } from '../../fees/ledger'
import type { MatchReason, MatchStep } from '../../bank/match'
import type { StatementFormat } from '../../bank/statement'

/** How a line was led to somebody. */
export const matchStepWords: Record<MatchStep, string> = {
  reference: 'by its whole reference',
  repaired: 'by its reference, one fault mended',
  several: 'one payment for several',
  name: 'by amount and name',
}

/** Why a line and somebody's due are thought to belong together, or not quite. */
export const matchReasonWords: Record<MatchReason, string> = {
  'reference': 'names the reference',
  'reference-repaired': 'a reference one fault away',
  'amount-fits': 'the very amount',
  'amount-less': 'less than is due: the rest stays due',
  'amount-more': 'more than is due: the rest is owed back',
  'nothing-due': 'nothing is due: all of it is owed back',
  'name-same': 'the same name',
  'name-like': 'the same name, ordered otherwise or within the text',
  'name-initials': 'initials of the name',
  'name-other': 'another name',
  'bill': 'the reference of a bill',
  'several-add-up': 'dues add up to it',
  'left-the-flow': 'withdrawn, lapsed or refused',
  'others-as-good': 'others fit as well',
}

export const formatWords: Record<StatementFormat, string> = { 'camt.053': 'ISO 20022', 'MT940': 'MT940', 'CSV': 'CSV' }

/** What of an order in a payout does not fit what the gateway told of it. */
export const settlementFaultWords = {
  'order unknown': 'the office opened no such order',
  'amount': 'another amount than was told as charged',
  'not charged': 'never told as charged',
  'settled before': 'paid out, or kept back, before',
  'not given back': 'kept back, and never told as given or taken back',
} as const

/** What explains the balance of an account. */
export const explainedByWords = {
  'dues': 'owed, application by application',
  'orders not settled': 'orders charged and not paid out yet, less those paid out and never told as charged',
  'payouts not brought': 'payouts that are not on a statement yet',
  'lines of statements': 'balances of the last statements',
  'before the books': 'less what was there before the first statement',
  'lines not explained': 'lines of statements that nothing explains yet',
  'gateway events not explained': 'charges of the gateway that fit no order',
  'owed back': 'owed back, application by application',
  'to be sent back': 'of nobody that is known, to be sent back',
  'slips not arrived': 'confirmed slips that are not on a statement yet',
  'refunds not left': 'refunds that are not on a statement yet',
  'assessed': 'assessed, by examination',
  'waived': 'waived, application by application',
  'written off': 'written off, application by application',
  'kept by the gateway': 'kept by the gateway, by payout',
  'taken by the bank': 'charges on statements',
} as const

export const channelWords = { gateway: 'gateway', bank: 'bank' } as const

/** The accounts of the ledger: their names, and what a balance there is. */
export const accountWords: Record<LedgerAccount, { title: string, says: string }> = {
  'receivable': { title: 'receivable', says: 'owed by applicants' },
  'fee income': { title: 'fee income', says: 'fees earned' },
  'late fee income': { title: 'late fees', says: 'late fees earned' },
  'correction charges': { title: 'correction charges', says: 'earned for corrections' },
  'surcharges': { title: 'surcharges', says: 'earned on top of fees, as for a way of paying' },
  'tax payable': { title: 'tax payable', says: 'tax taken with charges, owed on' },
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
  'unmatched receipts': { title: 'unmatched receipts', says: "received, explained by nobody's due" },
}

/** What of a gateway's event did not fit, and what was done. */
export const eventFaultWords: Record<EventFault, { title: string, says: string }> = {
  'order unknown': {
    title: 'order unknown',
    says: 'The office opened no such order. Money that was charged stands under unmatched receipts.',
  },
  'amount': { title: 'another amount', says: 'Booked as it was charged: what is missing is still due, what is too much is owed back.' },
  'currency': {
    title: 'another currency',
    says: 'Nothing is converted: the money stands under unmatched receipts, and the fee is still due.',
  },
  'charged again': { title: 'charged again', says: 'The order had been charged before. This money is owed back, unless more became due.' },
  'declined after charged': { title: 'declined after charged', says: 'The order had been charged. Nothing was changed.' },
  'back without charge': {
    title: 'taken back without a charge',
    says: 'The gateway took money back for an order that it never told as charged. Nothing was booked; ask the gateway.',
  },
  'told otherwise before': {
    title: 'told otherwise before',
    says: 'The same event had come with another content. The first counts; ask the gateway which is right.',
  },
}
