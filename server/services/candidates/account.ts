import { and, eq, isNull, ne, sql } from 'drizzle-orm'
import type { CandidateAccount } from '../../../shared/candidates'
import { refusal } from '../../../shared/refusal'
import type { Executor } from '../../database/client'
import { candidatePassword, contact, principal, session } from '../../database/schema'
import { log, type Caller, type Context } from '../context'
import { postLetter } from '../letters/outbox'
import { hashPassword, refuseWeakPassword } from '../people/passwords'
import { ownSessions } from '../people/sign-in'
import { provedByCode } from './codes'

/**
 * A candidate's account: the addresses by which they are reached and come in, a password beside the codes where they want one, and where
 * they are signed in. Whoever changes how one comes in has to have signed in lately, and every address is told.
 */

/** Minutes after signing in for which how one comes in may be changed; common practice, no source. */
const freshFor = 30
const addressesAtMost = 6

export async function readCandidateAccount(caller: Caller, sessionId: string | null): Promise<CandidateAccount> {
  const context = await caller.authorise('own.read')
  const contacts = await context.db.select().from(contact).where(eq(contact.principalId, context.principal.id)).orderBy(
    contact.provedAt,
    contact.id,
  )
  const [password] = await context.db.select({ at: candidatePassword.at }).from(candidatePassword)
    .where(eq(candidatePassword.principalId, context.principal.id))
  return {
    contacts: contacts.map(({ id, channel, address, provedAt }) => ({ id, channel, address, provedAt: provedAt.toISOString() })),
    passwordSince: password?.at.toISOString() ?? null,
    sessions: await ownSessions(caller, sessionId),
    isFresh: await isFresh(context, sessionId),
  }
}

/** In which language somebody reads notices, so that letters are written in it where a notice has them. */
export async function keepLanguage(caller: Caller, language: string): Promise<void> {
  const { db, principal: reader } = await caller.authorise('own.read')
  await db.update(principal).set({ readsIn: language }).where(eq(principal.id, reader.id))
}

async function isFresh({ db, now }: Context, sessionId: string | null): Promise<boolean> {
  if (sessionId === null) return false
  const [row] = await db.select({ at: session.createdAt }).from(session).where(eq(session.id, sessionId))
  return row !== undefined && row.at.getTime() > now().getTime() - freshFor * 60_000
}

async function refuseStale(context: Context, sessionId: string | null): Promise<void> {
  if (!await isFresh(context, sessionId)) throw refusal('account.stale', { minutes: freshFor })
}

/** Every address of an account is told when something changes in how one comes in. */
async function tellAll(
  tx: Executor,
  context: Context,
  what: 'added' | 'removed' | 'password' | 'no-password',
  address: string,
  besides: readonly (typeof contact.$inferSelect)[] = [],
): Promise<void> {
  const contacts = await tx.select().from(contact).where(eq(contact.principalId, context.principal.id))
  const letter = context.language.letters.accountLetter(what, address)
  for (const one of [...contacts, ...besides]) {
    await postLetter(tx, context, { principalId: one.principalId, channel: one.channel, address: one.address, ...letter })
  }
}

/**
 * Adds an address that a code has just proved.
 *
 * @throws ProblemError `account.address-taken` where the account of somebody else has it: whoever holds it may know that.
 */
export async function addAddress(caller: Caller, given: { codeId: string, code: string, sessionId: string | null }): Promise<void> {
  const context = await caller.authorise('own.read')
  await refuseStale(context, given.sessionId)
  const { channel, address } = await provedByCode(context, given.codeId, given.code)
  await context.db.transaction(async (tx) => {
    await holdAccount(tx, context)
    const contacts = await tx.select().from(contact).where(eq(contact.principalId, context.principal.id))
    if (contacts.some(one => one.channel === channel && one.address === address)) return
    if (contacts.length >= addressesAtMost) throw refusal('account.addresses-many', { most: addressesAtMost })
    const [made] = await tx.insert(contact).values({
      id: context.newId(),
      principalId: context.principal.id,
      channel,
      address,
      provedAt: context.now(),
    }).onConflictDoNothing().returning()
    if (!made) throw refusal('account.address-taken', { address })
    await log(tx, context, 'add-address', { subject: { kind: 'candidate', id: context.principal.id }, after: { channel } })
    await tellAll(tx, context, 'added', address)
  })
}

/** Two changes of one account at once follow each other, so that no two remove the last two addresses. */
const holdAccount = (tx: Executor, { principal: { id } }: Context) => tx.execute(sql`select pg_advisory_xact_lock(7006, hashtext(${id}))`)

/** Takes an address away; the last one stays, as nobody could come in any more. */
export async function removeAddress(caller: Caller, id: string, sessionId: string | null): Promise<void> {
  const context = await caller.authorise('own.read')
  await refuseStale(context, sessionId)
  await context.db.transaction(async (tx) => {
    await holdAccount(tx, context)
    const contacts = await tx.select().from(contact).where(eq(contact.principalId, context.principal.id))
    const gone = contacts.find(one => one.id === id)
    if (!gone) throw refusal('account.address-unknown')
    if (contacts.length === 1) throw refusal('account.address-last', { address: gone.address })
    await tx.delete(contact).where(eq(contact.id, id))
    await log(tx, context, 'remove-address', {
      subject: { kind: 'candidate', id: context.principal.id },
      before: { channel: gone.channel },
    })
    await tellAll(tx, context, 'removed', gone.address, [gone])
  })
}

/** Sets a password, by the same rules as the office's own; all other sessions end. Whoever forgets it comes in by a code. */
export async function setCandidatePassword(caller: Caller, given: { password: string, sessionId: string | null }): Promise<void> {
  const context = await caller.authorise('own.read')
  await refuseStale(context, given.sessionId)
  const { id } = context.principal
  const contacts = await context.db.select().from(contact).where(eq(contact.principalId, id))
  for (const { address } of contacts) refuseWeakPassword(given.password, address.split('@')[0] ?? address)
  const passwordHash = await hashPassword(given.password)
  await context.db.transaction(async (tx) => {
    await tx.insert(candidatePassword).values({ principalId: id, passwordHash, at: context.now() }).onConflictDoUpdate({
      target: candidatePassword.principalId,
      set: { passwordHash, at: context.now() },
    })
    await tx.update(session).set({ revokedAt: context.now() })
      .where(and(eq(session.principalId, id), isNull(session.revokedAt), given.sessionId ? ne(session.id, given.sessionId) : undefined))
    await log(tx, context, 'change-password', { subject: { kind: 'candidate', id } })
    await tellAll(tx, context, 'password', '')
  })
}

/** Takes the password away: from then on only codes let in. */
export async function removeCandidatePassword(caller: Caller, sessionId: string | null): Promise<void> {
  const context = await caller.authorise('own.read')
  await refuseStale(context, sessionId)
  await context.db.transaction(async (tx) => {
    const gone = await tx.delete(candidatePassword).where(eq(candidatePassword.principalId, context.principal.id)).returning({
      id: candidatePassword.principalId,
    })
    if (gone.length === 0) return
    await log(tx, context, 'remove-password', { subject: { kind: 'candidate', id: context.principal.id } })
    await tellAll(tx, context, 'no-password', '')
  })
}
