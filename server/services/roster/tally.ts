import { sql, type SQL } from 'drizzle-orm'
import type { Headline } from '../../../core/application/tracks'
import type { Executor } from '../../database/client'

/**
 * Counts by tag that are kept, not counted: what was folded into `tally`, and the differences since, each written in the transaction that
 * brought it about. One statement reads both, so that the sum holds at its moment.
 */
async function sums(db: Executor, cycle: string, which: SQL): Promise<Map<string, number>> {
  const { rows } = await db.execute<{ tag: string, n: string }>(sql`select tag, sum(n) as n from (
    select tag, n from tally where cycle = ${cycle} and ${which} union all select tag, delta from tally_change where cycle = ${cycle} and ${which}) both_of_them group by tag`)
  return new Map(rows.map(({ tag, n }) => [tag, Number(n)]))
}

/** How many applications of a cycle bear each of some tags; one that nobody bears is absent. */
export function countsOf(db: Executor, cycle: string, tags: readonly string[]): Promise<Map<string, number>> {
  return sums(db, cycle, sql`tag = any(${sql.param([...tags])}::text[])`)
}

/** The same of all tags that begin so; the key is what follows. */
export async function countsUnder(db: Executor, cycle: string, beginning: string): Promise<Map<string, number>> {
  const found = await countsBetween(db, cycle, beginning, `${beginning}\u{10ffff}`)
  return new Map([...found].flatMap(([tag, n]) => n === 0 ? [] : [[tag.slice(beginning.length), n]]))
}

/** The same of all tags from one on and before another, by their bytes. */
export function countsBetween(db: Executor, cycle: string, from: string, before: string): Promise<Map<string, number>> {
  return sums(db, cycle, sql`tag >= ${from} and tag < ${before}`)
}

/** How many applications of a cycle stand at a point of the flow. */
export async function countAt(db: Executor, cycle: string, headline: Headline): Promise<number> {
  return (await countsOf(db, cycle, [`at:${headline}`])).get(`at:${headline}`) ?? 0
}

/** Quarter of an hour of a moment, as arrivals are counted by. */
export const quarterOf = (at: Date): string => String(Math.floor(at.getTime() / 900_000)).padStart(8, '0')
