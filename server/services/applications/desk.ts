import { and, eq, sql } from 'drizzle-orm'
import type { Headline } from '../../../core/application/tracks'
import type { Desk } from '../../../shared/applications'
import { allocationRun, application, payment } from '../../database/schema'
import { demand, type Context } from '../context'

/** What needs the office today: each kind of waiting with its count and its oldest case. */
export async function readDesk(context: Context, cycle: string): Promise<Desk> {
  demand(context, 'read')
  const { db } = context
  const waits = await db.select({ headline: application.headline, count: sql<string>`count(*)`, oldest: sql<string>`min(${application.headlineSince})` })
    .from(application).where(eq(application.cycle, cycle)).groupBy(application.headline)
  const [hanging] = await db.select({ count: sql<string>`count(*)`, oldest: sql<string | null>`min(${payment.openedAt})` }).from(payment)
    .innerJoin(application, eq(application.id, payment.applicationId)).where(and(eq(application.cycle, cycle), eq(payment.state, 'open')))
  const [run] = await db.select({ id: allocationRun.id, serial: allocationRun.serial, at: allocationRun.at }).from(allocationRun).where(and(eq(allocationRun.cycle, cycle), sql`${allocationRun.publishedAt} is null`))
    .orderBy(sql`${allocationRun.serial} desc`).limit(1)
  return {
    waits: waits.map(w => ({ headline: w.headline as Headline, count: Number(w.count), oldest: new Date(w.oldest).toISOString() })),
    hangingPayments: { count: Number(hanging?.count ?? 0), oldest: hanging?.oldest ? new Date(hanging.oldest).toISOString() : null },
    unpublishedRun: run ? { id: run.id, serial: run.serial, at: run.at.toISOString() } : null,
  }
}
