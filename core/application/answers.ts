import { z } from 'zod'
import { parseCalendarDate, type CalendarDate } from '../calendar/calendar-date'
import { compareFractions, parseDecimal } from '../marks/decimal'
import { storedText } from '../identity/names'
import type { Condition, Notice, Question } from '../notice/schema'
import type { Finding } from '../finding/finding'

/** One answer as typed: text, or a list for posts and ranked cities. An empty text or list is no answer. */
export type Answer = string | string[]
/** The sheet's content by question id. Values stand as typed, valid or not: nothing typed is ever thrown away. */
export type Answers = Record<string, Answer>

/** The shape of an answer on the wire; its meaning is judged by `checkAnswer`, which never loses a wrong value. */
export const answerSchema = z.union([z.string().max(5000), z.array(z.string().max(100)).max(50)])

/** The text of an answer, empty when it is missing or a list. */
export function textAnswer(answers: Answers, question: string): string {
  const answer = answers[question]
  return typeof answer === 'string' ? answer.trim() : ''
}

/** The members of a list answer, empty when it is missing or a text. */
export function listAnswer(answers: Answers, question: string): string[] {
  const answer = answers[question]
  return Array.isArray(answer) ? answer : []
}

export function isAnswered(answers: Answers, question: string): boolean {
  const answer = answers[question]
  return Array.isArray(answer) ? answer.length > 0 : (answer ?? '').trim() !== ''
}

/** Whether a condition holds: null when an answer that it needs is missing and could decide it. */
export function conditionHolds(condition: Condition, answers: Answers): boolean | null {
  if ('question' in condition) {
    if (!isAnswered(answers, condition.question)) return null
    const answer = answers[condition.question]
    return [answer].flat().some(value => value !== undefined && condition.in.includes(value))
  }
  if ('not' in condition) {
    const inner = conditionHolds(condition.not, answers)
    return inner === null ? null : !inner
  }
  const every = 'all' in condition
  const results = (every ? condition.all : condition.any).map(c => conditionHolds(c, answers))
  if (results.includes(!every)) return !every
  return results.includes(null) ? null : every
}

/** The part of a sheet that counts: the questions it asks, and the answers to those alone. */
export interface LiveSheet { asked: Question[], answers: Answers }

/**
 * What counts of a sheet. A question whose condition does not hold is not asked, and what was typed there before is kept
 * in the sheet but counts for nothing: somebody who takes a claim back must not keep what followed from it. Conditions
 * look at earlier questions only (the check of the notice sees to that), so that one pass settles chains of them.
 */
export function liveSheet(notice: Notice, answers: Answers): LiveSheet {
  const live: LiveSheet = { asked: [], answers: {} }
  for (const section of notice.sections) {
    for (const question of section.questions) {
      if (question.when !== undefined && conditionHolds(question.when, live.answers) !== true) continue
      live.asked.push(question)
      const answer = answers[question.id]
      if (answer !== undefined) live.answers[question.id] = answer
    }
  }
  return live
}

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
  const schema = answerRule(question, context)
  const answer = context.answers[question.id]
  const result = schema.safeParse(typeof answer === 'string' ? storedText(answer) : answer)
  if (result.success) return []
  return result.error.issues.slice(0, 1).map((issue) => {
    const known = (issue as { params?: Record<string, string | number> }).params
    return fault(question, known ? String(issue.message) : 'sheet.shape', { label: question.label, ...known })
  })
}

function fault(question: Question, code: string, parameters: Finding['parameters']): Finding {
  return { code, about: question.id, verdict: 'fail', value: null, unit: 'none', bound: null, parameters }
}

// Each refinement carries the finding's code as its message and the words' parameters beside it.
function answerRule(question: Question, context: AnswerContext): z.ZodType {
  const text = z.string('sheet.shape')
  switch (question.kind) {
    case 'name':
      return text.refine(t => /\p{L}/u.test(t) && !/[\p{N}<>{}[\]\\|@#$%^*=+~]/u.test(t), refusal('sheet.name', {}))
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
    .refine(t => t <= today, refusal('sheet.future', { today }))
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

/** The city whose postal prefix a code begins with, the longest first; null when no place has such a code. */
export function cityOfPostalCode(notice: Notice, code: string): Notice['cities'][number] | null {
  const matches = notice.cities.filter(city => code.startsWith(city.postalPrefix))
  return matches.sort((a, b) => b.postalPrefix.length - a.postalPrefix.length)[0] ?? null
}
