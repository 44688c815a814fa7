import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import { sampleAnswers, sampleNotice } from '../../tests/support/sample'
import type { Answers } from './answers'
import { compareKeyed, differingPart, placeKey, settledAnswers, type Settlement } from './keying'

const notice = sampleNotice()
const differing = (second: Answers, first: Answers = {}) =>
  compareKeyed(notice, { ...sampleAnswers, ...first }, { ...sampleAnswers, ...second }).differing.map(placeKey)

describe('two keyings of a paper form', () => {
  it('agree where the same stands, however a number is spaced', () => {
    expect(compareKeyed(notice, sampleAnswers, sampleAnswers).differing).toEqual([])
    expect(differing({ mobile: '555 01 000 42' }, { mobile: '5550100042' })).toEqual([])
    expect(differing({ address: 'Quay 1' })).toEqual(['address//'])
  })

  it('differ by the cell of a table with as many rows, and as a whole otherwise', () => {
    const bySubject = { resultForm: 'subjects' }
    const cells = [{ subject: 'physics', obtained: '71', total: '100' }, { subject: 'mathematics', obtained: '84', total: '100' }]
    const other = cells.map((row, i) => i === 1 ? { ...row, obtained: '48' } : row)
    const [first, second] = [{ ...bySubject, subjects: cells }, { ...bySubject, subjects: other }]
    expect(differing(second, first)).toEqual(['subjects/1/obtained'])
    expect(differing({ ...bySubject, subjects: cells.slice(1) }, first)).toEqual(['subjects//'])
    const { answers } = settledAnswers(notice, { ...sampleAnswers, ...first }, { ...sampleAnswers, ...second }, [{
      question: 'subjects',
      row: 1,
      column: 'obtained',
      keep: 'anew',
      answer: '94',
    }])
    expect(answers.subjects).toEqual([cells[0], { subject: 'mathematics', obtained: '94', total: '100' }])
  })

  it('asks nothing of what is asked in neither form, and all of what is asked in one', () => {
    expect(differing({ ageException: 'yes', exceptionWhy: 'a light' }, { ageException: 'no', exceptionWhy: 'left over' })).toEqual([
      'ageException//',
      'exceptionWhy//',
    ])
    expect(differing({ ageException: 'no', exceptionWhy: 'one' }, { ageException: 'no', exceptionWhy: 'other' })).toEqual([])
  })

  it('come to what was chosen at every place, whichever it was, and to nothing while a place has no word', () => {
    const texts = ['address', 'certificateName', 'identityName', 'email'] as const
    const keyed = fc.record(Object.fromEntries(texts.map(id => [id, fc.constantFrom('', 'Quay 1', 'Quay 7', 'Tavirel')])))
    fc.assert(fc.property(
      keyed,
      keyed,
      fc.array(fc.constantFrom('first' as const, 'second' as const, 'anew' as const), { minLength: 4, maxLength: 4 }),
      (one, other, words) => {
        const [first, second] = [{ ...sampleAnswers, ...one }, { ...sampleAnswers, ...other }]
        const { differing } = compareKeyed(notice, first, second)
        expect(differing.map(d => d.question).sort()).toEqual(texts.filter(id => one[id] !== other[id]).sort())
        const said = differing.map(({ question, row, column }, i): Settlement =>
          words[i] === 'anew'
            ? { question, row, column, keep: 'anew', answer: 'as on paper' }
            : { question, row, column, keep: words[i] ?? 'first' }
        )
        const { answers, left } = settledAnswers(notice, first, second, said)
        expect(left).toEqual([])
        for (const [i, { question, ...sides }] of differing.entries()) {
          expect(answers[question]).toEqual(words[i] === 'anew' ? 'as on paper' : sides[words[i] ?? 'first'])
        }
        for (const id of texts.filter(text => one[text] === other[text])) expect(answers[id]).toBe(one[id])
        expect(settledAnswers(notice, first, second, said.slice(1)).left).toEqual(differing.slice(0, 1))
      },
    ))
  })

  it('tells which part of two texts differs', () => {
    expect(differingPart('4471923', '4417923')).toEqual({ before: 2, after: 3 })
    expect(differingPart('aa', 'aaa')).toEqual({ before: 2, after: 0 })
    expect(differingPart('Zoë 🙂', 'Zoe 🙂')).toEqual({ before: 2, after: 2 })
  })
})
