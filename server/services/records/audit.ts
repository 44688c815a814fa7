import { and, desc, eq, lt } from 'drizzle-orm'
import { auditEvent } from '../../database/schema'
import { demand, type Context } from '../context'

export interface AuditRow { id: number, at: string, actor: string, action: string, subject: string, before: unknown, after: unknown }

/** The log, newest first, 100 at a time; `before` is the id of the last row already seen. */
export async function readRecords(context: Context, query: { before?: number, subject?: string }): Promise<AuditRow[]> {
  demand(context, 'records.read')
  const rows = await context.db.select().from(auditEvent)
    .where(and(query.before ? lt(auditEvent.id, query.before) : undefined, query.subject ? eq(auditEvent.subject, query.subject) : undefined))
    .orderBy(desc(auditEvent.id)).limit(100)
  return rows.map(e => ({ id: e.id, at: e.at.toISOString(), actor: e.actor, action: e.action, subject: e.subject, before: e.before, after: e.after }))
}
