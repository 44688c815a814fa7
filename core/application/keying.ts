import type { Notice, Question } from '../notice/schema'
import { liveSheet, rowsAnswer, type Answer, type Answers, type Row } from './answers'

/**
 * A paper form is keyed twice, by two people who do not see each other's work; where they differ somebody looks at the paper and says what
 * stands there. `first` and `second`: being keyed so; `differing`: both are done and differ; `agreed`: one set of answers holds.
 */
export const keyingStates = ['first', 'second', 'differing', 'agreed'] as const
export type KeyingState = typeof keyingStates[number]

/** What may stand differently: a whole answer, or one cell of a table whose rows are as many both times. */
export interface KeyedPlace {
  question: string
  row: number | null
  column: string | null
}
export interface KeyedDifference extends KeyedPlace {
  first: Answer
  second: Answer
}
/** What holds at a place, after somebody has looked at the paper. */
export type Settlement = KeyedPlace & ({ keep: 'first' | 'second' } | { keep: 'anew', answer: Answer })

export interface KeyedComparison {
  /** How many answers and cells were compared: those that stand in at least one of both. */
  compared: number
  differing: KeyedDifference[]
}

/** One text for a place, to find it by. */
export const placeKey = ({ question, row, column }: KeyedPlace): string => [question, row ?? '', column ?? ''].join('/')

/**
 * Compares what two people have keyed of one form, in the order of the form. What neither form asks by its own answers counts for nothing.
 */
export function compareKeyed(notice: Notice, first: Answers, second: Answers): KeyedComparison {
  const [one, other] = [liveSheet(notice, first), liveSheet(notice, second)]
  const asked = new Set([...one.asked, ...other.asked].map(question => question.id))
  const pairs = notice.sections.flatMap(section => section.questions).filter(question => asked.has(question.id)).flatMap(question =>
    placesOf(question, one.answers, other.answers)
  )
  const written = pairs.filter(pair => !isBlank(pair.first) || !isBlank(pair.second))
  return { compared: written.length, differing: written.filter(pair => !isSame(pair.first, pair.second)) }
}

function placesOf(question: Question, first: Answers, second: Answers): KeyedDifference[] {
  const whole: KeyedDifference = {
    question: question.id,
    row: null,
    column: null,
    first: first[question.id] ?? '',
    second: second[question.id] ?? '',
  }
  if (question.kind === 'mobile') return isSame(digits(whole.first), digits(whole.second)) ? [{ ...whole, second: whole.first }] : [whole]
  if (question.kind !== 'table') return [whole]
  const [rows, others] = [rowsAnswer(first, question.id), rowsAnswer(second, question.id)]
  if (rows.length !== others.length || rows.length === 0) return [{ ...whole, first: rows, second: others }]
  return rows.flatMap((row, index) =>
    question.columns.map(({ id }) => ({
      question: question.id,
      row: index,
      column: id,
      first: row[id] ?? '',
      second: others[index]?.[id] ?? '',
    }))
  )
}

const digits = (answer: Answer): Answer => typeof answer === 'string' ? answer.replace(/[^+\d]/gu, '') : answer
const isBlank = (answer: Answer) => answer.length === 0
const isSame = (a: Answer, b: Answer) => JSON.stringify(isBlank(a) ? '' : a) === JSON.stringify(isBlank(b) ? '' : b)

/**
 * The answers that hold: the first person's, with what was settled put in.
 *
 * @returns also where both differ, and the differences that nobody has settled; while there are any of those, the answers do not hold.
 */
export function settledAnswers(
  notice: Notice,
  first: Answers,
  second: Answers,
  settlements: readonly Settlement[],
): { answers: Answers, differing: KeyedDifference[], left: KeyedDifference[] } {
  const word = new Map(settlements.map(one => [placeKey(one), one]))
  const answers = { ...first }
  const left: KeyedDifference[] = []
  const { differing } = compareKeyed(notice, first, second)
  for (const difference of differing) {
    const settled = word.get(placeKey(difference))
    if (!settled) left.push(difference)
    else put(answers, difference, settled.keep === 'anew' ? settled.answer : difference[settled.keep])
  }
  return { answers, differing, left }
}

function put(answers: Answers, { question, row, column }: KeyedPlace, answer: Answer): void {
  if (row === null || column === null) answers[question] = answer
  else {
    answers[question] = rowsAnswer(answers, question).map((cells, index): Row =>
      index === row ? { ...cells, [column]: typeof answer === 'string' ? answer : '' } : cells
    )
  }
}

/**
 * Where two texts differ: what they have in common before and after, in characters as people count them, so that a screen can mark the
 * rest.
 */
export function differingPart(first: string, second: string): { before: number, after: number } {
  const [a, b] = [[...first], [...second]]
  const least = Math.min(a.length, b.length)
  let before = 0
  while (before < least && a[before] === b[before]) before++
  let after = 0
  while (after < least - before && a[a.length - 1 - after] === b[b.length - 1 - after]) after++
  return { before, after }
}
