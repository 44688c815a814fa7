import type { Condition } from '../notice/questions'
import { conditionLeaves } from '../notice/conditions'
import type { Rule } from '../notice/rules'
import { easingsOf, rulesWithin } from '../notice/rules-within'
import { keyOf } from '../application/requests'
import { exceptionsFrom } from './evaluate'
import type { Answers } from '../application/answers'
import type { Notice, Post } from '../notice/schema'

/**
 * What the verdict on a post hangs on: as long as these texts stay the same, so does the verdict, and nothing needs to
 * be judged again.
 */

/** The questions whose answers the rules of a post read, and those that decide whether these are asked; sorted. */
export function questionsRead(notice: Notice, post: Post): string[] {
  const read = new Set<string>()
  const conditions = new Map(notice.sections.flatMap(s => s.questions).map(q => [q.id, q.when]))
  const add = (question: string) => {
    if (read.has(question) || !conditions.has(question)) return
    read.add(question)
    addCondition(conditions.get(question))
  }
  const addCondition = (condition: Condition | undefined) => conditionLeaves(condition).forEach(leaf => add(leaf.question))
  requestsOf(notice, post).forEach(({ when }) => addCondition(when))
  for (const rule of post.clauses.flatMap(clause => rulesWithin(clause.rule))) {
    questionsOf(rule).forEach(add)
    if (rule.kind === 'when') addCondition(rule.if)
    for (const { relaxation } of easingsOf(rule)) {
      addCondition(relaxation.when)
      if (typeof relaxation.by !== 'string') add(relaxation.by.answer)
    }
  }
  return [...read].sort()
}

/** All facts that the verdict on a post hangs on: the questions that its rules read, and the office's words on exceptions from them. */
export const factsRead = (
  notice: Notice,
  post: Post,
): string[] => [...questionsRead(notice, post), ...requestsOf(notice, post).map(({ id }) => keyOf(id))]

function questionsOf(rule: Rule): string[] {
  switch (rule.kind) {
    case 'age':
      return ['bornOn']
    case 'percentage':
      return ['resultForm', 'marksObtained', 'marksTotal', 'board', 'subjects', 'gradePoint', 'equivalentPercentage']
    case 'qualification':
      return ['qualification', 'discipline', 'resultAwaited', 'resultBy', 'passedIn']
    case 'subjects':
      return ['subjects', 'board']
    case 'oneOf':
    case 'day':
      return [rule.question]
    case 'number':
      return [rule.question, ...rule.minus === undefined ? [] : [rule.minus]]
    case 'experience':
      return [rule.question, ...rule.after === undefined ? [] : [rule.after]]
    default:
      return []
  }
}

const requestsOf = (
  notice: Notice,
  post: Post,
) => [...new Set(post.clauses.flatMap(clause => exceptionsFrom(notice, post.id, clause.code)))]

/** Everything of a notice that the verdict on a post depends on, as one text. */
export function rulesText(notice: Notice, post: Post): string {
  const read = questionsRead(notice, post)
  const { leapDayBirthday, percentageCompared, qualifications, boards } = notice
  return JSON.stringify([
    post.clauses.map(clause => [clause.code, clause.clause, clause.rule]),
    notice.keyDates.ageOn,
    leapDayBirthday,
    percentageCompared,
    requestsOf(notice, post).map(({ id, when, clauses }) => [id, when, clauses]),
    qualifications.map(q => [q.id, q.equals ?? null]),
    boards.map(({ title, ...rest }) => rest),
    notice.sections.flatMap(s => s.questions).filter(q => read.includes(q.id)).map(q => [q.id, q.when ?? null]),
  ])
}

/** The facts of a sheet that some questions hold, as one text; the same for every way of saying nothing. */
export function factsText(answers: Answers, questions: readonly string[]): string {
  return JSON.stringify(questions.map((question) => {
    const answer = answers[question]
    return answer === undefined || answer.length === 0 ? '' : answer
  }))
}
