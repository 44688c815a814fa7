/**
 * Exact fractions for marks: numerator over denominator in whole numbers, so that 44.995 is never 44.99499. JSON cannot
 * carry bigint, so only `toFixed` text and hundredths leave this file.
 */
export interface Fraction { n: bigint, d: bigint }

/** A plain decimal such as `412` or `412.50`, up to 12 digits before and 6 after the point; null for anything else. */
export function parseDecimal(text: string): Fraction | null {
  const match = /^(\d{1,12})(?:\.(\d{1,6}))?$/.exec(text.trim())
  if (!match) return null
  const places = match[2] ?? ''
  return { n: BigInt((match[1] ?? '') + places), d: 10n ** BigInt(places.length) }
}

/** Sign of a - b: -1, 0 or 1. Denominators are positive. */
export function compareFractions(a: Fraction, b: Fraction): -1 | 0 | 1 {
  const left = a.n * b.d
  const right = b.n * a.d
  return left < right ? -1 : left > right ? 1 : 0
}

/** Marks obtained over total as a percentage, exact. Null when the total is zero or marks exceed it. */
export function percentage(obtained: Fraction, total: Fraction): Fraction | null {
  if (total.n <= 0n || compareFractions(obtained, total) > 0) return null
  return { n: obtained.n * total.d * 100n, d: obtained.d * total.n }
}

/** Rounded half up to hundredths, as an integer count of hundredths. For fractions that are not negative. */
export function roundToHundredths(value: Fraction): number {
  return Number((value.n * 200n + value.d) / (value.d * 2n))
}

/** The smallest whole marks out of `total` that reach `norm` percent. */
export function marksNeeded(norm: Fraction, total: Fraction): number {
  const n = norm.n * total.n
  const d = norm.d * total.d * 100n
  return Number((n + d - 1n) / d)
}

/** Hundredths as shown: `8240` is `82.40`. */
export function spellHundredths(hundredths: number): string {
  const sign = hundredths < 0 ? '-' : ''
  const whole = Math.abs(hundredths)
  return `${sign}${Math.floor(whole / 100)}.${String(whole % 100).padStart(2, '0')}`
}
