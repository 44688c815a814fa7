import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import { sampleAnswers, sampleNotice } from '../../tests/support/sample'
import { anySheet } from '../../tests/support/sheets'
import { factsRead, factsText, questionsRead, rulesText } from './dependence'
import { evaluatePosts } from './evaluate'

const notice = sampleNotice()

describe('what a verdict hangs on', () => {
  it('is all that it hangs on: two sheets with the same facts have the same verdict', () => {
    fc.assert(
      fc.property(anySheet(notice), anySheet(notice), (one, other) => {
        notice.posts.forEach((post, i) => {
          const read = factsRead(notice, post)
          const mixed = { ...other, ...Object.fromEntries(read.map(question => [question, one[question] ?? ''])) }
          expect(factsText(mixed, read)).toBe(factsText(one, read))
          expect(evaluatePosts(notice, mixed)[i]).toEqual(evaluatePosts(notice, one)[i])
        })
      }),
      { numRuns: 300 },
    )
  })

  it("is the office's word on an exception as well, and what may be asked for", () => {
    const keeper = notice.posts.findIndex(post => post.id === 'lighthouse-keeper')
    const post = notice.posts[keeper]
    if (!post) throw new Error('the sample has no such post')
    const asking = { ...sampleAnswers, bornOn: '1980-03-03', ageException: 'yes', exceptionWhy: 'a light' }
    const text = (word?: string) => factsText(word ? { ...asking, 'request:age-exception': word } : asking, factsRead(notice, post))
    expect(new Set([text(), text('granted'), text('declined')]).size).toBe(3)
    const without = { ...notice, requests: [] }
    expect(rulesText(without, post)).not.toBe(rulesText(notice, post))
    expect(factsRead(without, post)).toEqual(questionsRead(without, post))
  })

  it('names no question twice and none that does not exist', () => {
    const asked = notice.sections.flatMap(s => s.questions).map(q => q.id)
    for (const post of notice.posts) {
      const read = questionsRead(notice, post)
      expect(new Set(read).size).toBe(read.length)
      expect(read.every(question => asked.includes(question))).toBe(true)
      expect(read).not.toContain('certificateName')
    }
  })

  it('changes with a rule of the post, and not with a rule of another', () => {
    const [cadet, keeper] = notice.posts
    const changed = structuredClone(notice)
    const rule = changed.posts[0]?.clauses[0]?.rule
    if (rule?.kind === 'age') rule.maxYears = 23
    expect(cadet && changed.posts[0] && rulesText(changed, changed.posts[0]) === rulesText(notice, cadet)).toBe(false)
    expect(keeper && changed.posts[1] && rulesText(changed, changed.posts[1]) === rulesText(notice, keeper)).toBe(true)
    expect(keeper && changed.posts[1]
      && rulesText({ ...changed, percentageCompared: 'rounded' }, changed.posts[1]) === rulesText(notice, keeper)).toBe(false)
  })
})
