import { spellBirthday, spellDate } from '../../calendar/zone'
import type { Relaxation, Rule, RuleOf } from '../../notice/rules'
import type { Notice } from '../../notice/schema'
import { conditionWords } from './conditions'

/** What a rule carries out, said from its data alone: to be laid beside what the notice's text says. */
export function ruleWords(notice: Notice, rule: Rule): string {
  switch (rule.kind) {
    case 'age':
      return `${ageWords(rule)}, on ${day(rule.on ?? notice.keyDates.ageOn)}${easings(notice, rule, 'years')}${
        easings(notice, { relaxations: rule.lowered ?? [], combine: 'largest' }, 'years', 'The least age is lowered by')
      }`
    case 'percentage':
      return `at least ${rule.min} % in ${
        rule.of ? `${rule.of.map(id => titles(notice.subjects, [id])).join(' and ')} together` : 'the qualifying examination'
      }${easings(notice, rule, '% less')}`
    case 'qualification':
      return qualificationWords(notice, rule)
    case 'subjects':
      return subjectsWords(notice, rule)
    case 'oneOf':
      return conditionWords(notice, { question: rule.question, in: rule.values })
    case 'number':
      return `${labelOf(notice, rule.question)}${rule.minus === undefined ? '' : ` less ${labelOf(notice, rule.minus)}`}: ${
        between(rule.min, rule.max)
      } ${rule.unit}${easings(notice, rule, rule.unit)}`
    case 'day':
      return `${labelOf(notice, rule.question)}: ${
        [rule.notBefore === undefined ? '' : `not before ${day(rule.notBefore)}`,
          rule.notAfter === undefined ? '' : `not after ${day(rule.notAfter)}`].filter(Boolean).join(' and ')
      }`
    case 'experience':
      return `at least ${rule.minDays} days in “${labelOf(notice, rule.question)}”${experienceLimits(notice, rule)} by ${
        day(rule.on ?? notice.keyDates.ageOn)
      }, overlapping days counted once${easings(notice, rule, 'days less')}`
    case 'all':
      return joined(notice, rule.rules, 'and')
    case 'any':
      return joined(notice, rule.rules, 'or')
    case 'not':
      return `not: ${inner(notice, rule.rule)}`
    case 'when':
      return `if ${conditionWords(notice, rule.if)}: ${inner(notice, rule.then)}${
        rule.otherwise ? `; otherwise: ${inner(notice, rule.otherwise)}` : ''
      }`
  }
}

function experienceLimits(notice: Notice, { question, only, after }: RuleOf<'experience'>): string {
  const found = notice.sections.flatMap(s => s.questions).find(q => q.id === question)
  const column = found?.kind === 'table' && only ? found.columns.find(c => c.id === only.column) : undefined
  const kinds = only
    ? only.values.map(value => column?.kind === 'choice' ? column.options.find(o => o.id === value)?.title ?? value : value).join(' or ')
    : ''
  return `${kinds === '' ? '' : `, only ${kinds},`}${after === undefined ? '' : ` after “${labelOf(notice, after)}”`}`
}

const labelOf = (notice: Notice, question: string): string =>
  notice.sections.flatMap(s => s.questions).find(q => q.id === question)?.label ?? question
const titles = (list: readonly { id: string, title: string }[], ids: readonly string[]): string =>
  ids.map(id => list.find(one => one.id === id)?.title ?? id).join(' or ')
const day = (date: string): string => date === '' ? '–' : spellDate(date)
const isGroup = (rule: Rule): boolean => rule.kind === 'all' || rule.kind === 'any' || rule.kind === 'when'
const inner = (notice: Notice, rule: Rule): string => isGroup(rule) ? `(${ruleWords(notice, rule)})` : ruleWords(notice, rule)
const joined = (notice: Notice, rules: readonly Rule[], by: string): string => rules.map(rule => inner(notice, rule)).join(`; ${by} `)

function between(min: string | number | undefined, max: string | number | undefined): string {
  if (min !== undefined && max !== undefined) return `from ${min} to ${max}`
  return min === undefined ? `at most ${max ?? '–'}` : `at least ${min}`
}

function ageWords({ minYears, maxYears, bornNotBefore, bornNotAfter }: RuleOf<'age'>): string {
  const born = [bornNotBefore === undefined ? '' : `not before ${spellBirthday(bornNotBefore)}`,
    bornNotAfter === undefined ? '' : `not after ${spellBirthday(bornNotAfter)}`].filter(Boolean).join(' and ')
  const years = minYears === undefined && maxYears === undefined ? '' : `${between(minYears, maxYears)} completed years of age`
  return [years, born === '' ? '' : `born ${born}`].filter(Boolean).join(', ')
}

function qualificationWords(
  notice: Notice,
  { atLeast, oneOf, disciplines, awaitedUntil, mostYearsSince }: RuleOf<'qualification'>,
): string {
  return [
    atLeast === undefined ? titles(notice.qualifications, oneOf ?? []) : `${titles(notice.qualifications, [atLeast])} or higher`,
    disciplines ? ` in ${titles(notice.disciplines, disciplines)}` : '',
    mostYearsSince === undefined ? '' : `, passed at most ${mostYearsSince} years before`,
    awaitedUntil === undefined ? '' : `, or a result that is awaited by ${day(awaitedUntil)}`,
  ].join('')
}

function subjectsWords(notice: Notice, { wanted, atLeast }: RuleOf<'subjects'>): string {
  const each = wanted.map(({ anyOf, min }) => `${titles(notice.subjects, anyOf)}${min === undefined ? '' : ` with at least ${min} %`}`)
  return `${atLeast === undefined || atLeast === wanted.length ? '' : `at least ${atLeast} of: `}${each.join('; ')}`
}

/** `: 3 years for Outer Isles (Category: Outer Isles), …; all together at most 8`. */
function easings(
  notice: Notice,
  rule: { relaxations: Relaxation[], combine: 'largest' | 'sum', cap?: string },
  unit: string,
  how = 'Eased by',
): string {
  if (rule.relaxations.length === 0) return ''
  const each = rule.relaxations.map(({ title, when, by }) => {
    const much = typeof by === 'string'
      ? by
      : `as many as “${labelOf(notice, by.answer)}” says${by.plus > 0 ? ` and ${by.plus} more` : ''}${
        by.atMost === undefined ? '' : `, at most ${by.atMost}`
      }`
    return `${much} ${unit} for ${title}${when ? ` (${conditionWords(notice, when)})` : ''}`
  })
  const several = rule.relaxations.length < 2 ? '' : rule.combine === 'sum' ? '; several add up' : '; of several the largest counts'
  return `. ${how} ${each.join(', ')}${several}${rule.cap === undefined ? '' : `, ${rule.cap} at most`}`
}
