import type { Tracks } from '../application/tracks'

/** The accounts of the registration office. Debits are positive, credits negative; each transaction sums to zero. */
export const ledgerAccounts = ['receivable', 'fee income', 'gateway clearing', 'refunds payable'] as const
export type LedgerAccount = typeof ledgerAccounts[number]

export interface LedgerLine { account: LedgerAccount, amount: number }

/** The lines that carry a change of what is owed: positive when more is due, negative when less. */
export function assessmentLines(difference: number): LedgerLine[] {
  return [{ account: 'receivable', amount: difference }, { account: 'fee income', amount: -difference }]
}

/** The lines of money received through the gateway. */
export function receiptLines(amount: number): LedgerLine[] {
  return [{ account: 'gateway clearing', amount }, { account: 'receivable', amount: -amount }]
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
