import { and, desc, eq, inArray, isNull, ne, type SQL } from 'drizzle-orm'
import { grouped } from '../../../shared/grouped'
import type { Executor } from '../../database/client'
import { image } from '../../database/schema'

export type ImageRow = typeof image.$inferSelect

export const newestFirst = [image.kind, desc(image.version)] as const
export const counting = (applicationId: string | SQL) =>
  and(eq(image.applicationId, applicationId), ne(image.state, 'refused'), isNull(image.correctionId))

/** The newest version in each slot of an application; refused ones never count, nor those of a correction that has not taken effect. */
export async function currentImages(tx: Executor, applicationId: string): Promise<Partial<Record<string, ImageRow>>> {
  return (await currentImagesOfMany(tx, [applicationId])).get(applicationId) ?? {}
}

/** The same for many applications. */
export async function currentImagesOfMany(
  tx: Executor,
  applicationIds: readonly string[],
): Promise<Map<string, Partial<Record<string, ImageRow>>>> {
  const rows = await tx.selectDistinctOn([image.applicationId, image.kind]).from(image)
    .where(and(inArray(image.applicationId, [...applicationIds]), ne(image.state, 'refused'), isNull(image.correctionId))).orderBy(
      image.applicationId,
      ...newestFirst,
    )
  return new Map([...grouped(rows, row => row.applicationId)].map(([id, own]) => [id, Object.fromEntries(own.map(row => [row.kind, row]))]))
}
