import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import { sampleAnswers, sampleNotice } from '../../tests/support/sample'
import { conditionLeaves } from '../notice/conditions'
import { checkAnswer } from './check-answer'
import { answersToTakeOver } from './earlier'

const notice = sampleNotice()
const questions = notice.sections.flatMap(section => section.questions)
const today = '2026-11-24'
const earlier = { notice, answers: sampleAnswers }

describe('what an earlier form gives', () => {
  it('is what tells of the person, and neither what is chosen nor what is claimed', () => {
    const taken = answersToTakeOver(notice, earlier, today)
    expect(taken).toMatchObject({ certificateName: sampleAnswers.certificateName, bornOn: sampleAnswers.bornOn })
    const claimed = notice.claims.flatMap(({ when }) => conditionLeaves(when)).map(leaf => leaf.question)
    expect(claimed.length).toBeGreaterThan(0)
    for (const id of ['posts', 'cities', ...claimed, 'islesCertificate']) expect(taken).not.toHaveProperty(id)
  })

  it('is good under the notice that it is taken to, whatever was written under another', () => {
    const written = fc.dictionary(
      fc.constantFrom(...questions.map(question => question.id)),
      fc.oneof(fc.string(), fc.array(fc.string(), { maxLength: 2 }), fc.constant('2004-06-15'), fc.constant('412')),
    )
    fc.assert(fc.property(written, (answers) => {
      const taken = answersToTakeOver(notice, { notice, answers: { ...sampleAnswers, ...answers } }, today)
      const asked = questions.filter(question => question.id in taken)
      expect(asked.flatMap(question => checkAnswer(question, { notice, answers: taken, today }))).toEqual([])
    }))
  })

  it('is nothing where another kind of answer was asked for', () => {
    const other = structuredClone(notice)
    for (const question of other.sections.flatMap(section => section.questions)) {
      if (question.id === 'bornOn') Object.assign(question, { kind: 'text', maxLength: 20 })
    }
    expect(answersToTakeOver(other, earlier, today)).not.toHaveProperty('bornOn')
    expect(answersToTakeOver(notice, { ...earlier, notice: other }, today)).not.toHaveProperty('bornOn')
  })
})
