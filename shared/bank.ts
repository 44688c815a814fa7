import { z } from 'zod'
import { permit } from './acts'
import type { SlipState } from '../core/bank/slip'
import { parseCalendarDate } from '../core/calendar/calendar-date'
import type { LedgerAccount } from '../core/fees/ledger'
import type { MatchReason, MatchStep } from '../core/bank/match'
import type { Gap, StatementFormat } from '../core/bank/statement'
import { billedAtMost } from './bills'

/** An account of the office, as it is entered. */
export const bankAccountSchema = z.strictObject({
  title: z.string().trim().min(2).max(80),
  holder: z.string().trim().min(2).max(140),
  bank: z.string().trim().min(2).max(140),
  number: z.string().trim().min(4).max(60).transform(text => text.replace(/[\s-]/g, '').toUpperCase()).refine(
    text => /^[A-Z0-9/]+$/.test(text),
    { error: 'letters, digits and / only' },
  ),
  bic: z.string().trim().toUpperCase().max(11).refine(text => text === '' || /^[A-Z0-9]{4}[A-Z]{2}[A-Z0-9]{2}([A-Z0-9]{3})?$/.test(text), {
    error: '8 or 11 signs (ISO 9362), or nothing',
  }).default(''),
  currency: z.string().regex(/^[A-Z]{3}$/),
  takesDeposits: z.boolean(),
})
export type BankAccountInput = z.infer<typeof bankAccountSchema>

export interface BankAccountView extends BankAccountInput {
  id: string
  hasMapping: boolean
  /** The last balance that a statement told, and what the statements lead to by their lines. */
  last: { on: string, closing: number | null } | null
  statements: number
  openLines: number
}

const heading = z.string().trim().min(1).max(200)

/** What the columns of a bank's CSV mean, by their headings. Money that left stands in a column of its own, or as a negative amount. */
export const csvMappingSchema = z.strictObject({
  bookedOn: heading,
  order: z.enum(['ymd', 'dmy', 'mdy']),
  amount: heading,
  mark: z.enum(['.', ',']),
  debit: heading.nullable(),
  valueOn: heading.nullable(),
  reference: heading.nullable(),
  text: z.array(heading).max(6),
  name: heading.nullable(),
  account: heading.nullable(),
  bankReference: heading.nullable(),
  balance: heading.nullable(),
  currency: heading.nullable(),
})
export type CsvMapping = z.infer<typeof csvMappingSchema>

export interface StatementView {
  id: string
  name: string
  format: StatementFormat
  identification: string
  sequence: number | null
  firstOn: string
  lastOn: string
  opening: number | null
  closing: number | null
  lines: number
  known: number
  gaps: Gap[]
  open: number
  by: string
  at: string
}

/** What was taken of a file: statements that are new, and such as were there. */
export interface TakenStatements {
  taken: StatementView[]
  repeated: number
}

/** Headings of a CSV and its first rows, for saying what the columns mean. */
export interface CsvHead {
  headings: string[]
  samples: string[][]
}

/** Who a line may be for. */
export interface MatchView {
  step: MatchStep
  score: number
  reasons: MatchReason[]
  parts: { applicationId: string, number: string, name: string, due: number, amount: number, isOver: boolean }[]
}

export interface LineView {
  id: string
  account: string
  bookedOn: string
  amount: number
  currency: string
  reference: string | null
  text: string
  name: string | null
  counterAccount: string | null
  isReversal: boolean
  state: 'open' | 'explained'
  best: number | null
}

/** A line with who it may be for, or with what it was explained by. */
export interface LineDetail extends LineView {
  matches: MatchView[]
  explained: {
    matchId: string,
    explanation: string,
    step: MatchStep | null,
    score: number | null,
    reasons: MatchReason[],
    parts: { applicationId: string, number: string, name: string, amount: number }[],
    settlement: string | null,
    by: string,
    at: string,
  } | null
}

export const lineQuerySchema = z.object({
  state: z.enum(['open', 'explained']).default('open'),
  side: z.enum(['in', 'out']).default('in'),
  account: z.uuid().optional(),
  statement: z.uuid().optional(),
  search: z.string().trim().max(80).optional(),
  after: z.string().max(80).optional(),
  limit: z.coerce.number().int().min(1).max(200).default(50),
})
export type LineQuery = z.infer<typeof lineQuerySchema>
export interface LinePage {
  lines: LineView[]
  next: string | null
}

/** What a person says that a line is. */
export const explainSchema = z.discriminatedUnion('as', [
  z.strictObject({
    as: z.literal('dues'),
    parts: z.array(z.strictObject({ application: z.uuid(), amount: z.int().min(1) })).min(1).max(billedAtMost),
  }),
  z.strictObject({ as: z.literal('bank charge') }),
])
export type ExplainInput = z.infer<typeof explainSchema>
export const takeBackSchema = z.strictObject({ reason: z.string().trim().min(5).max(1000) })

/** What matching by itself has done so far, step by step. */
export interface MatchingStanding {
  threshold: number
  steps: { step: MatchStep, booked: number, takenBack: number }[]
  byHand: number
}

/** Somebody to whom money may belong. */
export interface DueView {
  applicationId: string
  number: string
  name: string
  cycle: string
  due: number
  currency: string
  isOver: boolean
  reference: string
}
export const thresholdSchema = z.strictObject({ threshold: z.number().min(0.5).max(1) })
export const dueSearchSchema = z.object({ search: z.string().max(80).default('') })
export const fileNameSchema = z.object({ name: z.string().trim().min(1).max(200) })

export const settlementFaults = ['order unknown', 'amount', 'not charged', 'settled before', 'not given back'] as const
export type SettlementFault = typeof settlementFaults[number]
/** A payout of the gateway. */
export interface SettlementView {
  id: string
  reference: string
  on: string
  currency: string
  gross: number
  charges: number
  net: number
  lines: number
  /** It has come in on an account. */
  isBrought: boolean
  by: string
  at: string
  faults: { order: string, gross: number, fault: SettlementFault }[]
}
export interface TakenSettlements {
  taken: SettlementView[]
  repeated: number
}

/** One reason for what lies on an account, with the parts that make it where they are few enough to be shown. */
export interface Explained {
  by: ExplainedBy
  count: number
  amount: number
  parts: { title: string, amount: number, to: string | null }[]
}
export const explainedBy = [
  'dues',
  'orders not settled',
  'payouts not brought',
  'lines of statements',
  'before the books',
  'lines not explained',
  'gateway events not explained',
  'owed back',
  'to be sent back',
  'refunds not left',
  'slips not arrived',
  'assessed',
  'waived',
  'written off',
  'kept by the gateway',
  'taken by the bank',
] as const
export type ExplainedBy = typeof explainedBy[number]

/**
 * What a payer says of a deposit: amount in minor units, branch of the bank, its number of the deposit where the paper has one, and the
 * day.
 */
export const paidSlipSchema = z.strictObject({
  amount: z.int().min(1).max(1e12),
  branch: z.string().trim().min(2).max(120),
  bankReference: z.string().trim().max(60).default(''),
  paidOn: z.iso.date(),
  reason: z.string().trim().max(1000).optional(),
  outsideDates: z.boolean().optional(),
})
export type PaidSlipInput = Omit<z.output<typeof paidSlipSchema>, 'reason' | 'outsideDates'>
/** A paid slip; `arrived` of it stands on statements. */
export interface PaidSlipView {
  id: string
  amount: number
  currency: string
  branch: string
  bankReference: string
  paidOn: string
  state: SlipState
  arrived: number
  pages: number
  at: string
  decided: { by: string, at: string, reason: string } | null
}
/** One that waits, with what its applicant owes and other slips that may be the same paper. */
export interface WaitingSlip extends PaidSlipView {
  applicationId: string
  number: string
  name: string
  due: number
  alike: { number: string, state: SlipState, by: 'picture' | 'facts' }[]
}
export interface SlipPage {
  rows: WaitingSlip[]
  next: string | null
}

/** The state of the books: receipts of one day, and every account with what explains its balance. */
export interface ClosingView {
  on: string
  currency: string
  receipts: { channel: 'gateway' | 'bank', cycle: string, category: string, count: number, amount: number }[]
  /** The same receipts by what they were paid for: the posts chosen together, by their titles. Days closed earlier do not have it. */
  papers?: { cycle: string, posts: string, count: number, amount: number }[]
  accounts: { account: LedgerAccount, balance: number, explained: Explained[], difference: number }[]
}
export interface ClosedDay {
  on: string
  currency: string
  by: string
  at: string
  note: string
  view: ClosingView
}
export interface ClosingPage {
  view: ClosingView
  currencies: string[]
  closed: ClosedDay | null
  days: { on: string, currency: string, by: string, at: string }[]
  byDay: { on: string, channel: 'gateway' | 'bank', amount: number }[]
}

const day = z.string().refine(text => parseCalendarDate(text) !== null, { error: 'a day as YYYY-MM-DD' })
export const closingQuerySchema = z.object({ on: day.optional(), currency: z.string().regex(/^[A-Z]{3}$/).optional() })
export const closeSchema = z.strictObject({
  on: day,
  currency: z.string().regex(/^[A-Z]{3}$/),
  note: z.string().trim().max(1000).default(''),
})
export const ledgerQuerySchema = z.object({ from: day, to: day })

/** How a fee is paid in at a bank. */
export interface DepositView {
  amount: number
  currency: string
  account: { holder: string, bank: string, number: string, bic: string }
  reference: string
  lastDay: string
  /** A bill that asks for it, too. */
  bill: { number: string, payer: string } | null
}

const toAccount = {
  payee: z.string().trim().min(2).max(140),
  number: z.string().trim().min(4).max(60).transform(text => text.replace(/[\s-]/g, '').toUpperCase()).refine(
    text => /^[A-Z0-9/]+$/.test(text),
    { error: 'letters, digits and / only' },
  ),
}
/** Where what is owed back may go. */
export const refundAccountSchema = z.strictObject({ ...permit, ...toAccount })
export interface RefundAccount {
  payee: string
  number: string
  at: string
}
const why = { reason: z.string().trim().min(5).max(1000) }
/**
 * A refund as it is proposed: of what an applicant is owed, to an account or back through the gateway; or all of what came on a line, or
 * with an event of the gateway, that nobody's due explains.
 */
export const refundSchema = z.union([
  z.strictObject({ application: z.uuid(), amount: z.int().min(1), ...toAccount, ...why }),
  z.strictObject({ application: z.uuid(), amount: z.int().min(1), order: z.string().min(1).max(100), ...why }),
  z.strictObject({ line: z.uuid(), ...toAccount, ...why }),
  z.strictObject({ event: z.string().min(1).max(100), ...why }),
])
export type RefundInput = z.infer<typeof refundSchema>
export const refundAnswerSchema = z.strictObject({ answer: z.enum(['approve', 'withdraw']) })
export const sendRefundsSchema = z.strictObject({ account: z.uuid() })

export interface RefundView {
  id: string
  reference: string
  /** Whose; null for money that nobody's due explains. */
  of: { id: string, number: string, name: string } | null
  amount: number
  currency: string
  payee: string
  number: string
  /** The order that it goes back to, through the gateway. */
  order: string | null
  reason: string
  state: 'proposed' | 'approved' | 'withdrawn' | 'sent' | 'left' | 'returned'
  by: string
  byId: string
  at: string
  settledBy: string | null
  file: string | null
}
export interface RefundsPage {
  /** Whom something is owed that no refund is on its way for. */
  owed: {
    applicationId: string,
    number: string,
    name: string,
    amount: number,
    currency: string,
    /** The account that they have given. */
    account: { payee: string, number: string, at: string } | null,
    /** What the gateway can still give back, order by order. */
    orders: { order: string, left: number }[],
  }[]
  refunds: RefundView[]
  files: { id: string, reference: string, payments: number, sum: number, currency: string, by: string, at: string }[]
}
