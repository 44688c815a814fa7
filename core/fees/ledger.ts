import type { Tracks } from '../application/tracks'

/** The accounts of the registration office. Debits are positive, credits negative; each transaction sums to zero. */
export const ledgerAccounts = ['receivable', 'fee income', 'gateway clearing', 'refunds payable', 'unmatched receipts'] as const
export type LedgerAccount = typeof ledgerAccounts[number]

/** What a transaction tells of. Only `assessment` changes what is owed; the others move money. */
export type TransactionKind = 'assessment' | 'receipt' | 'surplus'

export interface LedgerLine { account: LedgerAccount, amount: number }

/** The lines that carry a change of what is owed: positive when more is due, negative when less. */
export function assessmentLines(difference: number): LedgerLine[] {
  return [{ account: 'receivable', amount: difference }, { account: 'fee income', amount: -difference }]
}

/** The lines of money received through the gateway. */
export function receiptLines(amount: number): LedgerLine[] {
  return [{ account: 'gateway clearing', amount }, { account: 'receivable', amount: -amount }]
}

/** The lines of money that the gateway took and that nobody's due explains. */
export function unmatchedLines(amount: number): LedgerLine[] {
  return [{ account: 'gateway clearing', amount }, { account: 'unmatched receipts', amount: -amount }]
}

/**
 * The lines that keep what an applicant paid too much apart from what is owed: a credit left on the receivable moves to the refunds payable, and comes back
 * when more is owed again. Balances are debits less credits; null where nothing has to move.
 */
export function surplusLines(receivable: number, refundsPayable: number): LedgerLine[] | null {
  const move = receivable < 0 ? -receivable : -Math.min(receivable, -refundsPayable)
  return move === 0 ? null : [{ account: 'receivable', amount: move }, { account: 'refunds payable', amount: -move }]
}

/** Whether lines make a transaction: at least two, whole numbers, sum zero. */
export function isBalanced(lines: LedgerLine[]): boolean {
  return lines.length >= 2 && lines.every(l => Number.isSafeInteger(l.amount)) && lines.reduce((n, l) => n + l.amount, 0) === 0
}

/** Where the fee stands: from what was assessed (null: never), what came in, and whether a payment is on its way. */
export function feeState(assessed: number | null, received: number, underWay: boolean): Tracks['fee'] {
  if (assessed === null) return received > 0 ? 'refund due' : 'not assessed'
  if (received > assessed) return 'refund due'
  if (assessed === 0) return 'nothing due'
  if (received === assessed) return 'settled'
  return underWay ? 'confirming' : 'due'
}
