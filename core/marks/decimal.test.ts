import { Decimal } from 'decimal.js'
import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import {
  addFractions,
  compareFractions,
  fraction,
  multiplyFractions,
  parseDecimal,
  parseSignedDecimal,
  percentage,
  roundToHundredths,
  spellExact,
  spellHundredths,
  subtractFractions,
  type Fraction,
} from './decimal'

const decimals = fc.tuple(fc.nat(999_999), fc.nat(999_999), fc.integer({ min: 0, max: 6 })).map(([whole, part, places]) =>
  places === 0 ? String(whole) : `${whole}.${String(part).padStart(6, '0').slice(0, places)}`
)
const read = (text: string): Fraction => parseDecimal(text) ?? fraction(-1)

describe('marks as exact decimals', () => {
  it.each(['', '-1', '1e3', '1,5', '.5', '5.', '1.1234567', '1234567890123', 'NaN', '0x10'])('refuses "%s"', (text) => {
    expect(parseDecimal(text)).toBeNull()
  })

  // Two decimals, half up: common practice, no source. 72.005 has no exact binary form; here it is exact and goes up.
  it.each([['83.456', '83.46'], ['72.005', '72.01'], ['44.996', '45.00'], ['44.994', '44.99'], ['0.005', '0.01']])(
    'shows %s as %s',
    (typed, shown) => {
      expect(spellHundredths(roundToHundredths(read(typed)))).toBe(shown)
    },
  )

  it('rounds percentages as decimal.js does over random marks', () => {
    Decimal.set({ precision: 60 })
    fc.assert(
      fc.property(decimals, decimals, (a, b) => {
        const [obtained, total] = new Decimal(a).lte(b) ? [a, b] : [b, a]
        const own = percentage(read(obtained), read(total))
        if (new Decimal(total).isZero()) {
          expect(own).toBeNull()
          return
        }
        const wanted = new Decimal(obtained).div(total).times(100).toDecimalPlaces(2, Decimal.ROUND_HALF_UP)
        expect(own && spellHundredths(roundToHundredths(own))).toBe(wanted.toFixed(2))
      }),
      { numRuns: 10_000 },
    )
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

  const signed = fc.tuple(fc.boolean(), decimals).map(([minus, text]) => minus ? `-${text}` : text)
  const readSigned = (text: string): Fraction => parseSignedDecimal(text) ?? fraction(-1)
  // Large enough to leave the safe numbers, so that both ways of counting are met.
  const large = fc.oneof(signed, fc.bigInt({ min: 0n, max: 999_999_999_999n }).map(n => `${n}.999999`))

  it('adds, subtracts, multiplies and spells as decimal.js does, near and beyond the safe numbers', () => {
    Decimal.set({ precision: 80 })
    fc.assert(
      fc.property(large, large, (a, b) => {
        const cut = (value: Decimal) => {
          const six = value.toDecimalPlaces(6, Decimal.ROUND_DOWN)
          return `${value.isNegative() && six.isZero() && !value.isZero() ? '-0' : six.isZero() ? '0' : six.toFixed()}${
            six.eq(value) ? '' : '…'
          }`
        }
        const spelt = spellExact
        expect(spelt(addFractions(readSigned(a), readSigned(b)))).toBe(cut(new Decimal(a).plus(b)))
        expect(spelt(subtractFractions(readSigned(a), readSigned(b)))).toBe(cut(new Decimal(a).minus(b)))
        expect(spelt(multiplyFractions(readSigned(a), readSigned(b)))).toBe(cut(new Decimal(a).times(b)))
      }),
      { numRuns: 10_000 },
    )
  })
})
