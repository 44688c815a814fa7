import { z } from 'zod'
import { conditionSchema, id, instant, longText, option, refersTo, refersToQuestion } from './questions'

/** What candidates may ask of the office, and what the office asks of others. */

const requestBase = {
  id,
  title: z.string().min(1),
  /** The answers by which somebody asks for it. */
  when: conditionSchema,
  /** What decides on it, in words for whoever asks. */
  proof: longText().min(1),
  /** Further questions that it rests on, a scribe's name say: a decision falls when one of them changes. */
  about: z.array(refersToQuestion).default([]),
  /** Papers that it rests on; they stand beside it when somebody decides. */
  papers: z.array(refersTo('documents')).default([]),
  /** What nobody gets before it is decided. */
  holds: z.enum(['decision', 'card']).default('decision'),
}
/**
 * What candidates may ask for and the office grants or declines, each with a reason: a scribe, more time (minutes for each hour of the
 * session), that clauses of posts are passed by, that more posts may be chosen, or that papers may follow until a moment.
 */
export const requestRuleSchema = z.discriminatedUnion('kind', [
  z.strictObject({
    ...requestBase,
    kind: z.literal('scribe'),
    /** Whoever is granted one sits on a step-free seat. */ stepFree: z.boolean().default(false),
  }),
  z.strictObject({ ...requestBase, kind: z.literal('time'), minutesAnHour: z.int().min(1).max(60), stepFree: z.boolean().default(false) }),
  z.strictObject({
    ...requestBase,
    kind: z.literal('exception'),
    clauses: z.array(z.strictObject({ post: refersTo('posts'), clause: id })).min(1),
  }),
  // More posts than the question allows: in all, of its groups, or of load.
  z.strictObject({ ...requestBase, kind: z.literal('limits') }),
  z.strictObject({ ...requestBase, kind: z.literal('late proof'), follow: z.array(refersTo('documents')).min(1), until: instant }),
])
export type RequestRule = z.infer<typeof requestRuleSchema>

/**
 * What somebody other than the candidate has to say, by a link that is sent to them: a guardian's consent, a recommendation. `count` people
 * are asked, of those for whom `when` holds (of everybody without it); `text` is what they read and say yes to.
 */
export const endorsementRuleSchema = z.strictObject({
  id,
  kind: z.enum(['consent', 'recommendation']),
  title: z.string().min(1).max(140),
  when: conditionSchema.optional(),
  count: z.int().min(1).max(5).default(1),
  text: longText().min(1).max(4000),
  questions: z.array(z.discriminatedUnion('kind', [
    z.strictObject({
      id,
      kind: z.literal('text'),
      label: z.string().min(1).max(300),
      maxLength: z.int().min(1).max(4000).default(2000),
      required: z.boolean().default(true),
    }),
    z.strictObject({
      id,
      kind: z.literal('choice'),
      label: z.string().min(1).max(300),
      options: z.array(option).min(2).max(20),
      required: z.boolean().default(true),
    }),
  ])).max(12).default([]),
  /** What waits until all of them are there. */
  holds: z.enum(['submission', 'decision', 'nothing']).default('decision'),
  /** Until when it may be given; as long as it is wanted where this is left out. */
  until: instant.optional(),
  /** Candidates may read what was answered; without it the office alone does. */
  shownToCandidate: z.boolean().default(false),
})
export type EndorsementRule = z.infer<typeof endorsementRuleSchema>

/**
 * How a candidate accepts a text: by a tick, by a tick and their name typed as the form has it, or by a tick and their initials. Whoever
 * keeps a signed paper, as an officer or a sender of a roll does, ticks.
 */
export const signedBySchema = z.enum(['ticked', 'signed', 'initialled'])
export type SignedBy = z.infer<typeof signedBySchema>

/** A text that candidates accept by itself, besides the declaration: before the form opens to them, or when they hand it in. */
export const termSchema = z.strictObject({
  id,
  title: z.string().min(1).max(140),
  text: longText().min(1).max(20_000),
  asked: z.enum(['at the beginning', 'at the end']).default('at the end'),
  signed: signedBySchema.optional(),
})
export type Term = z.infer<typeof termSchema>
