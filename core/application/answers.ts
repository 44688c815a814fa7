import { parseCalendarDate } from '../calendar/calendar-date'
import { compareFractions, parseDecimal } from '../marks/decimal'
import type { ConditionLeaf } from '../notice/questions'
import { conditionLeaves } from '../notice/conditions'
import type { Condition, Notice, Question } from '../notice/schema'

/** One row of a table question: cell by column id, as typed. */
export type Row = Record<string, string>
/** One answer as typed: text, a list for posts and ranked cities, or rows of a table. An empty text or list is no answer. */
export type Answer = string | string[] | Row[]
/** The sheet's content by question id. Values stand as typed, valid or not: nothing typed is ever thrown away. */
export type Answers = Record<string, Answer>

/** The text of an answer, empty when it is missing or a list. */
export function textAnswer(answers: Answers, question: string): string {
  const answer = answers[question]
  return typeof answer === 'string' ? answer.trim() : ''
}

/** The name as papers print it: as somebody wished, where the notice asks that, else as on the certificate. */
export const printedName = (answers: Answers): string => textAnswer(answers, 'printedName') || textAnswer(answers, 'certificateName')

/** The members of a list answer, empty when it is missing or a text. */
export function listAnswer(answers: Answers, question: string): string[] {
  const answer = answers[question]
  return Array.isArray(answer) ? answer.filter(member => typeof member === 'string') : []
}

/** The rows of a table answer, cells trimmed, rows without any content left out; empty when it is missing or a text. */
export function rowsAnswer(answers: Answers, question: string): Row[] {
  const answer = answers[question]
  if (!Array.isArray(answer)) return []
  const rows: Row[] = []
  for (const member of answer) {
    if (typeof member === 'string') continue
    const row = trimmedRow(member)
    for (const column in row) {
      if (row[column] === '') continue
      rows.push(row)
      break
    }
  }
  return rows
}

function trimmedRow(row: Row): Row {
  let trimmed = row
  for (const column in row) {
    const cell = row[column] ?? ''
    const text = cell.trim()
    if (text === cell) continue
    if (trimmed === row) trimmed = { ...row }
    trimmed[column] = text
  }
  return trimmed
}

export function isAnswered(answers: Answers, question: string): boolean {
  const answer = answers[question]
  if (!Array.isArray(answer)) return (answer ?? '').trim() !== ''
  return answer.some(member => typeof member === 'string' || Object.values(member).some(cell => cell.trim() !== ''))
}

/** What of a sheet counts: an answer to each question of the notice, empty where none counts, and the questions surely not asked. */
export interface LiveAnswers {
  answers: Answers
  closed: ReadonlySet<string>
}
/** The same with the questions that are asked, in their order. */
export interface LiveSheet extends LiveAnswers {
  asked: Question[]
}

/** A condition made ready; see `conditionHolds`. */
export type ConditionTest = (live: LiveAnswers) => boolean | null

interface ConditionalQuestion {
  question: Question
  test: ConditionTest
  leaves: LeafTest[]
}
interface PreparedQuestions {
  all: Question[]
  blank: Answers
  conditional: ConditionalQuestion[]
  conditions: Map<string, ConditionalQuestion>
  /** Questions that are not asked of everybody in the same way. */
  varying: Map<string, (live: LiveAnswers) => Question>
}
const prepared = new WeakMap<Notice, PreparedQuestions>()
function preparedQuestions(notice: Notice): PreparedQuestions {
  let questions = prepared.get(notice)
  if (!questions) {
    const all = notice.sections.flatMap(s => s.questions)
    const conditional = all.flatMap(question =>
      question.when === undefined ? [] : [{ question, test: conditionTest(question.when), leaves: leafTests(question.when) }]
    )
    // Parsed and not assembled, so that it and its copies are laid out alike in memory: reading them is then several times faster.
    const blank = JSON.parse(JSON.stringify(Object.fromEntries(all.map(question => [question.id, ''])))) as Answers
    questions = { all, blank, conditional, conditions: new Map(conditional.map(c => [c.question.id, c])), varying: varyingOf(all) }
    prepared.set(notice, questions)
  }
  return questions
}

/** A choice offers what is open to somebody; a number is written in the ways that hold for them. */
function varyingOf(all: readonly Question[]): PreparedQuestions['varying'] {
  const holding = <T extends { when?: Condition | undefined }>(list: readonly T[]) => {
    const tests = list.map(({ when }) => when === undefined ? null : conditionTest(when))
    return (live: LiveAnswers) => list.filter((_, i) => tests[i] === null || tests[i]?.(live) === true)
  }
  const varying: PreparedQuestions['varying'] = new Map()
  for (const question of all) {
    if (question.kind === 'choice' && question.options.some(option => option.when)) {
      const open = holding(question.options)
      varying.set(question.id, live => ({ ...question, options: open(live) }))
    } else if (question.kind === 'text' && question.shapes?.some(shape => shape.when)) {
      const open = holding(question.shapes)
      varying.set(question.id, live => ({ ...question, shapes: open(live) }))
    }
  }
  return varying
}

/**
 * What counts of a sheet. A question whose condition does not hold is not asked, and what was typed there before is kept
 * in the sheet but counts for nothing: somebody who takes a claim back must not keep what followed from it. Conditions
 * look at earlier questions only (the check of the notice sees to that), so that one pass settles chains of them.
 */
export function liveAnswers(notice: Notice, sheet: Answers): LiveAnswers {
  const { blank, conditional } = preparedQuestions(notice)
  const closed = new Set<string>()
  const answers = { ...blank }
  for (const question in sheet) {
    const answer = sheet[question]
    if (answer !== undefined) answers[question] = answer
  }
  const live = { answers, closed }
  for (const { question, test } of conditional) {
    const holds = test(live)
    if (holds === false) closed.add(question.id)
    if (holds !== true) answers[question.id] = ''
  }
  return live
}

/** What counts of a sheet, with the questions that it asks as they are asked of this person. */
export function liveSheet(notice: Notice, sheet: Answers): LiveSheet {
  const live = liveAnswers(notice, sheet)
  const { all, conditional, varying } = preparedQuestions(notice)
  const silent = new Set(conditional.filter(({ test }) => test(live) !== true).map(({ question }) => question.id))
  return {
    ...live,
    asked: all.flatMap(question => silent.has(question.id) ? [] : [varying.get(question.id)?.(live) ?? question]),
  }
}

/**
 * Whether a condition holds: null when an answer that it needs is missing and could decide it. A question that is not
 * asked of this person is no missing answer: nothing that looks at it holds.
 */
export function conditionHolds(condition: Condition, live: LiveAnswers): boolean | null {
  return conditionTest(condition)(live)
}

/** A condition as a function, for conditions that are asked of many sheets. */
export function conditionTest(condition: Condition): ConditionTest {
  if ('question' in condition) return leafTest(condition)
  if ('not' in condition) {
    const inner = conditionTest(condition.not)
    return (live) => {
      const holds = inner(live)
      return holds === null ? null : !holds
    }
  }
  const every = 'all' in condition
  const tests = (every ? condition.all : condition.any).map(conditionTest)
  return (live) => {
    let holds: boolean | null = every
    for (const test of tests) {
      const one = test(live)
      if (one === !every) return one
      if (one === null) holds = null
    }
    return holds
  }
}

/** Days as the sheet keeps them are ordered as their texts are. */
function dayTest({ question, from, to }: Extract<ConditionLeaf, { from?: string }>): ConditionTest {
  return ({ answers, closed }) => {
    if (closed.has(question)) return false
    const day = textAnswer(answers, question)
    if (parseCalendarDate(day) === null) return null
    return (from === undefined || day >= from) && (to === undefined || day <= to)
  }
}

function leafTest(leaf: ConditionLeaf): ConditionTest {
  const { question } = leaf
  if ('in' in leaf) {
    const { in: wanted } = leaf
    return ({ answers, closed }) => {
      const answer = answers[question]
      if (typeof answer === 'string' && answer !== '') return !closed.has(question) && wanted.includes(answer.trim())
      if (closed.has(question)) return false
      return isAnswered(answers, question) ? listAnswer(answers, question).some(value => wanted.includes(value)) : null
    }
  }
  if (parseCalendarDate(leaf.from ?? leaf.to ?? '') !== null) return dayTest(leaf)
  const [from, to] = [parseDecimal(leaf.from ?? ''), parseDecimal(leaf.to ?? '')]
  return ({ answers, closed }) => {
    if (closed.has(question)) return false
    const value = parseDecimal(textAnswer(answers, question))
    if (!value) return null
    return (!from || compareFractions(value, from) >= 0) && (!to || compareFractions(value, to) <= 0)
  }
}

/** The comparisons of a condition made ready, each with the question it looks at. */
export interface LeafTest {
  question: string
  test: ConditionTest
}
export function leafTests(condition: Condition | undefined): LeafTest[] {
  return conditionLeaves(condition).map(leaf => ({ question: leaf.question, test: leafTest(leaf) }))
}

/** The first question without a usable answer among those that some comparisons look at. */
export function openQuestion(leaves: LeafTest[], live: LiveAnswers): string | null {
  return leaves.find(leaf => leaf.test(live) === null)?.question ?? null
}

/** For a question that is not asked: the earlier one whose answer keeps it closed; otherwise the question itself. */
export function closingQuestion(notice: Notice, question: string, live: LiveAnswers): string {
  if (!live.closed.has(question)) return question
  const cause = preparedQuestions(notice).conditions.get(question)?.leaves.find(leaf => leaf.test(live) === false)
  return cause ? closingQuestion(notice, cause.question, live) : question
}

/** The city whose postal prefix a code begins with, the longest first; null when no place has such a code. */
export function cityOfPostalCode(notice: Notice, code: string): Notice['cities'][number] | null {
  const matches = notice.cities.filter(city => code.startsWith(city.postalPrefix))
  return matches.sort((a, b) => b.postalPrefix.length - a.postalPrefix.length)[0] ?? null
}

/** Town and district that a postal code leads to; empty where it leads nowhere. */
export function placeOfPostalCode(notice: Notice, code: string): string {
  const city = cityOfPostalCode(notice, code)
  return city ? `${city.title}, ${city.island}` : ''
}
