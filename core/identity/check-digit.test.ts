import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import { applicationNumber, isApplicationNumber, mod11_10CheckDigit } from './check-digit'

const serials = fc.integer({ min: 0, max: 9_999_999 })

describe('the check digit', () => {
  // ISO/IEC 7064: 0794 and 5 is an example of the standard; the other two are sample numbers published for the Croatian
  // and the German tax number, which end in this digit. All three from memory.
  it.each([['0794', '5'], ['3339200596', '1'], ['3657426180', '9']])('of %s is %s', (digits, wanted) => {
    expect(mod11_10CheckDigit(digits)).toBe(wanted)
  })

  it('finds every single wrong digit', () => {
    fc.assert(fc.property(serials, fc.nat(6), fc.integer({ min: 1, max: 9 }), (serial, place, off) => {
      const number = applicationNumber('HL27', serial)
      const at = 5 + place
      const wrong = number.slice(0, at) + String((Number(number[at]) + off) % 10) + number.slice(at + 1)
      expect(isApplicationNumber(number)).toBe(true)
      expect(isApplicationNumber(wrong)).toBe(false)
    }))
  })

  it('reads a number in small letters with blanks about it, and nothing else', () => {
    const number = applicationNumber('HL27', 48213)
    expect(number).toMatch(/^HL27-0048213-\d$/)
    expect(isApplicationNumber(` ${number.toLowerCase()} `)).toBe(true)
    expect(isApplicationNumber('HL27-48213-6')).toBe(false)
  })

  it('refuses what is not digits', () => {
    expect(() => mod11_10CheckDigit('12a')).toThrow('digits expected')
  })
})
