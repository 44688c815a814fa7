import { z } from 'zod'
import type { LogFault, SealedHead } from '../core/records/sealed-log'
import type { LogAct, LogSubject } from '../core/records/log'
import type { RefusalParameters } from '../core/refusal/codes'

/** One row of the log. `shown` is the subject as people know it: a number, a name. */
export interface LogRow {
  id: number
  at: string
  actor: string
  act: LogAct
  subjectKind: LogSubject['kind']
  subject: string
  shown: string
  cycle: string | null
  reason: string | null
  outsideDates: boolean
  before: unknown
  after: unknown
}

/** How far the log is sealed: its newest signed head, and how many rows wait for the next at most. */
export interface SealState {
  head: SealedHead | null
  waiting: number
}
export const releaseSchema = z.strictObject({ reason: z.string().trim().min(3, 'says why, in three characters at least').max(2000) })

/**
 * How far the erasing of what a cycle tells of people is. `from`: the first day on which it may be released; `refusal`: why it may not be
 * now.
 */
export interface ErasureView {
  from: string
  applications: number
  refusal: { code: string, parameters: RefusalParameters } | null
  proposed: { id: string, by: string, isOwn: boolean, reason: string } | null
  released: { by: string, at: string, reason: string } | null
  done: { at: string, applications: number, files: number, accounts: number } | null
  /** Applications released on their own: how many were erased, how many wait, and the first of those. */
  alone: { erased: number, waiting: number, first: { id: string, number: string }[] }
}

/** What a check of the whole sealed log found. */
export interface SealCheck {
  rows: number
  heads: number
  fault: LogFault | null
}
