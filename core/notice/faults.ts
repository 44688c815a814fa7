import type { ConditionLeaf } from './questions'
import type { Notice } from './schema'

/** One gap or contradiction in a notice; `at` is the path of the value, dotted. */
export interface NoticeFault { at: string, message: string }

/** What is wrong with one comparison of a condition. */
export function checkLeaf(notice: Notice, leaf: ConditionLeaf, at: string): NoticeFault[] {
  const question = notice.sections.flatMap(s => s.questions).find(q => q.id === leaf.question)
  if (!question) return [{ at, message: `refers to question "${leaf.question}", which does not exist` }]
  if (!('in' in leaf)) {
    return question.kind === 'number' || question.kind === 'marks' ? [] : [{ at, message: `compares "${leaf.question}" with a number, but it is of kind "${question.kind}"` }]
  }
  if (question.kind === 'table') return [{ at, message: `a condition cannot look into the table "${leaf.question}"` }]
  if (question.kind !== 'choice') return []
  return leaf.in.filter(value => !question.options.some(o => o.id === value))
    .map(value => ({ at, message: `"${value}" is not an option of question "${leaf.question}"` }))
}
