import { compareFractions, hundred, parseDecimal, zero } from '../../marks/decimal'
import { found, pointer, type NoticeFinding } from '../finding'
import type { Column, Question } from '../questions'
import type { Rule, RuleOf } from '../rules'
import { easingsOf } from '../rules-within'
import type { Notice } from '../schema'
import { rulesOf, unknownOptions, type Questions } from './conditions'

/**
 * Gaps and contradictions in rules, boards, claims and the ladder: whatever they refer to must exist and be of a kind that they can read.
 */
export function ruleFindings(notice: Notice, questions: Questions): NoticeFinding[] {
  const findings = rulesOf(notice).flatMap(
    ({ rule, at }) => [...relaxationFindings(rule, at, questions), ...ownFindings(notice, rule, at, questions)]
  )
  notice.posts.forEach((post, p) =>
    post.clauses.forEach((clause, c) => {
      if (post.clauses.findIndex(other => other.code === clause.code) < c) {
        findings.push(found('id.twice', pointer('posts', p, 'clauses', c, 'code'), { id: clause.code }))
      }
    })
  )
  return [...findings, ...boardFindings(notice), ...claimFindings(notice, questions), ...ladderFindings(notice)]
}

function ownFindings(notice: Notice, rule: Rule, at: string, questions: Questions): NoticeFinding[] {
  switch (rule.kind) {
    case 'age':
      return ageFindings(rule, at)
    case 'qualification':
      return qualificationFindings(notice, rule, at, questions)
    case 'subjects':
      return subjectsFindings(notice, rule, at, questions)
    case 'oneOf':
      return oneOfFindings(rule, at, questions)
    case 'number':
      return numberFindings(rule, at, questions)
    case 'day':
      return dayFindings(rule, at, questions)
    case 'experience':
      return experienceFindings(rule, at, questions)
    case 'percentage':
      return percentageFindings(notice, rule, at, questions)
    default:
      return []
  }
}

function percentageFindings(notice: Notice, { min, of }: RuleOf<'percentage'>, at: string, questions: Questions): NoticeFinding[] {
  const needs = of ? ['subjects', 'board'] : ['marksObtained', 'marksTotal']
  return [...lackingQuestions(needs, questions, at), ...unknownMembers(of ?? [], notice.subjects, 'subjects', `${at}/of`),
    ...(compareFractions(parseDecimal(min) ?? zero, hundred) > 0 ? [found('rule.percentage', `${at}/min`, { value: min })] : [])]
}

function relaxationFindings(rule: Rule, at: string, questions: Questions): NoticeFinding[] {
  if (!('relaxations' in rule)) return []
  const cap = parseDecimal(rule.cap ?? '')
  return easingsOf(rule).flatMap(({ relaxation: { title, by }, at: below, lowers }) => {
    const place = `${at}${below}/by`
    if (typeof by !== 'string') {
      return questions.get(by.answer)?.kind === 'number'
        ? []
        : [found('rule.relaxation-answer', place, { title, question: by.answer })]
    }
    if (rule.kind === 'age' && !/^\d{1,2}$/.test(by)) return [found('rule.relaxation-years', place, { title, value: by })]
    if (lowers) {
      return rule.kind === 'age' && Number(by) > (rule.minYears ?? 120)
        ? [found('rule.lowered', place, { title, value: by, least: rule.minYears ?? 120 })]
        : []
    }
    // What one relaxation gives and the cap takes away again is most likely a slip of the pen.
    const amount = parseDecimal(by)
    return cap && amount && compareFractions(amount, cap) > 0
      ? [found('rule.relaxation-cap', `${at}/cap`, { title, value: by, cap: rule.cap ?? '' })]
      : []
  })
}

function ageFindings(rule: RuleOf<'age'>, at: string): NoticeFinding[] {
  if ((rule.minYears ?? 0) > (rule.maxYears ?? Infinity)) {
    return [found('rule.bounds', at, { min: rule.minYears ?? 0, max: rule.maxYears ?? 0 })]
  }
  return (rule.bornNotBefore ?? '') > (rule.bornNotAfter ?? '9')
    ? [found('rule.born', at, { from: rule.bornNotBefore ?? '', to: rule.bornNotAfter ?? '' })]
    : []
}

const unknownMembers = (values: readonly string[], known: readonly { id: string }[], of: string, at: string): NoticeFinding[] =>
  values.flatMap((value, i) => known.some(({ id }) => id === value) ? [] : [found('member.unknown', `${at}/${i}`, { value, of })])

const lackingQuestions = (wanted: readonly string[], questions: Questions, at: string): NoticeFinding[] =>
  wanted.filter(id => !questions.has(id)).map(question => found('rule.question', at, { question }))

function qualificationFindings(notice: Notice, rule: RuleOf<'qualification'>, at: string, questions: Questions): NoticeFinding[] {
  const needs = ['qualification', ...(rule.disciplines ? ['discipline'] : []),
    ...(rule.awaitedUntil === undefined ? [] : ['resultAwaited', 'resultBy']), ...(rule.mostYearsSince === undefined ? [] : ['passedIn'])]
  return [
    ...(rule.atLeast === undefined || notice.qualifications.some(q => q.id === rule.atLeast)
      ? []
      : [found('member.unknown', `${at}/atLeast`, { value: rule.atLeast, of: 'qualifications' })]),
    ...unknownMembers(rule.oneOf ?? [], notice.qualifications, 'qualifications', `${at}/oneOf`),
    ...unknownMembers(rule.disciplines ?? [], notice.disciplines, 'disciplines', `${at}/disciplines`),
    ...lackingQuestions(needs, questions, at),
  ]
}

function subjectsFindings(notice: Notice, rule: RuleOf<'subjects'>, at: string, questions: Questions): NoticeFinding[] {
  return [
    ...lackingQuestions(['subjects'], questions, at),
    ...rule.wanted.flatMap((wanted, i) => unknownMembers(wanted.anyOf, notice.subjects, 'subjects', `${at}/wanted/${i}/anyOf`)),
    ...((rule.atLeast ?? 0) > rule.wanted.length
      ? [found('rule.subjects-least', `${at}/atLeast`, { value: rule.atLeast ?? 0, wanted: rule.wanted.length })]
      : []),
  ]
}

function oneOfFindings(rule: RuleOf<'oneOf'>, at: string, questions: Questions): NoticeFinding[] {
  const question = questions.get(rule.question)
  if (!question) return lackingQuestions([rule.question], questions, `${at}/question`)
  return question.kind === 'choice' ? unknownOptions(question, rule.values, `${at}/values`) : []
}

function numberFindings(rule: RuleOf<'number'>, at: string, questions: Questions): NoticeFinding[] {
  const question = questions.get(rule.question)
  if (!question) return lackingQuestions([rule.question], questions, `${at}/question`)
  if (question.kind !== 'number' && question.kind !== 'marks') {
    return [found('rule.no-number', `${at}/question`, { question: rule.question, kind: question.kind })]
  }
  const less = rule.minus === undefined ? null : questions.get(rule.minus)
  if (less !== null && less?.kind !== 'number' && less?.kind !== 'marks') {
    return [found('rule.no-number', `${at}/minus`, { question: rule.minus ?? '', kind: less?.kind ?? '' })]
  }
  const [min, max] = [parseDecimal(rule.min ?? ''), parseDecimal(rule.max ?? '')]
  return min && max && compareFractions(min, max) > 0 ? [found('rule.bounds', at, { min: rule.min ?? '', max: rule.max ?? '' })] : []
}

/** A month is too little where days are counted. */
const asksForDay = (asked: Question | Column | undefined) => asked?.kind === 'date' && !asked.monthOnly

function dayFindings({ question, notBefore, notAfter }: RuleOf<'day'>, at: string, questions: Questions): NoticeFinding[] {
  if (!asksForDay(questions.get(question))) return [found('rule.no-day', `${at}/question`, { question })]
  return notBefore !== undefined && notAfter !== undefined && notBefore > notAfter
    ? [found('rule.bounds', at, { min: notBefore, max: notAfter })]
    : []
}

function experienceFindings(rule: RuleOf<'experience'>, at: string, questions: Questions): NoticeFinding[] {
  const question = questions.get(rule.question)
  if (question?.kind !== 'table') return [found('rule.no-table', `${at}/question`, { question: rule.question })]
  const { only, after } = rule
  const column = only && question.columns.find(c => c.id === only.column)
  const kinds = !only ? [] : !column
    ? [found('rule.no-column', `${at}/only/column`, { question: rule.question, column: only.column })]
    : column.kind === 'choice'
    ? only.values.flatMap((value, i) =>
      column.options.some(o => o.id === value) ? [] : [found('condition.option', `${at}/only/values/${i}`, { value, question: column.id })]
    )
    : []
  const since = after !== undefined && !asksForDay(questions.get(after))
    ? [found('rule.no-day', `${at}/after`, { question: after })]
    : []
  return [...kinds, ...since,
    ...(['from', 'to'] as const).filter(end => !question.columns.some(c => c.id === rule[end] && asksForDay(c))).map(end =>
      found('rule.no-date', `${at}/${end}`, { question: rule.question, column: rule[end] })
    )]
}

function boardFindings({ boards, subjects }: Notice): NoticeFinding[] {
  return boards.flatMap((board, i) =>
    (['named', 'compulsory', 'excluded'] as const).flatMap(part =>
      unknownMembers(board.subjects?.[part] ?? [], subjects, 'subjects', pointer('boards', i, 'subjects', part))
    )
  )
}

function claimFindings(notice: Notice, questions: Questions): NoticeFinding[] {
  return notice.claims.flatMap((claim, i) =>
    Object.entries(claim.ifFalse).flatMap(([id, value]) => {
      const at = pointer('claims', i, 'ifFalse', id)
      const question = questions.get(id)
      if (!question) return [found('rule.question', at, { question: id })]
      return question.kind === 'choice' && value !== '' && !question.options.some(o => o.id === value)
        ? [found('condition.option', at, { value, question: id })]
        : []
    })
  )
}

function ladderFindings({ qualifications }: Notice): NoticeFinding[] {
  return qualifications.flatMap((rung, i) =>
    rung.equals !== undefined && !qualifications.some(o => o.id === rung.equals && o.equals === undefined)
      ? [found('rung.equals', pointer('qualifications', i, 'equals'), { value: rung.equals })]
      : []
  )
}
