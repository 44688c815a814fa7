import {
  conditionTest,
  leafTests,
  openQuestion,
  type Answers,
  type ConditionTest,
  type LeafTest,
  type LiveAnswers,
} from '../application/answers'
import { addDays, parseCalendarDate } from '../calendar/calendar-date'
import { addFractions, compareFractions, fraction, parseDecimal, spellExact, subtractFractions } from '../marks/decimal'
import type { Condition, ConditionLeaf, Question } from './questions'
import { conditionLeaves } from './conditions'
import type { Notice } from './schema'

/**
 * Finds somebody for whom conditions hold or do not, or shows that there is nobody. All people who answer alike as far as the conditions
 * can tell are one cell; cells are told apart one question at a time, and a branch ends as soon as a condition is decided the wrong way
 * (splitting on a variable, as logic minimisers cover a space: R. Brayton and others, Logic Minimization Algorithms for VLSI Synthesis,
 * 1984, chapter 3; from memory).
 */

/** A condition and whether it is to hold. */
export interface Wanted {
  condition: Condition
  holds: boolean
}

/** What somebody answers who is looked for: only what the conditions look at. */
export type Person = Record<string, string | string[]>

/** A prepared notice: questions in their order, and for each the answers that conditions can tell apart. */
export class People {
  readonly #questions: ReadonlyMap<string, Question>
  readonly #cells = new Map<string, (string | string[])[]>()
  readonly #tests = new WeakMap<Condition, { test: ConditionTest, leaves: LeafTest[] }>()
  readonly #leaves = new Map<string, ConditionLeaf[]>()

  constructor(notice: Notice, conditions: readonly Condition[]) {
    this.#questions = new Map(notice.sections.flatMap(s => s.questions).map(q => [q.id, q]))
    for (const leaf of [...conditions, ...[...this.#questions.values()].map(q => q.when)].flatMap(conditionLeaves)) {
      const known = this.#leaves.get(leaf.question)
      if (known) known.push(leaf)
      else this.#leaves.set(leaf.question, [leaf])
    }
  }

  /**
   * Somebody for whom all is as wanted; null when there is nobody.
   * @param most steps of the search after which `undefined` is given: nothing is known.
   */
  find(wanted: readonly Wanted[], most = 20_000): Person | null | undefined {
    const tests = wanted.map(({ condition, holds }) => ({ ...this.#ready(condition), holds }))
    let steps = 0
    const search = (live: LiveAnswers): Person | null | undefined => {
      steps += 1
      if (steps > most) return undefined
      let open: string | null = null
      for (const { test, leaves, holds } of tests) {
        const is = test(live)
        if (is === !holds) return null
        if (is === null) open ??= openQuestion(leaves, live)
      }
      if (open === null) return live.answers as Person
      const question = this.#first(open, live)
      // An answer that decides nothing: a condition that does not fit its question, which is a fault of its own.
      if (question in live.answers || live.closed.has(question)) return undefined
      for (const next of this.#branches(question, live)) {
        const person = search(next)
        if (person !== null) return person
      }
      return null
    }
    return search({ answers: {}, closed: new Set() })
  }

  // Each condition is looked at many times.
  #ready(condition: Condition): { test: ConditionTest, leaves: LeafTest[] } {
    let ready = this.#tests.get(condition)
    if (!ready) this.#tests.set(condition, ready = { test: conditionTest(condition), leaves: leafTests(condition) })
    return ready
  }

  // A question that is asked under a condition waits until it is known whether it is asked.
  #first(id: string, live: LiveAnswers): string {
    const when = this.#questions.get(id)?.when
    const { test, leaves } = when ? this.#ready(when) : { test: () => true, leaves: [] }
    const before = test(live) === null ? openQuestion(leaves, live) : null
    return before === null || before === id ? id : this.#first(before, live)
  }

  #branches(id: string, live: LiveAnswers): LiveAnswers[] {
    const question = this.#questions.get(id)
    const silent = { answers: live.answers, closed: new Set([...live.closed, id]) }
    if (!question || (question.when && this.#ready(question.when).test(live) === false)) return [silent]
    const answered = this.#cellsOf(question).map(answer => ({ answers: { ...live.answers, [id]: answer } as Answers, closed: live.closed }))
    return question.required ? answered : [...answered, silent]
  }

  #cellsOf(question: Question): (string | string[])[] {
    let cells = this.#cells.get(question.id)
    if (!cells) this.#cells.set(question.id, cells = cellsOf(question, this.#leaves.get(question.id) ?? []))
    return cells
  }
}

function cellsOf(question: Question, leaves: readonly ConditionLeaf[]): (string | string[])[] {
  const named = [...new Set(leaves.flatMap(leaf => 'in' in leaf ? leaf.in : []))]
  switch (question.kind) {
    case 'choice':
      return question.options.map(o => o.id)
    case 'number':
      return numbers(leaves, named, '1', String(question.min), String(question.max))
    case 'marks':
      return numbers(leaves, named, '0.01', '0', null)
    case 'posts':
    case 'cities':
      return lists(named)
    case 'date':
      return days(leaves)
    default:
      return [...named, '…']
  }
}

/** Each day that is compared with, those beside it, and one that nothing is compared with. */
function days(leaves: readonly ConditionLeaf[]): string[] {
  const compared = leaves.flatMap(leaf => 'in' in leaf ? leaf.in : [leaf.from, leaf.to]).filter(day =>
    day !== undefined && parseCalendarDate(day) !== null
  )
  return compared.length === 0
    ? ['…']
    : [...new Set(compared.flatMap(day => day === undefined ? [] : [addDays(day, -1), day, addDays(day, 1)]))]
}

/** Each bound, what lies beside it, and both ends of what may be answered. */
function numbers(leaves: readonly ConditionLeaf[], named: readonly string[], step: string, least: string, most: string | null): string[] {
  const bounds = leaves.flatMap(leaf => 'in' in leaf ? [] : [leaf.from, leaf.to]).flatMap(text => parseDecimal(text ?? '') ?? [])
  const [low, high, by] = [parseDecimal(least), most === null ? null : parseDecimal(most), parseDecimal(step) ?? fraction(1)]
  const around = bounds.flatMap(bound => [subtractFractions(bound, by), bound, addFractions(bound, by)])
  const within = around.filter(value => (!low || compareFractions(value, low) >= 0) && (!high || compareFractions(value, high) <= 0))
    .map(spellExact)
  return [...new Set([least, ...within, ...named, ...(most === null ? [] : [most])])]
}

/** Of a list only which of the named members it holds counts: all choices of them while they are few, else each alone, all and none. */
function lists(named: readonly string[]): string[][] {
  if (named.length > 4) return [...named.map(one => [one]), [...named], ['…']]
  const choices = Array.from({ length: 2 ** named.length }, (_, bits) => named.filter((_, i) => (bits >> i) % 2 === 1))
  return choices.map(choice => choice.length === 0 ? ['…'] : choice)
}
