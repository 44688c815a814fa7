import { closingQuestion, type LiveAnswers } from '../application/answers'
import type { Bound, Finding, Origin, Unit, Verdict } from '../finding/finding'
import type { Clause, Notice, Post, Question } from '../notice/schema'
import type { Facts } from './facts'

/** A rule made ready: the finding it gives for the facts of one sheet. */
export type Check = (facts: Facts) => Finding

/** Where a rule stands: what all its findings say of their origin. */
export interface Place {
  notice: Notice
  post: Post
  clause: Clause
  origin: Origin
}

export function placeOf(notice: Notice, post: Post, clause: Clause): Place {
  return { notice, post, clause, origin: { post: post.title, clause: clause.clause, rule: clause.code } }
}

export type FindingCode = `eligibility.${string}`

/** A finding of a clause. Plain arguments and one shape: a batch makes tens of millions of these. */
export function findingAt(
  place: Place,
  code: FindingCode,
  verdict: Verdict,
  parameters: Finding['parameters'],
  value: number | null = null,
  unit: Unit = 'none',
  bound: Bound | null = null,
): Finding {
  return { code, about: place.post.id, verdict, value, unit, bound, parameters, origin: place.origin }
}

/**
 * The finding for a fact that is not there: `question` is the one whose answer would settle it. One that is not asked of
 * this person can only be settled at the question that closes it.
 */
export function missing(place: Place, kind: string, question: string, live: LiveAnswers): Finding {
  const settling = closingQuestion(place.notice, question, live)
  return findingAt(place, 'eligibility.missing', 'unsure', { question: labelOf(place.notice, settling), questionId: settling, kind })
}

/** The finding for a fact that is there and cannot be used; `fault` says why. */
export function unreadable(place: Place, kind: string, question: string, fault: string, parameters: Finding['parameters'] = {}): Finding {
  return findingAt(place, 'eligibility.unreadable', 'unsure', {
    question: labelOf(place.notice, question),
    questionId: question,
    kind,
    fault,
    ...parameters,
  })
}

const questionsById = new WeakMap<Notice, Map<string, Question>>()

/** A question of a notice by its id; found at once, however often it is asked. */
export function questionOf(notice: Notice, id: string): Question | undefined {
  let questions = questionsById.get(notice)
  if (!questions) questionsById.set(notice, questions = new Map(notice.sections.flatMap(s => s.questions).map(q => [q.id, q])))
  return questions.get(id)
}

export function labelOf(notice: Notice, question: string): string {
  return questionOf(notice, question)?.label ?? question
}
