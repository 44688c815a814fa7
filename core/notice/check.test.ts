import { describe, expect, it } from 'vitest'
import { demoNotice } from '../../demo/notice'
import { sampleNotice, testNow } from '../../tests/support/sample'
import { readNotice } from './check'

// A notice as plain JSON that a test may spoil anywhere.
type Json = Record<string, unknown>
const faultsAfter = (change: (notice: Json) => void): string[] => {
  const notice = demoNotice(testNow) as Json
  change(notice)
  return readNotice(notice).faults.map(f => `${f.at}: ${f.message}`)
}
const set = (path: string, value: unknown) => (notice: Json): void => {
  const keys = path.split('.')
  const last = keys.pop() ?? ''
  const place = keys.reduce<Json>((at, key) => at[key] as Json, notice)
  if (value === undefined) Reflect.deleteProperty(place, last)
  else place[last] = value
}

describe('the preset for portraits', () => {
  it('gives the published bounds of ISO/IEC 39794-5 where a rule states none of its own (values from memory)', () => {
    const plain = sampleNotice()
    const withPreset = (preset: string) => readNotice({ ...plain, images: { ...plain.images, photograph: { ...plain.images.photograph, preset, face: { headHeight: { min: 65, max: 80 } } } } })
    const { notice, faults } = withPreset('ISO/IEC 39794-5 portrait')
    expect(faults).toEqual([])
    expect(notice?.images.photograph.face).toEqual({ headHeight: { min: 65, max: 80 }, eyeLine: { min: 30, max: 50 }, offCentre: { max: 5 }, eyeDistance: { min: 90 }, roll: { min: -8, max: 8 }, yaw: { min: -5, max: 5 }, pitch: { min: -5, max: 5 } })
    expect(withPreset('something else').faults[0]?.at).toBe('images.photograph.preset')
  })
})

describe('the check of a notice', () => {
  it('passes the demo', () => {
    expect(faultsAfter(() => undefined)).toEqual([])
  })

  it.each([
    ['keyDates.closes', '2020-01-01T00:00:00Z', 'lies before opens'], ['keyDates.cardsFrom', '2026-11-25T00:00:00Z', 'cards before the closing moment'],
    ['keyDates.ageOn', '2026-02-30', 'a calendar date YYYY-MM-DD that exists'], ['sessions.0.starts', '07:00', 'must follow each other'],
    ['fees.base.0.category', 'admirals', '0 base fees, must have 1'], ['allocation.choiceCosts', [0, 3, 1, 6, 10], 'choice costs fall'],
    ['allocation.offListBase', 5, 'below the last choice'], ['allocation.unseated', 100, 'not above the farthest city'],
    ['cities.0.venues.0.rooms.0.accessibleSeats', 9999, '9999 accessible of'], ['cities.1.id', 'skarnholm', 'share one id'],
    ['accessibleSeatWhen', { question: 'wings', in: ['yes'] }, 'refers to question "wings"'], ['accessibleSeatWhen', { question: 'stepFree', in: ['perhaps'] }, 'not an option'],
    ['sections.0.questions.0.when', { question: 'category', in: ['general'] }, 'which is not asked before it'],
    ['posts.0.clauses.1.rule.atLeast', 'knighthood', 'not on the ladder'], ['posts.0.clauses.0.rule.minYears', 30, 'minimum 30 above maximum 24'],
    ['posts.0.clauses.2.rule.min', '101', 'least percentage 101 is above 100'], ['posts.0.clauses.3.rule.question', 'wings', 'refers to question "wings"'],
    ['posts.0.clauses.3.rule.values', ['martian'], '"martian" is not an option'], ['posts.0.clauses.4.rule.question', 'gender', 'gives no number'],
    ['posts.0.clauses.0.rule.relaxations.0.by', '2.5', 'need a whole number below 100'], ['posts.0.clauses.0.rule.relaxations.0.when', { question: 'category', in: ['admirals'] }, '"admirals" is not an option'],
    ['posts.2.clauses.0.rule.relaxations.2.by.answer', 'gender', 'needs a number from question "gender"'], ['posts.0.clauses.1.code', 'age', 'two clauses of the post share one code'],
    ['posts.2.clauses.1.rule.rules.1.rules.1.wanted.0.anyOf', ['sailing'], 'subject "sailing" is not one'], ['posts.2.clauses.1.rule.rules.1.rules.2.question', 'gender', 'is no table of periods'],
    ['posts.2.clauses.1.rule.rules.1.rules.2.from', 'employer', 'has no date "employer"'], ['posts.2.clauses.1.rule.rules.0.disciplines', ['magic'], 'discipline "magic"'],
    ['boards.1.subjects.excluded', ['sailing'], 'subject "sailing" is not one'], ['claims.0.ifFalse', { wings: 'no' }, 'changes question "wings"'], ['claims.0.ifFalse', { category: 'admirals' }, '"admirals" is not an option'],
    ['qualifications.2.equals', 'knighthood', 'which is no rung of its own'], ['boards.1.grades.0', { grade: 'A1' }, 'exactly one of percent and points'],
    ['posts.0.clauses.0.rule', { kind: 'age' }, 'needs at least one of minYears'], ['posts.0.clauses.0.rule', { kind: 'wish' }, 'Invalid input'],
    ['accessibleSeatWhen', { question: 'gender', from: '3' }, 'compares "gender" with a number'], ['accessibleSeatWhen', { question: 'periods', in: ['x'] }, 'cannot look into the table'],
    ['surprise', 1, 'surprise'], ['title', undefined, 'expected string'],
  ])('with %s = %j finds: %s', (path, value, wanted) => {
    expect(faultsAfter(set(path, value)).join('\n')).toContain(wanted)
  })

  it('misses a fact that the rest of the core reads by name', () => {
    expect(faultsAfter(n => (n.sections as { questions: unknown[] }[])[0]?.questions.splice(2, 1)).join()).toContain('no question "bornOn"')
  })

  it('names all faults of a notice at once and never throws', () => {
    expect(readNotice(null).faults.length).toBeGreaterThan(0)
    expect(readNotice('a text').notice).toBeNull()
    expect(faultsAfter((n) => {
      set('allocation.offListBase', 5)(n)
      set('keyDates.closes', '2020-01-01T00:00:00Z')(n)
    }).length).toBeGreaterThan(1)
  })
})
