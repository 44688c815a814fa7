import { z } from 'zod'
import { answerSchema } from '../core/application/answer-schema'
import type { Answers } from '../core/application/answers'
import { keyingStates, type KeyedDifference, type KeyingState, type Settlement } from '../core/application/keying'
import { permit } from './acts'

/** What is known of a paper form before it is keyed: when it came in, and the office's own mark on it. */
export const paperFormSchema = z.strictObject({
  receivedAt: z.iso.datetime({ offset: true }),
  reference: z.string().trim().max(80).default(''),
})
export type PaperFormGiven = z.output<typeof paperFormSchema>

/** How an application is begun at the office: by whoever is there, or from a paper form. */
export const beginSchema = z.strictObject({ ...permit, paper: paperFormSchema.optional() }).optional()

/** What the second person has typed since it was sent last. */
export const keyedSchema = z.strictObject({ changes: z.record(z.string().max(60), answerSchema) })

export const keyingQuerySchema = z.object({ state: z.enum(keyingStates).default('second'), after: z.string().max(100).optional() })

/** A paper form in a list of its state. */
export interface KeyingRow {
  id: string
  number: string
  name: string
  reference: string
  receivedAt: string
  first: { by: string, at: string } | null
  second: { by: string, at: string | null, isOwn: boolean } | null
  /** Whether the reader keyed any of it the first time. */
  isOwnFirst: boolean
  differing: number
}

/** What the keying of a cycle's paper forms comes to. */
export interface KeyingFigures {
  /** Answers and cells keyed twice, how many of them differed, and whose word held. */
  compared: number
  differing: number
  first: number
  second: number
  anew: number
  /** The questions that differ most often. */
  often: { question: string, n: number }[]
}
export interface KeyingList {
  counts: Record<KeyingState, number>
  /** How many of those to be keyed a second time the reader may key. */
  open: number
  rows: KeyingRow[]
  next: string | null
  /** With the first page. */
  figures: KeyingFigures | null
}

/** One paper form, as far as the reader may see it. */
export interface KeyingView extends KeyingRow {
  state: KeyingState
  /** What the second person has keyed. */
  keyed: Answers
  /** Once both are done: where they differ, and what was settled. */
  differences: KeyedDifference[]
  compared: number | null
  settled: { settlements: Settlement[], by: string | null, at: string } | null
}
