import type { Tracks } from '../application/tracks'
import { earnedAs, incomeAccounts, type FeeItem } from './assess'

/** The accounts of the registration office. Debits are positive, credits negative; each transaction sums to zero. */
export const ledgerAccounts = [
  'receivable',
  ...incomeAccounts,
  'gateway clearing',
  'bank expected',
  'slips in transit',
  'bank',
  'unmatched receipts',
  'unmatched payments',
  'refunds payable',
  'refunds in transit',
  'gateway charges',
  'bank charges',
  'waivers',
  'write-offs',
] as const
export type LedgerAccount = typeof ledgerAccounts[number]

/**
 * What a transaction tells of. `assessment` changes what is owed, `receipt` and `surplus` what came in for somebody; `bank` is a movement
 * on an account of the office that nobody's due explains yet, or a cost; `settlement` money that a gateway pays out; `refund` money that
 * goes back; `charge-back` money of an applicant that a gateway took again.
 */
export type TransactionKind = 'assessment' | 'receipt' | 'surplus' | 'bank' | 'settlement' | 'refund' | 'charge-back'

export interface LedgerLine {
  account: LedgerAccount
  amount: number
}

/** Where the other side of a line of an assessment lies: what is waived or written off was earned, and is a cost. */
const otherSideOf = (item: Pick<FeeItem, 'because'>): LedgerAccount =>
  earnedAs(item)
    ?? (typeof item.because === 'object' && item.because.code === 'relief' && item.because.kind === 'written off'
      ? 'write-offs'
      : 'waivers')

/** The lines that carry a change of what is owed, from one assessment (none before the first) to the next; none where nothing moves. */
export function assessmentLines(
  before: readonly Pick<FeeItem, 'because' | 'amount'>[],
  after: readonly Pick<FeeItem, 'because' | 'amount'>[],
): LedgerLine[] {
  const moves = new Map<LedgerAccount, number>()
  const move = (account: LedgerAccount, amount: number) => moves.set(account, (moves.get(account) ?? 0) + amount)
  for (const [items, sign] of [[before, -1], [after, 1]] as const) {
    for (const item of items) {
      move('receivable', sign * item.amount)
      move(otherSideOf(item), -sign * item.amount)
    }
  }
  return [...moves].filter(([, amount]) => amount !== 0).map(([account, amount]) => ({ account, amount }))
}

/** The lines of money received through the gateway. */
export function receiptLines(amount: number): LedgerLine[] {
  return [{ account: 'gateway clearing', amount }, { account: 'receivable', amount: -amount }]
}

/** The lines of money that the gateway took and that nobody's due explains. */
export function unmatchedLines(amount: number): LedgerLine[] {
  return [{ account: 'gateway clearing', amount }, { account: 'unmatched receipts', amount: -amount }]
}

/** The lines of a movement on the office's account before it is explained: money that came in, or that left. */
export function bankLines(amount: number): LedgerLine[] {
  return [{ account: 'bank', amount }, { account: amount > 0 ? 'unmatched receipts' : 'unmatched payments', amount: -amount }]
}

/** The lines of money on the office's account that a due explains. */
export function matchLines(amount: number): LedgerLine[] {
  return [{ account: 'unmatched receipts', amount }, { account: 'receivable', amount: -amount }]
}

/** The lines of a deposit slip that somebody has looked at and taken for good: the money is on its way until a statement shows it. */
export function slipLines(amount: number): LedgerLine[] {
  return [{ account: 'slips in transit', amount }, { account: 'receivable', amount: -amount }]
}

/**
 * The lines of money on the office's account for somebody whose slips were taken for good before, with so much still on its way: first that
 * has arrived, the rest pays what is due.
 */
export function matchAfterSlips(amount: number, inTransit: number): LedgerLine[] {
  const arrived = Math.min(amount, Math.max(0, inTransit))
  return [{ account: 'unmatched receipts' as const, amount }, { account: 'slips in transit' as const, amount: -arrived }, {
    account: 'receivable' as const,
    amount: arrived - amount,
  }].filter(line => line.amount !== 0)
}

/** The lines of a charge that the bank took, once somebody has said that it is one. */
export function bankChargeLines(amount: number): LedgerLine[] {
  return [{ account: 'bank charges', amount }, { account: 'unmatched payments', amount: -amount }]
}

/** The lines of a gateway's payout: what it charged, less what it keeps, is on its way to the bank. */
export function settlementLines(gross: number, charges: number): LedgerLine[] {
  return [{ account: 'bank expected', amount: gross - charges }, { account: 'gateway charges', amount: charges }, {
    account: 'gateway clearing',
    amount: -gross,
  }].filter(line => line.amount !== 0) as LedgerLine[]
}

/** The lines of a payout that has come in on the office's account. */
export function payoutLines(net: number): LedgerLine[] {
  return [{ account: 'unmatched receipts', amount: net }, { account: 'bank expected', amount: -net }]
}

/** The lines of a refund that was sent: owed back no longer, and on its way until a statement shows that it left. */
export function refundLines(amount: number): LedgerLine[] {
  return [{ account: 'refunds payable', amount }, { account: 'refunds in transit', amount: -amount }]
}

/** The lines of a refund that has left the office's account. */
export function refundLeftLines(amount: number): LedgerLine[] {
  return [{ account: 'refunds in transit', amount }, { account: 'unmatched payments', amount: -amount }]
}

/** The lines of a refund through the gateway that took the money: it keeps that much less for the office. */
export function gatewayRefundLines(amount: number): LedgerLine[] {
  return [{ account: 'refunds payable', amount }, { account: 'gateway clearing', amount: -amount }]
}

/** The lines of money that came in and is owed back: a refund that came back, or what nobody's due explains. */
export function owedBackLines(amount: number): LedgerLine[] {
  return [{ account: 'unmatched receipts', amount }, { account: 'refunds payable', amount: -amount }]
}

/** What takes a transaction back: its mirror image. */
export function reversed(lines: readonly LedgerLine[]): LedgerLine[] {
  return lines.map(({ account, amount }) => ({ account, amount: -amount }))
}

/**
 * The lines that keep what an applicant paid too much apart from what is owed: a credit left on the receivable moves to the refunds
 * payable, and comes back when more is owed again; what is held for a correction stays. Balances are debits less credits; null where
 * nothing has to move.
 */
export function surplusLines(receivable: number, refundsPayable: number, held = 0): LedgerLine[] | null {
  const wanted = receivable + held
  const move = wanted < 0 ? -wanted : -Math.min(wanted, -refundsPayable)
  return move === 0 ? null : [{ account: 'receivable', amount: move }, { account: 'refunds payable', amount: -move }]
}

/** Whether lines make a transaction: at least two, whole numbers, sum zero. */
export function isBalanced(lines: LedgerLine[]): boolean {
  return lines.length >= 2 && lines.every(l => Number.isSafeInteger(l.amount)) && lines.reduce((n, l) => n + l.amount, 0) === 0
}

/**
 * Where the fee stands: from what was assessed (null: never), what came in, whether a payment is on its way, and how much beyond the fee is
 * held for a correction.
 */
export function feeState(assessed: number | null, received: number, underWay: boolean, held = 0): Tracks['fee'] {
  if (assessed === null) return received > 0 ? 'refund due' : 'not assessed'
  if (received > assessed + held) return 'refund due'
  if (assessed === 0) return 'nothing due'
  if (received >= assessed) return 'settled'
  return underWay ? 'confirming' : 'due'
}
