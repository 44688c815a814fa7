import { listAnswer, textAnswer } from '../application/answers'
import { sheetFaults } from '../application/sheet'
import type { CalendarDate } from '../calendar/calendar-date'
import { evaluatePosts } from '../eligibility/evaluate'
import type { Finding } from '../finding/finding'
import { nameKey } from '../identity/names'
import type { Notice } from '../notice/schema'
import { readRollRow, type DateOrder, type MappedColumn, type ComparedWords, type RollRow, type RollWords } from './row'

/** What is asked of a roll besides its columns. `gaps` says whether a row in which answers lack is entered as a draft or refused. */
export interface RollOptions {
  order: DateOrder
  gaps: 'enter' | 'refuse'
  /** What words of the sender's own mean. */
  words?: RollWords
}

/** A row as it is judged: who it is about, what was found, and whether it may be entered. */
export interface JudgedRow extends RollRow {
  /**
   * What tells this person from every other of the same sender: the sender's number, or name and day of birth; empty where neither is
   * there.
   */
  key: string
  isRefused: boolean
  /** What the form still asks for; the row is entered as a draft with it open. */
  gaps: Finding[]
}

const isGap = (found: Finding) => found.code === 'sheet.missing' || found.code === 'sheet.rows'

/** Judges one row of a roll as the sheet would be judged: how it is written, every answer, and the posts that it asks for. */
export function judgeRollRow(
  notice: Notice,
  columns: readonly MappedColumn[],
  width: number,
  cells: readonly string[],
  { order, gaps }: RollOptions,
  today: CalendarDate,
  words?: ComparedWords,
): JudgedRow {
  const row = readRollRow(notice, columns, width, cells, order, words)
  const written = new Set(row.findings.map(found => found.about))
  const faults = sheetFaults(notice, row.answers, today).filter(found => !written.has(found.about))
  const open = faults.filter(isGap)
  const wrong = faults.filter(found => !isGap(found))
  const key = keyOf(row)
  const findings = [
    ...(key === ''
      ? [{ code: 'roll.no-key', about: '', verdict: 'fail', value: null, unit: 'none', bound: null, parameters: {} } satisfies Finding]
      : []),
    ...row.findings,
    ...wrong,
    ...(gaps === 'refuse' ? open : []),
    ...shutPosts(notice, row),
  ]
  return {
    ...row,
    key,
    findings: findings.length > 0 || open.length === 0 ? findings : open.map(found => ({ ...found, verdict: 'unsure' })),
    isRefused: findings.length > 0,
    gaps: open,
  }
}

const numbered = 'number '

/** The sender's number in what tells somebody apart; empty where there is none. */
export const referenceIn = (key: string): string => key.startsWith(numbered) ? key.slice(numbered.length) : ''

function keyOf({ reference, answers }: RollRow): string {
  if (reference !== '') return `${numbered}${reference}`
  const [name, born] = [nameKey(textAnswer(answers, 'certificateName')), textAnswer(answers, 'bornOn')]
  return name !== '' && born !== '' ? `person ${name} ${born}` : ''
}

// Only what is shut for certain; what hangs on an answer that lacks is open.
function shutPosts(notice: Notice, { answers }: RollRow): Finding[] {
  const chosen = listAnswer(answers, 'posts')
  if (chosen.length === 0) return []
  return evaluatePosts(notice, answers).filter(verdict => chosen.includes(verdict.post) && verdict.verdict === 'fail').map(verdict => ({
    code: 'roll.post-shut',
    about: 'posts',
    verdict: 'fail',
    value: null,
    unit: 'none',
    bound: null,
    parameters: {
      post: verdict.title,
      clauses: [...new Set(verdict.findings.filter(found => found.verdict === 'fail').map(found => found.origin?.clause ?? ''))]
        .filter(Boolean).join(', '),
    },
  }))
}
