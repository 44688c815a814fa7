import { found, pointer, type NoticeFinding } from '../finding'
import type { People, Wanted } from '../person'
import type { Condition, Notice } from '../schema'

/**
 * Everybody pays by exactly one row of base fees. The space of all answers that rows look at is covered by cells, not by people drawn from it: a hole is somebody for whom no row
 * holds, an overlap somebody for whom two do.
 */
export function feeFindings(notice: Notice, people: People): NoticeFinding[] {
  const { fees: { base, channels }, categories } = notice
  const findings = base.flatMap((row, i) => categories.some(c => c.id === row.category) ? [] : [found('fee.category', pointer('fees', 'base', i, 'category'), { category: row.category })])
  for (const category of categories) {
    const rows = base.flatMap((row, i) => row.category === category.id ? [{ row, at: pointer('fees', 'base', i) }] : [])
    const own: Wanted = { condition: { question: 'category', in: [category.id] }, holds: true }
    const conditions = rows.map(({ row }): Condition => row.when ?? { any: [own.condition] })
    const hole = people.find([own, ...conditions.map(condition => ({ condition, holds: false }))])
    if (hole) findings.push(found('fee.hole', '/fees/base', { category: category.title }, hole))
    rows.forEach(({ at }, later) => {
      for (let earlier = 0; earlier < later; earlier++) {
        const [one, other] = [conditions[earlier], conditions[later]]
        const both = one && other && !areApart(one, other) && people.find([own, { condition: one, holds: true }, { condition: other, holds: true }])
        if (both) findings.push(found('fee.overlap', at, { category: category.title, one: rows[earlier]?.row.amount ?? 0, other: rows[later]?.row.amount ?? 0 }, both))
      }
    })
  }
  const twice = channels.flatMap(({ way }, i) => channels.findIndex(one => one.way === way) < i ? [found('id.twice', pointer('fees', 'channels', i, 'way'), { id: way })] : [])
  return [...findings, ...twice]
}

/** Whether two conditions cannot hold together, seen at once: both want different answers to one question. Most rows of a fee table are apart so. */
function areApart(one: Condition, other: Condition): boolean {
  const wanted = wantedAnswers(one)
  return wantedAnswers(other).some(leaf => wanted.some(({ question, values }) => question === leaf.question && !values.some(value => leaf.values.includes(value))))
}

// Answers of a choice only: of a list, several members may be wanted at once.
function wantedAnswers(condition: Condition): { question: string, values: readonly string[] }[] {
  if ('all' in condition) return condition.all.flatMap(wantedAnswers)
  return 'in' in condition && condition.question !== 'posts' && condition.question !== 'cities' ? [{ question: condition.question, values: condition.in }] : []
}
