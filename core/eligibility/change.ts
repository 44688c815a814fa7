import { liveAnswers, rowsAnswer, textAnswer, type Answer, type Answers, type Row } from '../application/answers'
import { addDays } from '../calendar/calendar-date'
import type { Finding } from '../finding/finding'
import {
  addFractions,
  compareFractions,
  floorOf,
  fraction,
  multiplyFractions,
  parseDecimal,
  spellExact,
  subtractFractions,
  zero,
  type Fraction,
} from '../marks/decimal'
import { resultForm } from '../marks/result'
import type { Notice, Post } from '../notice/schema'
import type { Rule } from '../notice/rules'
import { rulesWithin } from '../notice/rules-within'
import { evaluatePosts, type PostVerdict } from './evaluate'

/** One answer that, changed as told, would turn a refusal; `by` is how far it is away, in `unit`. */
export interface SmallestChange {
  post: string
  question: string
  answer: Answer
  by: string
  unit: string
}

/**
 * For a near miss, a post refused by one clause alone: the smallest change of a single answer that turns the verdict.
 * Null when several clauses refuse or no single answer would do. Every change given was tried on the engine itself.
 */
export function smallestChange(notice: Notice, answers: Answers, verdict: PostVerdict): SmallestChange | null {
  const failed = verdict.findings.filter(f => f.verdict === 'fail')
  const [finding] = failed
  const post = notice.posts.find(p => p.id === verdict.post)
  const clause = post?.clauses.find(c => c.code === finding?.origin?.rule)
  if (!post || !finding || !clause || failed.length !== 1) return null
  const live = liveAnswers(notice, answers).answers
  const tried = leavesOf(finding).flatMap(leaf => changesFor(notice, live, leaf, clause.rule))
  const found = tried.find(change => turns(notice, answers, post, clause.code, change))
  return found ? { post: post.id, ...found } : null
}

type Change = Omit<SmallestChange, 'post'>

/** The sheet with a change made. */
export function withChange(answers: Answers, change: Pick<SmallestChange, 'question' | 'answer'>): Answers {
  return { ...answers, [change.question]: change.answer }
}

// The clause passes for sure, and no other refuses in its place.
function turns(notice: Notice, answers: Answers, post: Post, clause: string, change: Change): boolean {
  const after = evaluatePosts(notice, withChange(answers, change)).find(v => v.post === post.id)
  return after !== undefined && after.verdict !== 'fail' && passesClause(after, clause)
}

function passesClause(verdict: PostVerdict, clause: string): boolean {
  return verdict.findings.some(f => f.origin?.rule === clause && f.verdict === 'pass')
}

// The findings of single rules that refuse, the one nearest to its bound first within each unit.
function leavesOf(finding: Finding): Finding[] {
  if (!finding.parts) return [finding]
  return finding.parts.filter(part => part.verdict === 'fail').flatMap(leavesOf).sort((a, b) =>
    Math.abs(Number(a.parameters.distance ?? Infinity)) - Math.abs(Number(b.parameters.distance ?? Infinity))
  )
}

function changesFor(notice: Notice, answers: Answers, finding: Finding, rule: Rule): Change[] {
  const { parameters } = finding
  const away = String(parameters.distance ?? '').replace(/^-/, '')
  switch (finding.code) {
    case 'eligibility.age': {
      const tooYoung = typeof parameters.latestBirth === 'string' && textAnswer(answers, 'bornOn') > parameters.latestBirth
      // Beyond a year nobody has missed by little, and no slip of a pen explains it.
      if (Number(away) > 366) return []
      return [{ question: 'bornOn', answer: String(tooYoung ? parameters.latestBirth : parameters.earliestBirth), by: away, unit: 'days' }]
    }
    case 'eligibility.percentage':
      return marksChanges(notice, answers, finding)
    case 'eligibility.qualification':
      return notice.qualifications.map(rung => ({ question: 'qualification', answer: rung.id, by: '1', unit: 'answer' }))
    case 'eligibility.discipline':
      return notice.disciplines.map(d => ({ question: 'discipline', answer: d.id, by: '1', unit: 'answer' }))
    case 'eligibility.oneOf':
      return oneOfValues(rule, String(parameters.questionId)).map(answer => ({
        question: String(parameters.questionId),
        answer,
        by: '1',
        unit: 'answer',
      }))
    case 'eligibility.recency':
      return [{ question: 'passedIn', answer: String(Number(parameters.year) - (finding.bound?.max ?? 0)), by: away, unit: 'years' }]
    case 'eligibility.number': {
      const { min, max } = finding.bound ?? {}
      const nearest = min !== undefined && (finding.value ?? 0) < min ? min : max
      const less = parseDecimal(String(parameters.less ?? '')) ?? zero
      const answer = parseDecimal(String(nearest)) ?? zero
      return [{
        question: String(parameters.questionId),
        answer: spellExact(addFractions(answer, less)),
        by: away,
        unit: String(parameters.unit),
      }]
    }
    case 'eligibility.day': {
      const nearest = parameters.early === 'true' ? parameters.notBefore : parameters.notAfter
      return Number(away) > 366 ? [] : [{ question: String(parameters.questionId), answer: String(nearest), by: away, unit: 'days' }]
    }
    case 'eligibility.experience':
      return experienceChange(answers, finding, rule, Number(away))
    default:
      return []
  }
}

function oneOfValues(rule: Rule, question: string): string[] {
  return rulesWithin(rule).flatMap(inner => inner.kind === 'oneOf' && inner.question === question ? inner.values : [])
}

/** One more period that ends the day before the first begins, as long as what is lacking. */
function experienceChange(answers: Answers, finding: Finding, rule: Rule, lacking: number): Change[] {
  const question = String(finding.parameters.questionId)
  const inner = rulesWithin(rule).find(r => r.kind === 'experience' && r.question === question)
  // Time before somebody qualified does not count: a longer past is no way out.
  if (inner?.kind !== 'experience' || inner.after !== undefined) return []
  const rows = rowsAnswer(answers, question)
  const first = rows.map(row => row[inner.from] ?? '').sort()[0]
  if (!first) return []
  const added: Row = {
    ...(inner.only && { [inner.only.column]: inner.only.values[0] ?? '' }),
    [inner.from]: addDays(first, -lacking),
    [inner.to]: addDays(first, -1),
  }
  return [{ question, answer: [...rows, added], by: String(lacking), unit: 'days' }]
}

/**
 * The fewest marks more, in steps as fine as the marks are stated: in total, in the one subject where fewest are needed,
 * in grade points, or on the equivalence certificate.
 */
function marksChanges(notice: Notice, answers: Answers, finding: Finding): Change[] {
  const passes = (change: Change) => {
    const verdict = evaluatePosts(notice, withChange(answers, change)).find(v => v.post === finding.about)
    return verdict !== undefined && passesClause(verdict, finding.origin?.rule ?? '')
  }
  const climb = (field: MarksField): Change[] => {
    const own = parseDecimal(field.text)
    if (!own) return []
    const fine = 10 ** (field.text.split('.')[1]?.length ?? 0)
    const made = (k: number): Change => ({
      ...field.change(spellExact(addFractions(own, fraction(k, fine)))),
      by: spellExact(fraction(k, fine)),
      unit: field.unit,
    })
    const room = subtractFractions(field.max, own)
    let [low, high] = [0, room.n > 0 ? floorOf(multiplyFractions(room, fraction(fine))) : 0]
    if (high < 1 || !passes(made(high))) return []
    // More marks never lower the percentage, so the least that passes is found by halving.
    while (high - low > 1) {
      const middle = Math.floor((low + high) / 2)
      if (passes(made(middle))) high = middle
      else low = middle
    }
    return [made(high)]
  }
  return marksFields(notice, answers).flatMap(climb).sort(compareBy)
}

function compareBy(a: Change, b: Change): number {
  const [one, other] = [parseDecimal(a.by), parseDecimal(b.by)]
  return one && other ? compareFractions(one, other) : 0
}

interface MarksField {
  text: string
  max: Fraction
  unit: string
  change: (value: string) => Pick<Change, 'question' | 'answer'>
}

/** The answers that hold marks, each with the most it may come to. */
function marksFields(notice: Notice, answers: Answers): MarksField[] {
  const single = (question: string, max: string | undefined, unit: string): MarksField[] => {
    const limit = parseDecimal(max ?? '')
    return limit ? [{ text: textAnswer(answers, question), max: limit, unit, change: answer => ({ question, answer }) }] : []
  }
  switch (resultForm(answers)) {
    case 'total':
      return single('marksObtained', textAnswer(answers, 'marksTotal'), 'marks')
    case 'certificate':
      return single('equivalentPercentage', '100', 'percent')
    case 'points':
      return single('gradePoint', notice.boards.find(b => b.id === textAnswer(answers, 'board'))?.points?.max, 'points')
    case 'subjects': {
      const rows = rowsAnswer(answers, 'subjects')
      return rows.flatMap((row, i): MarksField[] => {
        const max = parseDecimal(row.total ?? '')
        return max
          ? [{
            text: row.obtained ?? '',
            max,
            unit: 'marks',
            change: value => ({ question: 'subjects', answer: rows.map((r, k) => k === i ? { ...r, obtained: value } : r) }),
          }]
          : []
      })
    }
  }
}
