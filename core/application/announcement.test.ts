import { describe, expect, it } from 'vitest'
import { filledIn, unknownPlaceholders } from './announcement'

describe('a letter to many', () => {
  it('names each of them, and nothing that it cannot know', () => {
    const values = { name: 'Tavirel {Osk}', number: 'HL27-0000012-3', examination: 'A test' }
    expect(filledIn('{name} ({number}), {examination}: {name}. {else} stays.', values))
      .toBe('Tavirel {Osk} (HL27-0000012-3), A test: Tavirel {Osk}. {else} stays.')
    expect([unknownPlaceholders('{name}, {number}'), unknownPlaceholders('{fee} {fee} { name}'), unknownPlaceholders('1 { 2'),
      unknownPlaceholders('a } b {name}'), unknownPlaceholders('{}')]).toEqual([[], ['{fee}', '{ name}'], ['{'], ['}'], ['{}']])
  })
})
