import type { Answer, Answers } from './answers'

/**
 * How what is typed reaches the office from a page that may lose its line, its answers or itself at any moment. What is to be sent goes on
 * being the same until it is answered: an answer that was lost on its way is then told again, and nobody is asked to choose between two
 * writings of their own.
 */

/** Answers as they were typed onto a revision of the sheet. */
export interface SheetChanges {
  revision: number
  changes: Record<string, Answer>
}
export interface SavedSheet {
  revision: number
  answers: Answers
}
/** What somebody else changed since this sheet was loaded; `yours` is null where there is no clash. */
export interface AnswerDifference {
  question: string
  by: string
  at: string
  theirs: Answer
  yours: Answer | null
}
export interface SheetConflict extends SavedSheet {
  differences: AnswerDifference[]
}

export type SavingState = 'saved' | 'waiting' | 'saving' | 'kept here' | 'conflict'

/** What a page has of one sheet: its answers, and what of them the office has not confirmed. */
export class Saving {
  answers: Answers = {}
  state: SavingState = 'saved'
  conflict: AnswerDifference[] | null = null
  /** Questions that somebody else has changed on this sheet, merged without a word being lost. */
  merged: string[] = []
  /** The newest revision that is known: what is handed in is this one. */
  revision = 0
  private unsaved: Record<string, Answer> = {}
  private sent: SheetChanges | null = null

  /** Whether the office has confirmed all that was typed. */
  get isWhole(): boolean {
    return this.sent === null && this.conflict === null && Object.keys(this.unsaved).length === 0
  }

  /** The sheet as the office has it. What is typed stays as it is, on the revision that it was typed on. */
  show({ revision, answers }: SavedSheet): void {
    this.revision = this.isWhole ? revision : Math.min(this.revision, revision)
    this.answers = { ...answers, ...this.unsaved }
  }

  change(question: string, answer: Answer): void {
    this.answers = { ...this.answers, [question]: answer }
    this.unsaved[question] = answer
    if (this.state !== 'conflict') this.state = 'waiting'
  }

  /** What a page keeps for its next visit; null where there is nothing to keep. */
  toKeep(): string | null {
    return this.sent === null && Object.keys(this.unsaved).length === 0
      ? null
      : JSON.stringify({ revision: this.revision, unsaved: this.unsaved, sent: this.sent })
  }

  /** Takes up what an earlier visit has kept, against what it was typed on. @throws SyntaxError for what is no such text. */
  recover(kept: string): void {
    const { revision, unsaved, sent = null } = JSON.parse(kept) as SheetChanges & {
      unsaved: Record<string, Answer>,
      sent?: SheetChanges | null,
    }
    this.revision = Math.min(this.revision, revision)
    this.unsaved = { ...unsaved, ...this.unsaved }
    this.sent ??= sent
    this.answers = { ...this.answers, ...this.unsaved }
    this.state = 'waiting'
  }

  /** What is to be sent now; null where nothing is, or somebody has to choose first. */
  next(): SheetChanges | null {
    if (this.conflict !== null || this.isWhole) return null
    this.sent ??= { revision: this.revision, changes: { ...this.unsaved } }
    this.state = 'saving'
    return this.sent
  }

  /** The office has what was sent. */
  saved({ revision, answers }: SavedSheet): void {
    const changes = this.sent?.changes ?? {}
    this.sent = null
    // An older answer than what is shown already says nothing new of others.
    if (revision >= this.revision) this.takeOthers(answers, changes)
    this.revision = Math.max(this.revision, revision)
    for (const [question, answer] of Object.entries(changes)) {
      if (isSame(this.unsaved[question], answer)) Reflect.deleteProperty(this.unsaved, question)
    }
    this.state = this.isWhole ? 'saved' : 'waiting'
  }

  /** Somebody else has written another answer to the same question: nothing of what was sent was taken. */
  clashed(other: SheetConflict): void {
    this.sent = null
    this.revision = other.revision
    this.answers = { ...other.answers, ...this.unsaved }
    this.conflict = other.differences.map(one => ({ ...one, yours: this.unsaved[one.question] ?? null }))
    this.state = 'conflict'
  }

  /** It did not arrive, or nobody knows whether it did. */
  unanswered(): void {
    this.state = 'kept here'
  }

  /** The office refuses it, and will not take it by being asked again. */
  refused(): void {
    this.sent = null
    this.state = 'kept here'
  }

  /** Ends a conflict: `mine` names the questions whose own answer is kept; for the others the other person's stands. */
  settle(mine: ReadonlySet<string>): void {
    for (const { question, theirs } of this.conflict ?? []) {
      if (mine.has(question)) continue
      Reflect.deleteProperty(this.unsaved, question)
      this.answers = { ...this.answers, [question]: theirs }
    }
    this.conflict = null
    this.state = this.isWhole ? 'saved' : 'waiting'
  }

  /** What somebody else has saved of other questions meanwhile comes along with the answer. */
  private takeOthers(answers: Answers, sent: Record<string, Answer>): void {
    const theirs = Object.entries(answers).filter(([question, value]) =>
      !(question in sent) && !(question in this.unsaved) && !isSame(this.answers[question] ?? '', value)
    )
    if (theirs.length === 0) return
    this.answers = { ...this.answers, ...Object.fromEntries(theirs) }
    this.merged = theirs.map(([question]) => question)
  }
}

const isSame = (a: Answer | undefined, b: Answer | undefined) => JSON.stringify(a) === JSON.stringify(b)
