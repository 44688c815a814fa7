import type { Notice } from '../notice/schema'
import { People } from '../notice/person'
import { assessFee } from './assess'

/** The least and the most that anybody pays for one post before the late fee, in minor units, found by assessing one person of every kind that the schedule tells apart. */
export function feeRange(notice: Notice): FeeRange {
  let range = ranges.get(notice)
  if (!range) ranges.set(notice, range = findRange(notice))
  return range
}

export interface FeeRange { from: number, to: number }
// A notice never changes; everybody who reads the list of examinations asks for this.
const ranges = new WeakMap<Notice, FeeRange>()

function findRange(notice: Notice): FeeRange {
  const { base, waivers, surcharges } = notice.fees
  const conditions = [...base, ...waivers, ...surcharges].flatMap(one => one.when ?? [])
  const people = new People(notice, conditions)
  const at = new Date(notice.keyDates.opens)
  const totals = base.flatMap((row) => {
    const own = { condition: { question: 'category', in: [row.category] }, holds: true }
    const rowHolds = row.when ? [{ condition: row.when, holds: true }] : []
    // With no waiver, and with each of them: waivers only ever lower what is due.
    const cases = [waivers.map(w => ({ condition: w.when, holds: false })), ...waivers.map(w => [{ condition: w.when, holds: true }])]
    return cases.flatMap((held) => {
      const person = people.find([own, ...rowHolds, ...held])
      const assessed = person && assessFee(notice, { ...person, posts: notice.posts.slice(0, 1).map(p => p.id) }, at)
      return assessed ? [assessed.total] : []
    })
  })
  // Where the search was given up, the schedule itself is told.
  const known = totals.length > 0 ? totals : base.map(row => row.amount)
  return { from: Math.min(...known), to: Math.max(...known) }
}
