import { z } from 'zod'
import { parseCalendarDate } from '../calendar/calendar-date'
import { checkMethods } from '../identity/number-shape'
import { parseDecimal } from '../marks/decimal'

/**
 * What an editor has to know of a value besides its shape: `form` how it is entered, `refers` the list of the notice whose ids it takes.
 * Both stand in the JSON Schema as well.
 */
export type Entry = {
  form: 'id' | 'question-id' | 'date' | 'time' | 'moment' | 'decimal' | 'amount' | 'long' | 'colour' | 'condition' | 'rule',
} | { refers: Reference }
/** Lists of a notice that values may be taken from; `columns` and `options` are those of the question named beside it. */
export type Reference =
  | 'categories'
  | 'qualifications'
  | 'disciplines'
  | 'subjects'
  | 'boards'
  | 'cities'
  | 'questions'
  | 'columns'
  | 'options'
  | 'items'
  | 'documents'
  | 'posts'
  | 'sessions'
  | 'testPapers'
declare module 'zod' {
  interface GlobalMeta {
    form?: string
    refers?: string
  }
}
const entry = (hint: Entry): Entry => hint

/**
 * The small pieces of a notice that its other parts are made of: ids, dates, decimals, conditions, questions. What a value breaks is said
 * by the code of a finding.
 */
export const id = z.string().regex(/^[a-z][a-z0-9-]*$/, 'shape.id').meta(entry({ form: 'id' }))
export const questionId = z.string().regex(/^[a-z][A-Za-z0-9]*$/, 'shape.question-id').meta(entry({ form: 'question-id' }))
export const calendarDate = z.string().refine(text => parseCalendarDate(text) !== null, 'shape.date').meta(entry({ form: 'date' }))
export const clockTime = z.string().regex(/^([01]\d|2[0-3]):[0-5]\d$/, 'shape.time').meta(entry({ form: 'time' }))
export const instant = z.iso.datetime({ offset: true, error: 'shape.instant' }).meta(entry({ form: 'moment' }))
/** A number or a day, whichever the question that it is compared with is answered by. */
const compared = z.string().refine(text => parseDecimal(text) !== null || parseCalendarDate(text) !== null, 'shape.number-or-day')
  .meta(entry({ form: 'decimal' }))
export const decimal = z.string().refine(text => parseDecimal(text) !== null, 'shape.decimal').meta(entry({ form: 'decimal' }))
/** The id of a member of one of the notice's lists. */
export const refersTo = (refers: Reference) => id.meta(entry({ refers }))
export const refersToQuestion = questionId.meta(entry({ refers: 'questions' }))
export const longText = () => z.string().meta(entry({ form: 'long' }))
export const option = z.strictObject({ id, title: z.string().min(1) })

/**
 * A condition on answers, as data. `in` compares with the answer as stored; a list matches by any member. `from` and
 * `to` compare a number, or a day, with inclusive bounds.
 */
export const conditionSchema: z.ZodType<Condition> = z.lazy(() =>
  z.union([
    z.strictObject({ question: refersToQuestion, in: z.array(z.string().meta(entry({ refers: 'options' }))).min(1) }),
    z.strictObject({ question: refersToQuestion, from: compared.optional(), to: compared.optional() }).refine(
      c => c.from !== undefined || c.to !== undefined,
      'shape.condition-bound',
    ),
    z.strictObject({ all: z.array(conditionSchema).min(1) }),
    z.strictObject({ any: z.array(conditionSchema).min(1) }),
    z.strictObject({ not: conditionSchema }),
  ])
).meta(entry({ form: 'condition' }))
export type ConditionLeaf = { question: string, in: string[] } | { question: string, from?: string, to?: string }
export type Condition = ConditionLeaf | { all: Condition[] } | { any: Condition[] } | { not: Condition }

/** Month and year without a day: kept as the first of its month. */
const monthOnly = z.boolean().optional()
const columnBase = { id: questionId, label: z.string().min(1), required: z.boolean().default(true) }
/** A column of a table question. `notAbove` names another column of the same row. */
export const columnSchema = z.discriminatedUnion('kind', [
  z.strictObject({ ...columnBase, kind: z.literal('text'), maxLength: z.int().min(1).max(200).default(100) }),
  z.strictObject({ ...columnBase, kind: z.literal('choice'), options: z.array(option).min(1) }),
  z.strictObject({ ...columnBase, kind: z.literal('marks'), notAbove: refersToQuestion.optional() }),
  z.strictObject({ ...columnBase, kind: z.literal('date'), monthOnly, notBefore: questionId.optional() }),
])
export type Column = z.infer<typeof columnSchema>

/** Posts of which so many may be chosen together, of those for whom `when` holds. */
export const postGroupSchema = z.strictObject({
  id,
  title: z.string().min(1),
  posts: z.array(refersTo('posts')).min(1),
  when: conditionSchema.optional(),
  min: z.int().min(0).max(100).default(0),
  max: z.int().min(0).max(100).optional(),
})
export type PostGroup = z.infer<typeof postGroupSchema>

/** How a number is written, for those for whom `when` holds. */
export const numberShapeSchema = z.strictObject({
  shape: z.string().min(2).max(40),
  check: z.enum(checkMethods).optional(),
  example: z.string().min(2).max(40),
  when: conditionSchema.optional(),
})

const questionBase = {
  id: questionId,
  label: z.string().min(1),
  help: longText().optional(),
  required: z.boolean().default(true),
  when: conditionSchema.optional(),
}
export const questionSchema = z.discriminatedUnion('kind', [
  z.strictObject({ ...questionBase, kind: z.literal('name') }),
  z.strictObject({
    ...questionBase,
    kind: z.literal('text'),
    maxLength: z.int().min(1).max(5000).default(200),
    shapes: z.array(numberShapeSchema).min(1).max(30).optional(),
    /** An earlier question of the same kind whose answer may be taken over, or a postal code, whose town and district is put here. */
    sameAs: refersToQuestion.optional(),
  }),
  z.strictObject({
    ...questionBase,
    kind: z.literal('date'),
    monthOnly,
    notBefore: calendarDate.optional(),
    notAfter: calendarDate.optional(),
    future: z.boolean().default(false),
  }),
  z.strictObject({
    ...questionBase,
    kind: z.literal('choice'),
    /** Those with a condition are offered only to those for whom it holds. */
    options: z.array(option.extend({ when: conditionSchema.optional() })).min(1),
  }),
  z.strictObject({ ...questionBase, kind: z.literal('email') }),
  z.strictObject({ ...questionBase, kind: z.literal('mobile'), digits: z.int().min(6).max(15) }),
  z.strictObject({ ...questionBase, kind: z.literal('postalCode'), digits: z.int().min(3).max(10), sameAs: refersToQuestion.optional() }),
  z.strictObject({ ...questionBase, kind: z.literal('number'), min: z.int(), max: z.int() }),
  z.strictObject({ ...questionBase, kind: z.literal('marks'), notAbove: refersToQuestion.optional() }),
  z.strictObject({
    ...questionBase,
    kind: z.literal('table'),
    columns: z.array(columnSchema).min(1).max(8),
    minRows: z.int().min(0).default(1),
    maxRows: z.int().min(1).max(50).default(20),
  }),
  z.strictObject({
    ...questionBase,
    kind: z.literal('posts'),
    min: z.int().min(1),
    max: z.int().min(1),
    /** The order in which they stand is the candidate's: the first is the one that is wanted most. */
    ranked: z.boolean().optional(),
    groups: z.array(postGroupSchema).max(60).default([]),
    mostLoad: z.int().min(1).max(10_000).optional(),
  }),
  z.strictObject({ ...questionBase, kind: z.literal('cities'), min: z.int().min(1), max: z.int().min(1) }),
])
export type Question = z.infer<typeof questionSchema>
