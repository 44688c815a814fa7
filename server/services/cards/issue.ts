import { randomBytes } from 'node:crypto'
import { and, asc, desc, eq, gt, inArray, sql } from 'drizzle-orm'
import { cardBlockers, codeContent } from '../../../core/admit-card/content'
import { publicKeyOf, signCode, type SigningKey } from '../../../core/admit-card/code'
import { imageKinds, imageKindsOf } from '../../../core/notice/schema'
import { blockerWords } from '../../../core/words/en/work'
import type { CardsOverview } from '../../../shared/centres'
import type { Executor } from '../../database/client'
import { admitCard, application, cardKey, image, seat } from '../../database/schema'
import { countedAnswers, lockApplication, saveTracks, tracksOf, type ApplicationRow } from '../applications/store'
import { audit, demand, type Context } from '../context'
import { currentImages } from '../images/store'
import { currentNotice } from '../notice/notices'

/** The key that signs now; made when there is none. Two processes that make one at once end up with the same. */
export async function signingKey(context: Context): Promise<SigningKey> {
  const newest = async () => (await context.db.select().from(cardKey).orderBy(desc(cardKey.createdAt), asc(cardKey.id)).limit(1))[0]
  const found = await newest()
  if (found) return { id: found.id, seed: new Uint8Array(found.seed) }
  const seed = randomBytes(32)
  const key: SigningKey = { id: 'k1', seed: new Uint8Array(seed) }
  await context.db.insert(cardKey).values({ id: key.id, seed, publicKey: Buffer.from(publicKeyOf(key).key), createdAt: context.now() }).onConflictDoNothing()
  const kept = await newest()
  return kept ? { id: kept.id, seed: new Uint8Array(kept.seed) } : key
}

/** Public keys for the check page, in base64. Open to everybody: they let anyone check a card and nobody make one. */
export async function publicKeys(context: Context): Promise<{ id: string, key: string }[]> {
  await signingKey(context)
  const rows = await context.db.select().from(cardKey).orderBy(cardKey.id)
  return rows.map(row => ({ id: row.id, key: row.publicKey.toString('base64') }))
}

/**
 * Issues a card to every seated person of a cycle who has none, a few at a time. What was issued stays issued when the
 * work stops half-way, and starting again goes on with the rest. `goOn` is told the progress and may end the work.
 */
export async function issueCards(
  context: Context, cycleCode: string, goOn: (done: number, total: number) => Promise<boolean>,
): Promise<{ issued: number, withheld: number }> {
  demand(context, 'cards.issue')
  const key = await signingKey(context)
  const waiting = and(eq(application.cycle, cycleCode), eq(application.headline, 'placed'))
  const [counted] = await context.db.select({ n: sql<string>`count(*)` }).from(application).where(waiting)
  const total = Number(counted?.n ?? 0)
  const result = { issued: 0, withheld: 0 }
  for (let after = ''; ;) {
    const page = await context.db.select({ id: application.id, number: application.number }).from(application)
      .where(and(waiting, gt(application.number, after))).orderBy(asc(application.number)).limit(25)
    for (const one of page) result[await issueCard(context, one.id, key)] += 1
    after = page.at(-1)?.number ?? ''
    if (!await goOn(result.issued + result.withheld, total) || page.length === 0) return result
  }
}

/** Issues one card, or withholds it and records why. */
export async function issueCard(context: Context, applicationId: string, key: SigningKey): Promise<'issued' | 'withheld'> {
  const actor = demand(context, 'cards.issue')
  return context.db.transaction(async (tx) => {
    const row = await lockApplication(tx, applicationId)
    const { notice } = await currentNotice(tx, row.cycle)
    const { photograph, signature, thumb } = await currentImages(tx, applicationId)
    const printable = { photograph: photograph?.displaySha256 ?? undefined, signature: signature?.displaySha256 ?? undefined, thumb }
    const blockers = cardBlockers(tracksOf(row), printable, imageKindsOf(notice))
    const [place] = await tx.select().from(seat).where(eq(seat.applicationId, applicationId))
    if (blockers.length > 0 || !place || !printable.photograph || !printable.signature) {
      if (row.card !== 'withheld') {
        await saveTracks(tx, context, row, { card: 'withheld' })
        await audit(tx, context, 'withhold card', `application:${row.number}`, { card: row.card }, { card: 'withheld', blockers })
      }
      return 'withheld'
    }
    if (row.card === 'issued') return 'issued'
    const version = await nextVersion(tx, applicationId)
    const content = codeContent(notice, { number: row.number, answers: countedAnswers(notice, row), seat: place, roll: place.roll, version }, printable.photograph)
    await tx.insert(admitCard).values({
      id: context.newId(), applicationId, version, code: signCode(content, key), photographSha256: printable.photograph,
      signatureSha256: printable.signature, by: actor.name, at: context.now(),
    })
    await saveTracks(tx, context, row, { card: 'issued' })
    await audit(tx, context, 'issue card', `application:${row.number}`, { card: row.card }, { card: 'issued', version, roll: place.roll })
    return 'issued'
  })
}

async function nextVersion(tx: Executor, applicationId: string): Promise<number> {
  const [last] = await tx.select({ version: admitCard.version }).from(admitCard).where(eq(admitCard.applicationId, applicationId)).orderBy(desc(admitCard.version)).limit(1)
  return (last?.version ?? 0) + 1
}

/** The cards' page: how many are out, how many could be issued now, whose is withheld and why. */
export async function cardsOverview(context: Context, cycleCode: string): Promise<CardsOverview> {
  demand(context, 'read')
  const { db } = context
  const { notice } = await currentNotice(db, cycleCode)
  const count = async (headline: ApplicationRow['headline']) => Number((await db.select({ n: sql<string>`count(*)` }).from(application)
    .where(and(eq(application.cycle, cycleCode), eq(application.headline, headline))))[0]?.n ?? 0)
  const withheld = await db.select().from(application).where(and(eq(application.cycle, cycleCode), eq(application.card, 'withheld'))).orderBy(asc(application.number)).limit(200)
  const kinds = withheld.length === 0 ? [] : await db.selectDistinct({ id: image.applicationId, kind: image.kind }).from(image).where(inArray(image.applicationId, withheld.map(w => w.id)))
  const newest = await db.select().from(admitCard).innerJoin(application, eq(application.id, admitCard.applicationId))
    .innerJoin(seat, eq(seat.applicationId, application.id)).where(eq(application.cycle, cycleCode)).orderBy(desc(admitCard.at), asc(application.number)).limit(200)
  return {
    issued: await count('card issued'), ready: await count('placed') - withheld.length,
    withheld: withheld.map((row) => {
      const present = Object.fromEntries(imageKinds.filter(kind => kinds.some(k => k.id === row.id && k.kind === kind)).map(kind => [kind, true]))
      return { applicationId: row.id, number: row.number, name: row.displayName, blockers: cardBlockers(tracksOf(row), present, imageKindsOf(notice)).map(b => blockerWords[b]) }
    }),
    newest: newest.map(n => ({
      applicationId: n.application.id, number: n.application.number, name: n.application.displayName, roll: n.seat.roll,
      city: notice.cities.find(c => c.id === n.seat.city)?.title ?? n.seat.city, version: n.admit_card.version, at: n.admit_card.at.toISOString(),
    })),
  }
}
