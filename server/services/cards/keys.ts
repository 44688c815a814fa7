import { randomBytes } from 'node:crypto'
import { asc, desc } from 'drizzle-orm'
import { publicKeyOf, type SigningKey } from '../../../core/admit-card/code'
import type { Executor } from '../../database/client'
import { cardKey } from '../../database/schema'
import type { Caller, Context } from '../context'

/** The key that signs now; made when there is none. Two processes that make one at once end up with the same. */
export async function signingKey(tx: Executor, context: Pick<Context, 'now'>): Promise<SigningKey> {
  const newest = async () => (await tx.select().from(cardKey).orderBy(desc(cardKey.createdAt), asc(cardKey.id)).limit(1))[0]
  const found = await newest()
  if (found) return { id: found.id, seed: new Uint8Array(found.seed) }
  const seed = randomBytes(32)
  const key: SigningKey = { id: 'k1', seed: new Uint8Array(seed) }
  await tx.insert(cardKey).values({ id: key.id, seed, publicKey: Buffer.from(publicKeyOf(key).key), createdAt: context.now() }).onConflictDoNothing()
  const kept = await newest()
  return kept ? { id: kept.id, seed: new Uint8Array(kept.seed) } : key
}

/** Public keys for the check page, in base64. Open to everybody: they let anyone check a card and nobody make one. */
export async function publicKeys(caller: Caller): Promise<{ id: string, key: string }[]> {
  const context = await caller.authorise('card-keys.read')
  await signingKey(context.db, context)
  const rows = await context.db.select().from(cardKey).orderBy(cardKey.id)
  return rows.map(row => ({ id: row.id, key: row.publicKey.toString('base64') }))
}
