/** The accounts' page: balances (which sum to zero), applications by state of the fee, payments that hang. Minor units. */
export interface FeesView {
  accounts: { account: string, balance: number }[]
  states: { fee: string, count: number }[]
  waiting: { applicationId: string, number: string, name: string, order: string, amount: number, openedAt: string }[]
}
