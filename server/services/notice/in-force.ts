import { and, asc, eq, sql } from 'drizzle-orm'
import { differencesBetween } from '../../../core/notice/difference'
import { withoutCentres } from '../../../core/notice/centres'
import type { VersionRow } from '../../../shared/notice'
import type { Executor } from '../../database/client'
import { noticeInForce } from '../../database/schema'
import type { Caller } from '../context'
import { namesOf } from '../people/names'
import { noticeOfVersion, type CurrentNotice } from './notices'

/** Which version of a notice held from when, why, and what it did to fees that were assessed before. */

/**
 * The version whose schedule a fee goes by: that of its assessment, or a later one by which fees of everybody were assessed anew.
 *
 * @param assessedUnder null where it was never assessed, or from before this was kept: the version in force, then.
 */
export async function scheduleFor(db: Executor, under: CurrentNotice, assessedUnder: number | null): Promise<CurrentNotice> {
  if (assessedUnder === null || assessedUnder === under.version) return under
  const code = under.notice.code
  const [row] = await db.select({ version: sql<number | null>`max(${noticeInForce.version})` }).from(noticeInForce)
    .where(and(eq(noticeInForce.cycle, code), eq(noticeInForce.fees, 'anew')))
  const version = Math.max(assessedUnder, row?.version ?? 0)
  return version === under.version ? under : { notice: await noticeOfVersion(db, code, version), version }
}

/**
 * All versions that ever held, the first one first, each with what it changed in the one before. Anybody may read them: a notice is public.
 */
export async function versionsInForce(caller: Caller, code: string): Promise<VersionRow[]> {
  const { db } = await caller.authorise('examinations.read', { cycle: code })
  const rows = await db.select().from(noticeInForce).where(eq(noticeInForce.cycle, code)).orderBy(asc(noticeInForce.version))
  // Names of staff are for those who work with them.
  const name = caller.principal.kind === 'staff' ? await namesOf(db, rows.map(row => row.by)) : () => ''
  const notices = await Promise.all(rows.map(async row => withoutCentres(await noticeOfVersion(db, code, row.version))))
  return rows.map((row, i) => ({
    version: row.version,
    from: row.from.toISOString(),
    reason: row.reason,
    fees: i === 0 ? null : row.fees,
    by: name(row.by),
    changes: i === 0 ? [] : differencesBetween(notices[i - 1], notices[i]),
  }))
}
