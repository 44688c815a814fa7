import { and, eq, sql } from 'drizzle-orm'
import type { Headline } from '../../../core/application/tracks'
import type { Executor } from '../../database/client'
import { application } from '../../database/schema'

/** How many applications of a cycle stand at a point of the flow. */
export async function countAt(tx: Executor, cycle: string, headline: Headline): Promise<number> {
  const [row] = await tx.select({ n: sql<string>`count(*)` }).from(application).where(and(eq(application.cycle, cycle), eq(application.headline, headline)))
  return Number(row?.n ?? 0)
}
