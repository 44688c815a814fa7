import { z } from 'zod'
import { calendarDate, conditionSchema, decimal, id, longText, questionId, refersTo, refersToQuestion, type Condition } from './questions'

/**
 * Who is eligible, as data: rules that compose, each clause of a post naming the place in the notice's text that it
 * carries out. The engine in `core/eligibility` gives them meaning; nothing of one examination stands in its code.
 */

/** How several relaxations that hold at once add up: the largest alone, or their sum up to `cap`. */
const combination = { combine: z.enum(['largest', 'sum']).default('largest'), cap: decimal.optional() }

/**
 * By how much a bound is eased, and for whom. A fixed amount in the bound's own unit, or as many years as an answer
 * gives plus a fixed number (years of service plus three, say), up to `atMost`.
 */
const relaxationSchema = z.strictObject({
  title: z.string().min(1),
  when: conditionSchema.optional(),
  by: z.union([decimal, z.strictObject({ answer: refersToQuestion, plus: z.int().min(0).default(0), atMost: z.int().min(1).optional() })]),
})
export type Relaxation = z.infer<typeof relaxationSchema>
const relaxed = { relaxations: z.array(relaxationSchema).default([]), ...combination }

/** Age in completed years on a date, or the days between which one must be born; both ends inclusive. */
const ageRule = z.strictObject({
  kind: z.literal('age'),
  /** Otherwise the notice's own date for ages. */
  on: calendarDate.optional(),
  minYears: z.int().min(0).max(120).optional(),
  maxYears: z.int().min(0).max(120).optional(),
  bornNotBefore: calendarDate.optional(),
  bornNotAfter: calendarDate.optional(),
  ...relaxed,
  /** By how many years the least age is lowered, and for whom; of several the largest counts. */
  lowered: z.array(relaxationSchema).optional(),
}).refine(
  r => r.minYears !== undefined || r.maxYears !== undefined || r.bornNotBefore !== undefined || r.bornNotAfter !== undefined,
  'shape.age-bound',
).refine(r => r.maxYears === undefined || r.bornNotBefore === undefined, 'shape.age-upper').refine(
  r => r.minYears === undefined || r.bornNotAfter === undefined,
  'shape.age-lower',
).refine(r => r.lowered === undefined || r.minYears !== undefined || r.bornNotAfter !== undefined, 'shape.age-lowered')

/**
 * The percentage of the qualifying examination, found as the notice's `marks` and the board's rule say; or that of some subjects alone,
 * whichever the board counts.
 */
const percentageRule = z.strictObject({
  kind: z.literal('percentage'),
  min: decimal,
  of: z.array(refersTo('subjects')).min(1).optional(),
  ...relaxed,
})

/** A rung of the ladder at least, or one of several; discipline, result awaited and years since passing where asked. */
const qualificationRule = z.strictObject({
  kind: z.literal('qualification'),
  atLeast: refersTo('qualifications').optional(),
  oneOf: z.array(refersTo('qualifications')).min(1).optional(),
  disciplines: z.array(refersTo('disciplines')).min(1).optional(),
  /** A result not out yet is taken if it will be there by this date. */
  awaitedUntil: calendarDate.optional(),
  /** Most completed calendar years between the year of passing and the year of the notice's date for ages. */
  mostYearsSince: z.int().min(0).max(60).optional(),
}).refine(r => (r.atLeast === undefined) !== (r.oneOf === undefined), 'shape.qualification-one')

/** So many of the wanted subjects, each with its own least percentage where given. */
const subjectsRule = z.strictObject({
  kind: z.literal('subjects'),
  wanted: z.array(z.strictObject({ anyOf: z.array(refersTo('subjects')).min(1), min: decimal.optional() })).min(1),
  atLeast: z.int().min(1).optional(),
})

/** An answer that must be one of several: nationality, gender where the law has it, kinds of disability, residence by birth. */
const oneOfRule = z.strictObject({
  kind: z.literal('oneOf'),
  question: refersToQuestion,
  values: z.array(z.string().min(1).meta({ refers: 'options' })).min(1),
})

/** Any numeric fact within inclusive bounds: attempts, years of residence, height, hours at sea. A relaxation widens the bounds. */
const numberRule = z.strictObject({
  kind: z.literal('number'),
  question: refersToQuestion,
  /** The answer to this question is taken off: a chest expanded less the same at rest. */
  minus: refersToQuestion.optional(),
  unit: z.string().min(1).max(20),
  min: decimal.optional(),
  max: decimal.optional(),
  ...relaxed,
}).refine(r => r.min !== undefined || r.max !== undefined, 'shape.number-bound')

/** A day that must lie between two others, both ends inclusive: a certificate's, that of passing. */
const dayRule = z.strictObject({
  kind: z.literal('day'),
  question: refersToQuestion,
  notBefore: calendarDate.optional(),
  notAfter: calendarDate.optional(),
}).refine(r => r.notBefore !== undefined || r.notAfter !== undefined, 'shape.day-bound')

/** Days worked by a date, from periods that may overlap: overlaps count once, gaps not at all, both ends of a period do. */
const experienceRule = z.strictObject({
  kind: z.literal('experience'),
  question: refersToQuestion,
  from: questionId.meta({ refers: 'columns' }),
  to: questionId.meta({ refers: 'columns' }),
  on: calendarDate.optional(),
  minDays: z.int().min(1),
  /** Only rows of these kinds count; only days after the one that a question is answered by, such as that of qualifying. */
  only: z.strictObject({ column: questionId.meta({ refers: 'columns' }), values: z.array(z.string().min(1)).min(1) }).optional(),
  after: refersToQuestion.optional(),
  ...relaxed,
})

export type Rule =
  | z.infer<typeof ageRule>
  | z.infer<typeof percentageRule>
  | z.infer<typeof qualificationRule>
  | z.infer<typeof subjectsRule>
  | z.infer<typeof oneOfRule>
  | z.infer<typeof numberRule>
  | z.infer<typeof dayRule>
  | z.infer<typeof experienceRule>
  | { kind: 'all', rules: Rule[] }
  | { kind: 'any', rules: Rule[] }
  | { kind: 'not', rule: Rule, title: string }
  | { kind: 'when', if: Condition, then: Rule, otherwise?: Rule }
export type RuleOf<K extends Rule['kind']> = Extract<Rule, { kind: K }>

export const ruleSchema: z.ZodType<Rule> = z.lazy(() =>
  z.union([
    ageRule,
    percentageRule,
    qualificationRule,
    subjectsRule,
    oneOfRule,
    numberRule,
    dayRule,
    experienceRule,
    z.strictObject({ kind: z.literal('all'), rules: z.array(ruleSchema).min(1) }),
    z.strictObject({ kind: z.literal('any'), rules: z.array(ruleSchema).min(1) }),
    z.strictObject({ kind: z.literal('not'), rule: ruleSchema, title: z.string().min(1) }),
    z.strictObject({ kind: z.literal('when'), if: conditionSchema, then: ruleSchema, otherwise: ruleSchema.optional() }),
  ])
).meta({ form: 'rule' }) as z.ZodType<Rule>

/** One clause: its code, where it stands in the notice's text, what it says there, and the rule that carries it out. */
export const clauseSchema = z.strictObject({ code: id, clause: z.string().min(1), text: longText().min(1), rule: ruleSchema })
export type Clause = z.infer<typeof clauseSchema>

/**
 * How one board's result becomes a percentage. Without `subjects` every subject counts. `named` counts those alone;
 * `best` counts that many, `compulsory` ones among them; `excluded` never count. A grade stands for a percentage or for
 * points; points become a percentage by the board's own `factor`, else as points / max x 100.
 */
export const boardSchema = z.strictObject({
  id,
  title: z.string().min(1),
  subjects: z.strictObject({
    named: z.array(refersTo('subjects')).min(1).optional(),
    best: z.int().min(1).max(20).optional(),
    compulsory: z.array(refersTo('subjects')).default([]),
    excluded: z.array(refersTo('subjects')).default([]),
    minimum: z.int().min(1).max(20).optional(),
  }).refine(s => s.named === undefined || s.best === undefined, 'shape.board-named').refine(
    s => s.best === undefined || s.compulsory.length <= s.best,
    'shape.board-compulsory',
  ).optional(),
  grades: z.array(z.strictObject({ grade: z.string().min(1).max(10), percent: decimal.optional(), points: decimal.optional() }).refine(
    g => (g.percent === undefined) !== (g.points === undefined),
    'shape.grade-one',
  )).optional(),
  points: z.strictObject({ max: decimal, factor: decimal.optional() }).optional(),
}).refine(b => b.points !== undefined || !b.grades?.some(g => g.points !== undefined), 'shape.board-points')
export type Board = z.infer<typeof boardSchema>

/** What a candidate claims, the proof it needs, and what the answers become when scrutiny finds it false. */
export const claimSchema = z.strictObject({
  id,
  title: z.string().min(1),
  when: conditionSchema,
  proof: z.string().min(1),
  ifFalse: z.record(questionId, z.string()),
  /** Days that getting the proof may take: told where the form is open for less. */
  leadDays: z.int().min(1).max(365).optional(),
  /** Who may issue the proof; whoever can, where it is left out. And how many days old it may be on the day on which the form closes. */
  issuedBy: z.array(z.string().min(1).max(140)).min(1).max(20).optional(),
  mostDaysOld: z.int().min(1).max(3660).optional(),
}).refine(c => Object.keys(c.ifFalse).length > 0, 'shape.claim-effect')
export type Claim = z.infer<typeof claimSchema>

export const ladderRungSchema = z.strictObject({
  id,
  title: z.string().min(1),
  /** Another rung that this one counts as. */
  equals: refersTo('qualifications').optional(),
})
