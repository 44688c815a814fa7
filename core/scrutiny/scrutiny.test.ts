import { describe, expect, it } from 'vitest'
import { doubtsOf, laneOf } from './doubts'
import { neededADay, outlook } from './pace'
import { isSeenTwice } from './second-look'

const plain = {
  verdicts: ['pass'] as const,
  fileFindings: [],
  personDoubts: 0,
  openClaims: 0,
  openRequests: 0,
  openPairs: 0,
  isBack: false,
}
const open = { holidays: [], restDays: [] }

describe('queues', () => {
  it('take a case by its heaviest doubt, and one that a desk is asked about out of all', () => {
    expect(laneOf(doubtsOf(plain), { isElsewhere: false })).toBe('plain')
    const doubts = doubtsOf({ ...plain, verdicts: ['pass', 'unsure'], openClaims: 1, personDoubts: 1 })
    expect(doubts).toEqual(['rules', 'person', 'claims'])
    expect(laneOf(doubts, { isElsewhere: false })).toBe('rules')
    expect(laneOf(doubts, { isElsewhere: true })).toBe('elsewhere')
    expect(doubtsOf({ ...plain, openPairs: 1, isBack: true })).toEqual(['duplicate', 'answered'])
  })

  it('send as many acceptances to a second look as the notice says, and the same ones whenever asked', () => {
    const ids = Array.from(
      { length: 4000 },
      (_, i) => `00000000-0000-4000-8000-${(Math.imul(i, 2654435761) >>> 0).toString(16).padStart(12, '0')}`,
    )
    const share = (percent: number) =>
      ids.filter(id => isSeenTwice({ scrutiny: { acceptancesSeenTwice: percent, handMinutes: 20, onePerson: false } }, id)).length
      / ids.length
    expect(share(0)).toBe(0)
    expect(share(100)).toBe(1)
    expect(share(5)).toBeGreaterThan(0.03)
    expect(share(5)).toBeLessThan(0.07)
    expect(isSeenTwice({ scrutiny: undefined }, ids[0] ?? '')).toBe(false)
  })
})

describe('the outlook', () => {
  const day = (n: number, decided: number, came: number) => ({ day: `2027-01-${String(n).padStart(2, '0')}`, decided, came })

  it('tells the day without a range when every day was alike', () => {
    // 1,000 waiting, 250 less each day: empty at the end of the fourth day of work after the 10th.
    expect(outlook(1000, [day(7, 300, 50), day(8, 300, 50), day(9, 300, 50)], '2027-01-10', open)).toEqual({
      days: 3,
      decidedADay: 300,
      cameADay: 50,
      emptyFrom: '2027-01-14',
      emptyBy: '2027-01-14',
    })
  })

  it('widens with the scatter, leaves out days of rest, and says when the queue only grows', () => {
    const uneven = outlook(1000, [day(7, 550, 50), day(8, 50, 50), day(9, 300, 50)], '2027-01-10', open)
    expect(uneven?.emptyFrom && uneven.emptyBy && uneven.emptyFrom < '2027-01-14' && uneven.emptyBy > '2027-01-14').toBe(true)
    // 10 January 2027 is a Sunday; Saturdays and Sundays are free: the 4th day of work after it is Thursday the 14th, the 6th Monday the
    // 18th.
    expect(outlook(1500, [day(7, 300, 50), day(8, 300, 50)], '2027-01-10', { holidays: [], restDays: [0, 6] })?.emptyBy).toBe('2027-01-18')
    expect(outlook(10, [day(8, 5, 50), day(9, 5, 50)], '2027-01-10', open)).toMatchObject({ emptyFrom: null, emptyBy: null })
    expect(outlook(10, [day(9, 5, 0)], '2027-01-10', open)).toBeNull()
  })

  it('tells what it takes to be done by a day', () => {
    expect(neededADay(900, 20, '2027-01-10', '2027-01-13', open)).toEqual({ days: 3, aDay: 320 })
    expect(neededADay(900, 20, '2027-01-10', '2027-01-10', open)).toBeNull()
  })
})
