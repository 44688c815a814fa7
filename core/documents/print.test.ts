import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import { lookedFor, printHints, type LookedFor, type PrintedWord } from './print'

const page = (text: string, number = 1): PrintedWord[] =>
  text.split(' ').map((word, i) => ({ page: number, line: 0, text: word, box: [i / 100, 0.1, (i + 1) / 100, 0.12], sure: 90 }))
const hint = (text: string, wanted: Omit<LookedFor, 'question'>) => printHints(page(text), [{ question: 'q', ...wanted }])[0]
const name: Omit<LookedFor, 'question'> = { text: 'Tavirel Osk-Anundé', as: 'name' }

describe('what was read on a paper', () => {
  it('is led to names whatever their order and accents, and never to another name', () => {
    expect(hint('Name Tavirel Osk-Anundé Born on', name)).toMatchObject({ result: 'there', read: 'Tavirel Osk-Anundé' })
    expect(hint('ANUNDE OSK TAVIREL', name)?.result).toBe('there')
    expect(hint('Name Tavire1 Osk-Anunde', name)?.result).toBe('near')
    expect(hint('Name Maren Halvist Born on', name)?.result).toBe('not read')
  })

  it('is led to days in any usual form, and to numbers digit by digit', () => {
    for (const text of ['15 June 2004', '15.06.2004', '2004-06-15', 'June 15, 2004', '15/06/2004']) {
      expect(hint(`Born on ${text} at Skarnholm`, { text: '2004-06-15', as: 'date' })).toMatchObject({ result: 'there', read: text })
    }
    expect(hint('Born on 16 June 2004', { text: '2004-06-15', as: 'date' })?.result).toBe('not read')
    const number: Omit<LookedFor, 'question'> = { text: 'SB4471923', as: 'number' }
    expect([hint('No SB 4471923 of', number)?.result, hint('No 5B447I923 of', number)?.result, hint('No SB4471924 of', number)?.result])
      .toEqual(['there', 'near', 'not read'])
  })

  it('never joins words of two pages, and says where it stands', () => {
    const words = [...page('Tavirel', 1), ...page('Osk-Anundé', 2)]
    expect(printHints(words, [{ question: 'q', ...name }])[0]?.result).toBe('not read')
    expect(hint('Name Tavirel Osk-Anundé', name)?.box).toEqual([0.01, 0.1, 0.03, 0.12])
  })

  it('finds a number that stands there among any other words, and none that differs in one digit', () => {
    fc.assert(fc.property(
      fc.array(fc.stringMatching(/^[A-Za-z]{1,9}$/), { maxLength: 12 }),
      fc.stringMatching(/^[3479]{8}$/),
      fc.nat(7),
      fc.nat(12),
      (others, digits, place, at) => {
        const words = [...others.slice(0, at), digits, ...others.slice(at)]
        expect(hint(words.join(' '), { text: digits, as: 'number' })?.result).toBe('there')
        const wrong = `${digits.slice(0, place)}${digits[place] === '3' ? '4' : '3'}${digits.slice(place + 1)}`
        expect(hint(words.join(' '), { text: wrong, as: 'number' })?.result).toBe('not read')
      },
    ))
  })

  it('is asked for as the question says', () => {
    const questions = [{ id: 'a', kind: 'name' as const }, { id: 'b', kind: 'date' as const }, { id: 'c', kind: 'text' as const }, {
      id: 'd',
      kind: 'text' as const,
    }, { id: 'e', kind: 'text' as const }]
    expect(lookedFor(questions, { a: 'X Y', b: '2004-06-15', c: 'AB 12', d: 'Skarnholm', e: '' }).map(one => one.as)).toEqual(['name',
      'date', 'number', 'words'])
  })
})
