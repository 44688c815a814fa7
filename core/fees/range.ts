import { People, type Wanted } from '../notice/person'
import type { Condition, Notice } from '../notice/schema'
import { assessFee } from './assess'

/**
 * The least and the most that anybody pays for one post before late fees, in minor units, found by assessing one person of every kind that
 * the schedule tells apart.
 */
export function feeRange(notice: Notice): FeeRange {
  let range = ranges.get(notice)
  if (!range) ranges.set(notice, range = findRange(notice))
  return range
}

export interface FeeRange {
  from: number
  to: number
}
// A notice never changes; everybody who reads the list of examinations asks for this.
const ranges = new WeakMap<Notice, FeeRange>()

function findRange(notice: Notice): FeeRange {
  const { base, posts, waivers, surcharges } = notice.fees
  const conditions = [...base, ...posts, ...waivers, ...surcharges].flatMap(one => one.when ?? [])
  const people = new People(notice, conditions)
  const at = new Date(notice.keyDates.opens)
  const cases = casesOf([...posts, ...waivers, ...surcharges].flatMap(line => line.when ?? []))
  // Posts without a fee of their own all cost the same.
  const own = notice.posts.map(p => p.id)
  const chosen = [...own.filter(id => posts.some(row => row.post === id)),
    ...own.filter(id => !posts.some(row => row.post === id)).slice(0, 1)]
  const totals = base.flatMap((row) => {
    const ofCategory = { condition: { question: 'category', in: [row.category] }, holds: true }
    const rowHolds = row.when ? [{ condition: row.when, holds: true }] : []
    return cases.flatMap((held) => {
      const person = people.find([ofCategory, ...rowHolds, ...held])
      return person ? chosen.flatMap(post => assessFee(notice, { ...person, posts: [post] }, at)?.total ?? []) : []
    })
  })
  // Where the search was given up, the schedule itself is told.
  const known = totals.length > 0 ? totals : base.map(row => row.amount)
  return { from: Math.min(...known), to: Math.max(...known) }
}

const everyCaseAtMost = 8

/** Which of the conditions hold at once: every case while they are few, for waivers add up; else none, all, and each alone. */
function casesOf(conditions: readonly Condition[]): Wanted[][] {
  const wanted = (holds: (place: number) => boolean) => conditions.map((condition, place): Wanted => ({ condition, holds: holds(place) }))
  if (conditions.length <= everyCaseAtMost) {
    return Array.from({ length: 2 ** conditions.length }, (_, bits) => wanted(place => (bits >> place) % 2 === 1))
  }
  return [wanted(() => false), wanted(() => true), ...conditions.map((_, alone) => wanted(place => place === alone))]
}
