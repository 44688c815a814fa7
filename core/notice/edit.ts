import { pointer, stepsOf, valueAt } from './finding'

/** Changes of a document, each of one value at a place: what can be undone, sent late, and joined with what others changed meanwhile. */

export type Json = Readonly<Record<string, unknown>>

/** `before` and `after` are nothing where the value was or is not there. */
export interface Edit {
  at: string
  before?: unknown
  after?: unknown
}

/** The document with a value at a place set, or taken out where it is undefined. What is not touched stays the same object. */
export function setAt(document: unknown, at: string, value: unknown): unknown {
  const [step, ...rest] = stepsOf(at)
  if (step === undefined) return value
  const inner = pointer(...rest)
  if (Array.isArray(document)) {
    const list = [...document as unknown[]]
    const place = Number(step)
    if (inner === '' && value === undefined) list.splice(place, 1)
    else list[place] = setAt(list[place], inner, value)
    return list
  }
  const known: Json = typeof document === 'object' && document !== null ? document as Json : {}
  if (inner === '' && value === undefined) return Object.fromEntries(Object.entries(known).filter(([key]) => key !== step))
  return { ...known, [step]: setAt(known[step], inner, value) }
}

export const applyEdit = (document: unknown, { at, after }: Edit): unknown => setAt(document, at, after)
export const undone = ({ at, before, after }: Edit): Edit => ({ at, before: after, after: before })

/** An edit that could not be joined, because somebody else changed the same value. */
export interface Clash {
  edit: Edit
  theirs: unknown
}

/**
 * What was changed here, joined with a document that somebody else kept meanwhile. A change goes in where their value is still the one that
 * it was made on; elsewhere it is a clash, theirs stays, and both are to be shown.
 */
export function joinEdits(theirs: unknown, edits: readonly Edit[]): { document: unknown, joined: Edit[], clashes: Clash[] } {
  let document = theirs
  const joined: Edit[] = []
  const clashes: Clash[] = []
  for (const edit of edits) {
    const there = valueAt(document, edit.at)
    if (isEqual(there, edit.after)) joined.push(edit)
    else if (isEqual(there, edit.before) && !clashes.some(clash => edit.at.startsWith(clash.edit.at))) {
      document = applyEdit(document, edit)
      joined.push(edit)
    } else clashes.push({ edit, theirs: there })
  }
  return { document, joined, clashes }
}

/** Whether two values of JSON are the same, whatever the order of their parts. */
export function isEqual(a: unknown, b: unknown): boolean {
  if (Array.isArray(a) && Array.isArray(b)) return a.length === b.length && a.every((one, i) => isEqual(one, b[i]))
  if (typeof a !== 'object' || a === null || typeof b !== 'object' || b === null || Array.isArray(a) || Array.isArray(b)) {
    return Object.is(a, b)
  }
  const [one, other] = [a as Json, b as Json]
  const names = Object.keys(one).filter(name => one[name] !== undefined)
  return names.length === Object.keys(other).filter(name => other[name] !== undefined).length
    && names.every(name => isEqual(one[name], other[name]))
}
