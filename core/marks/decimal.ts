/**
 * Exact fractions for marks: numerator over denominator in whole numbers, so that 44.995 is never 44.99499. Whole
 * numbers are plain ones while they are safe (up to 2^53 - 1) and bigint beyond: nearly all marks stay small, and plain
 * numbers are several times faster. JSON cannot carry bigint, so only texts and hundredths leave this file's callers.
 */
export type Whole = number | bigint
export interface Fraction {
  readonly n: Whole
  readonly d: Whole
}

/** A fraction of whole numbers; the denominator is positive. */
export function fraction(n: Whole, d: Whole = 1): Fraction {
  return { n, d }
}
export const zero = fraction(0)
export const hundred = fraction(100)

// A product or sum of safe numbers that comes out safe is exact; any other is done again in bigint.
function times(a: Whole, b: Whole): Whole {
  if (typeof a === 'number' && typeof b === 'number') {
    const product = a * b
    if (Number.isSafeInteger(product)) return product
  }
  return BigInt(a) * BigInt(b)
}

function plus(a: Whole, b: Whole): Whole {
  if (typeof a === 'number' && typeof b === 'number') {
    const sum = a + b
    if (Number.isSafeInteger(sum)) return sum
  }
  return BigInt(a) + BigInt(b)
}

/** The quotient rounded down, and whether nothing remains. For a >= 0 and b > 0. */
function divide(a: Whole, b: Whole): { quotient: Whole, even: boolean } {
  if (typeof a === 'number' && typeof b === 'number') {
    const remainder = a % b
    return { quotient: (a - remainder) / b, even: remainder === 0 }
  }
  const [dividend, divisor] = [BigInt(a), BigInt(b)]
  return { quotient: dividend / divisor, even: dividend % divisor === 0n }
}

const powersOfTen = [1, 10, 100, 1000, 10_000, 100_000, 1_000_000]

/** A plain decimal such as `412` or `412.50`, up to 12 digits before and 6 after the point; null for anything else. */
export function parseDecimal(text: string): Fraction | null {
  // Read sign by sign: marks are parsed by the million.
  const typed = text.trim()
  let value = 0
  let point = -1
  for (let i = 0; i < typed.length; i += 1) {
    const digit = typed.charCodeAt(i) - 48
    if (digit === -2 && point < 0) point = i
    else if (digit < 0 || digit > 9) return null
    else value = value * 10 + digit
  }
  const whole = point < 0 ? typed.length : point
  const places = point < 0 ? 0 : typed.length - point - 1
  if (whole < 1 || whole > 12 || (point >= 0 && (places < 1 || places > 6))) return null
  return { n: whole + places <= 15 ? value : BigInt(typed.replace('.', '')), d: powersOfTen[places] ?? 1 }
}

/** As `parseDecimal`, with a minus sign allowed. */
export function parseSignedDecimal(text: string): Fraction | null {
  const trimmed = text.trim()
  const value = parseDecimal(trimmed.replace(/^[-−]/, ''))
  return value && /^[-−]/.test(trimmed) ? negated(value) : value
}

const negated = (value: Fraction): Fraction => ({ n: -value.n, d: value.d })

/** Sign of a - b: -1, 0 or 1. */
export function compareFractions(a: Fraction, b: Fraction): -1 | 0 | 1 {
  const left = times(a.n, b.d)
  const right = times(b.n, a.d)
  return left < right ? -1 : left > right ? 1 : 0
}

/** The exact sum of two fractions. */
export function addFractions(a: Fraction, b: Fraction): Fraction {
  return a.d === b.d ? { n: plus(a.n, b.n), d: a.d } : { n: plus(times(a.n, b.d), times(b.n, a.d)), d: times(a.d, b.d) }
}

/** The exact difference a - b. */
export function subtractFractions(a: Fraction, b: Fraction): Fraction {
  return addFractions(a, negated(b))
}

/** The exact product of two fractions. */
export function multiplyFractions(a: Fraction, b: Fraction): Fraction {
  return { n: times(a.n, b.n), d: times(a.d, b.d) }
}

/** The exact quotient a / b; b must be above zero. */
export function divideFractions(a: Fraction, b: Fraction): Fraction {
  return { n: times(a.n, b.d), d: times(a.d, b.n) }
}

/** The whole number not above a fraction that is not negative. */
export function floorOf(value: Fraction): number {
  return Number(divide(value.n, value.d).quotient)
}

/** Marks obtained over total as a percentage, exact. Null when the total is zero or marks exceed it. */
export function percentage(obtained: Fraction, total: Fraction): Fraction | null {
  if (total.n <= 0 || compareFractions(obtained, total) > 0) return null
  return multiplyFractions(divideFractions(obtained, total), hundred)
}

/** Rounded half up to hundredths, as an integer count of hundredths. For fractions that are not negative. */
export function roundToHundredths(value: Fraction): number {
  return Number(divide(plus(times(value.n, 200), value.d), times(value.d, 2)).quotient)
}

/** Hundredths as shown: `8240` is `82.40`. */
export function spellHundredths(hundredths: number): string {
  const sign = hundredths < 0 ? '-' : ''
  const whole = Math.abs(hundredths)
  return `${sign}${Math.floor(whole / 100)}.${String(whole % 100).padStart(2, '0')}`
}

/**
 * A fraction as decimal text with up to six decimals, without zeros at the end; what does not fit is cut towards zero
 * and said with an ellipsis, so that 44.996 never reads as 45.00 where the difference decides.
 */
export function spellExact(value: Fraction): string {
  const negative = value.n < 0
  const { quotient: whole, even: isWhole } = divide(negative ? -value.n : value.n, value.d)
  const sign = negative ? '-' : ''
  if (isWhole) return `${whole === 0 ? '' : sign}${whole}`
  const rest = plus(negative ? -value.n : value.n, -times(whole, value.d))
  const { quotient: millionths, even } = divide(times(rest, 1_000_000), value.d)
  let digits = Number(millionths)
  if (digits === 0) return `${sign}${whole}…`
  let length = 6
  while (digits % 10 === 0 && length > 1) {
    digits /= 10
    length -= 1
  }
  return `${sign}${whole}.${String(digits).padStart(length, '0')}${even ? '' : '…'}`
}
