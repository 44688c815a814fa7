import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import { dealtOut, inProportion } from './together'

const sum = (list: readonly number[]) => list.reduce((all, one) => all + one, 0)
const parts = fc.array(fc.integer({ min: 1, max: 100_000 }), { minLength: 1, maxLength: 12 })

describe('an order for several people', () => {
  it('is dealt out in their order, each up to their part', () => {
    // Worked by hand: 60, 40 and 25 are asked for.
    expect([dealtOut([60, 40, 25], 0, 125), dealtOut([60, 40, 25], 0, 70), dealtOut([60, 40, 25], 70, 55), dealtOut([60, 40, 25], 125, 125),
      dealtOut([60, 40, 25], 0, 130)]).toEqual([[60, 40, 25], [60, 10, 0], [0, 30, 25], [60, 40, 25], [65, 40, 25]])
    expect([inProportion(10, [1, 1, 1]), inProportion(0, [5, 5]), inProportion(115, [64_000, 64_000])]).toEqual([[4, 3, 3], [0, 0], [58,
      57]])
  })

  it('loses and makes nothing, in whatever pieces it comes, and nobody ever loses more than they got', () => {
    fc.assert(fc.property(
      parts,
      fc.array(fc.integer({ min: 0, max: 150_000 }), { maxLength: 8 }),
      fc.array(fc.integer({ min: 0, max: 150_000 }), { maxLength: 8 }),
      (asked, came, back) => {
        const total = (pieces: readonly number[]) => {
          const got = asked.map(() => 0)
          let before = 0
          for (const piece of pieces) {
            const dealt = dealtOut(asked, before, piece)
            expect(sum(dealt)).toBe(piece)
            expect(dealt.every(share => share >= 0)).toBe(true)
            dealt.forEach((share, i) => {
              got[i] = (got[i] ?? 0) + share
            })
            before += piece
          }
          return got
        }
        const got = total(came)
        expect(got).toEqual(dealtOut(asked, 0, sum(came)))
        if (sum(back) <= sum(came)) expect(total(back).every((share, i) => share <= (got[i] ?? 0))).toBe(true)
      },
    ))
    fc.assert(fc.property(fc.integer({ min: 0, max: 1e9 }), parts, (amount, weights) => {
      expect(sum(inProportion(amount, weights))).toBe(amount)
    }))
  })
})
