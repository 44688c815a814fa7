import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import { sampleAnswers, sampleNotice } from '../../tests/support/sample'
import { openMatters } from './open-matters'
import {
  bandPoints,
  cardStates,
  closedPoints,
  feeStates,
  formStates,
  headline,
  newTracks,
  placementStates,
  scrutinyStates,
  type Tracks,
} from './tracks'

const anyTracks: fc.Arbitrary<Tracks> = fc.record({
  form: fc.constantFrom(...formStates),
  fee: fc.constantFrom(...feeStates),
  scrutiny: fc.constantFrom(...scrutinyStates),
  placement: fc.constantFrom(...placementStates),
  card: fc.constantFrom(...cardStates),
})
const way: [Partial<Tracks>, string][] = [
  [{}, 'drafting'],
  [{ form: 'submitted', fee: 'due', scrutiny: 'waiting' }, 'fee due'],
  [{ fee: 'confirming' }, 'fee due'],
  [{ fee: 'settled' }, 'in scrutiny'],
  [{ form: 'correcting', scrutiny: 'returned' }, 'returned'],
  [{ form: 'submitted', scrutiny: 'waiting' }, 'in scrutiny'],
  [{ scrutiny: 'accepted' }, 'accepted'],
  [{ placement: 'placed' }, 'accepted'],
  [{ placement: 'published' }, 'placed'],
  [{ card: 'withheld' }, 'placed'],
  [{ card: 'issued' }, 'card issued'],
  [{ form: 'withdrawn' }, 'withdrawn'],
]

describe('the headline', () => {
  it('follows one application along its way', () => {
    let tracks = newTracks
    for (const [change, wanted] of way) {
      tracks = { ...tracks, ...change }
      expect(headline(tracks)).toBe(wanted)
    }
  })

  it('is one of the known words for every combination, with an open matter unless the work is done', () => {
    const notice = sampleNotice()
    fc.assert(fc.property(anyTracks, (tracks) => {
      const word = headline(tracks)
      expect([...bandPoints, ...closedPoints]).toContain(word)
      const matters = openMatters({
        notice,
        tracks,
        sheetFindings: [],
        answers: sampleAnswers,
        openUntil: null,
        files: { 'photograph': [], 'signature': [], 'identity-proof': [] },
      })
      if (word === 'withdrawn' || word === 'lapsed' || word === 'refused') expect(matters).toEqual([])
      if (word === 'fee due' || word === 'in scrutiny' || word === 'accepted' || word === 'placed') {
        expect(matters.length).toBeGreaterThan(0)
      }
    }))
  })

  it('names what is open, the nearest first', () => {
    const matters = openMatters({
      notice: sampleNotice(),
      tracks: newTracks,
      sheetFindings: [],
      answers: sampleAnswers,
      openUntil: null,
      files: { 'signature': [], 'identity-proof': [] },
    })
    expect(matters.map(m => `${m.kind} ${m.about}`.trim())).toEqual(['file-missing photograph', 'submission', 'fee-due'])
  })
})
