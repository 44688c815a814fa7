import { sql } from 'drizzle-orm'
import type { Executor } from './client'

/**
 * One clock for all servers of an office: the database's. Between two looks at it a process counts on by a clock that nobody can set, so
 * that a machine whose own clock jumps, or runs elsewhere than its neighbour's, closes nothing early and takes nothing late.
 */
let anchor: { at: number, elapsed: number } | null = null

/** The present moment; by the machine's own clock before the database was asked. */
export const officeNow = (): Date => new Date(anchor ? anchor.at + performance.now() - anchor.elapsed : Date.now())

const lookEvery = 10_000
/** A look that takes longer says too little of when it was answered, in milliseconds; it is used where there was none before. */
const slowLook = 500

export async function lookAtClock(db: Executor): Promise<void> {
  const before = performance.now()
  const { rows: [row] } = await db.execute<{ at: string }>(sql`select extract(epoch from clock_timestamp()) * 1000 as at`)
  const after = performance.now()
  if (row && (anchor === null || after - before < slowLook)) anchor = { at: Number(row.at), elapsed: (before + after) / 2 }
}

/** Looks now and from then on; a database that is lost is asked again later. @returns what ends it. */
export function keepClock(db: Executor): () => void {
  const look = () => void lookAtClock(db).catch(() => undefined)
  look()
  const timer = setInterval(look, lookEvery)
  timer.unref()
  return () => clearInterval(timer)
}
