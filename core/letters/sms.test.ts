import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import { shortMessages } from './sms'

describe('a text as short messages', () => {
  // 160 and 70 for one, 153 and 67 for each of several: 3GPP TS 23.038 and TS 23.040, from memory.
  it.each([
    ['', 'GSM-7', 0, 0],
    ['a'.repeat(160), 'GSM-7', 160, 1],
    ['a'.repeat(161), 'GSM-7', 161, 2],
    ['a'.repeat(306), 'GSM-7', 306, 2],
    ['a'.repeat(307), 'GSM-7', 307, 3],
    ['ж'.repeat(70), 'UCS-2', 70, 1],
    ['ж'.repeat(71), 'UCS-2', 71, 2],
    ['ж'.repeat(134), 'UCS-2', 134, 2],
    ['ж'.repeat(135), 'UCS-2', 135, 3],
    // The euro sign and braces take two septets, an accent that the alphabet lacks makes all of it UCS-2.
    ['€{}', 'GSM-7', 6, 1],
    ['é', 'GSM-7', 1, 1],
    ['ê', 'UCS-2', 1, 1],
    [`${'a'.repeat(159)}€`, 'GSM-7', 161, 2],
    // An escape is never parted from its sign, nor the halves of a sign beyond the basic plane.
    [`${'a'.repeat(152)}€${'a'.repeat(152)}`, 'GSM-7', 306, 3],
    [`${'ж'.repeat(66)}😀${'ж'.repeat(66)}`, 'UCS-2', 134, 3],
  ] as const)('%# is counted as it is sent', (text, alphabet, units, messages) => {
    expect(shortMessages(text)).toEqual({ alphabet, units, messages })
  })

  it('never gets shorter by more text, and holds what it counts', () => {
    fc.assert(fc.property(fc.string({ maxLength: 400 }), fc.string({ maxLength: 50 }), (text, more) => {
      const [one, both] = [shortMessages(text), shortMessages(text + more)]
      expect(both.messages).toBeGreaterThanOrEqual(one.messages)
      expect(one.messages * (one.alphabet === 'GSM-7' ? 160 : 70)).toBeGreaterThanOrEqual(one.units)
    }))
  })
})
