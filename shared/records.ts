import type { LogFault, SealedHead } from '../core/records/sealed-log'
import type { LogAct, LogSubject } from '../core/records/log'

/** One row of the log. `shown` is the subject as people know it: a number, a name. */
export interface LogRow {
  id: number, at: string, actor: string, act: LogAct, subjectKind: LogSubject['kind'], subject: string, shown: string
  cycle: string | null, reason: string | null, outsideDates: boolean, before: unknown, after: unknown
}

/** How far the log is sealed: its newest signed head, and how many rows wait for the next at most. */
export interface SealState { head: SealedHead | null, waiting: number }
export interface SealCheck { rows: number, heads: number, fault: LogFault | null }
