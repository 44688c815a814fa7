import { and, eq, inArray, sql } from 'drizzle-orm'
import { ProblemError } from '../../../shared/problem'
import type { Executor } from '../../database/client'
import { correction } from '../../database/schema'
import { actingOn, carryOutOn } from '../acts/carry-out'
import { settleMatters } from '../acts/matters'
import type { Context } from '../context'
import { moneyOf } from '../fees/received'
import { takeEffect } from './effect'
import type { CorrectionRow } from './store'
import { weigh } from './weigh'

/**
 * After money has moved: corrections whose money has come go on, and those whose money was taken back wait for it again. The transaction
 * holds their applications.
 */
export async function movePaidCorrections(tx: Executor, context: Context, applicationIds: readonly string[]): Promise<void> {
  if (applicationIds.length === 0) return
  const open = await tx.select().from(correction).where(and(
    inArray(correction.state, ['unpaid', 'waiting']),
    sql`${correction.applicationId} = any(${sql.param([...applicationIds])}::uuid[])`,
  ))
  const money = open.length === 0 ? new Map<string, never>() : await moneyOf(tx, context, open.map(one => one.applicationId))
  for (const one of open) {
    const { received = 0, assessed = 0, held = 0 } = money.get(one.applicationId) ?? {}
    const isPaid = received - (assessed ?? 0) >= held
    const isMoved = isPaid !== (one.state === 'waiting')
    if (isMoved) await tx.update(correction).set({ state: isPaid ? 'waiting' : 'unpaid' }).where(eq(correction.id, one.id))
    if (isPaid && one.atOnce && await applyNow(tx, context, one)) continue
    if (!isMoved && !one.atOnce) continue
    const { row, notice } = await actingOn(tx, context, one.applicationId)
    await settleMatters(tx, context, row, notice)
  }
}

/**
 * Lets a correction take effect without a look. Where that cannot be after all, it waits for the office like any other: the money that
 * brought it here is booked all the same.
 *
 * @returns whether it did.
 */
async function applyNow(tx: Executor, context: Context, one: CorrectionRow): Promise<boolean> {
  try {
    return await tx.transaction(async (inner) => {
      const acting = await actingOn(inner, context, one.applicationId)
      if (acting.row.form !== 'submitted') return false
      if (!(await weigh(acting, one)).takesEffectAtOnce) throw new NeedsLook()
      await carryOutOn(acting, 'apply-correction', {}, held => takeEffect(held, ''))
      return true
    })
  } catch (error) {
    if (!(error instanceof NeedsLook || error instanceof ProblemError)) throw error
    await tx.update(correction).set({ atOnce: false }).where(eq(correction.id, one.id))
    return false
  }
}

class NeedsLook extends Error {}
