import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import { sampleAnswers, sampleNotice } from '../../tests/support/sample'
import { checkNotice } from '../notice/check'
import type { EndorsementRule } from '../notice/schema'
import {
  endorsedAfter,
  endorsementsLacking,
  endorsementsWanted,
  endorsementStates,
  isEndorsementOpen,
  type Endorsed,
  type EndorsementState,
} from './endorsements'
import { openMatters } from './open-matters'
import { newTracks } from './tracks'

const consent: EndorsementRule = {
  id: 'guardian',
  kind: 'consent',
  title: 'Guardian',
  when: { question: 'bornOn', from: '2004-01-01' },
  count: 1,
  text: 'Yes.',
  questions: [],
  holds: 'decision',
  shownToCandidate: false,
}
const teachers: EndorsementRule = {
  ...consent,
  id: 'teachers',
  kind: 'recommendation',
  title: 'Teachers',
  when: undefined,
  count: 2,
  holds: 'submission',
  until: '2026-12-01T12:00:00Z',
}
const notice = { ...sampleNotice(), endorsements: [consent, teachers] }
const lacking = (endorsed: Endorsed, born = '2004-06-15') =>
  endorsementsWanted(notice, { ...sampleAnswers, bornOn: born }, endorsed).map(({ rule, lacking, unasked }) => [rule.id, lacking, unasked])

describe('what others have to say', () => {
  it('is wanted of those for whom it is meant, and lacks until so many have given it', () => {
    expect(lacking({}, '2003-12-31')).toEqual([['teachers', 2, 2]])
    expect(lacking({ teachers: { asked: 1, given: 0, declined: 3 } })).toEqual([['guardian', 1, 1], ['teachers', 2, 1]])
    expect(lacking({ guardian: { asked: 0, given: 1, declined: 0 }, teachers: { asked: 1, given: 1, declined: 0 } })).toEqual([['guardian',
      0, 0], ['teachers', 1, 0]])
  })

  it('keeps the form or the decision waiting: what has to be there with the form has to be there later, too', () => {
    const of = (holding: 'submission' | 'decision', endorsed: Endorsed = {}) =>
      endorsementsLacking(notice, { ...sampleAnswers, bornOn: '2004-06-15' }, endorsed, holding).map(({ rule }) => rule.id)
    expect([of('submission'), of('decision')]).toEqual([['teachers'], ['guardian', 'teachers']])
    expect(of('decision', { guardian: { asked: 0, given: 1, declined: 0 }, teachers: { asked: 0, given: 2, declined: 0 } })).toEqual([])
    expect([isEndorsementOpen(teachers, new Date('2026-12-01T11:59:59Z')), isEndorsementOpen(teachers, new Date('2026-12-01T12:00:00Z'))])
      .toEqual([true, false])
  })

  it('is an open matter of whoever has to do something next', () => {
    const matters = (endorsed: Endorsed, scrutiny: 'waiting' | 'accepted' = 'waiting') =>
      openMatters({
        notice,
        tracks: { ...newTracks, form: 'submitted', scrutiny },
        sheetFindings: [],
        answers: sampleAnswers,
        files: {},
        openUntil: null,
        endorsed,
      }).filter(matter => matter.kind === 'endorsement-awaited').map(({ owner, about, holds, until }) => [owner, about, holds, until])
    expect(matters({ teachers: { asked: 2, given: 0, declined: 0 } })).toContainEqual(['endorser', 'teachers', 'submission',
      '2026-12-01T12:00:00.000Z'])
    expect(matters({ teachers: { asked: 0, given: 1, declined: 1 } })).toContainEqual(['candidate', 'teachers', 'submission',
      '2026-12-01T12:00:00.000Z'])
    expect(matters({}, 'accepted')).toEqual([])
  })

  it('is counted alike, in whatever order people are asked, answer and are taken back', () => {
    const step = fc.tuple(fc.nat(4), fc.constantFrom(...endorsementStates))
    fc.assert(fc.property(fc.array(step, { maxLength: 60 }), (steps) => {
      const people = new Map<number, EndorsementState>()
      let endorsed: Endorsed = {}
      for (const [who, to] of steps) {
        endorsed = endorsedAfter(endorsed, 'teachers', people.get(who) ?? null, to)
        people.set(who, to)
      }
      const standing = [...people.values()]
      const { asked = 0, given = 0, declined = 0 } = endorsed.teachers ?? {}
      expect([asked, given, declined]).toEqual(['asked', 'given', 'declined'].map(state => standing.filter(one => one === state).length))
    }))
  })

  it('is checked in the notice: twice the same name, a question asked twice, and a moment that is too early or too late', () => {
    const question = { id: 'where', kind: 'text' as const, label: 'Where', maxLength: 10, required: true }
    const rule = (more: Partial<EndorsementRule>) =>
      checkNotice({ ...notice, endorsements: [consent, { ...teachers, ...more }] }).filter(one => one.at.startsWith('/endorsements')).map(
        one => [one.code, one.at]
      )
    expect(rule({ until: undefined })).toEqual([])
    expect(rule({ until: undefined, id: 'guardian' })).toEqual([['id.twice', '/endorsements/1/id']])
    expect(rule({ until: undefined, questions: [question, question] })).toEqual([['id.twice', '/endorsements/1/questions/1/id']])
    expect([rule({ until: notice.keyDates.opens }), rule({ until: '2099-01-01T00:00:00Z' })]).toEqual([[['dates.order',
      '/endorsements/1/until']], [['dates.order', '/endorsements/1/until']]])
    expect(rule({ until: undefined, when: { question: 'nobody', in: ['x'] } })).toEqual([['condition.question', '/endorsements/1/when']])
  })
})
