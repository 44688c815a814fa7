import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import { sampleNotice } from '../../tests/support/sample'
import { english } from '../words/en'
import { differencesBetween } from './difference'
import type { Notice } from './schema'

const notice = sampleNotice()
const words = (change: (notice: Notice) => void): string[] => {
  const amended = structuredClone(notice)
  change(amended)
  return differencesBetween(notice, amended).map(one => english.differences.differenceWords(notice, one))
}

describe('the difference of two notices', () => {
  it('is told part by part, with amounts and moments spelled', () => {
    expect(words((n) => {
      n.fees.base = n.fees.base.map(row => row.category === 'general' ? { ...row, amount: 70_000 } : row)
    })).toEqual(['Fees, base fees, general, amount: IMK 640.00 → IMK 700.00'])
    const [line] = words((n) => {
      n.keyDates.closes = '2026-12-03T16:00:00.000Z'
    })
    expect(line).toMatch(/^Key dates, applications close: .* Ilmara time → Thu 3 Dec 2026, 14:45 Ilmara time$/)
  })

  it('names what is new and what is gone by its title', () => {
    const [gone] = words((n) => {
      n.documents = n.documents.slice(1)
    })
    expect(gone).toContain(`Documents, ${notice.documents[0]?.title}: gone.`)
    expect(words((n) => {
      n.subjects.push({ id: 'knots', title: 'Knots' })
    })).toEqual(['Subjects, Knots: new.'])
  })

  it('goes by what lasts, not by places: an order is one difference and no other', () => {
    expect(words((n) => {
      n.posts.reverse()
    })).toEqual(['Posts: in another order.'])
    const inserted = words((n) => {
      n.posts.unshift({ ...structuredClone(n.posts[0] as Notice['posts'][number]), id: 'new-post', title: 'Harbour diver' })
    })
    expect(inserted).toHaveLength(1)
    expect(inserted[0]).toMatch(/^Posts, Harbour diver: new\./)
  })

  it('is none for equal notices, and none again once every part was taken over', () => {
    expect(differencesBetween(notice, structuredClone(notice))).toEqual([])
    const value = fc.letrec(tie => ({
      json: fc.oneof(
        { depthSize: 'small' },
        fc.string(),
        fc.integer(),
        fc.boolean(),
        fc.array(tie('member'), { maxLength: 4 }),
        fc.dictionary(fc.constantFrom('a', 'b', 'c'), tie('json')),
      ),
      member: fc.record({ id: fc.constantFrom('x', 'y', 'z'), part: tie('json') }),
    })).json
    fc.assert(fc.property(value, value, (a, b) => (differencesBetween(a, b).length === 0) === (sorted(a) === sorted(b))))
  })
})

// The order of the parts of an object says nothing.
function sorted(value: unknown): string {
  if (Array.isArray(value)) return `[${value.map(sorted).join()}]`
  if (typeof value === 'object' && value !== null) {
    return `{${Object.entries(value).sort(([a], [b]) => a < b ? -1 : 1).map(([key, one]) => `${key}:${sorted(one)}`).join()}}`
  }
  return JSON.stringify(value)
}
