import { and, desc, eq, isNull, lt, lte, ne, or, sql } from 'drizzle-orm'
import type { Channel } from '../../../core/identity/address'
import type { LetterPage } from '../../../shared/candidates'
import { refusal } from '../../../shared/refusal'
import { alone, type Executor } from '../../database/client'
import { letter } from '../../database/schema'
import { likeText } from '../../database/text'
import type { Handed, MessageGateway } from '../../messages/gateway'
import { log, type Caller, type Context } from '../context'
import { settleMattersOfOwner } from '../acts/matters'

/** What goes out of the house: letters laid down in the transaction that owes them, and carried to the gateway afterwards. */

export interface Letter {
  principalId: string | null
  channel: Channel
  address: string
  subject: string
  body: string
  isOfMany?: boolean
  /** The messages about applications that it tells. */
  tells?: string[]
  /** It waits until then. */
  notBefore?: Date | null
}

/** Lays a letter down to be carried. */
export async function postLetter(tx: Executor, context: Context, given: Letter): Promise<void> {
  await tx.insert(letter).values({ id: context.newId(), ...given, at: context.now() })
}

/** Letters that one look takes to carry. */
const atOnce = 500
/** Letters on their way at once. */
const lanes = 4
/** How long a letter that cannot be handed over now is tried, in hours; common practice, no source. */
const triedHours = 48

/**
 * Carries waiting letters out, each under its own id, so that one that is carried twice can be known by it. One that is to be tried later
 * waits for longer each time; while the other side is not there at all, none counts as tried.
 */
export async function carryLetters(caller: Caller, gateway: MessageGateway): Promise<number> {
  const context = await caller.authorise('clock.act')
  const done = await alone(context.db, 'carrying letters', async () => {
    const waiting = await context.db.select().from(letter)
      .where(and(eq(letter.state, 'waiting'), or(isNull(letter.notBefore), lte(letter.notBefore, context.now())))).orderBy(
        letter.isOfMany,
        letter.at,
      ).limit(atOnce)
    let [carried, isDown] = [0, false]
    const lane = async () => {
      for (let next = waiting.shift(); next && !isDown; next = waiting.shift()) {
        const { id, channel, address, subject, body } = next
        const became = await gateway.take({ id, channel, address, subject, body })
        if (became === 'down') {
          isDown = true
          // Were it the letter itself that makes the other side hang up, it would keep all others from going.
          await context.db.update(letter).set({ notBefore: new Date(context.now().getTime() + 60_000) })
            .where(and(eq(letter.id, id), eq(letter.state, 'waiting')))
        } else {
          await settleLetter(context, next, became)
          carried += 1
        }
      }
    }
    await Promise.all(Array.from({ length: lanes }, lane))
    return carried
  })
  return done?.result ?? 0
}

async function settleLetter(
  context: Context,
  { id, principalId, at, tries }: typeof letter.$inferSelect,
  became: Exclude<Handed, 'down'>,
): Promise<void> {
  const now = context.now()
  const isOpen = and(eq(letter.id, id), eq(letter.state, 'waiting'))
  if (became === 'later' && now.getTime() - at.getTime() < triedHours * 3_600_000) {
    await context.db.update(letter).set({ tries: tries + 1, notBefore: new Date(now.getTime() + Math.min(2 ** tries, 60) * 60_000) })
      .where(isOpen)
    return
  }
  const isTaken = became === 'taken'
  await context.db.transaction(async (tx) => {
    await tx.update(letter).set({ state: isTaken ? 'delivered' : 'refused', settledAt: now }).where(isOpen)
    if (principalId !== null && (!isTaken || await isMissed(tx, principalId))) await settleMattersOfOwner(tx, context, principalId)
  })
}

/**
 * A letter that the mail server had taken came back: it counts as refused from now on, and who is concerned is a matter of the office.
 *
 * @returns false where it is no letter of this office, or was known to be refused.
 */
export async function letterCameBack(caller: Caller, id: string): Promise<boolean> {
  const context = await caller.authorise('clock.act')
  return context.db.transaction(async (tx) => {
    const [row] = await tx.update(letter).set({ state: 'refused', settledAt: context.now() })
      .where(and(eq(letter.id, id), ne(letter.state, 'refused'))).returning({ owner: letter.principalId })
    if (row?.owner) await settleMattersOfOwner(tx, context, row.owner)
    return row !== undefined
  })
}

/** Whether the office knows that somebody was not reached. */
async function isMissed(tx: Executor, owner: string): Promise<boolean> {
  const { rows } = await tx
    .execute(sql`select 1 from application a join open_matter m on m.application_id = a.id where a.owner_id = ${owner} and m.kind = 'message-bounced' and m.cleared_at is null limit 1`)
  return rows.length > 0
}

const pageSize = 50

/** The outbox for staff, the newest first; `search` is the beginning of an address, `after` the last of the page before, as "moment id". */
export async function readOutbox(caller: Caller, search: string, after?: { at: string, id: string }): Promise<LetterPage> {
  const { db } = await caller.authorise('letters.read')
  const found = search.trim() === '' ? undefined : sql`lower(${letter.address}) like ${`${likeText(search.trim().toLowerCase())}%`}`
  const before = after ? or(lt(letter.at, new Date(after.at)), and(eq(letter.at, new Date(after.at)), lt(letter.id, after.id))) : undefined
  const rows = await db.select().from(letter).where(and(found, before)).orderBy(desc(letter.at), desc(letter.id)).limit(pageSize)
  return {
    rows: rows.map(({ id, principalId, channel, address, subject, body, at, state, tries, notBefore }) => ({
      id,
      channel,
      address,
      subject,
      body,
      at: at.toISOString(),
      state,
      tries,
      notBefore: notBefore?.toISOString() ?? null,
      isFor: principalId !== null,
    })),
    next: rows.length === pageSize ? { at: rows.at(-1)?.at.toISOString() ?? '', id: rows.at(-1)?.id ?? '' } : null,
  }
}

/**
 * Sends a letter to an account once more, as it was, to the address that it went to. @throws ProblemError `letter.waits` while the first is
 * on its way.
 */
export async function sendAgain(caller: Caller, id: string): Promise<void> {
  const context = await caller.authorise('letters.announce')
  await context.db.transaction(async (tx) => {
    const [row] = await tx.select().from(letter).where(eq(letter.id, id)).for('update')
    // A code that somebody asked for is theirs to ask for again.
    if (!row || row.principalId === null) throw refusal('letter.unknown')
    const [waiting] = await tx.select({ id: letter.id }).from(letter).where(and(
      eq(letter.principalId, row.principalId),
      eq(letter.address, row.address),
      eq(letter.subject, row.subject),
      eq(letter.state, 'waiting'),
    )).limit(1)
    if (waiting) throw refusal('letter.waits', { address: row.address })
    await postLetter(tx, context, {
      principalId: row.principalId,
      channel: row.channel,
      address: row.address,
      subject: row.subject,
      body: row.body,
      tells: row.tells,
    })
    await log(tx, context, 'resend-letter', {
      subject: { kind: 'candidate', id: row.principalId },
      after: { letter: id, subject: row.subject, address: row.address },
    })
  })
}
