import { and, eq, inArray, sql } from 'drizzle-orm'
import type { Executor } from '../../database/client'
import { correction } from '../../database/schema'
import { actingOn, carryOutOn } from '../acts/carry-out'
import { settleMatters } from '../acts/matters'
import type { Context } from '../context'
import { moneyOf } from '../fees/received'
import { takeEffect } from './effect'

/** After money has moved: corrections whose money has come go on, and those whose money was taken back wait for it again. The transaction holds their applications. */
export async function movePaidCorrections(tx: Executor, context: Context, applicationIds: readonly string[]): Promise<void> {
  if (applicationIds.length === 0) return
  const open = await tx.select().from(correction).where(and(inArray(correction.state, ['unpaid', 'waiting']), sql`${correction.applicationId} = any(${sql.param([...applicationIds])}::uuid[])`))
  const money = open.length === 0 ? new Map<string, never>() : await moneyOf(tx, context, open.map(one => one.applicationId))
  for (const one of open) {
    const { received = 0, assessed = 0, held = 0 } = money.get(one.applicationId) ?? {}
    const isPaid = received - (assessed ?? 0) >= held
    if (isPaid !== (one.state === 'waiting')) await tx.update(correction).set({ state: isPaid ? 'waiting' : 'unpaid' }).where(eq(correction.id, one.id))
    const acting = await actingOn(tx, context, one.applicationId)
    if (isPaid && one.atOnce && acting.row.form === 'submitted') await carryOutOn(acting, 'apply-correction', {}, held => takeEffect(held, ''))
    else if (isPaid !== (one.state === 'waiting')) await settleMatters(tx, context, acting.row, acting.notice)
  }
}
