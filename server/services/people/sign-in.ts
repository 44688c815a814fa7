import { createHash, randomBytes } from 'node:crypto'
import { hash, verify } from '@node-rs/argon2'
import { and, count, eq, gt, isNull, lt } from 'drizzle-orm'
import { signInFailure, staff, staffSession } from '../../database/schema'
import { ProblemError } from '../../../shared/problem'
import { roles, type Role } from '../../../shared/roles'
import { audit, type Actor, type Context } from '../context'

// Argon2id with the first recommended option for low memory of RFC 9106, section 4 (64 MiB, 3 passes), one lane.
const argon2id = { algorithm: 2, memoryCost: 65_536, timeCost: 3, parallelism: 1 } as const
const sessionHours = 12
const windowMinutes = 15
const failuresAllowed = { name: 8, address: 40 }

export interface SignedIn { token: string, expiresAt: Date, actor: Actor, csrfToken: string }
export interface LiveSession { actor: Actor, csrfToken: string }

/** Adds a member of staff, or gives an existing sign-in name new particulars. */
export async function putStaff(context: Context, person: { signInName: string, displayName: string, roles: Role[], password: string }): Promise<void> {
  const passwordHash = await hash(person.password, argon2id)
  const values = { displayName: person.displayName, roles: person.roles, passwordHash, active: true }
  await context.db.insert(staff).values({ id: context.newId(), signInName: person.signInName, ...values })
    .onConflictDoUpdate({ target: staff.signInName, set: values })
}

/**
 * Opens a session. Failures are counted in the database by name and by address, so that guessing is as slow with many
 * server processes as with one.
 *
 * @throws ProblemError `not-signed-in` for a wrong name or password (never which), `too-many` when throttled.
 */
export async function signIn(context: Context, given: { signInName: string, password: string, address: string }): Promise<SignedIn> {
  const keys = { name: `name:${given.signInName.toLowerCase()}`, address: `address:${given.address}` }
  await refuseWhenThrottled(context, keys)
  const [person] = await context.db.select().from(staff).where(and(eq(staff.signInName, given.signInName), eq(staff.active, true)))
  // An unknown name costs the same time as a wrong password, so that names cannot be found out.
  const good = await verify(person?.passwordHash ?? await decoyHash(), given.password)
  if (!person || !good) {
    await context.db.insert(signInFailure).values(Object.values(keys).map(key => ({ id: context.newId(), key, at: context.now() })))
    throw new ProblemError('not-signed-in', 'Name and password do not fit together. Check both; capital letters count.')
  }
  await context.db.delete(signInFailure).where(eq(signInFailure.key, keys.name))
  return openSession(context, { id: person.id, name: person.displayName, roles: knownRoles(person.roles) })
}

async function refuseWhenThrottled(context: Context, keys: { name: string, address: string }): Promise<void> {
  const since = new Date(context.now().getTime() - windowMinutes * 60_000)
  await context.db.delete(signInFailure).where(lt(signInFailure.at, since))
  for (const [kind, key] of Object.entries(keys) as ['name' | 'address', string][]) {
    const [found] = await context.db.select({ n: count() }).from(signInFailure).where(and(eq(signInFailure.key, key), gt(signInFailure.at, since)))
    if ((found?.n ?? 0) >= failuresAllowed[kind]) {
      throw new ProblemError('too-many', `${found?.n} failed sign-ins in ${windowMinutes} minutes. Wait ${windowMinutes} minutes, or ask the officer in charge for a new password.`)
    }
  }
}

async function openSession(context: Context, actor: Actor): Promise<SignedIn> {
  const token = randomBytes(32).toString('base64url')
  const csrfToken = randomBytes(32).toString('base64url')
  const createdAt = context.now()
  const expiresAt = new Date(createdAt.getTime() + sessionHours * 3_600_000)
  await context.db.transaction(async (tx) => {
    await tx.insert(staffSession).values({ tokenHash: sha256(token), staffId: actor.id, csrfToken, createdAt, expiresAt })
    await audit(tx, { ...context, actor }, 'sign in', `staff:${actor.name}`, null, null)
  })
  return { token, expiresAt, actor, csrfToken }
}

/** The live session of a token; null when it is unknown, over or revoked. */
export async function liveSession(context: Context, token: string): Promise<LiveSession | null> {
  const [row] = await context.db.select().from(staffSession).innerJoin(staff, eq(staff.id, staffSession.staffId))
    .where(and(eq(staffSession.tokenHash, sha256(token)), isNull(staffSession.revokedAt), gt(staffSession.expiresAt, context.now()), eq(staff.active, true)))
  if (!row) return null
  return {
    actor: { id: row.staff.id, name: row.staff.displayName, roles: knownRoles(row.staff.roles) },
    csrfToken: row.staff_session.csrfToken,
  }
}

/** Ends a session for ever, on this and every other server process. */
export async function signOut(context: Context, token: string): Promise<void> {
  await context.db.transaction(async (tx) => {
    await tx.update(staffSession).set({ revokedAt: context.now() }).where(eq(staffSession.tokenHash, sha256(token)))
    await audit(tx, context, 'sign out', `staff:${context.actor?.name ?? 'nobody'}`, null, null)
  })
}

function knownRoles(held: string[]): Role[] {
  return roles.filter(role => held.includes(role))
}

function sha256(text: string): string {
  return createHash('sha256').update(text).digest('hex')
}

let decoy: Promise<string> | null = null
function decoyHash(): Promise<string> {
  decoy ??= hash(randomBytes(16).toString('hex'), argon2id)
  return decoy
}
