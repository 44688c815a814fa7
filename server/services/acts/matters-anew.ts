import { and, asc, eq, gt, notInArray, sql } from 'drizzle-orm'
import { z } from 'zod'
import { askForWork, defineWork } from '../../jobs/define'
import type { Executor } from '../../database/client'
import { application } from '../../database/schema'
import type { Caller, Context } from '../context'
import { currentNotice } from '../notice/notices'
import { settleMattersOfMany } from './matters'

const pageSize = 200

/**
 * What is open follows the notice: after an amendment, or when dates were moved, the open matters of everybody who is under way are settled
 * anew, page by page. Whoever is acted on meanwhile is settled by that act; what was settled already is passed over.
 */
export async function settleAllAnew(
  caller: Caller,
  cycle: string,
  tell: (done: number, total: number) => Promise<boolean>,
): Promise<Record<string, number>> {
  const context = await caller.authorise('notice.amend')
  const underWay = and(eq(application.cycle, cycle), notInArray(application.headline, ['withdrawn', 'lapsed', 'refused']))
  const [count] = await context.db.select({ n: sql<string>`count(*)` }).from(application).where(underWay)
  const total = Number(count?.n ?? 0)
  for (let [after, looked] = ['', 0];;) {
    const page = await context.db.transaction(async (tx) => {
      const rows = await tx.select().from(application).where(and(underWay, gt(application.number, after))).orderBy(asc(application.number))
        .limit(pageSize).for('update')
      if (rows.length > 0) await settleMattersOfMany(tx, context, rows, (await currentNotice(tx, cycle)).notice)
      return rows
    })
    looked += page.length
    after = page.at(-1)?.number ?? ''
    if (!await tell(looked, total) || page.length < pageSize) return { applications: looked }
  }
}

export const settleMattersWork = defineWork({
  kind: 'settle-matters',
  permission: 'notice.amend',
  input: z.object({ version: z.int() }),
  run: (caller, { cycle, tell }) => settleAllAnew(caller, cycle, tell),
})

/** Asks for it, in the transaction that lets another version hold. */
export async function askToSettleMatters(tx: Executor, context: Context, cycle: string, version: number): Promise<void> {
  await askForWork(tx, context, settleMattersWork.kind, cycle, { version })
}
