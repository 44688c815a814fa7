import type { LogAct, LogSubject } from '../core/records/log'

/** One row of the log. `shown` is the subject as people know it: a number, a name. */
export interface LogRow {
  id: number, at: string, actor: string, act: LogAct, subjectKind: LogSubject['kind'], subject: string, shown: string
  cycle: string | null, reason: string | null, outsideDates: boolean, before: unknown, after: unknown
}
