import { getCountries, getExampleNumber } from 'libphonenumber-js'
import examples from 'libphonenumber-js/mobile/examples'
import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import { readNumber, type Telephones } from './telephone'

const none: Telephones = { country: '', ranges: [] }
const islands: Telephones = { country: '', ranges: [{ begins: '555', digits: 10 }] }
const norway: Telephones = { country: 'NO', ranges: islands.ranges }

describe('a mobile number', () => {
  it.each<[string, Telephones, string]>([
    ['555 01 000 42', islands, '5550100042'],
    ['+555 0100042', islands, '5550100042'],
    ['5550100042', none, '5550100042'],
    ['412 34 567', norway, '+4741234567'],
    ['+47 41 23 45 67', none, '+4741234567'],
    ['0047 41234567', norway, '+4741234567'],
    // Of a plan that does not tell mobile numbers apart.
    ['+1 (213) 373-4253', none, '+12133734253'],
  ])('%j is kept as %j says', (text, office, kept) => {
    expect(readNumber(text, office)).toEqual({ number: kept })
  })

  it.each<[string, Telephones, string]>([
    ['412 34 567', islands, 'country-wanted'],
    ['+44 7911 12', none, 'too-short'],
    ['+47 4123456789', none, 'too-long'],
    ['+47 11 11 11 11', none, 'not-valid'],
    ['+47 22 12 34 56', none, 'not-mobile'],
    ['call me', norway, 'none'],
    ['+999 123456789', none, 'not-valid'],
    ['55501000', islands, 'country-wanted'],
  ])('%j is none: %j, %s', (text, office, fault) => {
    expect(readNumber(text, office)).toEqual({ fault })
  })

  it('of any country is taken as that country’s plan gives one, with + or as it is written there, to the same', () => {
    // The plans' own example of a mobile number in each country (libphonenumber).
    fc.assert(
      fc.property(fc.constantFrom(...getCountries().filter(country => getExampleNumber(country, examples) !== undefined)), (country) => {
        const example = getExampleNumber(country, examples)
        expect(readNumber(example?.formatInternational() ?? '', none)).toEqual({ number: example?.number })
        expect(readNumber(example?.formatNational() ?? '', { country, ranges: [] })).toEqual({ number: example?.number })
      }),
      { numRuns: 300 },
    )
  })
})
