import { and, eq, inArray, lte, or, sql } from 'drizzle-orm'
import { alone } from '../../database/client'
import { correction } from '../../database/schema'
import { actingOn, carryOutOn } from '../acts/carry-out'
import { lockApplication } from '../applications/store'
import type { Caller } from '../context'
import { close } from './hand-in'
import { movePaidCorrections } from './paid'

/**
 * Ends corrections that were not handed in or paid in time, and those of applications that have left the flow or were opened otherwise. A
 * payment under way is waited for.
 *
 * @returns how many ended.
 */
export async function endCorrections(caller: Caller, limit = 200): Promise<number> {
  const context = await caller.authorise('clock.act')
  const done = await alone(context.db, 'corrections', async () => {
    const over = await context.db.select({ id: correction.id, applicationId: correction.applicationId }).from(correction).where(or(
      and(inArray(correction.state, ['drafting', 'unpaid']), lte(correction.until, context.now())),
      and(
        inArray(correction.state, ['drafting', 'unpaid', 'waiting']),
        sql`exists (select 1 from application a where a.id = ${correction.applicationId} and (a.form <> 'submitted' or a.scrutiny = 'refused'))`,
      ),
    )).limit(limit)
    let ended = 0
    for (const { applicationId } of over) {
      ended += await context.db.transaction(async (tx) => {
        const acting = await actingOn(tx, context, applicationId)
        if (!acting.facts.correction || acting.facts.hasOpenPayment) return 0
        await carryOutOn(acting, 'end-correction', {}, held => close(held, 'ended', ''))
        return 1
      })
    }
    return ended
  })
  return done?.result ?? 0
}

/** Corrections that may take effect at once and have not yet: whoever handed them in was cut off just then. */
export async function applyReadyCorrections(caller: Caller, limit = 200): Promise<number> {
  const context = await caller.authorise('clock.act')
  const before = new Date(context.now().getTime() - 15_000)
  const ready = await context.db.select({ id: correction.applicationId }).from(correction)
    .where(and(eq(correction.state, 'waiting'), eq(correction.atOnce, true), lte(correction.handedAt, before))).limit(limit)
  for (const { id } of ready) {
    await context.db.transaction(async (tx) => {
      await lockApplication(tx, id)
      await movePaidCorrections(tx, context, [id])
    })
  }
  return ready.length
}
