import { desc, eq } from 'drizzle-orm'
import type { Dossier } from '../../../shared/applications'
import type { Executor } from '../../database/client'
import { admitCard } from '../../database/schema'

/** The newest card of an application, void or not; null before the first. */
export async function currentCard(tx: Executor, applicationId: string): Promise<Dossier['card']> {
  const [row] = await tx.select().from(admitCard).where(eq(admitCard.applicationId, applicationId)).orderBy(desc(admitCard.version))
    .limit(1)
  return row ? { version: row.version, code: row.code, at: row.at.toISOString(), voidAt: row.voidAt?.toISOString() ?? null } : null
}
