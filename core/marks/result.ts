import { rowsAnswer, textAnswer, type Answers, type Row } from '../application/answers'
import type { WorkingLine } from '../finding/finding'
import type { Board, Notice } from '../notice/schema'
import {
  addFractions,
  compareFractions,
  divideFractions,
  hundred,
  multiplyFractions,
  parseDecimal,
  percentage,
  roundToHundredths,
  spellExact,
  spellHundredths,
  subtractFractions,
  zero,
  type Fraction,
} from './decimal'

/** Why no percentage can be found: the question that would settle it, and what is wrong with its answer, if anything. */
export interface MarksGap {
  question: string
  fault: MarksFault | null
  parameters: Record<string, string | number>
}
export type MarksFault =
  | 'unreadable'
  | 'above-total'
  | 'zero-total'
  | 'unknown-board'
  | 'unknown-grade'
  | 'no-grade-scale'
  | 'no-point-scale'
  | 'above-scale'
  | 'too-few-subjects'
  | 'subject-missing'
  | 'subject-twice'

export type MarksResult =
  /** `hundredths` and `exact` are the percentage as shown, half up, and in full. */
  | { found: true, percent: Fraction, hundredths: number, exact: string, working: WorkingLine[] }
  | { found: false, gap: MarksGap }

/** How a certificate may state its result; the options of the question `resultForm`. */
export const resultForms = ['total', 'subjects', 'points', 'certificate'] as const
export type ResultForm = typeof resultForms[number]

/** The form in which this sheet states its result. A notice without the question takes marks in total alone. */
export function resultForm(answers: Answers): ResultForm {
  return resultForms.find(form => form === textAnswer(answers, 'resultForm')) ?? 'total'
}

/**
 * The exact percentage of the qualifying examination: from marks in total, from marks or grades by subject under the
 * board's own rule, from grade points under its factor or scale, or as an equivalence certificate states it.
 */
export function qualifyingResult(notice: Notice, answers: Answers): MarksResult {
  switch (resultForm(answers)) {
    case 'total':
      return fromTotal(answers)
    case 'certificate':
      return fromCertificate(answers)
    case 'points':
      return withBoard(notice, answers, board => fromPoints(board, answers))
    case 'subjects':
      return withBoard(notice, answers, board => fromSubjects(board, rowsAnswer(answers, 'subjects')))
  }
}

/** The same of some subjects alone, each of which must be there, under the board's grades and points. */
export function subjectsResult(notice: Notice, answers: Answers, named: string[]): MarksResult {
  return withBoard(
    notice,
    answers,
    board => fromSubjects({ ...board, subjects: { named, compulsory: [], excluded: [] } }, rowsAnswer(answers, 'subjects')),
  )
}

const gap = (question: string, fault: MarksFault | null = null, parameters: MarksGap['parameters'] = {}): MarksResult => ({
  found: false,
  gap: { question, fault, parameters },
})
function found(percent: Fraction, working: WorkingLine[]): MarksResult {
  const [hundredths, exact] = [roundToHundredths(percent), spellExact(percent)]
  working.push({ code: 'percent', parameters: { exact, shown: spellHundredths(hundredths) } })
  return { found: true, percent, hundredths, exact, working }
}

function fromTotal(answers: Answers): MarksResult {
  const [obtainedText, totalText] = [textAnswer(answers, 'marksObtained'), textAnswer(answers, 'marksTotal')]
  if (obtainedText === '') return gap('marksObtained')
  if (totalText === '') return gap('marksTotal')
  const [obtained, total] = [parseDecimal(obtainedText), parseDecimal(totalText)]
  if (!obtained) return gap('marksObtained', 'unreadable', { value: obtainedText })
  if (!total) return gap('marksTotal', 'unreadable', { value: totalText })
  if (total.n === 0) return gap('marksTotal', 'zero-total', { value: totalText })
  const percent = percentage(obtained, total)
  if (!percent) return gap('marksObtained', 'above-total', { value: obtainedText, bound: totalText })
  return found(percent, [{ code: 'total', parameters: { obtained: obtainedText, total: totalText } }])
}

function fromCertificate(answers: Answers): MarksResult {
  const text = textAnswer(answers, 'equivalentPercentage')
  if (text === '') return gap('equivalentPercentage')
  const percent = parseDecimal(text)
  if (!percent) return gap('equivalentPercentage', 'unreadable', { value: text })
  if (compareFractions(percent, hundred) > 0) return gap('equivalentPercentage', 'above-total', { value: text, bound: '100' })
  return found(percent, [{ code: 'certificate', parameters: { percent: text } }])
}

function withBoard(notice: Notice, answers: Answers, work: (board: Board) => MarksResult): MarksResult {
  const id = textAnswer(answers, 'board')
  if (id === '') return gap('board')
  const board = notice.boards.find(b => b.id === id)
  return board ? work(board) : gap('board', 'unknown-board', { value: id })
}

function fromPoints(board: Board, answers: Answers): MarksResult {
  const text = textAnswer(answers, 'gradePoint')
  if (text === '') return gap('gradePoint')
  const points = parseDecimal(text)
  if (!points) return gap('gradePoint', 'unreadable', { value: text })
  if (!board.points) return gap('gradePoint', 'no-point-scale', { board: board.title })
  const percent = percentOfPoints(points, board.points)
  if (!percent) return gap('gradePoint', 'above-scale', { value: text, bound: board.points.max })
  return found(percent, [pointsLine(text, board.points)])
}

// The board's own factor wins over the plain share of the scale. Common practice, no source.
function percentOfPoints(points: Fraction, scale: NonNullable<Board['points']>): Fraction | null {
  const max = parseDecimal(scale.max)
  if (!max || max.n === 0 || compareFractions(points, max) > 0) return null
  const factor = scale.factor === undefined ? null : parseDecimal(scale.factor)
  const percent = factor ? multiplyFractions(points, factor) : percentage(points, max)
  return percent && compareFractions(percent, hundred) <= 0 ? percent : null
}

function pointsLine(points: string, scale: NonNullable<Board['points']>): WorkingLine {
  return scale.factor === undefined
    ? { code: 'points', parameters: { points, max: scale.max } }
    : { code: 'pointsByFactor', parameters: { points, factor: scale.factor } }
}

/** One subject as counted: its share is `obtained / total`. */
interface Subject {
  id: string
  obtained: Fraction
  total: Fraction
  shown: { obtained: string, total: string }
}

function fromSubjects(board: Board, rows: Row[]): MarksResult {
  if (rows.length === 0) return gap('subjects')
  const subjects: Subject[] = []
  for (const row of rows) {
    const subject = readSubject(board, row)
    if ('fault' in subject) return { found: false, gap: subject }
    if (subjects.some(s => s.id === subject.id)) return gap('subjects', 'subject-twice', { subject: subject.id })
    subjects.push(subject)
  }
  const minimum = board.subjects?.minimum
  if (minimum !== undefined && subjects.length < minimum) {
    return gap('subjects', 'too-few-subjects', { value: subjects.length, bound: minimum })
  }
  const chosen = countedSubjects(board, subjects)
  return 'fault' in chosen ? { found: false, gap: chosen } : sumUp(subjects, chosen)
}

const subjectGap = (subject: string, fault: MarksFault | null, parameters: MarksGap['parameters'] = {}): MarksGap => ({
  question: 'subjects',
  fault,
  parameters: { subject, ...parameters },
})

/** The subject of one row, or what keeps it from being read. The best of marks and grade is not picked: marks go first. */
function readSubject(board: Board | undefined, row: Row): Subject | MarksGap {
  const id = row.subject ?? ''
  const obtained = row.obtained ?? ''
  const total = row.total ?? ''
  const grade = row.grade ?? ''
  if (id === '') return subjectGap(id, null)
  if (obtained === '' && grade !== '') return board ? readGrade(board, id, grade) : subjectGap(id, null)
  if (obtained === '' || total === '') return subjectGap(id, null)
  const got = parseDecimal(obtained)
  const of = parseDecimal(total)
  if (!got || !of) return subjectGap(id, 'unreadable', { value: got ? total : obtained })
  if (of.n === 0) return subjectGap(id, 'zero-total', { value: total })
  if (compareFractions(got, of) > 0) return subjectGap(id, 'above-total', { value: obtained, bound: total })
  return { id, obtained: got, total: of, shown: { obtained, total } }
}

/**
 * The percentage of one subject, from its marks or its grade under the board's scale; null when it is not told or cannot be read. A grade
 * needs the board.
 */
export function subjectPercent(board: Board | undefined, row: Row): Fraction | null {
  const subject = readSubject(board, row)
  return 'fault' in subject ? null : percentage(subject.obtained, subject.total)
}

function readGrade(board: Board, id: string, grade: string): Subject | MarksGap {
  if (!board.grades) return subjectGap(id, 'no-grade-scale', { value: grade, board: board.title })
  const step = board.grades.find(g => g.grade.toUpperCase() === grade.trim().toUpperCase())
  if (!step) return subjectGap(id, 'unknown-grade', { value: grade, board: board.title })
  const points = step.points === undefined ? null : parseDecimal(step.points)
  const percent = points && board.points ? percentOfPoints(points, board.points) : parseDecimal(step.percent ?? '')
  if (!percent) return subjectGap(id, 'above-scale', { value: grade, bound: board.points?.max ?? '100' })
  return { id, obtained: percent, total: hundred, shown: { obtained: `${spellExact(percent)} (${step.grade})`, total: '100' } }
}

function countedSubjects(board: Board, subjects: Subject[]): Subject[] | MarksGap {
  const rule = board.subjects
  if (!rule) return subjects
  const lacking = (id: string): MarksGap => ({ question: 'subjects', fault: 'subject-missing', parameters: { subject: id } })
  const wanted = rule.named ?? rule.compulsory
  const absent = wanted.find(id => !subjects.some(s => s.id === id))
  if (absent !== undefined) return lacking(absent)
  if (rule.named) return subjects.filter(s => rule.named?.includes(s.id))
  const open = subjects.filter(s => !rule.excluded.includes(s.id) || rule.compulsory.includes(s.id))
  if (rule.best === undefined) return open.length > 0 ? open : lacking('')
  if (open.length < rule.best) {
    return { question: 'subjects', fault: 'too-few-subjects', parameters: { value: open.length, bound: rule.best } }
  }
  return bestOf(open, rule.compulsory, rule.best)
}

/**
 * The `n` subjects, compulsory ones among them, with the highest percentage together. Totals may differ from subject to
 * subject, so the best alone by share are not always the best together; Dinkelbach's method for fractional programmes
 * (Management Science 13, 1967) finds them exactly, and so a better mark can never lower the result.
 */
function bestOf(subjects: Subject[], compulsory: string[], n: number): Subject[] {
  const [first] = subjects
  const alike = first !== undefined && subjects.every(s => s.total.n === first.total.n && s.total.d === first.total.d)
  const fixed = subjects.filter(s => compulsory.includes(s.id))
  const free = subjects.filter(s => !compulsory.includes(s.id)).sort((a, b) => a.id < b.id ? -1 : 1)
  const pick = (share: Fraction) => {
    const gain = (s: Subject) => subtractFractions(s.obtained, multiplyFractions(s.total, share))
    const ranked = free.map(subject => ({ subject, gain: gain(subject) })).sort((a, b) => compareFractions(b.gain, a.gain))
    return [...fixed, ...ranked.slice(0, n - fixed.length).map(r => r.subject)]
  }
  let best = pick(zero)
  // Where every total is the same, the best by marks are the best by share.
  if (alike) return best
  for (;;) {
    const next = pick(shareOf(best))
    if (compareFractions(shareOf(next), shareOf(best)) <= 0) return best
    best = next
  }
}

const sumOf = (subjects: Subject[], of: (s: Subject) => Fraction): Fraction => subjects.map(of).reduce(addFractions, zero)

function shareOf(subjects: Subject[]): Fraction {
  const [obtained, total] = [sumOf(subjects, s => s.obtained), sumOf(subjects, s => s.total)]
  return divideFractions(obtained, total)
}

const percentOf = (subjects: Subject[]): Fraction => multiplyFractions(shareOf(subjects), hundred)

function sumUp(subjects: Subject[], counted: Subject[]): MarksResult {
  const lines = subjects.map((s): WorkingLine => ({
    code: counted.includes(s) ? 'subject' : 'subjectLeftOut',
    parameters: {
      subject: s.id,
      obtained: s.shown.obtained,
      total: s.shown.total,
      percent: spellHundredths(roundToHundredths(percentage(s.obtained, s.total) ?? zero)),
    },
  }))
  const [obtained, total] = [sumOf(counted, s => s.obtained), sumOf(counted, s => s.total)]
  lines.push({ code: 'sum', parameters: { subjects: counted.length, obtained: spellExact(obtained), total: spellExact(total) } })
  return found(percentOf(counted), lines)
}
