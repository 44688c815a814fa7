import { and, eq, gt } from 'drizzle-orm'
import { hourInZone } from '../../../core/calendar/zone'
import { askForWork } from '../../jobs/define'
import { locks } from '../../database/locks'
import { cycle, job } from '../../database/schema'
import type { Caller } from '../context'
import { currentNotice } from '../notice/notices'
import { proveCountsWork } from './prove'

/** Hours of the body's night in which counts are proved, when nobody works with them. */
const night = { from: 2, before: 5 }
const restHours = 20

/** Has the counts of each examination proved once a night. Gives how many proofs were asked for. */
export async function askForProofs(caller: Caller): Promise<number> {
  const context = await caller.authorise('roster.prove')
  const { db, now } = context
  let asked = 0
  for (const { code } of await db.select({ code: cycle.code }).from(cycle)) {
    const { notice } = await currentNotice(db, code)
    const hour = hourInZone(now(), notice.body.zone)
    if (hour < night.from || hour >= night.before) continue
    asked += await db.transaction(async (tx) => {
      // Of several processes one asks.
      await locks.startWork(tx)
      const [known] = await tx.select({ id: job.id }).from(job).where(and(
        eq(job.cycle, code),
        eq(job.kind, proveCountsWork.kind),
        gt(job.createdAt, new Date(now().getTime() - restHours * 3_600_000)),
      )).limit(1)
      return known || !await askForWork(tx, context, proveCountsWork.kind, code, {}) ? 0 : 1
    })
  }
  return asked
}
