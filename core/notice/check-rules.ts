import { compareFractions, hundred, parseDecimal, zero } from '../marks/decimal'
import { resultForms } from '../marks/result'
import { conditionLeaves, type Question } from './questions'
import { rulesWithin, type Rule } from './rules'
import { checkLeaf, type NoticeFault } from './faults'

import type { Clause, Notice, Post } from './schema'

/** Facts that rules read by name where a notice asks for them, with the kind of question that must give each. */
const optionalFacts = {
  board: 'choice', resultForm: 'choice', subjects: 'table', gradePoint: 'marks', equivalentPercentage: 'marks',
  discipline: 'choice', resultAwaited: 'choice', resultBy: 'date', passedIn: 'number',
} as const

/** Gaps and contradictions in rules, boards and claims: whatever they refer to must exist and be of a kind they can read. */
export function checkRules(notice: Notice): NoticeFault[] {
  const questions = new Map(notice.sections.flatMap(s => s.questions).map(q => [q.id, q]))
  return [
    ...notice.posts.flatMap(post => post.clauses.flatMap(clause => checkClause(notice, post, clause, questions))),
    ...checkFacts(questions, notice), ...checkBoards(notice), ...checkClaims(notice, questions), ...checkLadder(notice),
  ]
}

type Questions = Map<string, Question>

function checkClause(notice: Notice, post: Post, clause: Clause, questions: Questions): NoticeFault[] {
  const at = `posts.${post.id}.${clause.code}`
  const twice = post.clauses.filter(c => c.code === clause.code).length > 1 ? [{ at, message: 'two clauses of the post share one code' }] : []
  return [...twice, ...rulesWithin(clause.rule).flatMap(rule => checkRule(notice, rule, questions).map(fault => ({ ...fault, at })))]
}

type Found = { message: string }
const found = (message: string): Found[] => [{ message }]

function checkRule(notice: Notice, rule: Rule, questions: Questions): Found[] {
  const leaves = 'relaxations' in rule ? rule.relaxations.flatMap(r => conditionLeaves(r.when)) : rule.kind === 'when' ? conditionLeaves(rule.if) : []
  const faults: Found[] = leaves.flatMap(leaf => checkLeaf(notice, leaf, ''))
  if ('relaxations' in rule) faults.push(...checkRelaxations(rule, questions))
  switch (rule.kind) {
    case 'age': return [...faults, ...checkAge(rule)]
    case 'qualification': return [...faults, ...checkQualification(notice, rule, questions)]
    case 'subjects': return [...faults, ...checkSubjects(notice, rule, questions)]
    case 'oneOf': return [...faults, ...checkOneOf(rule, questions)]
    case 'number': return [...faults, ...checkNumber(rule, questions)]
    case 'experience': return [...faults, ...checkExperience(rule, questions)]
    case 'percentage': return compareFractions(parseDecimal(rule.min) ?? zero, hundred) > 0 ? [...faults, { message: `least percentage ${rule.min} is above 100` }] : faults
    default: return faults
  }
}

function checkRelaxations(rule: Extract<Rule, { relaxations: unknown }>, questions: Questions): Found[] {
  return rule.relaxations.flatMap(({ title, by }) => {
    if (typeof by !== 'string') return questions.get(by.answer)?.kind === 'number' ? [] : found(`relaxation "${title}" needs a number from question "${by.answer}", which gives none`)
    return rule.kind === 'age' && !/^\d{1,2}$/.test(by) ? found(`relaxation "${title}" is ${by}; years of age need a whole number below 100`) : []
  })
}

function checkAge(rule: Extract<Rule, { kind: 'age' }>): Found[] {
  if ((rule.minYears ?? 0) > (rule.maxYears ?? Infinity)) return found(`minimum ${rule.minYears} above maximum ${rule.maxYears}`)
  return (rule.bornNotBefore ?? '') > (rule.bornNotAfter ?? '9') ? found(`born not before ${rule.bornNotBefore} and not after ${rule.bornNotAfter} fits nobody`) : []
}

function checkQualification(notice: Notice, rule: Extract<Rule, { kind: 'qualification' }>, questions: Questions): Found[] {
  const rungs = [...(rule.oneOf ?? []), ...(rule.atLeast === undefined ? [] : [rule.atLeast])]
  const needs = [...(rule.disciplines ? ['discipline'] : []), ...(rule.awaitedUntil === undefined ? [] : ['resultAwaited', 'resultBy']), ...(rule.mostYearsSince === undefined ? [] : ['passedIn'])]
  return [
    ...rungs.filter(id => !notice.qualifications.some(q => q.id === id)).map(id => ({ message: `qualification "${id}" is not on the ladder` })),
    ...(rule.disciplines ?? []).filter(id => !notice.disciplines.some(d => d.id === id)).map(id => ({ message: `discipline "${id}" is not one of the notice's` })),
    ...needs.filter(id => !questions.has(id)).map(id => ({ message: `reads question "${id}", which does not exist` })),
  ]
}

function checkSubjects(notice: Notice, rule: Extract<Rule, { kind: 'subjects' }>, questions: Questions): Found[] {
  return [
    ...(questions.has('subjects') ? [] : found('reads question "subjects", which does not exist')),
    ...rule.wanted.flatMap(w => w.anyOf).filter(id => !notice.subjects.some(s => s.id === id)).map(id => ({ message: `subject "${id}" is not one of the notice's` })),
    ...((rule.atLeast ?? 0) > rule.wanted.length ? found(`wants ${rule.atLeast} of ${rule.wanted.length} subjects`) : []),
  ]
}

function checkOneOf(rule: Extract<Rule, { kind: 'oneOf' }>, questions: Questions): Found[] {
  const question = questions.get(rule.question)
  if (!question) return found(`refers to question "${rule.question}", which does not exist`)
  if (question.kind !== 'choice') return []
  return rule.values.filter(value => !question.options.some(o => o.id === value)).map(value => ({ message: `"${value}" is not an option of question "${rule.question}"` }))
}

function checkNumber(rule: Extract<Rule, { kind: 'number' }>, questions: Questions): Found[] {
  const question = questions.get(rule.question)
  if (!question) return found(`refers to question "${rule.question}", which does not exist`)
  if (question.kind !== 'number' && question.kind !== 'marks') return found(`question "${rule.question}" is of kind "${question.kind}" and gives no number`)
  const [min, max] = [parseDecimal(rule.min ?? ''), parseDecimal(rule.max ?? '')]
  return min && max && compareFractions(min, max) > 0 ? found(`minimum ${rule.min} above maximum ${rule.max}`) : []
}

function checkExperience(rule: Extract<Rule, { kind: 'experience' }>, questions: Questions): Found[] {
  const question = questions.get(rule.question)
  if (question?.kind !== 'table') return found(`question "${rule.question}" is no table of periods`)
  return [rule.from, rule.to].filter(id => !question.columns.some(c => c.id === id && c.kind === 'date')).map(id => ({ message: `table "${rule.question}" has no date "${id}"` }))
}

function checkFacts(questions: Questions, notice: Notice): NoticeFault[] {
  const faults: NoticeFault[] = []
  for (const [name, kind] of Object.entries(optionalFacts)) {
    const question = questions.get(name)
    if (question && question.kind !== kind) faults.push({ at: `sections.${name}`, message: `kind is "${question.kind}", must be "${kind}"` })
  }
  const sameOptions = (name: string, ids: readonly string[], of: string) => {
    const question = questions.get(name)
    if (question?.kind !== 'choice') return
    for (const { id } of question.options) if (!ids.includes(id)) faults.push({ at: `sections.${name}`, message: `option "${id}" is not one of ${of}` })
  }
  sameOptions('board', notice.boards.map(b => b.id), 'the notice\'s boards')
  sameOptions('discipline', notice.disciplines.map(d => d.id), 'the notice\'s disciplines')
  sameOptions('qualification', notice.qualifications.map(q => q.id), 'the rungs of the ladder')
  sameOptions('resultForm', resultForms, resultForms.join(', '))
  const table = questions.get('subjects')
  if (table?.kind === 'table') {
    const lacking = ['subject', 'obtained', 'total'].filter(id => !table.columns.some(c => c.id === id))
    for (const id of lacking) faults.push({ at: 'sections.subjects', message: `the table of subjects has no column "${id}"` })
  }
  return faults
}

function checkBoards(notice: Notice): NoticeFault[] {
  return notice.boards.flatMap(({ id, subjects }) => [...(subjects?.named ?? []), ...(subjects?.compulsory ?? []), ...(subjects?.excluded ?? [])]
    .filter(subject => !notice.subjects.some(s => s.id === subject))
    .map(subject => ({ at: `boards.${id}`, message: `subject "${subject}" is not one of the notice's` })))
}

function checkClaims(notice: Notice, questions: Questions): NoticeFault[] {
  return notice.claims.flatMap((claim) => {
    const at = `claims.${claim.id}`
    const changes = Object.entries(claim.ifFalse).flatMap(([id, value]) => {
      const question = questions.get(id)
      if (!question) return [{ at, message: `changes question "${id}", which does not exist` }]
      return question.kind === 'choice' && value !== '' && !question.options.some(o => o.id === value) ? [{ at, message: `"${value}" is not an option of question "${id}"` }] : []
    })
    return [...conditionLeaves(claim.when).flatMap(leaf => checkLeaf(notice, leaf, at)), ...changes]
  })
}

function checkLadder(notice: Notice): NoticeFault[] {
  return notice.qualifications.filter(q => q.equals !== undefined && !notice.qualifications.some(o => o.id === q.equals && o.equals === undefined))
    .map(q => ({ at: `qualifications.${q.id}`, message: `equals "${q.equals}", which is no rung of its own` }))
}
