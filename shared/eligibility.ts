import { z } from 'zod'
import type { Tracks } from '../core/application/tracks'
import type { Verdict } from '../core/finding/finding'
import type { Difference } from '../core/notice/difference'

export const rulingSchema = z.object({
  ruling: z.enum(['false', 'stands']),
  reason: z.string().trim().min(3, 'at least 3 characters').max(1000),
})
export type RulingInput = z.infer<typeof rulingSchema>

/** A new ruling on one claim, as the dossier lists them. */
export interface RulingView {
  claim: string
  title: string
  ruling: 'false' | 'stands'
  reason: string
  by: string
  at: string
}

/** All applications judged again. `version` is the notice it was judged under; `inForce` whether that is the one in force. */
export interface ReviewRow {
  id: string
  serial: number
  version: number
  baseVersion: number
  state: 'running' | 'listed' | 'agreed' | 'accepted' | 'discarded'
  totals: {
    applications: number,
    judged: number,
    kept: number,
    differences: number,
    chosen: number,
    fees: FeeChangeTotals,
    /** People who hold a seat that would be gone, or stand at another hour. */
    seats: { gone: number, anotherHour: number },
  }
  /** Why the notice is amended. */
  reason: string | null
  /** From when it holds, where that was later than its acceptance. */
  holdsFrom: string | null
  /** What it does to fees that were assessed before; null until it is accepted. */
  fees: 'anew' | 'kept' | null
  by: string
  at: string
  settledBy: string | null
  settledAt: string | null
}

/**
 * Fees that a proposed notice would change: how many more and less and by how much in all (minor units), whose settled fee would be due
 * again, to whom money would be owed back.
 */
export interface FeeChangeTotals {
  more: number
  moreBy: number
  less: number
  lessBy: number
  dueAgain: number
  owedBack: number
}
export interface FeeChangeRow {
  applicationId: string
  number: string
  name: string
  before: number
  after: number
  received: number
  fee: Tracks['fee']
}

/** Somebody whose seat an amendment takes away or puts at another hour. */
export interface SeatChangeRow {
  applicationId: string
  number: string
  name: string
  fate: 'another hour' | 'gone'
}

/** An amendment to propose, with why; without a notice all are judged again under the one in force. */
export const reviewStartSchema = z.union([
  z.strictObject({ notice: z.unknown(), reason: z.string().trim().min(3, 'at least 3 characters').max(1000) }),
  z.strictObject({}),
])
/** How a list is accepted: from when it holds (at once without a moment), and whether fees of those who are in are assessed anew. */
export const acceptanceSchema = z.strictObject({
  from: z.iso.datetime({ offset: true }).optional(),
  fees: z.enum(['anew', 'kept']).optional(),
})
export type Acceptance = z.infer<typeof acceptanceSchema>

export interface DifferenceRow {
  applicationId: string
  number: string
  name: string
  post: string
  postTitle: string
  chosen: boolean
  before: Verdict
  after: Verdict
  clauses: string
  headline: string
}
export interface ReviewDetail extends ReviewRow {
  /** What the proposed notice changes, part by part. */
  amendments: Difference[]
  differences: DifferenceRow[]
  feeChanges: { rows: FeeChangeRow[], next: string | null }
  seatChanges: { rows: SeatChangeRow[], next: string | null }
  /** The key for the next page, null at the end. */
  next: string | null
}

export const reviewQuerySchema = z.object({
  post: z.string().max(60).optional(),
  chosen: z.enum(['yes', 'no']).optional(),
  after: z.string().max(200).optional(),
  afterFee: z.string().max(60).optional(),
  afterSeat: z.string().max(60).optional(),
  limit: z.coerce.number().int().min(1).max(500).default(100),
})
export type ReviewQuery = z.infer<typeof reviewQuerySchema>
