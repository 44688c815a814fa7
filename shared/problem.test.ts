import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import '../core/words/en/office-refusals'
import { readProblem } from './problem'
import { refusal } from './refusal'

describe('a problem', () => {
  it('comes over the wire as it was sent', () => {
    const { problem } = refusal('roll.field-twice', { field: 'Mobile' }, { more: [1] })
    expect(readProblem(JSON.parse(JSON.stringify(problem)))).toEqual(problem)
    expect(problem.message).toContain('Mobile')
  })

  it('is none when it is anything else, and parameters of other kinds are left out', () => {
    expect(readProblem({ code: 'x', kind: 'no such kind', message: '' })).toBeNull()
    expect(readProblem({ code: 'x', kind: 'conflict', message: 'm', parameters: { a: 1, b: 'two', c: { d: 3 }, e: null } })).toEqual({
      code: 'x',
      kind: 'conflict',
      message: 'm',
      parameters: { a: 1, b: 'two' },
    })
    fc.assert(fc.property(fc.jsonValue(), value => readProblem(value) === null))
  })
})
