import { and, eq, isNull, sql } from 'drizzle-orm'
import type { Headline } from '../../../core/application/tracks'
import type { Desk } from '../../../shared/applications'
import { allocationRun, application, auditEvent, openMatter, payment, proposal } from '../../database/schema'
import type { Caller } from '../context'

/** What needs the office today: each kind of waiting with its count and its oldest case. */
export async function readDesk(caller: Caller, cycle: string): Promise<Desk> {
  const { db } = await caller.authorise('roster.read', { cycle })
  const waits = await db.select({ headline: application.headline, count: sql<string>`count(*)`, oldest: sql<string>`min(${application.headlineSince})` })
    .from(application).where(eq(application.cycle, cycle)).groupBy(application.headline)
  const [hanging] = await db.select({ count: sql<string>`count(*)`, oldest: sql<string | null>`min(${payment.openedAt})` }).from(payment)
    .innerJoin(application, eq(application.id, payment.applicationId)).where(and(eq(application.cycle, cycle), eq(payment.state, 'open')))
  const [run] = await db.select({ id: allocationRun.id, serial: allocationRun.serial, at: allocationRun.at }).from(allocationRun).where(and(eq(allocationRun.cycle, cycle), sql`${allocationRun.publishedAt} is null`))
    .orderBy(sql`${allocationRun.serial} desc`).limit(1)
  const matters = await db.select({ kind: openMatter.kind, owner: openMatter.owner, count: sql<string>`count(*)`, nearest: sql<string | null>`min(${openMatter.until})` }).from(openMatter)
    .where(and(eq(openMatter.cycle, cycle), isNull(openMatter.clearedAt))).groupBy(openMatter.kind, openMatter.owner)
  const [outside] = await db.select({ count: sql<string>`count(*)`, latest: sql<string | null>`max(${auditEvent.at})` }).from(auditEvent).where(and(eq(auditEvent.cycle, cycle), eq(auditEvent.outsideDates, true)))
  const [proposed] = await db.select({ count: sql<string>`count(*)` }).from(proposal).where(and(eq(proposal.cycle, cycle), eq(proposal.state, 'waiting')))
  const instant = (at: string | null | undefined) => at ? new Date(at).toISOString() : null
  return {
    matters: matters.map(m => ({ kind: m.kind, owner: m.owner, count: Number(m.count), nearest: instant(m.nearest) })),
    outsideDates: { count: Number(outside?.count ?? 0), latest: instant(outside?.latest) },
    proposals: Number(proposed?.count ?? 0),
    waits: waits.map(w => ({ headline: w.headline as Headline, count: Number(w.count), oldest: new Date(w.oldest).toISOString() })),
    hangingPayments: { count: Number(hanging?.count ?? 0), oldest: hanging?.oldest ? new Date(hanging.oldest).toISOString() : null },
    unpublishedRun: run ? { id: run.id, serial: run.serial, at: run.at.toISOString() } : null,
  }
}
