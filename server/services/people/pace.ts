import { inArray, lt, sql } from 'drizzle-orm'
import { refusal } from '../../../shared/refusal'
import { pace } from '../../database/schema'
import type { Caller, Context } from '../context'

/**
 * Slows down whoever tries too often, for all server processes together, without locking anybody out for long: after a number of tries that
 * cost nothing each further one has to wait, twice as long each time up to a bound. Tries are forgotten one by one.
 */
export interface Pace {
  key: string
  /** Tries that need not wait. */
  free: number
  /** Seconds after which one try is forgotten. */
  forget: number
  /** Longest wait in seconds. */
  most: number
}

/**
 * Counts one more try under all keys, before it is carried out: of many at once, none is overlooked.
 *
 * @throws ProblemError `session.too-many` with the seconds to wait; such a try is not carried out and does not count.
 */
export async function countTry(context: Context, paces: readonly Pace[]): Promise<void> {
  const seconds = await waitFor(context, paces)
  if (seconds > 0) throw refusal('session.too-many', { seconds })
}

/** Counts one more try under all keys. @returns 0, or the seconds to wait: such a try does not count. */
export async function waitFor(context: Context, paces: readonly Pace[]): Promise<number> {
  const at = context.now()
  // In one order, so that two tries never wait for each other.
  const keys = paces.map(one => one.key).sort()
  return context.db.transaction(async (tx) => {
    await tx.insert(pace).values(keys.map(key => ({ key, tries: 0, at }))).onConflictDoNothing()
    const rows = await tx.select().from(pace).where(inArray(pace.key, keys)).orderBy(pace.key).for('update')
    const levels = paces.map(({ key, free, forget, most }) => {
      const row = rows.find(one => one.key === key)
      const since = Math.max(0, at.getTime() - (row?.at.getTime() ?? at.getTime())) / 1000
      const tries = Math.max(0, (row?.tries ?? 0) - since / forget)
      // A part of a try that was forgotten frees none: else a sixth would slip through a moment after five.
      return { key, tries, wait: tries <= free - 1 ? 0 : Math.min(most, 2 ** (tries - free)) - since }
    })
    const seconds = Math.ceil(Math.max(...levels.map(level => level.wait)))
    if (seconds > 0) return seconds
    const counted = levels.map(({ key, tries }) => ({ key, tries: tries + 1, at }))
    await tx.insert(pace).values(counted).onConflictDoUpdate({
      target: pace.key,
      set: { tries: sql`excluded.tries`, at: sql`excluded.at` },
    })
    return 0
  })
}

/** Takes a counted try back: it was a good one. */
export async function forgetTry(context: Context, paces: readonly Pace[]): Promise<void> {
  await context.db.update(pace).set({ tries: sql`greatest(0, ${pace.tries} - 1)` }).where(inArray(pace.key, paces.map(one => one.key)))
}

/** Clears what nobody tried for a day: names that somebody made up would stay for ever. */
export async function forgetOldTries(caller: Caller): Promise<void> {
  const { db, now } = await caller.authorise('clock.act')
  await db.delete(pace).where(lt(pace.at, new Date(now().getTime() - 24 * 3600_000)))
}
