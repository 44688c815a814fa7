import { isEqual } from './edit'

/**
 * How two notices differ, part by part. Members of a list are matched by what lasts in them (an id, a code, a category, a title), not by
 * their place: a post put before another is no change of either.
 */

/** One step on the way to a part: a named part, or a member of a list by what lasts in it. */
export type Step = { part: string } | { member: string, /** As people know it. */ title: string }

export interface Difference {
  path: readonly Step[]
  kind: 'added' | 'removed' | 'changed' | 'reordered'
  /** The parts as they were and are; nothing for a part that was or is not there, and for an order. */
  before?: unknown
  after?: unknown
}

type Json = Readonly<Record<string, unknown>>
const isObject = (value: unknown): value is Json => typeof value === 'object' && value !== null && !Array.isArray(value)
const lasting = ['id', 'code', 'category', 'grade', 'clause', 'title'] as const

/** Every difference of `after` against `before`, in the order of `before`, what is new last. Equal notices have none. */
export function differencesBetween(before: unknown, after: unknown): Difference[] {
  return compare(before, after, [])
}

function compare(before: unknown, after: unknown, path: readonly Step[]): Difference[] {
  if (isObject(before) && isObject(after)) return compareParts(before, after, path)
  const [old, fresh] = [membersOf(before), membersOf(after)]
  if (old && fresh) return compareMembers(old, fresh, path)
  // Members that nothing tells apart are the same as long as there are as many.
  if (Array.isArray(before) && Array.isArray(after) && before.length === after.length && [...before, ...after].every(isObject)) {
    return before.flatMap((one, i) => compare(one, after[i], [...path, { member: String(i), title: String(i + 1) }]))
  }
  return isEqual(before, after) ? [] : [{ path, kind: 'changed', before, after }]
}

function compareParts(before: Json, after: Json, path: readonly Step[]): Difference[] {
  const names = [...new Set([...Object.keys(before), ...Object.keys(after)])]
  return names.flatMap((part): Difference[] => {
    const there = [...path, { part }]
    const [was, is] = [before[part], after[part]]
    if (was === undefined || is === undefined) {
      return was === is
        ? []
        : [was === undefined ? { path: there, kind: 'added', after: is } : { path: there, kind: 'removed', before: was }]
    }
    return compare(was, is, there)
  })
}

interface Member {
  key: string
  title: string
  value: Json
}

/** The members of a list by what lasts in them; null for another value, and for a list whose members nothing tells apart. */
function membersOf(value: unknown): Member[] | null {
  if (!Array.isArray(value) || value.length === 0 || !value.every(isObject)) return null
  const by = lasting.find(name =>
    value.every(one => typeof one[name] === 'string') && new Set(value.map(one => one[name])).size === value.length
  )
  return by === undefined ? null : value.map(one => ({ key: String(one[by]), title: titleOf(one) ?? String(one[by]), value: one }))
}

const titleOf = (one: Json): string | undefined =>
  [one.title, one.label, one.clause].find((text): text is string => typeof text === 'string')

function compareMembers(before: readonly Member[], after: readonly Member[], path: readonly Step[]): Difference[] {
  const fresh = new Map(after.map(member => [member.key, member]))
  const old = new Set(before.map(member => member.key))
  const step = ({ key, title }: Member): Step => ({ member: key, title })
  const differences = before.flatMap((member): Difference[] => {
    const now = fresh.get(member.key)
    return now
      ? compareParts(member.value, now.value, [...path, step(now)])
      : [{ path: [...path, step(member)], kind: 'removed', before: member.value }]
  })
  const added = after.filter(member => !old.has(member.key)).map((member): Difference => ({
    path: [...path, step(member)],
    kind: 'added',
    after: member.value,
  }))
  const order = (list: readonly Member[]) => list.map(member => member.key).filter(key => old.has(key) && fresh.has(key)).join('\n')
  return [...differences, ...added, ...(order(before) === order(after) ? [] : [{ path, kind: 'reordered' as const }])]
}
