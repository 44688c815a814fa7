import { randomUUID } from 'node:crypto'
import Bowser from 'bowser'
import { and, count, desc, eq, isNull, ne, sql, type SQL } from 'drizzle-orm'
import { staffRoles, type Principal } from '../../../core/access/principal'
import { channels } from '../../../core/identity/address'
import type { SessionView } from '../../../shared/people'
import { refusal } from '../../../shared/refusal'
import type { Executor } from '../../database/client'
import { candidatePassword, contact, principal, session, staff } from '../../database/schema'
import { keptStatement } from '../../database/kept-statements'
import { rowsOfJson } from '../../database/together'
import { holdersOf, log, type Caller, type Context, type Holders } from '../context'
import { lookedUp } from '../letters/addresses'
import { countTry, forgetTry, type Pace } from './pace'
import { isPassword, newSecret, sha256 } from './passwords'
import { takeCode } from './second-factor'
import { factorRoles } from './settings'

const sessionHours = 12
const idleHours = 3

/** `others`: further sessions of the same person that live now. */
export interface SignedIn {
  token: string
  expiresAt: Date
  principal: Principal
  csrfToken: string
  others: number
}
export interface LiveSession {
  id: string
  principal: Principal
  csrfToken: string
  /** Who holds the application that it was asked about; null where it was about none, or where there is none. */
  holders: Holders | null
}
/** `mark`: what the browser kept of an earlier sign-in, if any. */
export interface Credentials {
  signInName: string
  password: string
  code?: string
  network: string
  device?: string
  mark?: string
}

/**
 * Opens a session. A try is counted in the database before it is carried out, so that guessing is as slow with many requests at once and
 * many server processes as with one; a good one is not counted. Candidates come in here, too, by an address and the password that they have
 * set. Whoever guesses slows down the name and their network, not a browser that signed in to the account before.
 *
 * @throws ProblemError `session.wrong` for a wrong name or password (never which), `session.factor-wanted` when a code is needed besides,
 * `session.too-many` with the seconds to wait.
 */
export async function signIn(caller: Caller, given: Credentials): Promise<SignedIn> {
  const context = await caller.authorise('session.begin')
  const [account] = await context.db.select().from(staff).where(and(eq(staff.signInName, given.signInName), eq(staff.active, true)))
  const found = account ?? await candidateWith(context, given.signInName)
  const paces = await pacesOf(context, found?.id ?? null, given)
  await countTry(context, paces)
  if (!await isPassword(found?.passwordHash, given.password) || !found) throw refusal('session.wrong')
  if (account?.totpSecret) {
    // The password was right: asking for the code is no failed try, a wrong code is one.
    if (!given.code) {
      await forgetTry(context, paces)
      throw refusal('session.factor-wanted')
    }
    if (!await takeCode(context.db, account, given.code, context.now())) throw refusal('session.factor-wrong')
  }
  await forgetTry(context, paces)
  return openSession(context, found.id, given.device, given.mark)
}

/** The account of a candidate with an address, where it has a password. No name of staff is an address. */
async function candidateWith(context: Context, typed: string): Promise<{ id: string, passwordHash: string } | null> {
  for (const channel of channels) {
    const address = await lookedUp(context.db, channel, typed)
    if (address === null) continue
    const [row] = await context.db.select({ id: contact.principalId, passwordHash: candidatePassword.passwordHash }).from(contact)
      .innerJoin(candidatePassword, eq(candidatePassword.principalId, contact.principalId))
      .where(and(eq(contact.channel, channel), eq(contact.address, address)))
    if (row) return row
  }
  return null
}

async function pacesOf(context: Context, accountId: string | null, { signInName, network, mark }: Credentials): Promise<Pace[]> {
  const name = signInName.toLowerCase().slice(0, 100)
  if (accountId && mark) {
    const [before] = await context.db.select({ id: session.id }).from(session)
      .where(and(eq(session.principalId, accountId), eq(session.deviceHash, sha256(mark)))).limit(1)
    if (before) return [{ key: `device:${sha256(mark)}`, free: 8, forget: 60, most: 60 }]
  }
  return [
    { key: `name and network:${name} ${network}`, free: 5, forget: 60, most: 60 },
    { key: `name:${name}`, free: 8, forget: 60, most: 60 },
    // Many people may share one: behind some networks sits a whole town.
    { key: `network:${network}`, free: 40, forget: 10, most: 30 },
  ]
}

const subjectOf = ({ kind, id }: Principal) => ({ kind: kind === 'candidate' ? 'candidate' as const : 'staff' as const, id })

/** Opens a session for a principal that has proved who it is. */
export async function openSession(context: Context, principalId: string, device = '', mark?: string): Promise<SignedIn> {
  const [token, csrfToken] = [newSecret(), newSecret()]
  const createdAt = context.now()
  const expiresAt = new Date(createdAt.getTime() + sessionHours * 3_600_000)
  return context.db.transaction(async (tx) => {
    const found = await principalOf(tx, principalId)
    if (!found) throw refusal('session.wrong')
    const [live] = await tx.select({ n: count() }).from(session).where(and(eq(session.principalId, principalId), living(createdAt)))
    await tx.insert(session).values({
      tokenHash: sha256(token),
      id: randomUUID(),
      principalId,
      csrfToken,
      device: device.slice(0, 200),
      deviceHash: mark ? sha256(mark) : null,
      createdAt,
      lastSeenAt: createdAt,
      expiresAt,
    })
    await log(tx, { ...context, principal: found }, 'sign-in', { subject: subjectOf(found) })
    return { token, expiresAt, principal: found, csrfToken, others: live?.n ?? 0 }
  })
}

const livingAt = (at: SQL) =>
  sql`${session.revokedAt} is null and ${session.expiresAt} > ${at} and ${session.lastSeenAt} > ${at} - make_interval(hours => ${idleHours})`
const living = (at: Date) => livingAt(sql`${at.toISOString()}::timestamptz`)

/** Who has an id, with what it may be asked of; null when there is none, or when it may not act any more. */
export async function principalOf(tx: Executor, id: string): Promise<Principal | null> {
  const [row] = await tx.select({ principal, staff }).from(principal).leftJoin(staff, eq(staff.id, principal.id))
    .where(eq(principal.id, id))
  return row ? standing(tx, row) : null
}

async function standing(
  tx: Executor,
  row: { principal: typeof principal.$inferSelect, staff: typeof staff.$inferSelect | null },
): Promise<Principal | null> {
  if (row.principal.kind === 'staff' && !row.staff?.active) return null
  const roles = staffRoles.filter(role => row.staff?.roles.includes(role))
  const wanted = row.staff && !row.staff.totpSecret ? await factorRoles(tx) : []
  return {
    id: row.principal.id,
    kind: row.principal.kind,
    name: row.principal.name,
    roles,
    venues: row.staff?.venues ?? [],
    ...(roles.some(role => wanted.includes(role)) ? { needsFactor: true } : {}),
  }
}

interface FoundSession extends Record<string, unknown> {
  session: Record<string, unknown>
  principal: Record<string, unknown>
  staff: Record<string, unknown> | null
  holders: Holders | null
}

// Asked with every request.
const liveSessionStatement = keptStatement<{ token: string, at: string, about: string | null }>(() =>
  sql`
  select to_jsonb(${session}) as session, to_jsonb(${principal}) as principal, to_jsonb(${staff}) as staff,
    (${holdersOf(sql`${sql.placeholder('about')}::uuid`)}) as holders
  from ${session} join ${principal} on ${principal.id} = ${session.principalId} left join ${staff} on ${staff.id} = ${principal.id}
  where ${session.tokenHash} = ${sql.placeholder('token')} and ${livingAt(sql`${sql.placeholder('at')}::timestamptz`)}`
)

/**
 * The live session of a token; null when it is unknown, over, idle for too long or revoked. Most requests go on to ask who holds an
 * application: that is answered along with it, where its id is given.
 */
export async function liveSession(caller: Caller, token: string, about: string | null = null): Promise<LiveSession | null> {
  const { db, now } = await caller.authorise('session.begin')
  const at = now()
  const { rows: [row] } = await db.execute<FoundSession>(liveSessionStatement({ token: sha256(token), at: at.toISOString(), about }))
  const [live] = row ? rowsOfJson(session, [row.session]) : []
  const [who] = row ? rowsOfJson(principal, [row.principal]) : []
  const found = who && await standing(db, { principal: who, staff: rowsOfJson(staff, row?.staff ? [row.staff] : [])[0] ?? null })
  if (!live || !found) return null
  const { id, csrfToken, tokenHash, lastSeenAt } = live
  if (at.getTime() - lastSeenAt.getTime() > 60_000) await db.update(session).set({ lastSeenAt: at }).where(eq(session.tokenHash, tokenHash))
  return { id, principal: found, csrfToken, holders: row?.holders ?? null }
}

/** Ends a session for ever, on this and every other server process. */
export async function signOut(caller: Caller, token: string): Promise<void> {
  const context = await caller.authorise('account.own')
  await context.db.transaction(async (tx) => {
    await tx.update(session).set({ revokedAt: context.now() }).where(eq(session.tokenHash, sha256(token)))
    await log(tx, context, 'sign-out', { subject: subjectOf(context.principal) })
  })
}

/** One's own live sessions, the newest first. */
export async function ownSessions(caller: Caller, currentId: string | null): Promise<SessionView[]> {
  const { db, principal: { id }, now } = await caller.authorise('account.own')
  const rows = await db.select().from(session).where(and(eq(session.principalId, id), living(now()))).orderBy(desc(session.createdAt))
    .limit(50)
  return rows.map(row => ({
    id: row.id,
    device: deviceName(row.device),
    createdAt: row.createdAt.toISOString(),
    lastSeenAt: row.lastSeenAt.toISOString(),
    isThis: row.id === currentId,
  }))
}

// What a browser calls itself is a line that nobody reads.
function deviceName(device: string): string {
  const { browser, os } = device === '' ? {} : Bowser.parse(device)
  return [browser?.name, os?.name].filter(Boolean).join(', ') || device
}

/** Ends one of one's own sessions, or all but the present one. */
export async function endOwnSession(caller: Caller, which: { id: string } | { allBut: string }): Promise<void> {
  const context = await caller.authorise('account.own')
  await context.db.transaction(async (tx) => {
    const ended = await tx.update(session).set({ revokedAt: context.now() }).where(and(
      eq(session.principalId, context.principal.id),
      isNull(session.revokedAt),
      'id' in which ? eq(session.id, which.id) : ne(session.id, which.allBut),
    )).returning({ id: session.id })
    if (ended.length === 0 && 'id' in which) throw refusal('account.session-unknown')
    await log(tx, context, 'end-session', { subject: subjectOf(context.principal), after: { ended: ended.length } })
  })
}

/** Ends all sessions of somebody, so that what they may do now holds at once. */
export async function endSessionsOf(tx: Executor, context: Context, principalId: string): Promise<void> {
  await tx.update(session).set({ revokedAt: context.now() }).where(and(eq(session.principalId, principalId), isNull(session.revokedAt)))
}
