import { and, asc, count, eq, gt, isNotNull, isNull, ne, sql } from 'drizzle-orm'
import { product, type StaffRole } from '../../../core/access/principal'
import type { LinkMade, StaffInput, StaffView } from '../../../shared/people'
import { refusal } from '../../../shared/refusal'
import type { Executor } from '../../database/client'
import { locks } from '../../database/locks'
import { oneTimeLink, principal, session, staff } from '../../database/schema'
import { log, type Caller, type Context } from '../context'
import { hashPassword, newSecret, refuseWeakPassword, sha256 } from './passwords'
import { forgetFactor } from './second-factor'
import { endSessionsOf, openSession, type SignedIn } from './sign-in'

const linkHours = 72

/** All members of staff, those who left last. */
export async function listStaff(caller: Caller): Promise<StaffView[]> {
  const { db, principal: { id: own }, now } = await caller.authorise('staff.manage')
  const live = db.select({ id: session.principalId, seen: sql<string>`max(${session.lastSeenAt})`.as('seen') }).from(session)
    .groupBy(session.principalId).as('live')
  const rows = await db.select({
    staff,
    name: principal.name,
    seen: live.seen,
    link: sql<
      boolean
    >`exists (select 1 from ${oneTimeLink} where ${oneTimeLink.staffId} = ${staff.id} and ${oneTimeLink.usedAt} is null and ${oneTimeLink.expiresAt} > ${now().toISOString()}::timestamptz)`,
  }).from(staff).innerJoin(principal, eq(principal.id, staff.id)).leftJoin(live, eq(live.id, staff.id)).orderBy(
    sql`not ${staff.active}`,
    asc(principal.name),
    asc(staff.signInName),
  ).limit(1000)
  return rows.map(row => ({
    id: row.staff.id,
    signInName: row.staff.signInName,
    name: row.name,
    roles: row.staff.roles as StaffRole[],
    venues: row.staff.venues,
    active: row.staff.active,
    hasPassword: row.staff.passwordHash !== null,
    hasFactor: row.staff.totpSecret !== null,
    hasLink: row.link,
    lastSeenAt: row.seen ? new Date(row.seen).toISOString() : null,
    isOwn: row.staff.id === own,
  }))
}

/** Adds a member of staff and gives the link by which they set their password. */
export async function inviteStaff(caller: Caller, given: StaffInput): Promise<LinkMade> {
  const context = await caller.authorise('staff.manage')
  return context.db.transaction(async (tx) => {
    const id = await addStaff(tx, context, given)
    await log(tx, context, 'invite-staff', { subject: { kind: 'staff', id }, after: given })
    return makeLink(tx, context, id)
  })
}

async function addStaff(tx: Executor, context: Context, { signInName, name, roles, venues }: StaffInput): Promise<string> {
  await refuseTakenName(tx, signInName, null)
  const id = context.newId()
  await tx.insert(principal).values({ id, kind: 'staff', name, createdAt: context.now() })
  await tx.insert(staff).values({ id, signInName, roles: [...roles], venues: [...venues] })
  return id
}

// Compared without case: two names that look alike must not be two people's.
async function refuseTakenName(tx: Executor, signInName: string, own: string | null): Promise<void> {
  const [taken] = await tx.select({ id: staff.id }).from(staff)
    .where(and(sql`lower(${staff.signInName}) = ${signInName.toLowerCase()}`, own ? ne(staff.id, own) : undefined))
  if (taken) throw refusal('staff.name-taken', { name: signInName })
}

async function makeLink(tx: Executor, context: Context, staffId: string): Promise<LinkMade> {
  const token = newSecret()
  const expiresAt = new Date(context.now().getTime() + linkHours * 3_600_000)
  // An older link of the same person lets nobody in any more.
  await tx.update(oneTimeLink).set({ usedAt: context.now() }).where(and(eq(oneTimeLink.staffId, staffId), isNull(oneTimeLink.usedAt)))
  await tx.insert(oneTimeLink).values({ tokenHash: sha256(token), staffId, by: context.principal.id, at: context.now(), expiresAt })
  await log(tx, context, 'make-link', { subject: { kind: 'staff', id: staffId }, after: { until: expiresAt.toISOString() } })
  return { id: staffId, path: `/welcome#${token}`, expiresAt: expiresAt.toISOString() }
}

/** Changes name, sign-in name, roles or venues of somebody. Their sessions end, so that it holds at once. */
export async function changeStaff(caller: Caller, id: string, given: StaffInput): Promise<void> {
  const context = await caller.authorise('staff.manage')
  await context.db.transaction(async (tx) => {
    const before = await lockStaff(tx, id)
    await refuseTakenName(tx, given.signInName, id)
    if (before.roles.includes('administrator') && !given.roles.includes('administrator')) await refuseLastAdministrator(tx, id, given.name)
    await tx.update(principal).set({ name: given.name }).where(eq(principal.id, id))
    await tx.update(staff).set({ signInName: given.signInName, roles: [...given.roles], venues: [...given.venues] }).where(eq(staff.id, id))
    if (id !== context.principal.id) await endSessionsOf(tx, context, id)
    await log(tx, context, 'change-staff', {
      subject: { kind: 'staff', id },
      before: { signInName: before.signInName, roles: before.roles, venues: before.venues, name: before.name },
      after: given,
    })
  })
}

/** Lets somebody leave, or come back. What they did stays theirs; their sessions and links end and do not come back with them. */
export async function activateStaff(caller: Caller, id: string, active: boolean): Promise<void> {
  const context = await caller.authorise('staff.manage')
  await context.db.transaction(async (tx) => {
    const before = await lockStaff(tx, id)
    if (before.active === active) return
    if (!active && before.roles.includes('administrator')) await refuseLastAdministrator(tx, id, before.name)
    await tx.update(staff).set({ active }).where(eq(staff.id, id))
    await endSessionsOf(tx, context, id)
    await tx.update(oneTimeLink).set({ usedAt: context.now() }).where(and(eq(oneTimeLink.staffId, id), isNull(oneTimeLink.usedAt)))
    await log(tx, context, active ? 'activate-staff' : 'deactivate-staff', { subject: { kind: 'staff', id } })
  })
}

/** A link by which somebody sets a new password; their old one, their sessions and a lost second factor are forgotten when it is used. */
export async function linkForStaff(caller: Caller, id: string): Promise<LinkMade> {
  const context = await caller.authorise('staff.manage')
  if (id === context.principal.id) throw refusal('staff.own-account')
  return context.db.transaction(async (tx) => {
    const account = await lockStaff(tx, id)
    if (!account.active) throw refusal('staff.unknown')
    return makeLink(tx, context, id)
  })
}

async function lockStaff(tx: Executor, id: string) {
  // One change of accounts at a time, so that two administrators cannot each take the other for the one who stays.
  await locks.staffAccounts(tx)
  const [row] = await tx.select({
    signInName: staff.signInName,
    roles: staff.roles,
    venues: staff.venues,
    active: staff.active,
    name: principal.name,
  }).from(staff).innerJoin(principal, eq(principal.id, staff.id)).where(eq(staff.id, id))
  if (!row) throw refusal('staff.unknown')
  return row
}

async function refuseLastAdministrator(tx: Executor, id: string, name: string): Promise<void> {
  const [others] = await tx.select({ n: count() }).from(staff)
    .where(and(ne(staff.id, id), eq(staff.active, true), sql`'administrator' = any(${staff.roles})`))
  if ((others?.n ?? 0) === 0) throw refusal('staff.last-administrator', { name })
}

/** Whom a link is for, before it is used. */
export async function readLink(caller: Caller, token: string): Promise<{ name: string, signInName: string }> {
  const { db, now } = await caller.authorise('session.begin')
  const [row] = await db.select({ name: principal.name, signInName: staff.signInName }).from(oneTimeLink).innerJoin(
    staff,
    eq(staff.id, oneTimeLink.staffId),
  ).innerJoin(principal, eq(principal.id, staff.id)).where(and(
    eq(oneTimeLink.tokenHash, sha256(token)),
    isNull(oneTimeLink.usedAt),
    gt(oneTimeLink.expiresAt, now()),
    eq(staff.active, true),
  ))
  if (!row) throw refusal('account.link-over')
  return row
}

/** Uses a link once: sets the password, forgets a second factor, ends all other sessions, and signs in. */
export async function useLink(caller: Caller, given: { token: string, password: string, device?: string }): Promise<SignedIn> {
  const context = await caller.authorise('session.begin')
  const { signInName } = await readLink(caller, given.token)
  refuseWeakPassword(given.password, signInName)
  const passwordHash = await hashPassword(given.password)
  const staffId = await context.db.transaction(async (tx) => {
    const [used] = await tx.update(oneTimeLink).set({ usedAt: context.now() })
      .where(and(eq(oneTimeLink.tokenHash, sha256(given.token)), isNull(oneTimeLink.usedAt), gt(oneTimeLink.expiresAt, context.now())))
      .returning()
    if (!used) throw refusal('account.link-over')
    await tx.update(staff).set({ passwordHash }).where(eq(staff.id, used.staffId))
    await forgetFactor(tx, used.staffId)
    await endSessionsOf(tx, context, used.staffId)
    await log(tx, context, 'use-link', { subject: { kind: 'staff', id: used.staffId } })
    return used.staffId
  })
  return openSession(context, staffId, given.device)
}

/**
 * On the server itself: makes the first account of an empty office, or a new link for the last administrator who was locked out. Recorded
 * as done by the product.
 */
export async function administratorLink(context: Context, signInName: string): Promise<LinkMade & { isNew: boolean }> {
  if (context.principal.id !== product.id) throw refusal('access.relation', { permission: 'staff.manage' })
  return context.db.transaction(async (tx) => {
    await locks.staffAccounts(tx)
    const [found] = await tx.select({ id: staff.id, roles: staff.roles }).from(staff).where(eq(staff.signInName, signInName))
    if (found) {
      const roles = [...new Set([...found.roles, 'administrator'])]
      await tx.update(staff).set({ active: true, roles }).where(eq(staff.id, found.id))
      await log(tx, context, 'change-staff', { subject: { kind: 'staff', id: found.id }, before: { roles: found.roles }, after: { roles } })
      return { ...await makeLink(tx, context, found.id), isNew: false }
    }
    const id = await addStaff(tx, context, { signInName, name: signInName, roles: ['administrator', 'officer'], venues: [] })
    await log(tx, context, 'invite-staff', { subject: { kind: 'staff', id }, after: { signInName, roles: ['administrator', 'officer'] } })
    return { ...await makeLink(tx, context, id), isNew: true }
  })
}

/** Whether nobody has a password yet: the office waits for its first administrator. */
export async function isWaitingForFirst(context: Context): Promise<boolean> {
  const [row] = await context.db.select({ n: count() }).from(staff).where(isNotNull(staff.passwordHash))
  return (row?.n ?? 0) === 0
}

/** Adds a member of staff with a password, or gives an existing sign-in name new particulars: for the demo and tests. */
export async function putStaff(
  context: Context,
  person: { signInName: string, name: string, roles: StaffRole[], password: string },
): Promise<string> {
  const passwordHash = await hashPassword(person.password)
  return context.db.transaction(async (tx) => {
    const [found] = await tx.select({ id: staff.id }).from(staff).where(eq(staff.signInName, person.signInName))
    const id = found?.id ?? await addStaff(tx, context, { ...person, venues: [] })
    await tx.update(principal).set({ name: person.name }).where(eq(principal.id, id))
    await tx.update(staff).set({ passwordHash, roles: person.roles, active: true }).where(eq(staff.id, id))
    return id
  })
}
