import type { RequestWord } from '../../application/requests'
import type { Headline, Tracks } from '../../application/tracks'
import type { SlipState } from '../../bank/slip'

/** The one word for where an application stands. */
export const headlineWords: Record<Headline, string> = {
  'drafting': 'drafting',
  'fee due': 'fee due',
  'in scrutiny': 'in scrutiny',
  'returned': 'returned',
  'accepted': 'accepted',
  'placed': 'placed',
  'card issued': 'card issued',
  'refused': 'refused',
  'withdrawn': 'withdrawn',
  'lapsed': 'lapsed',
}

export const feeStateWords: Record<Tracks['fee'], string> = {
  'not assessed': 'not assessed',
  'nothing due': 'nothing due',
  'due': 'due',
  'confirming': 'confirming',
  'settled': 'settled',
  'refund due': 'refund due',
}

export const paymentWords: Record<'open' | 'succeeded' | 'failed' | 'expired', string> = {
  open: 'open',
  succeeded: 'succeeded',
  failed: 'failed',
  expired: 'expired',
}

export const decisionWords: Record<'accept' | 'return' | 'refuse', string> = { accept: 'Accepted', return: 'Returned', refuse: 'Refused' }

export const workStateWords: Record<'waiting' | 'running' | 'done' | 'failed' | 'cancelled', string> = {
  waiting: 'waiting',
  running: 'running',
  done: 'done',
  failed: 'failed',
  cancelled: 'cancelled',
}

/** What the office said of something that was asked for. */
export const requestWords: Record<RequestWord | 'open', string> = { open: 'not decided', granted: 'granted', declined: 'declined' }

/** Where a deposit slip stands. */
export const slipWords: Record<SlipState, string> = {
  'waiting': 'waits to be looked at',
  'confirmed': 'confirmed',
  'refused': 'refused',
  'taken back': 'taken back',
  'arrived': 'the money has arrived',
}
