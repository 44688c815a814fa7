import { addYears, ageOn, type Age } from '../calendar/calendar-date'
import { compareFractions, marksNeeded, parseDecimal, percentage, roundToHundredths, type Fraction } from '../marks/decimal'
import { worstVerdict, type Finding, type Verdict } from '../finding/finding'
import { conditionHolds, liveSheet, textAnswer, type Answers } from '../application/answers'
import type { Clause, Condition, Notice, Post } from '../notice/schema'

/** The verdict on one post: its worst clause, with a finding per clause. */
export interface PostVerdict { post: string, title: string, verdict: Verdict, findings: Finding[] }

/**
 * Every post of the notice judged on the facts of one sheet, asked for or not, so that a refusal can say what else is
 * open. Total: a missing fact gives `unsure` naming the question that would settle it, never a pass and never a throw.
 */
export function evaluatePosts(notice: Notice, sheet: Answers): PostVerdict[] {
  const { answers } = liveSheet(notice, sheet)
  return notice.posts.map(post => evaluatePost(notice, post, answers))
}

function evaluatePost(notice: Notice, post: Post, answers: Answers): PostVerdict {
  const findings = post.clauses.map(clause => evaluateClause(notice, post, clause, answers))
  return { post: post.id, title: post.title, verdict: worstVerdict(findings.map(f => f.verdict)), findings }
}

function evaluateClause(notice: Notice, post: Post, clause: Clause, answers: Answers): Finding {
  switch (clause.kind) {
    case 'age': return ageFinding(notice, post, clause, answers)
    case 'percentage': return percentageFinding(notice, post, clause, answers)
    case 'qualification': return qualificationFinding(notice, post, clause, answers)
  }
}

/** The part of a relaxation that applies: `maybe` lists those that hang on an answer not given yet. */
interface Relaxed<T> { by: T, title: string }
function relaxationsThatHold<T>(list: { title: string, when: Condition, by: T }[], answers: Answers): { held: Relaxed<T>[], maybe: Relaxed<T>[] } {
  const state = list.map(r => ({ r, holds: conditionHolds(r.when, answers) }))
  return { held: state.filter(s => s.holds === true).map(s => s.r), maybe: state.filter(s => s.holds === null).map(s => s.r) }
}

function combined(values: number[], how: 'largest' | 'sum'): number {
  return how === 'sum' ? values.reduce((a, b) => a + b, 0) : Math.max(0, ...values)
}

function finding(code: string, post: Post, clause: Clause, rest: Omit<Finding, 'code' | 'about'>): Finding {
  return { code, about: post.id, ...rest, parameters: { post: post.title, clause: clause.clause, ...rest.parameters } }
}

function missing(post: Post, clause: Clause, question: string): Finding {
  return finding('eligibility.missing', post, clause, {
    verdict: 'unsure', value: null, unit: 'none', bound: null, parameters: { question, kind: clause.kind },
  })
}

function ageFinding(notice: Notice, post: Post, clause: Extract<Clause, { kind: 'age' }>, answers: Answers): Finding {
  const born = textAnswer(answers, 'bornOn')
  const on = notice.keyDates.ageOn
  const age = ageOn(born, on, notice.leapDayBirthday)
  if (!age) return missing(post, clause, 'bornOn')
  const { held, maybe } = relaxationsThatHold(clause.relaxations, answers)
  const extra = combined(held.map(r => r.by), clause.combine)
  const possible = combined([...held, ...maybe].map(r => r.by), clause.combine)
  const verdict = ageVerdict(age, clause.minYears ?? 0, clause.maxYears + extra, clause.maxYears + possible)
  return finding('eligibility.age', post, clause, {
    verdict, value: age.years, unit: 'years', bound: { min: clause.minYears, max: clause.maxYears + extra },
    parameters: {
      years: age.years, months: age.months, days: age.days, on, minYears: clause.minYears ?? null, maxYears: clause.maxYears, extra,
      relaxation: held.map(r => r.title).join(' and '), maybe: verdict === 'unsure' ? maybe.map(r => r.title).join(' or ') : '',
      latestBirth: clause.minYears === undefined ? null : addYears(on, -clause.minYears, notice.leapDayBirthday),
      earliestBirth: addYears(on, -(clause.maxYears + extra), notice.leapDayBirthday),
    },
  })
}

// "Not above 24" allows the 24th birthday on the date itself and no day more: both ends are inclusive.
function ageVerdict(age: Age, min: number, max: number, possibleMax: number): Verdict {
  const exceeds = (limit: number) => age.years > limit || (age.years === limit && (age.months > 0 || age.days > 0))
  if (age.years < min) return 'fail'
  if (!exceeds(max)) return 'pass'
  return exceeds(possibleMax) ? 'fail' : 'unsure'
}

function percentageFinding(notice: Notice, post: Post, clause: Extract<Clause, { kind: 'percentage' }>, answers: Answers): Finding {
  const obtained = parseDecimal(textAnswer(answers, 'marksObtained'))
  const total = parseDecimal(textAnswer(answers, 'marksTotal'))
  const own = obtained && total ? percentage(obtained, total) : null
  if (!own || !total) return missing(post, clause, obtained ? 'marksTotal' : 'marksObtained')
  const { held, maybe } = relaxationsThatHold(clause.relaxations, answers)
  const off = (list: Relaxed<string>[]) => combined(list.map(r => hundredthsOf(r.by)), clause.combine)
  const norm = hundredthsOf(clause.min) - off(held)
  const lowest = hundredthsOf(clause.min) - off([...held, ...maybe])
  const reaches = (limit: number) => compareFractions(compared(own, notice), { n: BigInt(limit), d: 100n }) >= 0
  const verdict: Verdict = reaches(norm) ? 'pass' : reaches(lowest) ? 'unsure' : 'fail'
  return finding('eligibility.percentage', post, clause, {
    verdict, value: roundToHundredths(own) / 100, unit: 'percent', bound: { min: norm / 100 },
    parameters: {
      obtained: textAnswer(answers, 'marksObtained'), total: textAnswer(answers, 'marksTotal'), hundredths: roundToHundredths(own),
      norm, base: hundredthsOf(clause.min), relaxation: held.map(r => r.title).join(' and '),
      maybe: verdict === 'unsure' ? maybe.map(r => r.title).join(' or ') : '', compared: notice.percentageCompared,
      needed: marksNeeded({ n: BigInt(Math.max(0, norm)), d: 100n }, total),
    },
  })
}

function hundredthsOf(decimal: string): number {
  const value = parseDecimal(decimal)
  return value ? roundToHundredths(value) : 0
}

function compared(own: Fraction, notice: Notice): Fraction {
  return notice.percentageCompared === 'exact' ? own : { n: BigInt(roundToHundredths(own)), d: 100n }
}

function qualificationFinding(notice: Notice, post: Post, clause: Extract<Clause, { kind: 'qualification' }>, answers: Answers): Finding {
  const ladder = notice.qualifications
  const ownRank = ladder.findIndex(q => q.id === textAnswer(answers, 'qualification'))
  const wantedRank = ladder.findIndex(q => q.id === clause.atLeast)
  if (ownRank < 0) return missing(post, clause, 'qualification')
  return finding('eligibility.qualification', post, clause, {
    verdict: ownRank >= wantedRank ? 'pass' : 'fail', value: ownRank + 1, unit: 'level', bound: { min: wantedRank + 1 },
    parameters: { own: ladder[ownRank]?.title ?? '', wanted: ladder[wantedRank]?.title ?? '' },
  })
}
