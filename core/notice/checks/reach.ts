import { liveAnswers, type Answer, type Answers } from '../../application/answers'
import { addDays, dayNumber, firstOfMonth, parseCalendarDate, type CalendarDate } from '../../calendar/calendar-date'
import { questionsRead } from '../../eligibility/dependence'
import { checksOf } from '../../eligibility/evaluate'
import { Facts } from '../../eligibility/facts'
import type { Check } from '../../eligibility/place'
import type { Finding } from '../../finding/finding'
import { found, pointer, type NoticeFinding } from '../finding'
import type { Question } from '../questions'
import { conditionLeaves } from '../conditions'
import type { Rule } from '../rules'
import { easingsOf, rulesWithin } from '../rules-within'
import type { Notice, Post } from '../schema'

/** Steps after which the search for somebody ends without a result. */
const mostSteps = 4000

/** Posts that nobody can enter, with the clauses that keep everybody out. */
export function reachFindings(notice: Notice): NoticeFinding[] {
  return notice.posts.flatMap((post, p) => {
    const person = examplePerson(notice, post)
    if (person) return []
    const alone = post.clauses.flatMap((clause, c) =>
      examplePerson(notice, { ...post, clauses: [clause] }) === null ? [{ clause, at: pointer('posts', p, 'clauses', c) }] : []
    )
    if (alone.length > 0) {
      return alone.map(({ clause, at }) => found('post.nobody', at, { post: post.title, clause: clause.clause, several: 'no' }))
    }
    if (person === undefined) return [found('post.unseen', pointer('posts', p), { post: post.title })]
    return [
      found('post.nobody', pointer('posts', p), { post: post.title, clause: post.clauses.map(c => c.clause).join(', '), several: 'yes' }),
    ]
  })
}

/**
 * Somebody who may enter a post: answers to what its rules read. The engine itself is asked after each answer; what it cannot decide names
 * the question that would settle it, and that one is answered next, the most favourable answer first.
 *
 * @returns null when every answer that the rules can tell apart was tried in vain; undefined when the search was given up.
 */
export function examplePerson(notice: Notice, post: Post): Answers | null | undefined {
  let known = examples.get(notice)
  if (!known) examples.set(notice, known = { of: new WeakMap(), people: [] })
  const before = known.of.get(post)
  if (before) return before.person
  // Posts of one notice are alike: whoever may enter one often may enter the next.
  const person = known.people.find(one => mayEnter(notice, post, one)) ?? searchPerson(notice, post)
  known.of.set(post, { person })
  if (person && !known.people.includes(person)) known.people.unshift(person)
  return person
}

// A notice is looked at by its check and then shown: nobody is looked for twice.
const examples = new WeakMap<Notice, { of: WeakMap<Post, { person: Answers | null | undefined }>, people: Answers[] }>()

function mayEnter(notice: Notice, post: Post, person: Answers): boolean {
  const facts = new Facts(notice, liveAnswers(notice, person))
  return checksOf(notice, post).every(check => check(facts).verdict === 'pass')
}

function searchPerson(notice: Notice, post: Post): Answers | null | undefined {
  const answersOf = domains(notice, post)
  const read = questionsRead(notice, post)
  let steps = 0
  let isSure = true
  // A clause that passes on what is known passes whatever else is answered: only the others are asked again.
  const search = (sheet: Answers, clauses: readonly Check[]): Answers | null => {
    steps += 1
    const facts = new Facts(notice, liveAnswers(notice, sheet))
    const open: Check[] = []
    const unsure: Finding[] = []
    let next: string | undefined
    for (const clause of clauses) {
      const finding = clause(facts)
      if (finding.verdict === 'fail') return null
      if (finding.verdict === 'pass') continue
      open.push(clause)
      unsure.push(finding)
      next ??= openQuestions([finding]).find(id => !(id in sheet))
    }
    if (open.length === 0) return sheet
    next ??= read.find(id => !(id in sheet))
    if (next === undefined) {
      // All is answered, and what is missing is not asked of this person: it stays so. Anything else may be ours, having found no better
      // answer.
      if (!leavesOf(unsure).every(({ code }) => code === 'eligibility.missing')) isSure = false
      return null
    }
    // What is not asked of this person has one answer: none.
    for (const answer of facts.live.closed.has(next) ? [''] : answersOf(next)) {
      if (steps >= mostSteps) {
        isSure = false
        return null
      }
      const person = search({ ...sheet, [next]: answer }, open)
      if (person) return person
    }
    return null
  }
  return search({}, checksOf(notice, post)) ?? (isSure ? null : undefined)
}

/** The findings of single rules that cannot be decided. */
const leavesOf = (findings: readonly Finding[]): Finding[] =>
  findings.filter(f => f.verdict === 'unsure').flatMap(f => f.parts ? leavesOf(f.parts) : [f])

const openQuestions = (findings: readonly Finding[]): string[] =>
  leavesOf(findings).flatMap(({ parameters }) => typeof parameters.questionId === 'string' ? [parameters.questionId] : [])

/**
 * The answers to a question that rules and conditions of a post can tell apart. Days of birth are many and mostly not needed: they are made
 * as they are asked for.
 */
function domains(notice: Notice, post: Post): (question: string) => Iterable<Answer> {
  const questions = new Map(notice.sections.flatMap(s => s.questions).map(q => [q.id, q]))
  const rules = post.clauses.flatMap(clause => rulesWithin(clause.rule))
  return (id) => {
    const question = questions.get(id)
    return question ? answersTo(question, notice, rules) : []
  }
}

function answersTo(question: Question, notice: Notice, rules: readonly Rule[]): Iterable<Answer> {
  switch (question.kind) {
    case 'choice':
      return favoured(
        question.options.map(o => o.id),
        rules.flatMap(r =>
          r.kind === 'oneOf' && r.question === question.id
            ? r.values
            : r.kind === 'qualification' && question.id === 'qualification'
            ? [...r.oneOf ?? [], r.atLeast ?? '']
            : r.kind === 'qualification' && question.id === 'discipline'
            ? r.disciplines ?? []
            : []
        ),
      )
    case 'number':
      return question.id === 'passedIn' ? years(question, notice) : numbers(question, notice, rules)
    case 'marks':
      return marks(question.id, notice, rules)
    case 'date':
      return question.id === 'bornOn'
        ? birthdays(notice, rules)
        : dates(question.id, rules, notice).map(day => question.monthOnly ? firstOfMonth(day) : day)
    case 'table':
      return tables(question, notice, rules)
    case 'posts':
      return [notice.posts.map(p => p.id)]
    case 'cities':
      return [notice.cities.slice(0, question.max).map(c => c.id)]
    case 'name':
      return ['Example Person']
    default:
      return [...new Set([...named(question.id, notice), '1'])]
  }
}

const favoured = (
  all: readonly string[],
  first: readonly string[],
): string[] => [...new Set([...first.filter(one => all.includes(one)), ...all])]

const named = (question: string, notice: Notice): string[] =>
  notice.sections.flatMap(s => s.questions).flatMap(q => conditionLeaves(q.when)).flatMap(leaf =>
    leaf.question === question && 'in' in leaf ? leaf.in : []
  )

/** Bounds that rules and conditions set to a question, as they were written. */
function boundsOf(id: string, notice: Notice, rules: readonly Rule[]): number[] {
  return [...rules.flatMap(r => r.kind === 'number' && r.question === id ? [r.min, r.max] : []), ...comparedWith(id, notice, rules)]
    .flatMap(text => text === undefined ? [] : [Number(text)])
}

function comparedWith(id: string, notice: Notice, rules: readonly Rule[]): string[] {
  const conditions = [...notice.sections.flatMap(s => s.questions).map(q => q.when),
    ...rules.flatMap(r => r.kind === 'when' ? [r.if] : easingsOf(r).map(({ relaxation }) => relaxation.when))]
  return conditions.flatMap(conditionLeaves).flatMap(leaf => leaf.question !== id || 'in' in leaf ? [] : [leaf.from, leaf.to]).filter(
    text => text !== undefined
  )
}

/** Every whole number while they are few; else the ends, and bounds with what lies around them, eased or not. */
function numbers({ id, min, max }: Extract<Question, { kind: 'number' }>, notice: Notice, rules: readonly Rule[]): string[] {
  if (max - min <= 200) return Array.from({ length: max - min + 1 }, (_, i) => String(min + i))
  const eased = [1, ...rules.flatMap(easingsOf).flatMap(({ relaxation: { by } }) => typeof by === 'string' ? [Number(by)] : [])]
  // What is taken off may be as little as may be answered.
  const differences = rules.flatMap(r =>
    r.kind === 'number' && r.minus !== undefined && r.question === id
      ? [r.min, r.max].flatMap(bound => bound === undefined ? [] : [Math.ceil(min + Number(bound))])
      : []
  )
  const around = boundsOf(id, notice, rules).flatMap(
    bound => [Math.floor(bound), Math.ceil(bound), ...eased.flatMap(by => [Math.ceil(bound - by), Math.floor(bound + by)])]
  )
  return [...new Set([...around, ...differences, ...named(id, notice).map(Number), min, max])].filter(n =>
    Number.isInteger(n) && n >= min && n <= max
  ).map(String)
}

function years({ min, max }: Extract<Question, { kind: 'number' }>, notice: Notice): string[] {
  const now = Number(notice.keyDates.ageOn.slice(0, 4))
  return Array.from({ length: Math.min(100, max - min + 1) }, (_, i) => Math.min(max, now) - i).filter(year => year >= min).map(String)
}

function marks(id: string, notice: Notice, rules: readonly Rule[]): string[] {
  if (id === 'marksTotal') return ['100']
  const most = id === 'gradePoint' ? notice.boards.flatMap(b => b.points ? [b.points.max] : []) : ['100']
  return [...new Set([...most, ...boundsOf(id, notice, rules).map(String), '0'])]
}

/** The days on either side of every bound, eased or not, and of each birthday, young grown-ups first. */
function* birthdays(notice: Notice, rules: readonly Rule[]): Iterable<CalendarDate> {
  const ages = rules.flatMap(rule => rule.kind === 'age' ? [rule] : [])
  const latest = dayNumber(notice.keyDates.ageOn)
  for (const bound of ages.flatMap(({ bornNotBefore, bornNotAfter }) => [bornNotBefore, bornNotAfter])) if (bound !== undefined) yield bound
  const ons = [...new Set(ages.map(rule => rule.on ?? notice.keyDates.ageOn))]
  for (const on of ons) {
    for (
      const age of [...Array.from({ length: 53 }, (_, i) => i + 18), ...Array.from({ length: 18 }, (_, i) => 17 - i),
        ...Array.from({ length: 50 }, (_, i) => i + 71)]
    ) {
      // Born on the very day of the bound, one completes exactly so many years on it; a day earlier, the year before ends.
      const born = yearsBefore(on, age)
      for (const date of [addDays(born, -1), born, addDays(born, 1)]) if (dayNumber(date) < latest) yield date
    }
  }
}

// 29 February has no day of its own in most years: the day before stands in for it.
const yearsBefore = (on: CalendarDate, years: number): CalendarDate =>
  `${String(Number(on.slice(0, 4)) - years).padStart(4, '0')}${on.slice(4) === '-02-29' ? '-02-28' : on.slice(4)}`

function dates(id: string, rules: readonly Rule[], notice: Notice): CalendarDate[] {
  const until = rules.flatMap(r => r.kind === 'qualification' && id === 'resultBy' && r.awaitedUntil !== undefined ? [r.awaitedUntil] : [])
  const within = rules.flatMap(r => r.kind === 'day' && r.question === id ? [r.notBefore, r.notAfter] : [])
  // Long enough ago for all the work that is wanted after it.
  const before = rules.flatMap(r =>
    r.kind === 'experience' && r.after === id ? [addDays(r.on ?? notice.keyDates.ageOn, -r.minDays - 1)] : []
  )
  const compared = comparedWith(id, notice, rules).flatMap(day =>
    parseCalendarDate(day) === null ? [] : [addDays(day, -1), day, addDays(day, 1)]
  )
  return [...new Set([...until, ...within.filter(day => day !== undefined), ...before, ...compared, notice.keyDates.ageOn])]
}

/** All subjects with full marks; or one period that is long enough for every rule, and none at all. */
function tables({ id, columns, maxRows }: Extract<Question, { kind: 'table' }>, notice: Notice, rules: readonly Rule[]): Answer[] {
  if (id === 'subjects') {
    const wanted = rules.flatMap(r => r.kind === 'subjects' ? r.wanted.flatMap(w => w.anyOf) : [])
    const board = notice.boards.flatMap(b => [...b.subjects?.compulsory ?? [], ...b.subjects?.named ?? []])
    const all = favoured(notice.subjects.map(s => s.id), [...wanted, ...board]).slice(0, maxRows)
    return [all.map(subject => ({ subject, obtained: '100', total: '100' }))]
  }
  const rule = rules.find(r => r.kind === 'experience' && r.question === id)
  if (rule?.kind !== 'experience') return [[]]
  const days = Math.max(...rules.flatMap(r => r.kind === 'experience' && r.question === id ? [r.minDays] : [0]))
  const on = rule.on ?? notice.keyDates.ageOn
  const row = Object.fromEntries(columns.map(c => [c.id, c.id === rule.from
    ? addDays(on, -days)
    : c.id === rule.to
    ? on
    : c.id === rule.only?.column
    ? rule.only.values[0] ?? ''
    : c.kind === 'choice'
    ? c.options[0]?.id ?? ''
    : '1']
  ))
  return [[row], []]
}
