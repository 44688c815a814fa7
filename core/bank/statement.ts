import type { CalendarDate } from '../calendar/calendar-date'

/** One movement on an account: positive when money came in. Amounts in minor units of the statement's currency. */
export interface StatementLine {
  bookedOn: CalendarDate
  valueOn: CalendarDate | null
  amount: number
  /** A reference in a field of its own; what stands within the text is looked for there. */
  reference: string | null
  text: string
  /** Who paid, or was paid. */
  name: string | null
  account: string | null
  /** The bank's own number of the movement. */
  bankReference: string | null
  /** The bank takes an earlier movement back. */
  isReversal: boolean
}

export interface Balance {
  on: CalendarDate
  amount: number
}

/** One statement as its file tells it. What a format leaves out is null. */
export interface Statement {
  format: StatementFormat
  account: string
  identification: string
  /** Number in the bank's own counting. */
  sequence: number | null
  currency: string
  opening: Balance | null
  closing: Balance | null
  lines: StatementLine[]
}

export const statementFormats = ['camt.053', 'MT940', 'CSV'] as const
export type StatementFormat = typeof statementFormats[number]

/** Places after the decimal mark by currency (ISO 4217), where they are not two. */
const exponents: Record<string, number> = {
  BHD: 3,
  CLP: 0,
  IQD: 3,
  ISK: 0,
  JOD: 3,
  JPY: 0,
  KRW: 0,
  KWD: 3,
  LYD: 3,
  OMR: 3,
  PYG: 0,
  TND: 3,
  UGX: 0,
  VND: 0,
  XAF: 0,
  XOF: 0,
  XPF: 0,
}
export const exponentOf = (currency: string): number => exponents[currency] ?? 2

/** Whole numbers up to here are exact, and so are their sums. */
const most = 10 ** 13

/**
 * An amount as banks write it, in minor units; null where it is none, has more places than the currency, or is too large. Thousands may be
 * parted by blanks, an apostrophe, or the mark that is not the decimal one, in groups of three; a sign may stand before or behind.
 */
export function readAmount(text: string, mark: '.' | ',', exponent: number): number | null {
  const parts = /^([+\-−]?)\s*([\d.,'’\s\u00A0\u202F]+?)\s*([+\-−]?)$/u.exec(text.trim())
  if (!parts || (parts[1] && parts[3])) return null
  const [whole = '', decimals = '', ...rest] = (parts[2] ?? '').split(mark)
  const other = mark === '.' ? ',' : '\\.'
  if (
    rest.length > 0 || !new RegExp(`^(\\d+|\\d{1,3}(([${other}'’\\s\\u00A0\\u202F])\\d{3})(\\3\\d{3})*)$`, 'u').test(whole)
    || !/^\d*$/.test(decimals)
  ) return null
  if (decimals.length > exponent && !/^0*$/.test(decimals.slice(exponent))) return null
  const amount = Number(whole.replace(/\D/g, '') + decimals.slice(0, exponent).padEnd(exponent, '0'))
  if (amount > most) return null
  return [parts[1], parts[3]].some(sign => sign === '-' || sign === '−') ? -amount : amount
}

/** What makes a whole statement unfit to be taken: its lines do not lead from its first balance to its last. */
export interface BalanceFault {
  opening: number
  movements: number
  closing: number
}

export function balanceFault({ opening, closing, lines }: Statement): BalanceFault | null {
  if (!opening || !closing) return null
  const movements = lines.reduce((sum, line) => sum + line.amount, 0)
  return opening.amount + movements === closing.amount ? null : { opening: opening.amount, movements, closing: closing.amount }
}

/** What is known of the statement before. */
export interface Former {
  sequence: number | null
  closing: Balance | null
}

export type Gap = { code: 'sequence', wanted: number, found: number } | { code: 'opening', wanted: number, found: number }

/** What is missing between two statements of one account: numbers left out, or a balance that does not go on. */
export function gapsBetween(former: Former, next: Pick<Statement, 'sequence' | 'opening'>): Gap[] {
  const gaps: Gap[] = []
  // Counting begins again with a year.
  if (former.sequence !== null && next.sequence !== null && next.sequence !== former.sequence + 1 && next.sequence !== 1) {
    gaps.push({ code: 'sequence', wanted: former.sequence + 1, found: next.sequence })
  }
  if (former.closing && next.opening && former.closing.amount !== next.opening.amount) {
    gaps.push({ code: 'opening', wanted: former.closing.amount, found: next.opening.amount })
  }
  return gaps
}
