import { Decimal } from 'decimal.js'
import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import { compareFractions, marksNeeded, parseDecimal, percentage, roundToHundredths, spellHundredths, type Fraction } from './decimal'

const decimals = fc.tuple(fc.nat(999_999), fc.nat(999_999), fc.integer({ min: 0, max: 6 })).map(([whole, part, places]) =>
  places === 0 ? String(whole) : `${whole}.${String(part).padStart(6, '0').slice(0, places)}`)
const read = (text: string): Fraction => parseDecimal(text) ?? { n: -1n, d: 1n }

describe('marks as exact decimals', () => {
  it.each(['', '-1', '1e3', '1,5', '.5', '5.', '1.1234567', '1234567890123', 'NaN', '0x10'])('refuses "%s"', (text) => {
    expect(parseDecimal(text)).toBeNull()
  })

  // Two decimals, half up: common practice, no source. 72.005 has no exact binary form; here it is exact and goes up.
  it.each([['83.456', '83.46'], ['72.005', '72.01'], ['44.996', '45.00'], ['44.994', '44.99'], ['0.005', '0.01']])('shows %s as %s', (typed, shown) => {
    expect(spellHundredths(roundToHundredths(read(typed)))).toBe(shown)
  })

  it('rounds percentages as decimal.js does over random marks', () => {
    Decimal.set({ precision: 60 })
    fc.assert(fc.property(decimals, decimals, (a, b) => {
      const [obtained, total] = new Decimal(a).lte(b) ? [a, b] : [b, a]
      const own = percentage(read(obtained), read(total))
      if (new Decimal(total).isZero()) return expect(own).toBeNull()
      const wanted = new Decimal(obtained).div(total).times(100).toDecimalPlaces(2, Decimal.ROUND_HALF_UP)
      expect(own && spellHundredths(roundToHundredths(own))).toBe(wanted.toFixed(2))
    }), { numRuns: 10_000 })
  })

  it('orders as decimal.js does', () => {
    fc.assert(fc.property(decimals, decimals, (a, b) => {
      expect(compareFractions(read(a), read(b))).toBe(new Decimal(a).comparedTo(b))
    }))
  })

  it('has no percentage for marks above the total or a total of nothing', () => {
    expect(percentage(read('501'), read('500'))).toBeNull()
    expect(percentage(read('0'), read('0'))).toBeNull()
  })

  it('names the fewest marks that reach a norm', () => {
    fc.assert(fc.property(fc.integer({ min: 1, max: 10_000 }), fc.integer({ min: 0, max: 10_000 }), (total, norm) => {
      const needed = marksNeeded({ n: BigInt(norm), d: 100n }, { n: BigInt(total), d: 1n })
      const reaches = (marks: number) => BigInt(marks) * 10_000n >= BigInt(norm) * BigInt(total)
      expect(reaches(needed)).toBe(true)
      if (needed > 0) expect(reaches(needed - 1)).toBe(false)
    }))
  })
})
