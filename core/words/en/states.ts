import type { Headline, Tracks } from '../../application/tracks'
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
  'refunds payable': { title: 'refunds payable', says: 'to be paid back' },
}
