import { describe, expect, it } from 'vitest'
import { sampleNotice } from '../../tests/support/sample'
import { answerBy } from './office-questions'

describe('an answer of the office', () => {
  const { body } = sampleNotice()
  const on = (day: string) => new Date(`${day}T12:00:00Z`)

  // Worked by hand on a calendar: 4 December 2026 is a Friday; the zone is 75 minutes behind UTC.
  it('is due at the end of the third day on which it is open, the first not counted', () => {
    const open = { body: { ...body, restDays: [0, 6], holidays: ['2026-12-08'] } }
    expect(answerBy(on('2026-12-04'), open).toISOString()).toBe('2026-12-11T01:14:00.000Z')
    expect(answerBy(on('2026-12-04'), { body: { ...body, restDays: [], holidays: [] } }).toISOString()).toBe('2026-12-08T01:14:00.000Z')
    // An office that never opens is still held to some day.
    expect(answerBy(on('2026-12-04'), { body: { ...body, restDays: [0, 1, 2, 3, 4, 5, 6], holidays: [] } }).getTime())
      .toBeGreaterThan(on('2027-12-04').getTime())
  })
})
