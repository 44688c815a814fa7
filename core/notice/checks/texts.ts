import { found, pointer, type NoticeFinding } from '../finding'
import type { Condition } from '../questions'
import { conditionLeaves } from '../conditions'
import type { Rule } from '../rules'
import { easingsOf, rulesWithin } from '../rules-within'
import type { Clause, Notice } from '../schema'
import { questionsOf, type Questions } from './conditions'

/**
 * The numbers that an officer wrote in a clause against those that its rule carries out: the printed notice and the computed one must not
 * part.
 */
export function textFindings(notice: Notice): NoticeFinding[] {
  const questions = questionsOf(notice)
  return notice.posts.flatMap((post, p) =>
    post.clauses.flatMap((clause, c) => clauseFindings(notice, questions, clause, pointer('posts', p, 'clauses', c)))
  )
}

function clauseFindings(notice: Notice, questions: Questions, clause: Clause, at: string): NoticeFinding[] {
  const written = numbersIn(clause.text)
  const [carried, mentioned] = [carriedBy(clause.rule), digitsIn([...new Set(mentionedBy(notice, questions, clause.rule))].join(' '))]
  const isSame = (wanted: Numeral) => (value: Numeral) => value.n === wanted.n
  const extra = written.filter(value =>
    !value.isWord && !carried.some(isSame(value)) && !carried.some(c => c.alike?.includes(value.n)) && !mentioned.some(isSame(value))
  )
  const silent = carried.filter(value => !value.isDate && !written.some(w => w.n === value.n || value.alike?.includes(w.n)))
  return [
    ...[...new Set(extra.map(value => value.n))].map(value => found('text.number', `${at}/text`, { value, clause: clause.clause })),
    // A text without any number is meant to say it otherwise.
    ...(written.length === 0
      ? []
      : [...new Set(silent.map(value => value.n))].map(value => found('text.silent', `${at}/text`, { value, clause: clause.clause }))),
  ]
}

/** A number of a text or a rule; `alike` are other ways of saying it; numbers of dates need not be said. */
interface Numeral {
  n: number
  isWord?: boolean
  isDate?: boolean
  alike?: number[]
}

const words = ['one', 'two', 'three', 'four', 'five', 'six', 'seven', 'eight', 'nine', 'ten', 'eleven', 'twelve', 'thirteen', 'fourteen',
  'fifteen', 'sixteen', 'seventeen', 'eighteen', 'nineteen', 'twenty']

const digitsIn = (text: string): Numeral[] =>
  [...text.matchAll(/\d+(?:[.,]\d+)?/g)].map(([number]) => ({ n: Number(number.replace(',', '.')) }))

function numbersIn(text: string): Numeral[] {
  const spelled = [...text.toLowerCase().matchAll(/\p{L}+/gu)].flatMap(([word]): Numeral[] =>
    words.includes(word) ? [{ n: words.indexOf(word) + 1, isWord: true }] : []
  )
  return [...digitsIn(text), ...spelled]
}

const dateNumbers = (dates: readonly (string | undefined)[]): Numeral[] =>
  dates.flatMap(date => date === undefined ? [] : date.split('-').map((part): Numeral => ({ n: Number(part), isDate: true })))
const given = (values: readonly (string | number | undefined)[]): Numeral[] =>
  values.flatMap(value => value === undefined ? [] : [{ n: Number(value) }])

function carriedBy(whole: Rule): Numeral[] {
  return rulesWithin(whole).flatMap((rule): Numeral[] => [
    ...numbersOf(rule),
    ...('relaxations' in rule
      ? [...given([rule.cap]),
        ...easingsOf(rule).flatMap(({ relaxation: { by } }) =>
          typeof by === 'string' ? easedBy(rule, Number(by)) : given([by.plus === 0 ? undefined : by.plus, by.atMost])
        )]
      : []),
  ])
}

/** What a relaxation gives, which may be said as the bound that it leads to: "5 % less" or "40 %". */
function easedBy(rule: Extract<Rule, { relaxations: unknown }>, by: number): Numeral[] {
  const [min, max] = rule.kind === 'age'
    ? [rule.minYears, rule.maxYears]
    : rule.kind === 'number'
    ? [rule.min, rule.max]
    : rule.kind === 'percentage'
    ? [rule.min, undefined]
    : [rule.minDays, undefined]
  return [{ n: by, alike: [...(min === undefined ? [] : [Number(min) - by]), ...(max === undefined ? [] : [Number(max) + by])] }]
}

function numbersOf(rule: Rule): Numeral[] {
  switch (rule.kind) {
    case 'age':
      return [...given([rule.minYears, rule.maxYears]), ...dateNumbers([rule.on, rule.bornNotBefore, rule.bornNotAfter])]
    case 'percentage':
      return given([rule.min])
    case 'qualification':
      return [...given([rule.mostYearsSince]), ...dateNumbers([rule.awaitedUntil])]
    case 'subjects':
      return given([rule.atLeast === undefined || rule.atLeast === 1 ? undefined : rule.atLeast, ...rule.wanted.map(w => w.min)])
    case 'number':
      return given([rule.min, rule.max])
    case 'day':
      return dateNumbers([rule.notBefore, rule.notAfter])
    case 'experience':
      return [{
        n: rule.minDays,
        alike: [...(rule.minDays % 365 < 2 ? [Math.floor(rule.minDays / 365)] : []),
          ...(rule.minDays % 30 === 0 ? [rule.minDays / 30] : [])],
      }, ...dateNumbers([rule.on])]
    default:
      return []
  }
}

/** Titles that a rule refers to: a number that stands in one, as in "Year 12", may stand in the text. */
function mentionedBy(notice: Notice, questions: Questions, whole: Rule): string[] {
  const titles = (condition: Condition | undefined) =>
    conditionLeaves(condition).flatMap((leaf) => {
      const question = questions.get(leaf.question)
      const options = question?.kind === 'choice' && 'in' in leaf
        ? question.options.filter(o => leaf.in.includes(o.id)).map(o => o.title)
        : []
      return [question?.label ?? '', ...options, ...('in' in leaf ? [] : [leaf.from ?? '', leaf.to ?? ''])]
    })
  return rulesWithin(whole).flatMap((rule) => {
    const own = rule.kind === 'qualification'
      ? notice.qualifications.map(q => q.title)
      : rule.kind === 'oneOf'
      ? titles({ question: rule.question, in: rule.values })
      : rule.kind === 'number'
      ? [questions.get(rule.question)?.label ?? '']
      : []
    const eased = easingsOf(rule).flatMap(({ relaxation }) => [relaxation.title, ...titles(relaxation.when)])
    return [...own, ...eased, ...(rule.kind === 'when' ? titles(rule.if) : []), ...(rule.kind === 'not' ? [rule.title] : [])]
  })
}
