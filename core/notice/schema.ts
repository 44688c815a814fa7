import { z } from 'zod'
import {
  calendarDate,
  clockTime,
  conditionSchema,
  id,
  instant,
  longText,
  option,
  questionSchema,
  refersTo,
  refersToQuestion,
} from './questions'
import { endorsementRuleSchema, requestRuleSchema, signedBySchema, termSchema } from './asked'
import { noticeFormat } from './formats'
import { boardSchema, clauseSchema, claimSchema, ladderRungSchema } from './rules'
import { imageRuleSchema, documentRuleSchema } from './file-rules'
import { citySchema, cityNamedSchema, sessionSchema } from './centre-schema'

export type { EndorsementRule, RequestRule, Term } from './asked'
export type { Condition, Question } from './questions'
export type { Board, Claim, Clause } from './rules'

/**
 * The notice: one examination cycle as data. Everything that differs from one examination to the next stands here and
 * nowhere in the code. Amounts are integer counts of the currency's minor unit; percentages are decimal text.
 */

const amount = z.int().min(0).max(100_000_000).meta({ form: 'amount' })
/** Who may begin a correction by a rule of the notice. */
export const correctionParties = ['candidate', 'institution', 'office'] as const
/**
 * What may be corrected in a form that was submitted, by whom and when; without moments of its own a rule holds in the correction period of
 * the key dates. One that takes effect when it is handed in waits for the office all the same where a verdict or the fee would change by
 * it.
 */
export const correctionRuleSchema = z.strictObject({
  id,
  title: z.string().min(1),
  /** Questions, images and documents by their ids. */
  items: z.array(z.string().min(1).max(60).meta({ refers: 'items' })).min(1),
  by: z.array(z.enum(correctionParties)).min(1),
  opens: instant.optional(),
  closes: instant.optional(),
  takesEffect: z.enum(['handed in', 'looked at']).default('looked at'),
  /** The paper that must come with it. */
  proof: documentRuleSchema.pick({ title: true, shows: true, formats: true, bytes: true, pages: true }).optional(),
  /** What it costs, once however many of its items change. */
  charge: amount.default(0),
})
export type CorrectionRule = z.infer<typeof correctionRuleSchema>

/** A test paper and the sessions in which it is held: a candidate sits it in one of them. */
export const testPaperSchema = z.strictObject({ id, title: z.string().min(1), sessions: z.array(refersTo('sessions')).min(1).max(60) })
export type TestPaper = z.infer<typeof testPaperSchema>

const feeLine = z.strictObject({ code: id, title: z.string(), when: conditionSchema.optional(), amount })

/** How somebody pays online. What a bank takes for a deposit, it takes from whoever pays it in. */
export const payingWays = ['card', 'net banking', 'wallet'] as const
export type PayingWay = typeof payingWays[number]
/** A hundredth of a percent; the share is rounded half up to the minor unit. */
const basisPoints = (most: number) => z.int().min(0).max(most).default(0)
/**
 * What one way of paying costs on top of what is paid: a fixed part and a share of it, and the tax on both. What the office bears is not
 * asked of anybody.
 */
export const feeChannelSchema = z.strictObject({
  way: z.enum(payingWays),
  fixed: amount.default(0),
  shareBasisPoints: basisPoints(2000),
  taxBasisPoints: basisPoints(10_000),
  borneBy: z.enum(['candidate', 'office']).default('candidate'),
})

export type FeeChannel = z.infer<typeof feeChannelSchema>

/**
 * Which waivers count where several fit one person: each, of what the others leave; the one that takes most off; the first of the table; or
 * one, as no two may ever fit anybody.
 */
export const waiverRules = ['in turn', 'largest', 'first', 'one only'] as const

export const paymentOrders = ['before the form', 'before submission', 'after submission'] as const

export const feeScheduleSchema = z.strictObject({
  /** Of each person exactly one row holds: that of the category and, where it has one, of its condition. */
  base: z.array(z.strictObject({ category: refersTo('categories'), when: conditionSchema.optional(), amount })).min(1),
  /** What a post costs of its own, of whoever chooses it; where several rows name one post, exactly one of them holds for a person. */
  posts: z.array(z.strictObject({ post: refersTo('posts'), when: conditionSchema.optional(), amount })).max(500).default([]),
  /** What each post costs beyond the first, counted in the order of choice: from the second, say, 150.00, from the fourth 100.00. */
  further: z.array(z.strictObject({ from: z.int().min(2).max(100), amount })).max(20).default([]),
  /** Late periods: the last one that has begun says what comes on top. */
  late: z.array(z.strictObject({ from: instant, amount })).max(12).default([]),
  /** When the fee is paid: before more is asked than it hangs on, before the form can be handed in, or after that. */
  order: z.enum(paymentOrders).default('after submission'),
  /** What becomes of a fee that was paid for a form which is never handed in. */
  unsubmitted: z.enum(['owed back', 'kept']).default('owed back'),
  surcharges: z.array(feeLine),
  /** What a person need not pay: a share of the lines so far, in whole percent, rounded half up to the minor unit. */
  waivers: z.array(z.strictObject({ code: id, title: z.string(), when: conditionSchema, percent: z.int().min(1).max(100) })),
  severalWaivers: z.enum(waiverRules).default('in turn'),
  /**
   * Who pays the whole fee for somebody: the first whose condition holds. Named with the fee and billed for all theirs at once; who is not
   * paid for in time may pay it as everybody does.
   */
  payers: z.array(z.strictObject({ code: id, title: z.string().min(1).max(140), when: conditionSchema })).max(60).default([]),
  /** The largest waiver that one person may grant alone; above it a second person confirms. */
  waivedAlone: amount.default(0),
  paymentWindowSeconds: z.int().min(30).max(3600),
  /** The ways of paying online that are offered, each with its charge; none: the gateway offers its own, and nothing comes on top. */
  channels: z.array(feeChannelSchema).max(payingWays.length).default([]),
})
export type FeeSchedule = z.infer<typeof feeScheduleSchema>

/** `closedCities` are closed to those for whom `when` holds; `withinKm` keeps them that near home, or without a seat. */
export const restrictionSchema = z.strictObject({
  title: z.string().min(1),
  when: conditionSchema,
  closedCities: z.array(refersTo('cities')).default([]),
  withinKm: z.int().min(0).max(20_037).optional(),
})
export type Restriction = z.infer<typeof restrictionSchema>

/**
 * Seats that are kept for those for whom `when` holds: so many in each session of a city; `unused` is what becomes of those that none of
 * them takes.
 */
export const keptSeatsSchema = z.strictObject({
  title: z.string().min(1).max(140),
  when: conditionSchema,
  seats: z.array(z.strictObject({ city: refersTo('cities'), seats: z.int().min(1).max(1_000_000) })).min(1).max(1000),
  unused: z.enum(['open to all', 'stay empty']).default('open to all'),
})

/** What candidates are written about in words that a notice may choose. */
export const letterActs = ['submit', 'payment-settled', 'payment-refused', 'remind', 'return', 'accept', 'refuse', 'publish-seat',
  'take-seat-back', 'change-seat', 'issue-card', 'replace-card', 'void-card', 'decide-request', 'refund-sent', 'withdraw', 'lapse'] as const
export type LetterAct = typeof letterActs[number]
/** A letter in the office's own words; `short` is what goes to a telephone. */
export const noticeLetterSchema = z.strictObject({
  act: z.enum(letterActs),
  subject: z.string().min(1).max(120),
  text: longText().min(1).max(4000),
  short: z.string().min(1).max(480).optional(),
})
export type NoticeLetter = z.infer<typeof noticeLetterSchema>

/** Acts that a notice may have confirmed by a second person. */
export const secondPersonActs = ['publish-run', 'refuse', 'accept', 'take-back-acceptance', 'take-seat-back', 'void-card', 'withdraw',
  'open-for-correction', 'bring-back', 'decide-request', 'change-rooms'] as const

export const noticeSchema = z.strictObject({
  format: z.literal(noticeFormat),
  /**
   * The language of its texts (BCP 47), English where it is left out; and others in which people can read them, each text by what it
   * translates.
   */
  language: z.string().min(2).max(35).optional(),
  translations: z.array(z.strictObject({
    language: z.string().min(2).max(35),
    texts: z.array(z.strictObject({ text: longText().min(1), as: longText() })).max(5000).default([]),
  })).max(12).optional(),
  code: z.string().regex(/^[A-Z]{2}\d{2}$/, 'shape.cycle-code'),
  title: z.string().min(1),
  body: z.strictObject({
    name: z.string(),
    address: z.string(),
    zone: z.strictObject({
      name: z.string(),
      utcOffsetMinutes: z.int().min(-840).max(840),
      /**
       * Where clocks are set forward and back: the zone in the IANA time zone database, which then says how far from UTC each moment is.
       */
      timeZone: z.string().min(1).max(60).optional(),
    }),
    currency: z.strictObject({
      code: z.string().regex(/^[A-Z]{3}$/, 'shape.currency-code'),
      title: z.string(),
      exponent: z.int().min(0).max(4),
    }),
    /** Days on which the office is closed, and its weekly days of rest (0 is Sunday). */
    holidays: z.array(calendarDate).max(400).default([]),
    restDays: z.array(z.int().min(0).max(6)).max(6).default([]),
    /** Hours in which no message goes to a telephone; codes that somebody asks for go at once. */
    quietHours: z.strictObject({ from: clockTime, to: clockTime }).optional(),
  }),
  /** What the body plans with; seats are compared with it. */
  expected: z.strictObject({
    applicants: z.int().min(1).max(10_000_000),
    stepFree: z.int().min(0).max(10_000_000).default(0),
    /** Fewest days that the form is to be open. */ openDays: z.int().min(1).max(365).optional(),
  }).optional(),
  /** What everybody reads before the form: in short, step by step, whom to ask, who takes part, and what is new. */
  information: z.strictObject({
    summary: longText().max(2000).default(''),
    steps: z.array(longText().min(1).max(1000)).max(40).default([]),
    desks: z.array(z.strictObject({ title: z.string().min(1), contact: z.string().min(1), hours: z.string().default('') })).max(40)
      .default([]),
    institutions: z.array(z.strictObject({ id, title: z.string().min(1) })).max(2000).default([]),
    news: z.array(z.strictObject({ at: instant, title: z.string().min(1), text: longText().max(5000).default('') })).max(200).default([]),
  }).optional(),
  /** All periods are half open: what arrives at the very moment of an end is late. */
  keyDates: z.strictObject({
    opens: instant,
    closes: instant,
    lastPayment: instant,
    correctionOpens: instant,
    correctionCloses: instant,
    cardsFrom: instant,
    ageOn: calendarDate,
  }),
  outcomes: z.strictObject({
    /** What becomes of a return or correction that nobody answers in time: the application ends, or is judged as it stands. */
    unanswered: z.enum(['lapsed', 'as it stood']),
    /** Days that a return may be answered in, the day of the return not counted. */
    answerDays: z.int().min(1).max(90),
  }),
  /** How scrutiny works; where it is left out, each case is decided once, whenever its turn comes. */
  scrutiny: z.strictObject({
    /** Days within which a case that waits should be decided. */
    days: z.int().min(1).max(365).optional(),
    /** Of a hundred acceptances, how many a second person sees before they hold; nobody chooses which. */
    acceptancesSeenTwice: z.int().min(0).max(100).default(0),
    /** Minutes for which a case stays with whoever took it in hand. */
    handMinutes: z.int().min(1).max(480).default(20),
    /** The question that asks for the number of an identity paper. */
    identityQuestion: refersToQuestion.optional(),
    /** Only one application of a person is accepted. */
    onePerson: z.boolean().default(false),
  }).optional(),
  /** Acts that a second person has to confirm, besides those that always need one. */
  secondPerson: z.array(z.enum(secondPersonActs)),
  corrections: z.array(correctionRuleSchema).max(24).default([]),
  requests: z.array(requestRuleSchema).max(24).default([]),
  endorsements: z.array(endorsementRuleSchema).max(12).optional(),
  leapDayBirthday: z.enum(['feb-28', 'mar-01']),
  /** Whether a percentage norm is compared with the exact value or with the value rounded half up to two decimals. */
  percentageCompared: z.enum(['exact', 'rounded']),
  categories: z.array(option).min(1),
  /** From the lowest rung to the highest; a rung with `equals` counts as the one it names. */
  qualifications: z.array(ladderRungSchema).default([]),
  disciplines: z.array(option).default([]),
  subjects: z.array(option).default([]),
  boards: z.array(boardSchema).default([]),
  claims: z.array(claimSchema).default([]),
  sections: z.array(z.strictObject({
    id,
    title: z.string(),
    /** Asked once the pictures and papers are there, as a survey is. */
    afterFiles: z.boolean().optional(),
    questions: z.array(questionSchema).min(1),
  })).min(1),
  accessibleSeatWhen: conditionSchema,
  /** What is sat. Without any, everybody sits once, in whichever session has a seat. */
  testPapers: z.array(testPaperSchema).max(200).default([]),
  /**
   * `load` is what a post counts for against the most load that the question for posts allows; `testPapers` are all sat by whoever chooses
   * it; it can be chosen from `opens` until `closes`, where those lie inside the days of all.
   */
  posts: z.array(z.strictObject({
    id,
    title: z.string(),
    load: z.int().min(0).max(1000).optional(),
    testPapers: z.array(refersTo('testPapers')).max(20).default([]),
    opens: instant.optional(),
    closes: instant.optional(),
    clauses: z.array(clauseSchema).min(1),
  })).min(1),
  images: z.strictObject({ photograph: imageRuleSchema, signature: imageRuleSchema, thumb: imageRuleSchema.optional() }),
  documents: z.array(documentRuleSchema).max(24).default([]),
  fees: feeScheduleSchema,
  sessions: z.array(sessionSchema).min(1),
  cities: z.array(citySchema).min(1),
  allocation: z.strictObject({
    choiceCosts: z.array(z.int().min(0)).min(1),
    offListBase: z.int().min(0),
    kilometreCap: z.int().min(0),
    unseated: z.int().min(1),
    /** What first come goes by: when the sheet was submitted, or when the payment came that settled the fee. */
    timeStamp: z.enum(['submitted', 'fee settled']).default('submitted'),
    /** Points for moving somebody who was told a city, when everyone is placed anew. */
    staying: z.int().min(0).default(15),
    /** Cities that are closed to some people, or a promise to them of a city near home; held in every run. */
    restrictions: z.array(restrictionSchema).max(8).default([]),
    /** Seats that are open to some people only, as those of a region; held in every run. */
    kept: z.array(keptSeatsSchema).max(4).default([]),
  }),
  /** Letters in the office's own words; the others go out as they come with the product. */
  letters: z.array(noticeLetterSchema).max(60).optional(),
  terms: z.array(termSchema).max(12).optional(),
  declaration: longText().min(1),
  declarationSigned: signedBySchema.optional(),
  card: z.strictObject({ title: z.string(), instructions: z.array(longText()).min(1) }),
})
/** A notice with all that it refers to. */
export type Notice = z.infer<typeof noticeSchema>
/** A notice as it is stored and sent: cities of the register are named, others may be described. */
export const noticeFileSchema = noticeSchema.extend({ cities: z.array(z.union([cityNamedSchema, citySchema])).min(1) })
export type NoticeFile = z.infer<typeof noticeFileSchema>
export type Post = Notice['posts'][number]
export type ImageKind = keyof Notice['images']
