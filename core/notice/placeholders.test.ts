import { describe, expect, it } from 'vitest'
import { sampleNotice } from '../../tests/support/sample'
import { placeholderFindings } from './checks/placeholders'
import { filledText, placeholders } from './placeholders'

describe('words in braces', () => {
  const notice = sampleNotice()

  it('are read as what the notice says, and move with its dates', () => {
    expect(filledText(notice, 'Hand it in before {closes} to {body}.'))
      .toBe(`Hand it in before Fri 27 Nov 2026, 17:00 Ilmara time to ${notice.body.name}.`)
    expect(filledText({ ...notice, keyDates: { ...notice.keyDates, closes: '2026-12-01T18:15:00Z' } }, '{closes}'))
      .toBe('Tue 1 Dec 2026, 17:00 Ilmara time')
    for (const word of placeholders) expect(filledText(notice, `{${word}}`)).not.toMatch(/[{}]|undefined|NaN/)
  })

  it('that stand for nothing stay as they are, and are found where they stand', () => {
    expect(filledText(notice, 'Bring {everything}.')).toBe('Bring {everything}.')
    const wrong = {
      ...notice,
      declaration: 'By {closes} I have {pens}.',
      card: { ...notice.card, instructions: ['Come.', 'See {venue}.'] },
    }
    expect(placeholderFindings(notice)).toEqual([])
    expect(placeholderFindings(wrong).map(({ code, at, parameters }) => [code, at, parameters.word])).toEqual([['text.placeholder',
      '/declaration', '{pens}'], ['text.placeholder', '/card/instructions/1', '{venue}']])
  })
})
