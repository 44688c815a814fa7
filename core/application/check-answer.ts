import { z } from 'zod'
import { parseCalendarDate, type CalendarDate } from '../calendar/calendar-date'
import { compareFractions, parseDecimal } from '../marks/decimal'
import { storedText } from '../identity/names'
import type { Finding } from '../finding/finding'
import type { Column } from '../notice/questions'
import type { Notice, Question } from '../notice/schema'
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
  const schema = answerRule(question, context)
  const answer = context.answers[question.id]
  const result = schema.safeParse(typeof answer === 'string' ? storedText(answer) : answer)
  if (result.success) return []
  return result.error.issues.slice(0, 1).map((issue) => {
    const known = (issue as { params?: Record<string, string | number> }).params
    return fault(question, known ? String(issue.message) : 'sheet.shape', { label: question.label, ...known })
  })
}

/** The first fault of each row of a table, and of their number. Rows are counted from 1 as they stand on the screen. */
function checkTable(question: Extract<Question, { kind: 'table' }>, context: AnswerContext): Finding[] {
  const rows = rowsAnswer(context.answers, question.id)
  if (rows.length < question.minRows || rows.length > question.maxRows) {
    return [fault(question, 'sheet.rows', { label: question.label, min: question.minRows, max: question.maxRows })]
  }
  return rows.flatMap((row, i) => {
    const found = question.columns.map(column => checkCell(column, row, context.today)).find(f => f !== null)
    return found ? [fault(question, found.code, { ...found.parameters, label: `${question.label}, row ${i + 1}, ${found.parameters.label}` })] : []
  })
}

function checkCell(column: Column, row: Row, today: CalendarDate): { code: string, parameters: Record<string, string | number> } | null {
  const cell = row[column.id] ?? ''
  const wrong = (code: string, parameters: Record<string, string | number> = {}) => ({ code, parameters: { label: column.label, ...parameters } })
  if (cell === '') return column.required ? wrong('sheet.missing') : null
  switch (column.kind) {
    case 'text': return [...cell].length > column.maxLength ? wrong('sheet.length', { max: column.maxLength }) : null
    case 'choice': return column.options.some(o => o.id === cell) ? null : wrong('sheet.option')
    case 'marks': {
      const own = parseDecimal(cell)
      const limit = column.notAbove === undefined ? null : parseDecimal(row[column.notAbove] ?? '')
      if (!own) return wrong('sheet.decimal')
      return limit && compareFractions(own, limit) > 0 ? wrong('sheet.marksAbove', { total: row[column.notAbove ?? ''] ?? '' }) : null
    }
    case 'date': {
      if (parseCalendarDate(cell) === null) return wrong('sheet.date')
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

// Each refinement carries the finding's code as its message and the words' parameters beside it.
function answerRule(question: Question, context: AnswerContext): z.ZodType {
  const text = z.string('sheet.shape')
  switch (question.kind) {
    case 'name':
      return text.refine(t => /\p{L}/u.test(t) && !/[\p{N}<>{}[\]\\|@#$%^*=+~]/u.test(t) && !unprintable.test(t), refusal('sheet.name', {}))
        .refine(t => [...t].length <= 100, refusal('sheet.length', { max: 100 }))
    case 'text':
      return text.refine(t => [...t].length <= question.maxLength, refusal('sheet.length', { max: question.maxLength }))
    case 'date':
      return dateRule(question, context.today)
    case 'choice':
      return text.refine(t => question.options.some(o => o.id === t), refusal('sheet.option', {}))
    case 'email':
      return text.refine(t => z.email().safeParse(t).success, refusal('sheet.email', {}))
    case 'mobile':
      return text.refine(t => new RegExp(`^\\d{${question.digits}}$`).test(t.replace(/[ -]/g, '')), refusal('sheet.digits', { digits: question.digits }))
    case 'postalCode':
      return text.refine(t => new RegExp(`^\\d{${question.digits}}$`).test(t), refusal('sheet.digits', { digits: question.digits }))
        .refine(t => cityOfPostalCode(context.notice, t) !== null, refusal('sheet.postalCode', {}))
    case 'number':
      return text.refine(t => /^-?\d{1,9}$/.test(t) && Number(t) >= question.min && Number(t) <= question.max,
        refusal('sheet.number', { min: question.min, max: question.max }))
    case 'marks':
      return marksRule(question.notAbove, context.answers)
    case 'table':
      return z.array(z.record(z.string(), z.string()), 'sheet.shape')
    case 'posts':
      return listRule(context.notice.posts.map(p => p.id), question.min, question.max)
    case 'cities':
      return listRule(context.notice.cities.map(c => c.id), question.min, question.max)
  }
}

function refusal(message: string, params: Record<string, string | number>) {
  return { message, params }
}

function dateRule(question: Extract<Question, { kind: 'date' }>, today: CalendarDate): z.ZodType {
  return z.string().refine(t => parseCalendarDate(t) !== null, refusal('sheet.date', {}))
    .refine(t => question.future || t <= today, refusal('sheet.future', { today }))
    .refine(t => question.notBefore === undefined || t >= question.notBefore, refusal('sheet.dateBefore', { bound: question.notBefore ?? '' }))
    .refine(t => question.notAfter === undefined || t <= question.notAfter, refusal('sheet.dateAfter', { bound: question.notAfter ?? '' }))
}

function marksRule(notAbove: string | undefined, answers: Answers): z.ZodType {
  return z.string().refine(t => parseDecimal(t) !== null, refusal('sheet.decimal', {})).refine((t) => {
    const own = parseDecimal(t)
    const limit = notAbove === undefined ? null : parseDecimal(textAnswer(answers, notAbove))
    return own === null || limit === null || compareFractions(own, limit) <= 0
  }, refusal('sheet.marksAbove', { total: notAbove ? textAnswer(answers, notAbove) : '' }))
}

function listRule(allowed: string[], min: number, max: number): z.ZodType {
  return z.array(z.string(), 'sheet.shape')
    .refine(list => new Set(list).size === list.length, refusal('sheet.double', {}))
    .refine(list => list.every(v => allowed.includes(v)), refusal('sheet.option', {}))
    .refine(list => list.length >= min && list.length <= max, refusal('sheet.listLength', { min, max }))
}
