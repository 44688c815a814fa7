import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import { sampleNotice } from '../../tests/support/sample'
import { personKey, placeFile, slotNames } from './file-names'

const slots = slotNames(sampleNotice())

describe('the name of a picture or paper', () => {
  // How schools name such files: common practice, no source.
  it.each([
    ['0042-photograph.jpg', '42', 'photograph'],
    ['0042_photo.JPG', '42', 'photograph'],
    ['0042photo.jpg', '42', 'photograph'],
    ['42 Signature.png', '42', 'signature'],
    ['Photo_42.jpeg', '42', 'photograph'],
    ['signatures/0042.png', '42', 'signature'],
    ['roll/photos/A-17.jpg', 'a17', 'photograph'],
    ['0042/signature.png', '42', 'signature'],
    ['A-17/photo.jpg', 'a17', 'photograph'],
    ['photos/A-17/1.jpg', '1', 'photograph'],
    ['photos/0042_sign.png', '42', 'signature'],
    ['photos\\0042.jpg', '42', 'photograph'],
    ['0042_identity-proof.pdf', '42', 'identity-proof'],
    ['0042 Category certificate.pdf', '42', 'category-certificate'],
    ['0042.jpg', '42', null],
    ['photograph.jpg', '', 'photograph'],
    ['', '', null],
    ['HL27-0000042-6_photo.jpg', 'hl2700000426', 'photograph'],
  ])('%s', (path, person, slot) => {
    expect(placeFile(path, slots)).toEqual({ person, slot })
  })

  it('tells whose it is whatever stands between number and word, and in whichever order', () => {
    const between = fc.constantFrom('_', '-', ' ', '.', '__')
    const words = fc.constantFrom(['photo', 'photograph'], ['PHOTOGRAPH', 'photograph'], ['Signature', 'signature'], ['sign', 'signature'])
    fc.assert(fc.property(
      fc.stringMatching(/^[A-Z]{0,2}\d{1,6}$/),
      words,
      between,
      fc.boolean(),
      (number, [word = '', slot = ''], sign, isFirst) => {
        const name = isFirst ? `${word}${sign}${number}` : `${number}${sign}${word}`
        expect(placeFile(`any/${name}.jpg`, slots)).toEqual({ person: personKey(number), slot })
      },
    ))
  })
})
