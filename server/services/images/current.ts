import { and, desc, eq, ne } from 'drizzle-orm'
import type { Executor } from '../../database/client'
import { image } from '../../database/schema'

export type ImageRow = typeof image.$inferSelect

export const newestFirst = [image.kind, desc(image.version)] as const
export const counting = (applicationId: string) => and(eq(image.applicationId, applicationId), ne(image.state, 'refused'))

/** The newest version in each slot of an application; refused ones never count. */
export async function currentImages(tx: Executor, applicationId: string): Promise<Partial<Record<string, ImageRow>>> {
  const rows = await tx.selectDistinctOn([image.kind]).from(image).where(counting(applicationId)).orderBy(...newestFirst)
  return Object.fromEntries(rows.map(row => [row.kind, row]))
}
