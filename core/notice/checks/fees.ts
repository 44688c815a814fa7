import { found, pointer, type NoticeFinding } from '../finding'
import { People, type Wanted } from '../person'
import type { Condition, Notice } from '../schema'

interface Row {
  when?: Condition | undefined
  amount: number
  at: string
}

/**
 * Everybody pays by exactly one row of base fees. The space of all answers that rows look at is covered by cells, not by people drawn from
 * it: a hole is somebody for whom no row holds, an overlap somebody for whom two do.
 */
export function feeFindings(notice: Notice, people: People): NoticeFinding[] {
  const { fees: { base, posts, further, late, channels, waivers, severalWaivers, payers }, categories } = notice
  const findings = base.flatMap((row, i) =>
    categories.some(c => c.id === row.category)
      ? []
      : [found('fee.category', pointer('fees', 'base', i, 'category'), { category: row.category })]
  )
  for (const category of categories) {
    const rows = base.flatMap((row, i) => row.category === category.id ? [{ ...row, at: pointer('fees', 'base', i) }] : [])
    findings.push(...tableFindings(
      people,
      { condition: { question: 'category', in: [category.id] }, holds: true },
      rows,
      '/fees/base',
      category.title,
    ))
  }
  for (const post of notice.posts) {
    const rows = posts.flatMap((row, i) => row.post === post.id ? [{ ...row, at: pointer('fees', 'posts', i) }] : [])
    const own: Wanted = { condition: { question: 'posts', in: [post.id] }, holds: true }
    if (rows.length > 0) {
      findings.push(...tableFindings(
        new People(notice, [own.condition, ...rows.flatMap(row => row.when ?? [])]),
        own,
        rows,
        '/fees/posts',
        post.title,
      ))
    }
  }
  findings.push(...posts.flatMap((row, i) =>
    notice.posts.some(post => post.id === row.post)
      ? []
      : [found('member.unknown', pointer('fees', 'posts', i, 'post'), { value: row.post, of: 'posts' })]
  ))
  const coded = [...waivers, ...payers]
  const placeOfCode = (i: number) =>
    i < waivers.length ? pointer('fees', 'waivers', i, 'code') : pointer('fees', 'payers', i - waivers.length, 'code')
  const twice = [
    ...saidTwice(further, one => String(one.from), i => pointer('fees', 'further', i, 'from'), one => one.from),
    ...saidTwice(late, one => String(Date.parse(one.from)), i => pointer('fees', 'late', i, 'from'), one => one.from),
    ...saidTwice(coded, one => one.code, placeOfCode, one => one.code),
    ...saidTwice(channels, one => one.way, i => pointer('fees', 'channels', i, 'way'), one => one.way),
  ]
  return [...findings, ...twice, ...severalWaivers === 'one only' ? bothWaivers(people, waivers) : []]
}

/** Members of a list that say what an earlier one has said; `place` points at the n-th. */
function saidTwice<T>(
  list: readonly T[],
  said: (one: T) => string,
  place: (n: number) => string,
  id: (one: T) => string | number,
): NoticeFinding[] {
  return list.flatMap((one, i) =>
    list.findIndex(other => said(other) === said(one)) < i ? [found('id.twice', place(i), { id: id(one) })] : []
  )
}

/** Where only one waiver may ever fit: each that can fit somebody together with an earlier one. */
function bothWaivers(people: People, waivers: Notice['fees']['waivers']): NoticeFinding[] {
  return waivers.flatMap((later, place) =>
    waivers.slice(0, place).flatMap((earlier) => {
      const both = people.find([{ condition: earlier.when, holds: true }, { condition: later.when, holds: true }])
      return both ? [found('waiver.both', pointer('fees', 'waivers', place), { one: earlier.title, other: later.title }, both)] : []
    })
  )
}

/** Holes and overlaps of the rows that name one category or one post: of whoever it is, exactly one holds. */
function tableFindings(people: People, own: Wanted, rows: readonly Row[], table: string, of: string): NoticeFinding[] {
  const conditions = rows.map(({ when }): Condition => when ?? { any: [own.condition] })
  const hole = people.find([own, ...conditions.map(condition => ({ condition, holds: false }))])
  return [...hole ? [found('fee.hole', table, { category: of }, hole)] : [],
    ...rows.flatMap(({ at, amount }, later) =>
      rows.slice(0, later).flatMap((earlier, place) => {
        const [one, other] = [conditions[place], conditions[later]]
        const both = one && other && !areApart(one, other)
          && people.find([own, { condition: one, holds: true }, { condition: other, holds: true }])
        return both ? [found('fee.overlap', at, { category: of, one: earlier.amount, other: amount }, both)] : []
      })
    )]
}

/**
 * Whether two conditions cannot hold together, seen at once: both want different answers to one question. Most rows of a fee table are
 * apart so.
 */
function areApart(one: Condition, other: Condition): boolean {
  const wanted = wantedAnswers(one)
  return wantedAnswers(other).some(leaf =>
    wanted.some(({ question, values }) => question === leaf.question && !values.some(value => leaf.values.includes(value)))
  )
}

// Answers of a choice only: of a list, several members may be wanted at once.
function wantedAnswers(condition: Condition): { question: string, values: readonly string[] }[] {
  if ('all' in condition) return condition.all.flatMap(wantedAnswers)
  return 'in' in condition && condition.question !== 'posts' && condition.question !== 'cities'
    ? [{ question: condition.question, values: condition.in }]
    : []
}
