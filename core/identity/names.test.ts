import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import { compareNames, nameKey, storedText } from './names'

describe('two writings of one name', () => {
  // Initials expanded, order swapped, a blank too many: common practice, no source.
  it.each([
    ['Tavirel Osk-Anundé', 'Tavirel Osk-Anundé', 'same'],
    ['Tavirel  Osk-Anundé ', 'Tavirel Osk-Anundé', 'same'],
    ['Tavirel Osk-Anundé', 'TAVIREL OSK ANUNDE', 'spelling'],
    ['Tavirel Osk Anundé', 'Osk Anunde Tavirel', 'order'],
    ['Tavirel Osk-Anundé', 'T. Osk Anunde', 'initials'],
    ['T. O. Anunde', 'Tavirel Osk Anunde', 'initials'],
    ['Tavirel Anunde', 'Tavirel Osk Anunde', 'different'],
    ['Tavirel Anunde', 'Tamsin Anunde', 'different'],
    ['A. Anunde', 'Anna B.', 'different'],
  ] as const)('%s and %s: %s', (first, second, wanted) => {
    expect(compareNames(first, second)).toBe(wanted)
    expect(compareNames(second, first)).toBe(wanted)
  })

  it('keeps vowel signs of Indic scripts apart', () => {
    expect(nameKey('कमल')).not.toBe(nameKey('कमला'))
    expect(compareNames('कमल', 'कमला')).toBe('different')
  })

  it('stores composed letters and single blanks, and storing again changes nothing', () => {
    expect(storedText('Anunde\u0301  Osk\t')).toBe('Anundé Osk')
    fc.assert(fc.property(fc.string({ unit: 'grapheme' }), text => storedText(storedText(text)) === storedText(text)))
  })

  it('is blind to which side is which', () => {
    fc.assert(fc.property(
      fc.string({ unit: 'grapheme' }),
      fc.string({ unit: 'grapheme' }),
      (a, b) => compareNames(a, b) === compareNames(b, a),
    ))
  })
})
