import { and, count, eq, isNull, ne } from 'drizzle-orm'
import type { AccountView } from '../../../shared/people'
import { refusal } from '../../../shared/refusal'
import { recoveryCode, session, staff } from '../../database/schema'
import { log, type Caller } from '../context'
import { countTry, forgetTry } from './pace'
import { hashPassword, isPassword, refuseWeakPassword } from './passwords'
import { factorRoles } from './settings'

/** One's own account. */
export async function readAccount(caller: Caller): Promise<AccountView> {
  const { db, principal } = await caller.authorise('account.own')
  const [account] = await db.select().from(staff).where(eq(staff.id, principal.id))
  if (!account) throw refusal('staff.unknown')
  const [left] = await db.select({ n: count() }).from(recoveryCode)
    .where(and(eq(recoveryCode.staffId, account.id), isNull(recoveryCode.usedAt)))
  const wanted = await factorRoles(db)
  return {
    signInName: account.signInName,
    name: principal.name,
    hasFactor: account.totpSecret !== null,
    factorRequired: account.roles.some(role => wanted.some(one => one === role)),
    recoveryCodesLeft: left?.n ?? 0,
  }
}

/** Changes one's own password; all other sessions end. */
export async function changeOwnPassword(
  caller: Caller,
  given: { present: string, password: string, sessionId: string | null },
): Promise<void> {
  const context = await caller.authorise('account.own')
  const [account] = await context.db.select().from(staff).where(eq(staff.id, context.principal.id))
  // Whoever finds an open session guesses no faster here than at the door.
  const paces = [{ key: `present password:${context.principal.id}`, free: 8, forget: 60, most: 60 }]
  await countTry(context, paces)
  if (!account || !await isPassword(account.passwordHash, given.present)) throw refusal('account.password-wrong')
  await forgetTry(context, paces)
  refuseWeakPassword(given.password, account.signInName)
  const passwordHash = await hashPassword(given.password)
  await context.db.transaction(async (tx) => {
    await tx.update(staff).set({ passwordHash }).where(eq(staff.id, account.id))
    await tx.update(session).set({ revokedAt: context.now() }).where(and(
      eq(session.principalId, account.id),
      isNull(session.revokedAt),
      given.sessionId ? ne(session.id, given.sessionId) : undefined,
    ))
    await log(tx, context, 'change-password', { subject: { kind: 'staff', id: account.id } })
  })
}
