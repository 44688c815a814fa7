import { and, asc, desc, eq, gt, isNull } from 'drizzle-orm'
import { cardBlockers, cardContent, codeContent, type CardBlocker } from '../../../core/admit-card/content'
import { signCode, verifyCode } from '../../../core/admit-card/code'
import { periodRefusal } from '../../../core/application/acts/dates'
import { holdsSeat } from '../../../core/application/acts/guards'
import type { Tracks } from '../../../core/application/tracks'
import { imageKindsOf } from '../../../core/notice/image-rules'
import type { CardStanding } from '../../../shared/centres'
import { refusal } from '../../../shared/refusal'
import type { Executor } from '../../database/client'
import { admitCard, application, seat } from '../../database/schema'
import { actingOn, carryOut, carryOutOn, type Acting, type Carried } from '../acts/carry-out'
import type { Given } from '../acts/given'
import { countedAnswers, tracksOf } from '../applications/store'
import type { Caller, Context } from '../context'
import { currentImages } from '../images/current'
import { currentNotice } from '../notice/notices'
import { publicKeys, signingKey } from './keys'
import { countAt } from '../roster/tally'
import { withholding } from './withholding'

export interface Issued {
  issued: number
  withheld: number
}

/**
 * Issues a card to every seated person of a cycle who has none, a few at a time. What was issued stays issued when the
 * work stops half-way, and starting again goes on with the rest. `goOn` is told the progress and may end the work.
 */
export async function issueCards(
  caller: Caller,
  cycleCode: string,
  given: Given,
  goOn: (done: number, total: number) => Promise<boolean>,
): Promise<Issued> {
  const { db, now } = await caller.authorise('cards.issue')
  const early = periodRefusal((await currentNotice(db, cycleCode)).notice, 'cards', now())
  if (early && !given.outsideDates) throw refusal(early.code, early.parameters, { outsideDates: true })
  const waiting = and(eq(application.cycle, cycleCode), eq(application.headline, 'placed'))
  const total = await countAt(db, cycleCode, 'placed')
  const result: Issued = { issued: 0, withheld: 0 }
  for (let after = '';;) {
    const page = await db.select({ id: application.id, number: application.number }).from(application)
      .where(and(waiting, gt(application.number, after))).orderBy(asc(application.number)).limit(25)
    for (const one of page) result[await issueCard(caller, one.id, given)] += 1
    after = page.at(-1)?.number ?? ''
    if (!await goOn(result.issued + result.withheld, total) || page.length === 0) return result
  }
}

/** Issues one card, or withholds it and records why. */
export async function issueCard(caller: Caller, applicationId: string, given: Given): Promise<'issued' | 'withheld'> {
  const context = await caller.authorise('cards.issue')
  return context.db.transaction(async (tx) => {
    const acting = await actingOn(tx, context, applicationId)
    const { row } = acting
    // What is kept back is a card for a seat; without one there is nothing to keep back.
    if (!holdsSeat(row)) throw refusal('act.no-seat', { number: row.number })
    const blockers = await blockersOf(acting)
    if (blockers.length === 0) {
      if (row.card === 'issued' || row.card === 'replaced') return 'issued'
      await carryOutOn(acting, 'issue-card', given, writeCard)
      return 'issued'
    }
    if (row.card !== 'withheld') {
      await carryOutOn(
        acting,
        'withhold-card',
        { reason: `blocked: ${blockers.join(', ')}` },
        async () => ({ result: null, before: { card: row.card }, after: { card: 'withheld', blockers } }),
      )
    }
    return 'withheld'
  })
}

/** Makes a new version of a card in force; the one before is void. */
export function replaceCard(caller: Caller, applicationId: string, given: Given): Promise<Carried<null>> {
  return carryOut(caller, 'replace-card', applicationId, given, async (acting) => {
    const [blocker] = await blockersOf(acting)
    if (blocker) throw refusal('card.blocked', { number: acting.row.number, blocker })
    await voidCards(acting.tx, acting.context, applicationId)
    return writeCard(acting)
  })
}

/**
 * After a correction of what a card says: the one in force is void, and a new version is made. One that is withheld waits to be let go.
 *
 * @returns where the card stands then.
 */
export async function renewCard(acting: Acting): Promise<Tracks['card']> {
  await voidCards(acting.tx, acting.context, acting.row.id)
  if (acting.row.card === 'withheld') return 'withheld'
  await writeCard(acting)
  return 'replaced'
}

/** Makes a card void: its code is refused wherever there is a network. */
export function voidCard(caller: Caller, applicationId: string, given: Given): Promise<Carried<null>> {
  return carryOut(caller, 'void-card', applicationId, given, async ({ tx, context }) => {
    await voidCards(tx, context, applicationId)
    return { result: null, columns: { cardHold: null } }
  })
}

/** Withholds a card by hand, issued or not, until somebody lets it go. */
export function withholdCard(caller: Caller, applicationId: string, given: Given): Promise<Carried<null>> {
  return carryOut(caller, 'withhold-card', applicationId, given, async () => ({ result: null, columns: { cardHold: given.reason ?? '' } }))
}

/** Lets a withheld card go: the one in force is in force again, or one may be issued. */
export function letCardGo(caller: Caller, applicationId: string, given: Given): Promise<Carried<null>> {
  return carryOut(caller, 'let-card-go', applicationId, given, async () => ({ result: null, columns: { cardHold: null } }))
}

async function blockersOf({ tx, row, notice }: Acting): Promise<CardBlocker[]> {
  const { photograph, signature, thumb } = await currentImages(tx, row.id)
  const printable = { photograph: photograph?.displaySha256 ?? undefined, signature: signature?.displaySha256 ?? undefined, thumb }
  return cardBlockers(tracksOf(row), printable, imageKindsOf(notice), withholding(notice, row))
}

/** Freezes all that the card says, and signs it. */
async function writeCard({ tx, context, row, notice }: Acting) {
  const { photograph, signature } = await currentImages(tx, row.id)
  const sittings = await tx.select().from(seat).where(eq(seat.applicationId, row.id)).orderBy(seat.ordinal)
  const [place] = sittings
  if (!place || !photograph?.displaySha256 || !signature?.displaySha256) throw refusal('card.none', { number: row.number })
  const version = await nextVersion(tx, row.id)
  const subject = { number: row.number, answers: countedAnswers(notice, row), sittings, roll: place.roll, version }
  await tx.insert(admitCard).values({
    id: context.newId(),
    applicationId: row.id,
    version,
    content: cardContent(notice, subject, context.language),
    code: signCode(codeContent(notice, subject, photograph.displaySha256, context.language), await signingKey(tx, context)),
    photographSha256: photograph.displaySha256,
    signatureSha256: signature.displaySha256,
    by: context.principal.id,
    at: context.now(),
  })
  return {
    result: null,
    columns: { cardHold: null },
    before: { card: row.card },
    after: { card: 'issued', version, roll: place.roll },
    tell: { version },
  }
}

/** Makes whatever card is in force void. */
export async function voidCards(tx: Executor, context: Context, applicationId: string): Promise<void> {
  await tx.update(admitCard).set({ voidAt: context.now() }).where(and(eq(admitCard.applicationId, applicationId), isNull(admitCard.voidAt)))
}

async function nextVersion(tx: Executor, applicationId: string): Promise<number> {
  const [last] = await tx.select({ version: admitCard.version }).from(admitCard).where(eq(admitCard.applicationId, applicationId))
    .orderBy(desc(admitCard.version)).limit(1)
  return (last?.version ?? 0) + 1
}

/**
 * Whether the card of a genuine code is in force. Whoever holds the code learns this and nothing else; a code that we did not sign is told
 * from nothing that exists.
 */
export async function cardStanding(caller: Caller, code: string): Promise<CardStanding> {
  const { db } = await caller.authorise('card-keys.read')
  const keys = (await publicKeys(caller)).map(({ id, key }) => ({ id, key: new Uint8Array(Buffer.from(key, 'base64')) }))
  const verdict = verifyCode(code, keys)
  if (!verdict.ok) return { state: 'not genuine', since: null }
  const [card] = await db.select({ voidAt: admitCard.voidAt, track: application.card }).from(admitCard).innerJoin(
    application,
    eq(application.id, admitCard.applicationId),
  ).where(and(
    eq(application.number, verdict.content.application),
    eq(admitCard.version, verdict.content.version),
    eq(admitCard.code, code.trim()),
  ))
  if (!card || card.voidAt) return { state: 'void', since: card?.voidAt?.toISOString() ?? null }
  return { state: card.track === 'withheld' ? 'withheld' : 'in force', since: null }
}
