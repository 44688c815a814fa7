import { and, desc, eq, inArray, lt } from 'drizzle-orm'
import { subjectKinds } from '../../../core/records/log'
import type { LogRow } from '../../../shared/records'
import { application, auditEvent } from '../../database/schema'
import type { Caller } from '../context'
import { namesOf } from '../people/names'

/** The log, newest first, 100 at a time; `before` is the id of the last row already seen. `subject` is an id, or an application number. */
export async function readRecords(caller: Caller, query: { before?: number, subject?: string }): Promise<LogRow[]> {
  const { db } = await caller.authorise('records.read')
  const wanted = query.subject?.trim()
  const [named] = wanted
    ? await db.select({ id: application.id }).from(application).where(eq(application.number, wanted.toUpperCase()))
    : []
  const rows = await db.select().from(auditEvent).where(and(
    query.before ? lt(auditEvent.id, query.before) : undefined,
    wanted ? eq(auditEvent.subject, named?.id ?? wanted) : undefined,
  )).orderBy(desc(auditEvent.id)).limit(100)
  const subjects = rows.filter(row => row.subjectKind === 'application').map(row => row.subject)
  const numbers = new Map(subjects.length === 0
    ? []
    : (await db.select({ id: application.id, number: application.number }).from(application).where(inArray(application.id, subjects))).map(
      a => [a.id, a.number]
    ))
  const name = await namesOf(db, rows.flatMap(row => row.subjectKind === 'staff' ? [row.actor, row.subject] : [row.actor]))
  const shown = (row: typeof rows[number]) => row.subjectKind === 'staff' ? name(row.subject) : numbers.get(row.subject) ?? row.subject
  return rows.map(row => ({
    id: row.id,
    at: row.at.toISOString(),
    actor: name(row.actor),
    act: row.act,
    subjectKind: subjectKinds.find(kind => kind === row.subjectKind) ?? 'office',
    subject: row.subject,
    shown: shown(row),
    cycle: row.cycle,
    reason: row.reason,
    outsideDates: row.outsideDates,
    before: row.before,
    after: row.after,
  }))
}
