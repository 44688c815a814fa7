import { compareFractions, fraction, parseDecimal, spellExact, subtractFractions, zero, type Fraction } from '../marks/decimal'
import type { Bound, Finding, Verdict } from '../finding/finding'
import type { Row } from '../application/answers'
import { subjectPercent, subjectsResult, type MarksGap } from '../marks/result'
import type { Board, RuleOf } from '../notice/rules'
import type { Facts } from './facts'
import { findingAt, missing, unreadable, type Check, type Place } from './place'
import { easing, type Eased } from './relaxation'

/** A norm as eased, with what the finding says of it. */
interface Norm {
  least: Fraction
  text: string
  bound: Bound
  possible: Fraction
}

/** The percentage of the qualifying examination against a norm that may be lower for some, exact or as rounded. */
export function percentageCheck(place: Place, rule: RuleOf<'percentage'>): Check {
  const base = parseDecimal(rule.min) ?? zero
  const eased = easing(rule)
  const compared = place.notice.percentageCompared
  const norms = new Map<Eased, Norm>()
  const normFor = (ease: Eased): Norm => {
    let norm = norms.get(ease)
    if (!norm) norms.set(ease, norm = normOf(base, ease))
    return norm
  }
  const { of } = rule
  const only = of?.map(id => place.notice.subjects.find(s => s.id === id)?.title ?? id).join(', ') ?? ''
  return (facts) => {
    if (of && facts.rows('subjects').length === 0) return missing(place, 'subjects', 'subjects', facts.live)
    const result = of ? subjectsResult(place.notice, facts.answers, of) : facts.result()
    if (!result.found) return marksGap(place, facts, result.gap)
    const ease = eased(facts.live)
    const norm = normFor(ease)
    const own = compared === 'exact' ? result.percent : fraction(result.hundredths, 100)
    const verdict: Verdict = compareFractions(own, norm.least) >= 0
      ? 'pass'
      : ease.maybe !== '' && compareFractions(own, norm.possible) >= 0
      ? 'unsure'
      : 'fail'
    const parameters: Record<string, string | number> = {
      hundredths: result.hundredths,
      exact: result.exact,
      norm: norm.text,
      base: rule.min,
      relaxation: ease.titles,
      // A pass that only the lower norm allows is said, since some notices fill those places last.
      band: verdict === 'pass' && norm.least !== base && compareFractions(own, base) < 0 ? 'lower' : 'normal',
      compared,
      distance: spellExact(subtractFractions(own, norm.least)),
      unit: 'percent',
    }
    if (verdict === 'unsure') Object.assign(parameters, { maybe: ease.maybe, questionId: ease.question })
    if (of) parameters.of = only
    const finding = findingAt(place, 'eligibility.percentage', verdict, parameters, result.hundredths / 100, 'percent', norm.bound)
    finding.working = result.working
    return finding
  }
}

function normOf(base: Fraction, ease: Eased): Norm {
  const lowered = (by: Fraction) => {
    const norm = by.n === 0 ? base : subtractFractions(base, by)
    return norm.n < 0 ? zero : norm
  }
  const least = lowered(ease.by)
  return { least, text: spellExact(least), bound: { min: Number(spellExact(least)) }, possible: lowered(ease.atMost) }
}

function marksGap(place: Place, facts: Facts, { question, fault, parameters }: MarksGap): Finding {
  return fault ? unreadable(place, 'marks', question, fault, parameters) : missing(place, 'marks', question, facts.live)
}

/** Wanted subjects among those stated, some with a least percentage of their own. */
export function subjectsCheck(place: Place, rule: RuleOf<'subjects'>): Check {
  const needed = rule.atLeast ?? rule.wanted.length
  const title = (id: string) => place.notice.subjects.find(s => s.id === id)?.title ?? id
  const names = rule.wanted.map(w => w.anyOf.map(title).join(' or ') + (w.min === undefined ? '' : ` from ${w.min} %`))
  const [wanted, bound] = [names.join(', '), { min: needed }]
  const least = rule.wanted.map(w => w.min === undefined ? null : parseDecimal(w.min))
  return (facts) => {
    const rows = facts.rows('subjects')
    if (rows.length === 0) return missing(place, 'subjects', 'subjects', facts.live)
    const board = place.notice.boards.find(b => b.id === facts.text('board'))
    const verdicts = rule.wanted.map(({ anyOf }, i) => bestOf(rows.map(row => rowVerdict(row, anyOf, least[i] ?? null, board))))
    const named = (verdict: Verdict) => names.filter((_, i) => verdicts[i] === verdict).join(', ')
    const count = verdicts.filter(verdict => verdict === 'pass').length
    const possible = verdicts.filter(verdict => verdict !== 'fail').length
    const parameters: Record<string, string | number> = { wanted, lacking: named('fail'), distance: count - needed, unit: 'subjects' }
    if (count >= needed) return findingAt(place, 'eligibility.subjects', 'pass', parameters, count, 'count', bound)
    if (possible >= needed) Object.assign(parameters, { open: named('unsure'), questionId: 'subjects' })
    return findingAt(place, 'eligibility.subjects', possible >= needed ? 'unsure' : 'fail', parameters, count, 'count', bound)
  }
}

const bestOf = (verdicts: readonly Verdict[]): Verdict =>
  verdicts.includes('pass') ? 'pass' : verdicts.includes('unsure') ? 'unsure' : 'fail'

/**
 * Whether one row is a wanted subject with the least that it needs. What is not told, or cannot be read, may yet be either: it never fails.
 */
function rowVerdict(row: Row, anyOf: readonly string[], least: Fraction | null, board: Board | undefined): Verdict {
  const subject = row.subject ?? ''
  if (subject === '') return Object.values(row).some(cell => cell !== '') ? 'unsure' : 'fail'
  if (!anyOf.includes(subject)) return 'fail'
  if (!least) return 'pass'
  const percent = subjectPercent(board, row)
  if (!percent) return 'unsure'
  return compareFractions(percent, least) >= 0 ? 'pass' : 'fail'
}
