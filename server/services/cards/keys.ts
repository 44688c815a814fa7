import { randomBytes } from 'node:crypto'
import { count, desc, eq } from 'drizzle-orm'
import { publicKeyOf, type SigningKey } from '../../../core/admit-card/code'
import type { Executor } from '../../database/client'
import { cardKey } from '../../database/schema'
import { seal, unseal } from '../../secrets/office-key'
import { log, type Caller, type Context } from '../context'

/** Keys that sign cards and heads of the log. Their secret halves are sealed; old ones stay, so that what they signed can be checked. */

const seedBytes = 32
const purposeOf = (id: string) => `card-key:${id}`

/** The key that signs now; made when there is none. Two processes that make one at once end up with the same. */
export async function signingKey(tx: Executor, context: Pick<Context, 'now'>): Promise<SigningKey> {
  const newest = async () => (await tx.select().from(cardKey).orderBy(desc(cardKey.createdAt), desc(cardKey.id)).limit(1))[0]
  if (!await newest()) await addKey(tx, context, 'k1')
  const found = await newest()
  if (!found) throw new Error('there is no key that signs cards, and none could be made')
  return { id: found.id, seed: new Uint8Array(seedOf(found)) }
}

// One from before there was a key file lies open; the next start seals it.
const seedOf = ({ id, seed }: Pick<typeof cardKey.$inferSelect, 'id' | 'seed'>): Buffer =>
  seed.length === seedBytes ? seed : unseal(seed, purposeOf(id))

async function addKey(tx: Executor, context: Pick<Context, 'now'>, id: string): Promise<void> {
  const seed = randomBytes(seedBytes)
  await tx.insert(cardKey).values({
    id,
    seed: seal(seed, purposeOf(id)),
    publicKey: Buffer.from(publicKeyOf({ id, seed: new Uint8Array(seed) }).key),
    createdAt: context.now(),
  }).onConflictDoNothing()
}

/** Makes a new key that signs from now on; its name. Cards signed before stay genuine. */
export async function rotateKey(context: Context): Promise<string> {
  return context.db.transaction(async (tx) => {
    await signingKey(tx, context)
    const [found] = await tx.select({ n: count() }).from(cardKey)
    const id = `k${(found?.n ?? 0) + 1}`
    await addKey(tx, context, id)
    await log(tx, context, 'rotate-card-key', { subject: { kind: 'office', id: 'card-key' }, after: { key: id } })
    return id
  })
}

/** Seals all keys under the key that seals now; how many. Only the owner of the database may. */
export async function sealKeysAnew(tx: Executor): Promise<number> {
  const keys = await tx.select().from(cardKey)
  for (const key of keys) await tx.update(cardKey).set({ seed: seal(seedOf(key), purposeOf(key.id)) }).where(eq(cardKey.id, key.id))
  return keys.length
}

/** Public keys for the check page, in base64. Open to everybody: they let anyone check a card and nobody make one. */
export async function publicKeys(caller: Caller): Promise<{ id: string, key: string }[]> {
  const context = await caller.authorise('card-keys.read')
  await signingKey(context.db, context)
  const rows = await context.db.select().from(cardKey).orderBy(cardKey.id)
  return rows.map(row => ({ id: row.id, key: row.publicKey.toString('base64') }))
}
