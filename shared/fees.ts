import type { WayCost } from '../core/fees/channel'
import { z } from 'zod'
import type { Tracks } from '../core/application/tracks'
import type { EventFault } from '../core/fees/gateway-event'
import type { LedgerAccount } from '../core/fees/ledger'

/** The accounts' page: balances (which sum to zero in each currency), applications by state of the fee, payments that hang. Minor units. */
export interface FeesView {
  accounts: { account: LedgerAccount, currency: string, balance: number }[]
  states: { fee: Tracks['fee'], count: number }[]
  waiting: { applicationId: string, number: string, name: string, order: string, amount: number, openedAt: string }[]
  /** Events of the gateway that did not fit; `wanted` is the amount of the order, null where nobody knows it. */
  misfits: {
    fault: EventFault,
    event: string,
    order: string,
    outcome: 'charged' | 'declined' | 'charged back',
    amount: number,
    currency: string,
    wanted: number | null,
    /** Nobody's due explains its money, and no refund of it is on its way. */
    isOpen: boolean,
    applicationId: string | null,
    name: string | null,
    at: string,
  }[]
}

/** A receipt: issued once, printed as often as anybody likes. */
export interface ReceiptView {
  id: string
  number: string
  amount: number
  currency: string
  at: string
  voidAt: string | null
}
/** What the office says of a receipt to whoever has its number and code. */
export interface ReceiptCheck extends ReceiptView {
  application: string
}
export const receiptCheckSchema = z.strictObject({ number: z.string().trim().min(1).max(40), code: z.string().trim().min(1).max(40) })

/**
 * What several owe together, and what each way of paying it in one payment costs; `due` in minor units. More than one payment is for can
 * stand on one bill.
 */
export interface OwedTogether {
  people: number
  isForOnePayment: boolean
  due: number
  currency: { code: string, exponent: number }
  costs: WayCost[]
}
