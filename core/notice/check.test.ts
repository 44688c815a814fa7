import { describe, expect, it } from 'vitest'
import { demoNotice } from '../../demo/notice'
import { testNow } from '../../tests/support/sample'
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

describe('the check of a notice', () => {
  it('passes the demo', () => {
    expect(faultsAfter(() => undefined)).toEqual([])
  })

  it.each([
    ['keyDates.closes', '2020-01-01T00:00:00Z', 'lies before opens'], ['keyDates.cardsFrom', '2026-11-25T00:00:00Z', 'cards before the closing moment'],
    ['keyDates.ageOn', '2026-02-30', 'a calendar date YYYY-MM-DD that exists'], ['sessions.0.starts', '07:00', 'must follow each other'],
    ['fees.base.0.category', 'admirals', '0 base fees, must have 1'], ['allocation.choiceCosts', [0, 3, 1, 6, 10], 'must not cost less'],
    ['allocation.offListBase', 5, 'below the last choice'], ['allocation.unseated', 100, 'not above the farthest city'],
    ['cities.0.venues.0.rooms.0.accessibleSeats', 9999, '9999 accessible of'], ['cities.1.id', 'skarnholm', 'share one id'],
    ['accessibleSeatWhen', { question: 'wings', in: ['yes'] }, 'refers to question "wings"'], ['accessibleSeatWhen', { question: 'stepFree', in: ['perhaps'] }, 'not an option'],
    ['sections.0.questions.0.when', { question: 'category', in: ['general'] }, 'which is not asked before it'],
    ['posts.0.clauses.1.atLeast', 'knighthood', 'not on the ladder'], ['posts.0.clauses.0.minYears', 30, 'minimum 30 above maximum 24'],
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
