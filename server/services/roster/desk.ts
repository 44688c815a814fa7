import { and, eq, isNull, sql } from 'drizzle-orm'
import type { MatterKind, MatterOwner } from '../../../core/application/open-matters'
import type { Headline } from '../../../core/application/tracks'
import type { Desk } from '../../../shared/applications'
import { allocationRun, application, auditEvent, officeQuestion, payment, proposal } from '../../database/schema'
import type { Caller } from '../context'
import { countsUnder } from './tally'

/** Those who were told something and have no account to read it in. */
const nobody = 'no-account'

/** What needs the office today: each kind of waiting with its count and its oldest case. */
export async function readDesk(caller: Caller, cycle: string): Promise<Desk> {
  const { db } = await caller.authorise('roster.read', { cycle })
  const counts = await countsUnder(db, cycle, 'at:')
  const { rows: oldest } = await db.execute<
    { headline: Headline, oldest: string | null }
  >(sql`select headline, (select min(since) from roster_entry e where e.cycle = ${cycle} and e.headline = one.headline) as oldest
    from unnest(${sql.param([...counts.keys()])}::text[]) as one(headline)`)
  const [hanging] = await db.select({ count: sql<string>`count(*)`, oldest: sql<string | null>`min(${payment.openedAt})` }).from(payment)
    .innerJoin(application, eq(application.id, payment.applicationId)).where(and(eq(application.cycle, cycle), eq(payment.state, 'open')))
  const [run] = await db.select({ id: allocationRun.id, serial: allocationRun.serial, at: allocationRun.at }).from(allocationRun)
    .where(and(eq(allocationRun.cycle, cycle), sql`${allocationRun.publishedAt} is null`)).orderBy(sql`${allocationRun.serial} desc`)
    .limit(1)
  const open = [...await countsUnder(db, cycle, 'matter:')].map(([tag, count]) => ({
    kind: tag.split('|')[0] as MatterKind,
    owner: tag.split('|')[1] as MatterOwner,
    count,
  }))
  const { rows: nearest } = await db.execute<
    { kind: MatterKind, nearest: string | null }
  >(sql`select kind, (select min(until) from open_matter m where m.cycle = ${cycle} and m.kind = one.kind and m.cleared_at is null) as nearest
    from unnest(${sql.param([...new Set(open.map(m => m.kind))])}::text[]) as one(kind)`)
  const [outside] = await db.select({ count: sql<string>`count(*)`, latest: sql<string | null>`max(${auditEvent.at})` }).from(auditEvent)
    .where(and(eq(auditEvent.cycle, cycle), eq(auditEvent.outsideDates, true)))
  const [asked] = await db.select({ count: sql<string>`count(*)`, oldest: sql<string | null>`min(${officeQuestion.at})` })
    .from(officeQuestion).where(and(eq(officeQuestion.cycle, cycle), isNull(officeQuestion.answeredAt)))
  const [proposed] = await db.select({ count: sql<string>`count(*)` }).from(proposal)
    .where(and(eq(proposal.cycle, cycle), eq(proposal.state, 'waiting')))
  const unread = [...await countsUnder(db, cycle, 'unread:')].map(([of, count]) => ({ of, count })).sort((a, b) =>
    Number(a.of === nobody) - Number(b.of === nobody) || b.count - a.count
  )
  const instant = (at: string | null | undefined) => at ? new Date(at).toISOString() : null
  return {
    matters: open.map(m => ({ ...m, nearest: instant(nearest.find(one => one.kind === m.kind)?.nearest) })),
    outsideDates: { count: Number(outside?.count ?? 0), latest: instant(outside?.latest) },
    unread,
    proposals: Number(proposed?.count ?? 0),
    waits: oldest.flatMap(({ headline, oldest: at }) =>
      at === null ? [] : [{ headline, count: counts.get(headline) ?? 0, oldest: new Date(at).toISOString() }]
    ),
    hangingPayments: { count: Number(hanging?.count ?? 0), oldest: hanging?.oldest ? new Date(hanging.oldest).toISOString() : null },
    questions: { count: Number(asked?.count ?? 0), oldest: instant(asked?.oldest) },
    unpublishedRun: run ? { id: run.id, serial: run.serial, at: run.at.toISOString() } : null,
  }
}
