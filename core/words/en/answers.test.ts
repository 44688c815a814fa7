import { describe, expect, it } from 'vitest'
import type { Answer } from '../../application/answers'
import { sampleNotice } from '../../../tests/support/sample'
import { spellAnswer } from './answers'

describe('an answer as people read it', () => {
  it.each<[string, Answer | undefined, string]>([
    ['bornOn', '2004-02-29', '29 Feb 2004'],
    ['bornOn', '2004-02-30', '2004-02-30'],
    ['category', 'outer-isles', 'Outer Isles'],
    ['category', 'admirals', 'admirals'],
    ['posts', ['pilot-cadet', 'port-clerk'], 'Pilot cadet › Port clerk'],
    ['cities', ['skarnholm', 'ottrevik'], 'Skarnholm › Ottrevik'],
    ['cities', [], '–'],
    ['email', undefined, '–'],
    ['email', '', '–'],
    ['subjects', [{ subject: 'physics', obtained: '88', total: '100', grade: '' }, {
      subject: 'mathematics',
      obtained: '',
      total: '',
      grade: 'A1',
    }], 'Physics marks 88 of 100; Mathematics or grade A1'],
    ['periods', [{ employer: 'Ferry', from: '2024-03-01', to: '' }], 'Ferry from 1 Mar 2024'],
    ['wings', 'two', 'two'],
  ])('%s %j reads %s', (question, answer, wanted) => {
    expect(spellAnswer(sampleNotice(), question, answer)).toBe(wanted)
  })
})
