import { z } from 'zod'
import type { Verdict } from '../core/finding/finding'
import type { Difference } from '../core/notice/difference'

export const rulingSchema = z.object({
  ruling: z.enum(['false', 'stands']),
  reason: z.string().trim().min(3, 'at least 3 characters').max(1000),
})
export type RulingInput = z.infer<typeof rulingSchema>

/** A new ruling on one claim, as the dossier lists them. */
export interface RulingView { claim: string, title: string, ruling: 'false' | 'stands', reason: string, by: string, at: string }

/** All applications judged again. `version` is the notice it was judged under; `inForce` whether that is the one in force. */
export interface ReviewRow {
  id: string, serial: number, version: number, baseVersion: number, state: 'running' | 'listed' | 'accepted' | 'discarded'
  totals: { applications: number, judged: number, kept: number, differences: number, chosen: number }
  by: string, at: string, settledBy: string | null, settledAt: string | null
}

export interface DifferenceRow {
  applicationId: string, number: string, name: string, post: string, postTitle: string, chosen: boolean, before: Verdict, after: Verdict, clauses: string, headline: string
}
export interface ReviewDetail extends ReviewRow {
  /** What the proposed notice changes, part by part. */
  amendments: Difference[]
  differences: DifferenceRow[]
  /** The key for the next page, null at the end. */
  next: string | null
}

export const reviewQuerySchema = z.object({
  post: z.string().max(60).optional(), chosen: z.enum(['yes', 'no']).optional(), after: z.string().max(200).optional(), limit: z.coerce.number().int().min(1).max(500).default(100),
})
export type ReviewQuery = z.infer<typeof reviewQuerySchema>
