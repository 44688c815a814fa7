import { describe, expect, it } from 'vitest'
import { sampleNotice } from '../../../tests/support/sample'
import type { Condition } from '../../notice/schema'
import { conditionWords } from './conditions'
import { formatWords, oneOf } from './lists'

describe('a condition in words', () => {
  const said = (condition: Condition) => conditionWords(sampleNotice(), condition)
  it.each<[Condition, string]>([
    [{ question: 'category', in: ['general'] }, 'Category: General'],
    [{ not: { question: 'category', in: ['general', 'outer-isles'] } }, 'Category: not General or Outer Isles'],
    [{ question: 'attempts', from: '2' }, 'Earlier attempts at this test: from 2'],
    [{ question: 'attempts', from: '2', to: '4' }, 'Earlier attempts at this test: from 2 to 4'],
    [{ not: { question: 'attempts', to: '4' } }, 'Earlier attempts at this test: not to 4'],
    [{ all: [{ question: 'pwd', in: ['yes'] }, { question: 'category', in: ['general'] }] }, 'Disability declared: Yes and Category: General'],
    [{ any: [{ question: 'pwd', in: ['yes'] }, { all: [{ question: 'lowIncome', in: ['yes'] }, { question: 'category', in: ['general'] }] }] }, 'Disability declared: Yes or (Household income below 90,000 IMK a year: Yes and Category: General)'],
    [{ not: { any: [{ question: 'pwd', in: ['yes'] }, { question: 'category', in: ['general'] }] } }, 'not (Disability declared: Yes or Category: General)'],
    [{ question: 'unheardOf', in: ['x'] }, 'unheardOf: x'],
  ])('%j', (condition, words) => expect(said(condition)).toBe(words))
})

describe('alternatives in words', () => {
  it.each<[string[], string]>([[[], ''], [['a'], 'a'], [['a', 'b'], 'a or b'], [['a', 'b', 'c'], 'a, b or c']])('%j', (list, words) => expect(oneOf(list)).toBe(words))
  it('name formats as people write them', () => expect(formatWords(['pdf', 'jpeg', 'png'])).toBe('PDF, JPEG or PNG'))
})
