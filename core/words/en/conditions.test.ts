import { describe, expect, it } from 'vitest'
import { sampleNotice } from '../../../tests/support/sample'
import type { Condition } from '../../notice/schema'
import { conditionWords, proofWords } from './conditions'
import { formatWords, oneOf } from './lists'

describe('the proof of a claim', () => {
  it('says what it is, who may issue it, and from which day on', () => {
    const said = (more: object) => proofWords(sampleNotice(), { proof: 'A certificate', ...more })
    // The form closes on Fri 27 Nov 2026.
    expect([said({}), said({ issuedBy: ['the harbour office'] }), said({ issuedBy: ['a', 'b', 'c'], mostDaysOld: 27 })]).toEqual([
      'A certificate',
      'A certificate, issued by the harbour office',
      'A certificate, issued by a, b or c, of Sat 31 Oct 2026 or later',
    ])
  })
})

describe('a condition in words', () => {
  const said = (condition: Condition) => conditionWords(sampleNotice(), condition)
  it.each<[Condition, string]>([
    [{ question: 'category', in: ['general'] }, 'Category: General'],
    [{ not: { question: 'category', in: ['general', 'outer-isles'] } }, 'Category: not General or Outer Isles'],
    [{ question: 'attempts', from: '2' }, 'Earlier attempts at this test: from 2'],
    [{ question: 'attempts', from: '2', to: '4' }, 'Earlier attempts at this test: from 2 to 4'],
    [{ not: { question: 'attempts', to: '4' } }, 'Earlier attempts at this test: not to 4'],
    [{ all: [{ question: 'pwd', in: ['yes'] }, { question: 'category', in: ['general'] }] },
      'Disability declared: Yes and Category: General'],
    [{
      any: [{ question: 'pwd', in: ['yes'] }, { all: [{ question: 'lowIncome', in: ['yes'] }, { question: 'category', in: ['general'] }] }],
    }, 'Disability declared: Yes or (Household income below 90,000 IMK a year: Yes and Category: General)'],
    [{ not: { any: [{ question: 'pwd', in: ['yes'] }, { question: 'category', in: ['general'] }] } },
      'not (Disability declared: Yes or Category: General)'],
    [{ question: 'unheardOf', in: ['x'] }, 'unheardOf: x'],
  ])('%j', (condition, words) => expect(said(condition)).toBe(words))
})

describe('alternatives in words', () => {
  it.each<[string[], string]>([[[], ''], [['a'], 'a'], [['a', 'b'], 'a or b'], [['a', 'b', 'c'], 'a, b or c']])(
    '%j',
    (list, words) => expect(oneOf(list)).toBe(words),
  )
  it('name formats as people write them', () => expect(formatWords(['pdf', 'jpeg', 'png'])).toBe('PDF, JPEG or PNG'))
})
