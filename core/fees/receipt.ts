import { mod11_10CheckDigit } from '../identity/check-digit'

/**
 * A receipt's number: the year, a serial of seven digits that counts on without gaps, and its check digit by ISO/IEC 7064 MOD 11,10:
 * `2027-0000123-1`.
 */
export function receiptNumber(year: number, serial: number): string {
  const digits = `${year}${String(serial).padStart(7, '0')}`
  return `${digits.slice(0, 4)}-${digits.slice(4)}-${mod11_10CheckDigit(digits)}`
}

/** Year and serial of a number; null where it is none, or its check digit does not agree. */
export function readReceiptNumber(text: string): { year: number, serial: number } | null {
  const [, year = '', serial = '', digit] = /^(\d{4})-?(\d{7})-?(\d)$/.exec(text.trim()) ?? []
  return year !== '' && mod11_10CheckDigit(year + serial) === digit ? { year: Number(year), serial: Number(serial) } : null
}

/**
 * What becomes of receipts: how much a new one is for, and how many of those in force, from the newest on, hold no longer. `paid` is what
 * came in for the dues, never more than is assessed; a new one is issued only when nothing is due any more.
 */
export function receiptsDue(inForce: readonly number[], paid: number, isSettled: boolean): { void: number, issue: number } {
  let sum = inForce.reduce((total, amount) => total + amount, 0)
  let gone = 0
  // The newest stand last.
  while (sum > paid && gone < inForce.length) {
    sum -= inForce[inForce.length - 1 - gone] ?? 0
    gone += 1
  }
  return { void: gone, issue: isSettled ? paid - sum : 0 }
}
