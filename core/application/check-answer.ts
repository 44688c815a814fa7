import { firstOfMonth, parseCalendarDate, type CalendarDate } from '../calendar/calendar-date'
import { compareFractions, parseDecimal } from '../marks/decimal'
import { isEmail } from '../identity/email'
import { storedText } from '../identity/names'
import { numberFault } from '../identity/number-shape'
import type { Finding } from '../finding/finding'
import type { Column } from '../notice/questions'
import type { Notice, Question } from '../notice/schema'
import { asksForMore, postLimits } from './post-limits'
import { collisionsAmong } from './timetable'
import { cityOfPostalCode, isAnswered, rowsAnswer, textAnswer, type Answers, type Row } from './answers'

export interface AnswerContext {
  notice: Notice
  answers: Answers
  /** The calendar date in the body's zone; dates of birth after it are refused. */
  today: CalendarDate
}

/**
 * The findings on one question of the sheet: a missing required answer, or what is wrong with what was typed. A good
 * answer gives none. The same function runs at each keystroke in the browser and on the server before submission.
 */
export function checkAnswer(question: Question, context: AnswerContext): Finding[] {
  if (!isAnswered(context.answers, question.id)) {
    return question.required ? [fault(question, 'sheet.missing', { label: question.label })] : []
  }
  if (question.kind === 'table') return checkTable(question, context)
  const answer = context.answers[question.id]
  const found = Array.isArray(answer) ? listFault(question, answer, context) : textFault(question, storedText(answer ?? ''), context)
  return found ? [fault(question, found.code, { label: question.label, ...found.parameters })] : []
}

/** The first fault of each row of a table, and of their number. Rows are counted from 1 as they stand on the screen. */
function checkTable(question: Extract<Question, { kind: 'table' }>, context: AnswerContext): Finding[] {
  const rows = rowsAnswer(context.answers, question.id)
  if (rows.length < question.minRows || rows.length > question.maxRows) {
    return [fault(question, 'sheet.rows', { label: question.label, min: question.minRows, max: question.maxRows })]
  }
  return rows.flatMap((row, i) => {
    const found = question.columns.map(column => checkCell(column, row, context.today)).find(f => f !== null)
    return found
      ? [fault(question, found.code, { ...found.parameters, label: `${question.label}, row ${i + 1}, ${found.parameters.label}` })]
      : []
  })
}

function checkCell(column: Column, row: Row, today: CalendarDate): { code: string, parameters: Record<string, string | number> } | null {
  const cell = row[column.id] ?? ''
  const wrong = (code: string, parameters: Record<string, string | number> = {}) => ({
    code,
    parameters: { label: column.label, ...parameters },
  })
  if (cell === '') return column.required ? wrong('sheet.missing') : null
  switch (column.kind) {
    case 'text':
      return [...cell].length > column.maxLength ? wrong('sheet.length', { max: column.maxLength }) : null
    case 'choice':
      return column.options.some(o => o.id === cell) ? null : wrong('sheet.option')
    case 'marks': {
      const own = parseDecimal(cell)
      const limit = column.notAbove === undefined ? null : parseDecimal(row[column.notAbove] ?? '')
      if (!own) return wrong('sheet.decimal')
      return limit && compareFractions(own, limit) > 0 ? wrong('sheet.marksAbove', { total: row[column.notAbove ?? ''] ?? '' }) : null
    }
    case 'date': {
      if (parseCalendarDate(cell) === null) return wrong(column.monthOnly ? 'sheet.month' : 'sheet.date')
      if (column.monthOnly && cell !== firstOfMonth(cell)) return wrong('sheet.month')
      if (cell > today) return wrong('sheet.future', { today })
      const from = column.notBefore === undefined ? '' : row[column.notBefore] ?? ''
      return parseCalendarDate(from) !== null && cell < from ? wrong('sheet.dateBefore', { bound: from }) : null
    }
  }
}

function fault(question: Question, code: string, parameters: Finding['parameters']): Finding {
  return { code, about: question.id, verdict: 'fail', value: null, unit: 'none', bound: null, parameters }
}

// Emoji, other signs, control and private characters are no part of a name; the two joiners are, in scripts that need them.
const unprintable = /[\p{Extended_Pictographic}\p{So}\p{Cc}\p{Co}\p{Cs}]|(?![\u200c\u200d])\p{Cf}/u

type Fault = { code: string, parameters?: Finding['parameters'] } | null

/** The first thing wrong with a text; a list where a text belongs has the wrong shape. */
function textFault(question: Question, text: string, { notice, answers, today }: AnswerContext): Fault {
  switch (question.kind) {
    case 'name':
      if (!/\p{L}/u.test(text) || /[\p{N}<>{}[\]\\|@#$%^*=+~]/u.test(text) || unprintable.test(text)) return { code: 'sheet.name' }
      return lengthFault(text, 100)
    case 'text':
      return lengthFault(text, question.maxLength) ?? shapeFault(text, question.shapes)
    case 'date':
      return dateFault(question, text, today)
    case 'choice':
      return question.options.some(option => option.id === text) ? null : { code: 'sheet.option' }
    case 'email':
      return isEmail(text) ? null : { code: 'sheet.email' }
    case 'mobile':
      return hasDigits(text.replace(/[ -]/g, ''), question.digits)
        ? null
        : { code: 'sheet.digits', parameters: { digits: question.digits } }
    case 'postalCode':
      if (!hasDigits(text, question.digits)) return { code: 'sheet.digits', parameters: { digits: question.digits } }
      return cityOfPostalCode(notice, text) === null ? { code: 'sheet.postalCode' } : null
    case 'number': {
      const isWithin = /^-?\d{1,9}$/.test(text) && Number(text) >= question.min && Number(text) <= question.max
      return isWithin ? null : { code: 'sheet.number', parameters: { min: question.min, max: question.max } }
    }
    case 'marks':
      return marksFault(question.notAbove, text, answers)
    case 'table':
    case 'posts':
    case 'cities':
      return { code: 'sheet.shape' }
  }
}

const hasDigits = (text: string, digits: number) => text.length === digits && /^\d+$/.test(text)
const lengthFault = (text: string, max: number): Fault => [...text].length <= max ? null : { code: 'sheet.length', parameters: { max } }

function shapeFault(text: string, shapes: Extract<Question, { kind: 'text' }>['shapes'] = []): Fault {
  const fault = numberFault(text, shapes)
  return fault && { code: `sheet.number.${fault}`, parameters: { examples: shapes.map(one => one.example).join(', ') } }
}

function dateFault(
  { monthOnly, future, notBefore, notAfter }: Extract<Question, { kind: 'date' }>,
  text: string,
  today: CalendarDate,
): Fault {
  const isDay = parseCalendarDate(text) !== null
  if (monthOnly && (!isDay || text !== firstOfMonth(text))) return { code: 'sheet.month' }
  if (!isDay) return { code: 'sheet.date' }
  if (!future && text > today) return { code: 'sheet.future', parameters: { today } }
  if (notBefore !== undefined && text < notBefore) return { code: 'sheet.dateBefore', parameters: { bound: notBefore } }
  return notAfter !== undefined && text > notAfter ? { code: 'sheet.dateAfter', parameters: { bound: notAfter } } : null
}

function marksFault(notAbove: string | undefined, text: string, answers: Answers): Fault {
  const own = parseDecimal(text)
  if (own === null) return { code: 'sheet.decimal' }
  const total = notAbove === undefined ? '' : textAnswer(answers, notAbove)
  const limit = parseDecimal(total)
  return limit !== null && compareFractions(own, limit) > 0 ? { code: 'sheet.marksAbove', parameters: { total } } : null
}

function listFault(question: Question, list: readonly (string | Row)[], context: AnswerContext): Fault {
  const { notice } = context
  if (question.kind !== 'posts' && question.kind !== 'cities') return { code: 'sheet.shape' }
  const allowed = question.kind === 'posts' ? notice.posts : notice.cities
  if (list.some(member => typeof member !== 'string')) return { code: 'sheet.shape' }
  if (new Set(list).size !== list.length) return { code: 'sheet.double' }
  if (!list.every(member => allowed.some(one => one.id === member))) return { code: 'sheet.option' }
  const { min, max } = question
  if (question.kind === 'cities') {
    return list.length < min || list.length > max
      ? { code: 'sheet.listLength', parameters: { min, max } }
      : null
  }
  const fault = postLimits(notice, context.answers, list as string[]).find(limit =>
    limit.fault === 'too few' || (limit.fault === 'too many' && !asksForMore(notice, context.answers))
  )
  if (!fault) return collisionFault(context, list as string[])
  if (fault.of === 'all') return { code: 'sheet.listLength', parameters: { min, max } }
  if (fault.of === 'load') return { code: 'sheet.load', parameters: { chosen: fault.chosen, max: fault.max ?? 0 } }
  return {
    code: fault.fault === 'too few' ? 'sheet.groupLeast' : 'sheet.groupMost',
    parameters: { group: fault.title, chosen: fault.chosen, bound: fault.fault === 'too few' ? fault.min : fault.max ?? 0 },
  }
}

// What somebody could not sit anyway is not let in: two test papers at one time, on whichever posts they hang.
function collisionFault({ notice, answers }: AnswerContext, chosen: readonly string[]): Fault {
  const title = (id: string) => notice.posts.find(post => post.id === id)?.title ?? id
  const [collision] = collisionsAmong(notice, answers, chosen)
  if (!collision) return null
  const [first = '', second = '', ...more] = collision.map(title)
  return more.length === 0
    ? { code: 'sheet.collide', parameters: { first, second } }
    : { code: 'sheet.collideTogether', parameters: { posts: [first, second, ...more].join(', ') } }
}
