/**
 * ISO/IEC 7064 MOD 11,10: one check digit over a string of decimal digits. It catches every single wrong digit and
 * nearly all swaps of neighbours, and keeps numbers purely decimal so that they can be told over a telephone.
 */
export function mod11_10CheckDigit(digits: string): string {
  if (!/^\d+$/.test(digits)) throw new RangeError(`digits expected, got "${digits}"`)
  let product = 10
  for (const digit of digits) {
    let sum = (product + Number(digit)) % 10
    if (sum === 0) sum = 10
    product = (sum * 2) % 11
  }
  return String((11 - product) % 10)
}

/** Application number: the cycle's code, a seven-digit serial and its check digit, e.g. `HL27-0048213-6`. */
export function applicationNumber(cycleCode: string, serial: number): string {
  const digits = String(serial).padStart(7, '0')
  return `${cycleCode}-${digits}-${mod11_10CheckDigit(digits)}`
}

/** Whether a text is an application number whose check digit agrees. Blanks and case do not matter. */
export function isApplicationNumber(text: string): boolean {
  const match = /^([A-Z]{2}\d{2})-(\d{7})-(\d)$/.exec(text.trim().toUpperCase())
  return match !== null && mod11_10CheckDigit(match[2] ?? '') === match[3]
}
