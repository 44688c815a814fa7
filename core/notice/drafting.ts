import { applyEdit, isEqual, joinEdits, undone, type Clash, type Edit, type Json } from './edit'
import { valueAt } from './finding'
import { idFrom } from './form'

/**
 * A draft of a notice as one page has it. Every change is an edit that can be undone. What the office does not have yet is kept, and joined
 * value by value with what somebody else keeps meanwhile; where both changed the same, both are shown.
 */

const stepsKept = 400
/** Letters typed one after another at one place, no further apart than this in milliseconds, are one step to undo. */
const typedTogether = 1500

/** What a page keeps for its next visit. */
interface Kept {
  unsaved: Edit[]
  clashes: Clash[]
  past?: Edit[]
  ahead?: Edit[]
}

export class Drafting {
  document: unknown = null
  clashes: readonly Clash[] = []
  /** Steps that can be undone, and those that were. */
  past: readonly Edit[] = []
  ahead: readonly Edit[] = []
  private base: unknown = null
  private revision = 0
  private unsaved: Edit[] = []
  /** On their way to the office, and not there for sure. */
  private sending: Edit[] = []
  private typedAt = 0

  get isWhole(): boolean {
    return this.unsaved.length === 0
  }

  /** The draft as the office has it. */
  open(document: unknown, revision: number): void {
    ;[this.document, this.base, this.revision] = [document, document, revision]
  }

  /** What to keep; `withSteps` is false where only what the office lacks finds room. */
  toKeep(withSteps: boolean): string {
    const lacks = { unsaved: [...this.sending, ...this.unsaved], clashes: this.clashes }
    return JSON.stringify(withSteps ? { ...lacks, past: this.past, ahead: this.ahead } : lacks)
  }

  /** Takes up what an earlier visit has kept. @throws SyntaxError for what is no such text. */
  recover(kept: string): void {
    const { unsaved = [], past = [], ahead = [], clashes = [] } = JSON.parse(kept) as Partial<Kept>
    ;[this.past, this.ahead, this.clashes] = [past, ahead, clashes]
    if (unsaved.length > 0) this.join(this.document, unsaved)
  }

  forget(): void {
    ;[this.unsaved, this.sending] = [[], []]
  }

  /**
   * Sets one value; undefined takes it out. An id follows the title beside it until it is given by hand.
   *
   * @param now a moment in milliseconds.
   * @returns whether anything changed.
   */
  set(at: string, value: unknown, now: number): boolean {
    const [whole, after] = withFollowingId(this.document, at, value)
    const before = valueAt(this.document, whole)
    if (isEqual(before, after)) return false
    const last = this.past.at(-1)
    const goesOn = typeof value === 'string' && last?.at === whole && now - this.typedAt < typedTogether
    this.typedAt = now
    this.past = goesOn
      ? [...this.past.slice(0, -1), { at: whole, before: last.before, after }]
      : [...this.past, { at: whole, before, after }].slice(-stepsKept)
    this.ahead = []
    this.put({ at: whole, before, after })
    return true
  }

  /** @returns whether there was a step to undo. */
  undo(): boolean {
    const last = this.past.at(-1)
    if (!last) return false
    this.past = this.past.slice(0, -1)
    this.ahead = [...this.ahead, last]
    this.put(undone({ ...last, after: valueAt(this.document, last.at) }))
    return true
  }

  /** @returns whether there was a step to do again. */
  redo(): boolean {
    const next = this.ahead.at(-1)
    if (!next) return false
    this.ahead = this.ahead.slice(0, -1)
    this.past = [...this.past, next]
    this.put(next)
    return true
  }

  /** What is to be sent, and the revision that it was made on; null where the office has all. */
  next(): { document: unknown, revision: number } | null {
    if (this.isWhole) return null
    ;[this.sending, this.unsaved] = [this.unsaved, []]
    return { document: this.document, revision: this.revision }
  }

  /** The office has what was sent. */
  saved(document: unknown, revision: number): void {
    ;[this.sending, this.base, this.revision] = [[], document, revision]
  }

  /** What was sent came to nothing, or nobody knows whether. */
  unanswered(): void {
    ;[this.unsaved, this.sending] = [[...this.sending, ...this.unsaved], []]
  }

  /** Takes in what somebody else has kept since. @returns how many parts of the notice came with it; null where it is nothing new. */
  theirs(document: Json, revision: number): number | null {
    if (revision <= this.revision) return null
    const before = (this.base ?? {}) as Json
    const count = Object.keys({ ...before, ...document }).filter(key => !isEqual(before[key], document[key])).length
    ;[this.base, this.revision] = [document, revision]
    this.join(document, this.unsaved)
    return count
  }

  /** Settles a clash: theirs stays, or ours is set over it. */
  settle(clash: Clash, isOurs: boolean, now: number): boolean {
    this.clashes = this.clashes.filter(one => one !== clash)
    return isOurs && this.set(clash.edit.at, clash.edit.after, now)
  }

  private put(edit: Edit): void {
    this.document = applyEdit(this.document, edit)
    this.unsaved = [...this.unsaved, edit]
  }

  private join(theirs: unknown, edits: readonly Edit[]): void {
    const { document, joined, clashes } = joinEdits(theirs, edits)
    ;[this.document, this.unsaved, this.clashes] = [document, joined, [...this.clashes, ...clashes]]
  }
}

/** A title that is set takes the id with it, as long as that is the one made from the title before. */
function withFollowingId(document: unknown, at: string, after: unknown): [string, unknown] {
  const cut = at.lastIndexOf('/')
  const [parentAt, key] = [at.slice(0, cut), at.slice(cut + 1)]
  const parent = valueAt(document, parentAt)
  if (
    parentAt === '' || (key !== 'title' && key !== 'label') || typeof after !== 'string' || typeof parent !== 'object' || parent === null
  ) return [at, after]
  const held = parent as Json
  const named = typeof held.id === 'string' ? 'id' : typeof held.code === 'string' ? 'code' : null
  const form = key === 'label' ? 'question-id' : 'id'
  const before = typeof held[key] === 'string' ? held[key] : ''
  if (named === null || (held[named] !== '' && held[named] !== idFrom(before, form))) return [at, after]
  return [parentAt, { ...held, [key]: after, [named]: idFrom(after, form) }]
}
