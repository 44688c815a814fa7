import { and, asc, eq, gt, inArray, sql } from 'drizzle-orm'
import { z } from 'zod'
import { defineWork } from '../../jobs/define'
import { application } from '../../database/schema'
import type { Caller } from '../context'
import { keepKeys, mostAlike, openPairs, scored } from './pairs'

const [keysAtOnce, pairsAtOnce] = [1000, 5000]

/**
 * Compares all applications of a cycle that stand with each other: their keys are kept, those that share one are scored, and likely ones
 * are opened for a person. It may be run again: what was judged, or is open, is not opened once more.
 */
export async function findPairs(
  caller: Caller,
  cycle: string,
  tell: (done: number, total: number) => Promise<boolean>,
): Promise<Record<string, number>> {
  const { db, ...rest } = await caller.authorise('scrutiny.compare', { cycle })
  const context = { db, ...rest }
  const standing = and(eq(application.cycle, cycle), inArray(application.form, ['submitted', 'correcting']))
  const total = await db.$count(application, standing)
  let done = 0
  for (let after = '';;) {
    const page = await db.select({ id: application.id, cycle: application.cycle, answers: application.answers, number: application.number })
      .from(application).where(and(standing, gt(application.number, after))).orderBy(asc(application.number)).limit(keysAtOnce)
    if (page.length > 0) await keepKeys(db, page)
    done += page.length
    after = page.at(-1)?.number ?? after
    if (page.length < keysAtOnce) break
    if (!await tell(done, 2 * total)) return { compared: 0, found: 0 }
  }
  // Pairs that share a key which few enough have, walked in the order of the keys, each pair once a key; core looks at those that nobody
  // has been asked about.
  let [compared, found] = [0, 0]
  for (let from = '-9223372036854775808';;) {
    const { rows: keys } = await db.execute<{ key: string, ids: string[] }>(sql`select key, ids from (
      select key, array_agg(application_id order by application_id) as ids, count(*) as n from (select key, application_id from identity_key where cycle = ${cycle} and key > ${from}::bigint order by key limit ${
      keysAtOnce * 50
    }) k group by key) g order by key`)
    // The last key may go on beyond what was read.
    const whole = keys.length > 1 && keys.reduce((sum, key) => sum + key.ids.length, 0) >= keysAtOnce * 50 ? keys.slice(0, -1) : keys
    if (whole.length === 0) break
    const pairs = new Map<string, { first: string, second: string }>()
    for (const { ids } of whole) {
      if (ids.length < 2 || ids.length > mostAlike) continue
      ids.forEach((first, i) =>
        ids.slice(i + 1).forEach((second) => {
          pairs.set(`${first}${second}`, { first, second })
        })
      )
    }
    const list = [...pairs.values()]
    for (let i = 0; i < list.length; i += pairsAtOnce) {
      const part = list.slice(i, i + pairsAtOnce)
      const likely = await scored(db, part)
      found += await db.transaction(tx => openPairs(tx, context, likely))
    }
    compared += list.length
    from = whole.at(-1)?.key ?? from
    if (!await tell(total + Math.round(total * (Number(BigInt(from) + 2n ** 63n) / 2 ** 64)), 2 * total)) break
  }
  return { compared, found }
}

/** The comparison as long work. */
export const findPairsWork = defineWork({
  kind: 'find-pairs',
  permission: 'scrutiny.compare',
  input: z.object({}),
  run: (caller, { cycle, tell }) => findPairs(caller, cycle, tell),
})
