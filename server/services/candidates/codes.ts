import { randomInt } from 'node:crypto'
import { and, count, desc, eq, gt, isNull, sql } from 'drizzle-orm'
import type { Channel } from '../../../core/identity/address'
import { refusal } from '../../../shared/refusal'
import type { CodeAsked } from '../../../shared/candidates'
import type { Executor } from '../../database/client'
import { contact, oneTimeCode, principal } from '../../database/schema'
import type { Caller, Context } from '../context'
import { checkedAddress } from '../letters/addresses'
import { postLetter } from '../letters/outbox'
import { demandWork } from './work-proof'
import { sha256 } from '../people/passwords'
import { countTry, waitFor } from '../people/pace'
import { openSession, type SignedIn } from '../people/sign-in'

/** A candidate proves an address by a code that is sent to it; the first time this makes the account. */

const minutesValid = 10
const triesAllowed = 5
const secondsBetween = 60
const codesAnHour = 6
const codesOfANetwork = 300

/** Codes of a network beyond which each needs a proof of work; each is forgotten after a quarter of a minute. */
const codesWithoutWork = 20

export interface CodeAsk {
  channel: Channel
  address: string
  network: string
  work?: string
  /** What proofs of work are signed with. */
  secret: string
}

/**
 * Sends a code. The answer is the same whether an account has the address or not.
 *
 * @throws ProblemError when the address is none, or codes are asked for too often.
 */
export async function sendCode(caller: Caller, { channel, address: typed, network, work, secret }: CodeAsk): Promise<CodeAsked> {
  const context = await caller.authorise('session.begin')
  const address = await checkedAddress(context.db, channel, typed)
  const isBusy = work !== undefined
    || await waitFor(context, [{ key: `codes:${network}`, free: codesWithoutWork, forget: 15, most: 60 }]) > 0
  if (isBusy) await demandWork(context, secret, { channel, address, work })
  await countTry(context, [{ key: `codes at all:${network}`, free: codesOfANetwork, forget: 3, most: 60 }])
  const at = context.now()
  return context.db.transaction(async (tx) => {
    // One at a time for an address: of two presses the second finds the code of the first.
    await tx.execute(sql`select pg_advisory_xact_lock(7005, hashtext(${`${channel}:${address}`}))`)
    const own = and(eq(oneTimeCode.channel, channel), eq(oneTimeCode.address, address))
    const [last] = await tx.select().from(oneTimeCode).where(own).orderBy(desc(oneTimeCode.at)).limit(1)
    const wait = last ? secondsBetween - Math.floor((at.getTime() - last.at.getTime()) / 1000) : 0
    if (wait > 0) throw refusal('code.wait', { seconds: wait })
    const [hour] = await tx.select({ n: count() }).from(oneTimeCode).where(and(own, gt(oneTimeCode.at, new Date(at.getTime() - 3_600_000))))
    if ((hour?.n ?? 0) >= codesAnHour) throw refusal('code.too-many', { count: codesAnHour })
    const [id, code] = [context.newId(), String(randomInt(1_000_000)).padStart(6, '0')]
    const expiresAt = new Date(at.getTime() + minutesValid * 60_000)
    // Only the newest code holds.
    await tx.update(oneTimeCode).set({ usedAt: at }).where(and(own, isNull(oneTimeCode.usedAt)))
    await tx.insert(oneTimeCode).values({ id, channel, address, codeHash: sha256(`${id}:${code}`), at, expiresAt })
    const { codeLetter } = context.language.letters
    await postLetter(tx, context, { principalId: null, channel, address, ...codeLetter(code, minutesValid) })
    return { id, expiresAt: expiresAt.toISOString(), again: secondsBetween }
  })
}

/** Takes a code and opens a session for whoever has the address; the account is made where there is none. */
export async function takeCode(caller: Caller, id: string, typed: string, device?: string): Promise<SignedIn> {
  const context = await caller.authorise('session.begin')
  const principalId = await takenCode(context, id, typed, (tx, { channel, address }) => accountOf(tx, context, channel, address))
  return openSession(context, principalId, device)
}

/** The address that a code proves; the code is used then. @throws ProblemError `code.wrong`, `code.over`. */
export function provedByCode(context: Context, id: string, typed: string): Promise<Proved> {
  return takenCode(context, id, typed, (_, { channel, address }) => Promise.resolve({ channel, address }))
}

interface Proved {
  channel: Channel
  address: string
}

async function takenCode<T>(context: Context, id: string, typed: string, then: (tx: Executor, proved: Proved) => Promise<T>): Promise<T> {
  const result = await context.db.transaction(async (tx): Promise<{ left: number } | { left?: undefined, found: T }> => {
    const [row] = await tx.select().from(oneTimeCode).where(eq(oneTimeCode.id, id)).for('update')
    if (!row || row.usedAt || row.expiresAt <= context.now() || row.tries >= triesAllowed) return { left: 0 }
    if (row.codeHash !== sha256(`${id}:${typed.replace(/\D/g, '')}`)) {
      await tx.update(oneTimeCode).set({ tries: row.tries + 1 }).where(eq(oneTimeCode.id, id))
      return { left: triesAllowed - row.tries - 1 }
    }
    await tx.update(oneTimeCode).set({ usedAt: context.now() }).where(eq(oneTimeCode.id, id))
    return { found: await then(tx, row) }
  })
  // Thrown only now: the try that was counted has to stay.
  if (result.left !== undefined) throw result.left > 0 ? refusal('code.wrong', { left: result.left }) : refusal('code.over')
  return result.found
}

/** The account that has an address, made where there is none. */
export async function accountOf(tx: Executor, context: Context, channel: Channel, address: string): Promise<string> {
  const which = and(eq(contact.channel, channel), eq(contact.address, address))
  const [known] = await tx.select().from(contact).where(which)
  if (known) return known.principalId
  const id = context.newId()
  await tx.insert(principal).values({ id, kind: 'candidate', name: address, createdAt: context.now() })
  const [made] = await tx.insert(contact).values({ id: context.newId(), principalId: id, channel, address, provedAt: context.now() })
    .onConflictDoNothing().returning()
  if (made) return id
  // Proved on another device at the same moment: there is one account.
  await tx.delete(principal).where(eq(principal.id, id))
  const [theirs] = await tx.select().from(contact).where(which)
  if (!theirs) throw refusal('code.over')
  return theirs.principalId
}
