import { parseCalendarDate } from '../../calendar/calendar-date'
import { found, pointer, type NoticeFinding } from '../finding'
import type { Condition, ConditionLeaf, Question } from '../questions'
import { easingsOf, rulesBelow } from '../rules-within'
import type { Notice } from '../schema'

export type Questions = ReadonlyMap<string, Question>

/** The questions of a notice by their ids, in the order in which they are asked. */
export const questionsOf = (notice: Notice): Questions => new Map(notice.sections.flatMap(s => s.questions).map(q => [q.id, q]))

/** A condition of a notice and where it stands; `before` is the question that it decides on, which it may not look at. */
export interface ConditionPlace {
  condition: Condition
  at: string
  of:
    | 'question'
    | 'document'
    | 'waiver'
    | 'surcharge'
    | 'payer'
    | 'base'
    | 'relaxation'
    | 'restriction'
    | 'kept'
    | 'claim'
    | 'request'
    | 'endorsement'
    | 'rule'
    | 'seat'
  title: string
  before?: string
}

/** Every condition of a notice. */
export function conditionsOf(notice: Notice): ConditionPlace[] {
  const places: ConditionPlace[] = []
  const add = (condition: Condition | undefined, at: string, of: ConditionPlace['of'], title: string, before?: string) => {
    if (condition) places.push({ condition, at, of, title, ...(before === undefined ? {} : { before }) })
  }
  notice.sections.forEach((section, s) =>
    section.questions.forEach((q, i) => {
      const at = (...steps: (string | number)[]) => pointer('sections', s, 'questions', i, ...steps)
      add(q.when, at('when'), 'question', q.label, q.id)
      if (q.kind === 'choice') q.options.forEach((one, o) => add(one.when, at('options', o, 'when'), 'question', q.label, q.id))
      if (q.kind === 'text') q.shapes?.forEach((one, o) => add(one.when, at('shapes', o, 'when'), 'question', q.label, q.id))
    })
  )
  notice.documents.forEach((d, i) => add(d.when, pointer('documents', i, 'when'), 'document', d.title))
  notice.fees.base.forEach((row, i) => add(row.when, pointer('fees', 'base', i, 'when'), 'base', row.category))
  notice.fees.posts.forEach((row, i) => add(row.when, pointer('fees', 'posts', i, 'when'), 'base', row.post))
  notice.fees.waivers.forEach((w, i) => add(w.when, pointer('fees', 'waivers', i, 'when'), 'waiver', w.title))
  notice.fees.surcharges.forEach((line, i) => add(line.when, pointer('fees', 'surcharges', i, 'when'), 'surcharge', line.title))
  notice.fees.payers.forEach((payer, i) => add(payer.when, pointer('fees', 'payers', i, 'when'), 'payer', payer.title))
  notice.claims.forEach((claim, i) => add(claim.when, pointer('claims', i, 'when'), 'claim', claim.title))
  notice.requests.forEach((rule, i) => add(rule.when, pointer('requests', i, 'when'), 'request', rule.title))
  notice.endorsements?.forEach((rule, i) => add(rule.when, pointer('endorsements', i, 'when'), 'endorsement', rule.title))
  notice.allocation.restrictions.forEach((r, i) => add(r.when, pointer('allocation', 'restrictions', i, 'when'), 'restriction', r.title))
  notice.allocation.kept.forEach((kept, i) => add(kept.when, pointer('allocation', 'kept', i, 'when'), 'kept', kept.title))
  add(notice.accessibleSeatWhen, pointer('accessibleSeatWhen'), 'seat', '')
  for (const { rule, at } of rulesOf(notice)) {
    if (rule.kind === 'when') add(rule.if, `${at}/if`, 'rule', '')
    for (const { relaxation, at: below } of easingsOf(rule)) add(relaxation.when, `${at}${below}/when`, 'relaxation', relaxation.title)
  }
  return places
}

/** Every rule of a notice with the rules inside it, and where each stands. */
export const rulesOf = (notice: Notice) =>
  notice.posts.flatMap((post, p) => post.clauses.flatMap((clause, c) => rulesBelow(clause.rule, pointer('posts', p, 'clauses', c, 'rule'))))

/** Conditions that look at what is not there, is of another kind, or comes later. */
export function conditionFindings(places: readonly ConditionPlace[], questions: Questions): NoticeFinding[] {
  const order = [...questions.keys()]
  return places.flatMap(({ condition, at, before }) =>
    leavesAt(condition, at).flatMap(({ leaf, at: there }) => {
      const findings = leafFindings(leaf, there, questions)
      if (before !== undefined && questions.has(leaf.question) && order.indexOf(leaf.question) >= order.indexOf(before)) {
        findings.push(found('condition.later', there, { question: leaf.question }))
      }
      return findings
    })
  )
}

function leavesAt(condition: Condition, at: string): { leaf: ConditionLeaf, at: string }[] {
  if ('question' in condition) return [{ leaf: condition, at }]
  if ('not' in condition) return leavesAt(condition.not, `${at}/not`)
  return 'all' in condition
    ? condition.all.flatMap((inner, i) => leavesAt(inner, `${at}/all/${i}`))
    : condition.any.flatMap((inner, i) => leavesAt(inner, `${at}/any/${i}`))
}

function leafFindings(leaf: ConditionLeaf, at: string, questions: Questions): NoticeFinding[] {
  const question = questions.get(leaf.question)
  if (!question) return [found('condition.question', at, { question: leaf.question })]
  if (!('in' in leaf)) {
    const days = [leaf.from, leaf.to].filter(text => text !== undefined).map(text => parseCalendarDate(text) !== null)
    const fits = question.kind === 'date'
      ? days.every(Boolean)
      : (question.kind === 'number' || question.kind === 'marks') && !days.some(Boolean)
    return fits ? [] : [found('condition.number', at, { question: leaf.question, kind: question.kind })]
  }
  if (question.kind === 'table') return [found('condition.table', at, { question: leaf.question })]
  return question.kind === 'choice' ? unknownOptions(question, leaf.in, `${at}/in`) : []
}

/** The values that a choice does not offer. */
export function unknownOptions(question: Extract<Question, { kind: 'choice' }>, values: readonly string[], at: string): NoticeFinding[] {
  return values.flatMap((value, i) =>
    question.options.some(o => o.id === value) ? [] : [found('condition.option', `${at}/${i}`, { value, question: question.id })]
  )
}
