import type { Bound, Finding, Verdict } from '../core/finding/finding'
import { z } from 'zod'

/** One item of an application and why it was returned or refused. */
export const reasonSchema = z.object({ item: z.string().min(1).max(60), reason: z.string().trim().min(3, 'at least 3 characters').max(1000) })
export type ItemReason = z.infer<typeof reasonSchema>

/** How one check has done against people's decisions: of files accepted and returned, how many it had passed, doubted and failed. */
export interface CheckRecord {
  /** Slot and code, as `photograph/photograph.roll`. */
  id: string
  code: string
  /** The slot: a kind of image, or the id of a document. */
  kind: string
  accepted: Record<Verdict, number>
  returned: Record<Verdict, number>
  /** One of its findings, for words, unit and bound; the bound is that of the notice in force. */
  sample: Finding
}
export interface CheckRecords { decisions: number, since: string | null, checks: CheckRecord[] }

/** Values of one check on files that people accepted and returned, in bins of one width. */
export interface CheckValues { id: string, bound: Bound | null, from: number, width: number, accepted: number[], returned: number[] }
