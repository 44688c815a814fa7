import { luhn, mod11_10, mod97_10 } from 'cdigit'
import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import { numberFault } from './number-shape'

const digits = fc.array(fc.integer({ min: 0, max: 9 }), { minLength: 4, maxLength: 12 }).map(list => list.join(''))
const shapeOf = (number: string) => number.replace(/[A-Z]/g, 'A').replace(/\d/g, '9')

describe('a number', () => {
  it.each([
    ['SB4471923', [{ shape: 'AA9999999' }], null],
    ['sb 447-1923', [{ shape: 'AA9999999' }], null],
    ['SB447192', [{ shape: 'AA9999999' }], 'shape'],
    ['5B4471923', [{ shape: 'AA9999999' }], 'shape'],
    ['X-12/9', [{ shape: '*-99/9' }], null],
    ['X-12.9', [{ shape: '*-99/9' }], 'shape'],
    ['12345', [{ shape: 'AA9999999' }, { shape: '99999' }], null],
    ['whatever', [], null],
  ] as const)('%s is held against %j: %s', (typed, shapes, fault) => {
    expect(numberFault(typed, shapes)).toBe(fault)
  })

  // ICAO Doc 9303-4, appendix B: the specimen's document number, date of birth and date of expiry with their check digits.
  it.each(['L898902C36', '7408122', '1204159'])('%s of the ICAO specimen is sound, and with another digit it is not', (number) => {
    const check = (text: string) => numberFault(text, [{ shape: '*'.repeat(number.length), check: '7-3-1' }])
    expect([check(number), check(`${number.slice(0, -1)}${(Number(number.slice(-1)) + 1) % 10}`)]).toEqual([null, 'check'])
  })

  // ISO/IEC 7064 and ISO/IEC 7812-1 as the package cdigit carries them out.
  it.each([['mod 11,10', mod11_10], ['luhn', luhn], ['mod 97-10', mod97_10]] as const)(
    'agrees with another program on %s',
    (check, other) => {
      fc.assert(fc.property(digits, fc.integer({ min: 0, max: 9 }), (body, wrong) => {
        const good = other.generate(body)
        expect(numberFault(good, [{ shape: shapeOf(good), check }])).toBeNull()
        const bad = `${good.slice(0, 2)}${wrong}${good.slice(3)}`
        expect(numberFault(bad, [{ shape: shapeOf(bad), check }]) === null).toBe(other.validate(bad))
      }))
    },
  )
})
