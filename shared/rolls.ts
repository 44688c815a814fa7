import { z } from 'zod'
import type { Finding } from '../core/finding/finding'

/** A nominal roll as screens see it. */
export interface RollField {
  id: string
  title: string
  /** Several columns may bring it. */
  isList: boolean
}
/** A field in which words stand that the notice does not know, or that somebody has said the meaning of: each with its rows. */
export interface RollUnknown {
  field: string
  title: string
  words: { word: string, rows: number, means: string | null }[]
  members: { id: string, title: string }[]
}
export interface RollTotals {
  rows: number
  made: number
  changed: number
  repeated: number
  refused: number
  gaps: number
  files?: { all: number, placed: number }
}
/** A picture or paper of a roll that belongs to nobody yet, or cannot be taken. */
export interface RollFileView {
  name: string
  finding: Finding
}
export interface RollRow {
  id: string
  sender: string
  name: string
  format: 'csv' | 'xlsx' | 'ods'
  charset: string | null
  delimiter: string | null
  rows: number
  state: 'read' | 'tried' | 'entered'
  totals: RollTotals | null
  by: string
  at: string
}
export interface RollRowView {
  row: number
  outcome: 'made' | 'changed' | 'repeated' | 'refused'
  reference: string
  name: string
  findings: Finding[]
}
export interface RollDetail extends RollRow {
  headings: string[]
  samples: string[][]
  fields: RollField[]
  columns: (string | null)[]
  options: { order: 'day' | 'month' | null, gaps: 'enter' | 'refuse', words: Record<string, Record<string, string>> }
  unknown: RollUnknown[]
  /** How many of those whom the sender's rolls have brought are drafts still, without an account of their own. */
  drafts: number
  found: RollRowView[]
  /** Pictures and papers that came with it: how many, and the first of those that somebody has to look at. */
  files: { count: number, odd: number, found: RollFileView[] }
  /** The row after which the next page begins, null at the end. */
  next: number | null
}

/** What those lack that could not be handed in. */
export const rollLeft = ['answers', 'files', 'waiting', 'shut', 'otherwise'] as const
export type RollLeft = typeof rollLeft[number]

/** The sender keeps a declaration of each; outside the dates of the notice an officer says why. */
export const handInRollSchema = z.strictObject({ declared: z.literal(true), reason: z.string().trim().max(1000).optional() })

export const rollUploadSchema = z.object({ sender: z.string().trim().min(2).max(200), name: z.string().trim().min(1).max(200) })
export type RollUpload = z.infer<typeof rollUploadSchema>

/** What a packing with pictures and papers is called. */
export const rollFilesSchema = z.object({ name: z.string().trim().min(1).max(200) })
/** Largest packing that is sent at once, in bytes. */
export const rollFilesAtMost = 512 * 1024 * 1024

export const rollSettingsSchema = z.strictObject({
  columns: z.array(z.string().max(200).nullable()).max(400),
  order: z.enum(['day', 'month']).nullable(),
  gaps: z.enum(['enter', 'refuse']),
  charset: z.string().max(40).nullable(),
  /**
   * What words of the sender's own mean: by field and word the id of an option, or nothing for a word that says none. As they were where
   * they are left out.
   */
  words: z.record(z.string().max(200), z.record(z.string().min(1).max(60), z.string().max(100))).optional(),
})
export type RollSettings = z.input<typeof rollSettingsSchema>

export const rollQuerySchema = z.object({
  outcome: z.enum(['refused', 'gaps']).default('refused'),
  after: z.coerce.number().int().min(0).default(0),
  limit: z.coerce.number().int().min(1).max(500).default(100),
})
export type RollQuery = z.infer<typeof rollQuerySchema>

/** Outside the dates of the notice an officer enters a roll with a reason. */
export const enterRollSchema = z.strictObject({ reason: z.string().trim().max(1000).optional() })
export type EnterRoll = z.infer<typeof enterRollSchema>
