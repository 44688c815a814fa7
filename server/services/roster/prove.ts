import { sql } from 'drizzle-orm'
import { z } from 'zod'
import { defineWork } from '../../jobs/define'
import { log, type Caller } from '../context'

const pageSize = 2000

/**
 * Proves what is kept against what is: each entry of the roster against its application, then every count against the entries, the log of
 * arrivals, the decisions and the ledger. What differs is put right by a difference of its own, so that nobody has to wait, and told in the
 * log.
 *
 * @returns how many entries and counts were wrong; both 0 unless the program or somebody's hand has made a mistake.
 */
export async function proveCounts(
  caller: Caller,
  cycle: string,
  tell: (done: number, total: number) => Promise<boolean> = () => Promise.resolve(true),
): Promise<{ applications: number, entries: number, counts: number }> {
  const context = await caller.authorise('roster.prove', { cycle })
  const { db } = context
  const { rows: [all] } = await db.execute<{ n: string }>(sql`select count(*) as n from application where cycle = ${cycle}`)
  const applications = Number(all?.n)
  let [done, entries] = [0, 0]
  for (let after = '';;) {
    const { rows: page } = await db.execute<
      { id: string, number: string, wrong: boolean }
    >(sql`select a.id, a.number, (e.tags, e.headline, e.since, e.name_key) is distinct from (roster_tags(a), a.headline, a.headline_since, a.name_key) as wrong
      from application a left join roster_entry e on e.application_id = a.id where a.cycle = ${cycle} and a.number > ${after} order by a.number limit ${pageSize}`)
    const wrong = page.filter(row => row.wrong).map(row => row.id)
    if (wrong.length > 0) await db.execute(sql`select roster_write(${sql.param(wrong)}::uuid[])`)
    entries += wrong.length
    done += page.length
    after = page.at(-1)?.number ?? after
    if (page.length < pageSize || !await tell(done, applications)) break
  }
  const { rows: mended } = await db.execute<{ tag: string }>(sql`
    with kept as (select tag, sum(n) as n from (select tag, n from tally where cycle = ${cycle} union all select tag, delta from tally_change where cycle = ${cycle}) k group by tag),
    real as (
      select tag, count(*) as n from roster_entry e, unnest(e.tags) as tag where e.cycle = ${cycle} group by 1
      union all select 'came@' || lpad(floor(extract(epoch from at) / 900)::text, 8, '0') || ':' || to_headline, count(*) from headline_change where cycle = ${cycle} group by 1
      union all select 'decided@' || lpad(floor(extract(epoch from d.at) / 900)::text, 8, '0') || ':' || d.by, count(*) from scrutiny_decision d where d.cycle = ${cycle} group by 1
      union all select 'unread-letter:' || announcement_id, count(*) from message where cycle = ${cycle} and unseen and announcement_id is not null group by 1
      union all select 'ledger:' || t.currency || ':' || l.account, sum(l.amount) from ledger_line l join ledger_transaction t on t.id = l.transaction_id join application a on a.id = t.application_id where a.cycle = ${cycle} group by 1)
    insert into tally_change (cycle, tag, delta) select ${cycle}, coalesce(kept.tag, real.tag), coalesce(real.n, 0) - coalesce(kept.n, 0)
      from kept full join real on real.tag = kept.tag collate "C" where coalesce(real.n, 0) <> coalesce(kept.n, 0) returning tag`)
  const found = { applications, entries, counts: mended.length }
  if (entries + mended.length > 0) {
    await log(db, context, 'prove-counts', {
      subject: { kind: 'cycle', id: cycle },
      cycle,
      after: {
        entries,
        counts: mended.length,
        first: mended.slice(0, 5).map(row => row.tag).join(', '),
      },
    })
  }
  return found
}

/** The proof as long work. */
export const proveCountsWork = defineWork({
  kind: 'prove-counts',
  permission: 'roster.prove',
  input: z.object({}),
  run: (caller, { cycle, tell }) => proveCounts(caller, cycle, tell),
})
