import type { Tracks } from '../core/application/tracks'
import type { LedgerAccount } from '../core/fees/ledger'

/** The accounts' page: balances (which sum to zero), applications by state of the fee, payments that hang. Minor units. */
export interface FeesView {
  accounts: { account: LedgerAccount, balance: number }[]
  states: { fee: Tracks['fee'], count: number }[]
  waiting: { applicationId: string, number: string, name: string, order: string, amount: number, openedAt: string }[]
}
