import { eq, sql } from 'drizzle-orm'
import { alone } from '../../database/client'
import { rosterStale } from '../../database/schema'
import type { Caller, Context } from '../context'
import { writeLatin } from './alike'

/** Folds the differences of counts into the counts, so that few are left to be added up; whatever is read meanwhile is right. */
export async function foldTally(caller: Caller): Promise<void> {
  const { db } = await caller.authorise('clock.act')
  await alone(db, 'tally', async () => {
    for (;;) {
      const { rows } = await db.execute<
        { n: string }
      >(sql`with gone as (delete from tally_change where id in (select id from tally_change order by id limit 20000) returning cycle, tag, delta),
        kept as (insert into tally (cycle, tag, n) select cycle, tag, sum(delta) from gone group by 1, 2 on conflict (cycle, tag) do update set n = tally.n + excluded.n)
        select count(*) as n from gone`)
      if (Number(rows[0]?.n) < 20_000) return
    }
  })
}

const pageSize = 1000

/** Writes the entries of cycles anew whose notice has other questions now, page by page; a process that dies leaves off at a page. */
export async function rewriteStale(caller: Caller): Promise<void> {
  const context = await caller.authorise('clock.act')
  await alone(context.db, 'roster', async () => {
    await writeLatin(context.db)
    for (;;) {
      const [stale] = await context.db.select().from(rosterStale).limit(1)
      if (!stale) return
      await rewritePage(context, stale)
    }
  })
}

async function rewritePage({ db }: Context, { cycle, after }: typeof rosterStale.$inferSelect): Promise<void> {
  await db.transaction(async (tx) => {
    const { rows } = await tx.execute<
      { id: string, number: string }
    >(sql`select id, number from application where cycle = ${cycle} and number > ${after} order by number limit ${pageSize}`)
    const last = rows.at(-1)
    if (rows.length > 0) await tx.execute(sql`select roster_write(${sql.param(rows.map(row => row.id))}::uuid[])`)
    if (last && rows.length === pageSize) await tx.update(rosterStale).set({ after: last.number }).where(eq(rosterStale.cycle, cycle))
    else await tx.delete(rosterStale).where(eq(rosterStale.cycle, cycle))
  })
}
