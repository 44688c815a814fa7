import { randomBytes } from 'node:crypto'
import { and, eq, isNotNull, isNull, lt, or } from 'drizzle-orm'
import { Secret, TOTP } from 'otpauth'
import QRCode from 'qrcode'
import { refusal } from '../../../shared/refusal'
import type { FactorOffer } from '../../../shared/people'
import type { Executor } from '../../database/client'
import { recoveryCode, staff } from '../../database/schema'
import { sealText, unsealText } from '../../secrets/office-key'
import { log, type Caller } from '../context'
import { isPassword, sha256 } from './passwords'
import { factorRoles } from './settings'

/** Seconds of a time step (RFC 6238, section 4.1), and how many steps a clock may be off. */
const period = 30
const drift = 1
const recoveryCodes = 10

const purposeOf = (staffId: string) => `second-factor:${staffId}`

function totpOf(secret: string, label = ''): TOTP {
  return new TOTP({ issuer: 'Lucid Roster', label, algorithm: 'SHA1', digits: 6, period, secret: Secret.fromBase32(secret) })
}

/** The time step whose code this is, within the drift; null when it is none. */
export function stepOfCode(secret: string, code: string, now: Date): number | null {
  if (!/^\d{6}$/.test(code)) return null
  const delta = totpOf(secret).validate({ token: code, timestamp: now.getTime(), window: drift })
  return delta === null ? null : Math.floor(now.getTime() / 1000 / period) + delta
}

/**
 * Takes a code of the second factor, or a recovery code, once: the same code again is refused, whichever process is asked.
 *
 * @returns whether it was good.
 */
export async function takeCode(
  tx: Executor,
  account: { id: string, totpSecret: string | null },
  given: string,
  now: Date,
): Promise<boolean> {
  const code = given.replace(/[\s-]/g, '').toUpperCase()
  const step = account.totpSecret ? stepOfCode(unsealText(account.totpSecret, purposeOf(account.id)), code, now) : null
  if (step !== null) {
    const used = await tx.update(staff).set({ totpLastStep: step }).where(and(eq(staff.id, account.id), lt(staff.totpLastStep, step)))
      .returning({ id: staff.id })
    return used.length > 0
  }
  const used = await tx.update(recoveryCode).set({ usedAt: now })
    .where(and(eq(recoveryCode.staffId, account.id), eq(recoveryCode.codeHash, sha256(code)), isNull(recoveryCode.usedAt))).returning()
  return used.length > 0
}

/** A new secret to be put into an authenticator; nothing is kept before a code of it is given back. */
export async function offerSecondFactor(caller: Caller): Promise<FactorOffer> {
  const { db, principal } = await caller.authorise('account.own')
  const [account] = await db.select().from(staff).where(eq(staff.id, principal.id))
  if (!account) throw refusal('staff.unknown')
  const secret = new Secret({ size: 20 }).base32
  const address = totpOf(secret, account.signInName).toString()
  return { secret, address, picture: await QRCode.toDataURL(address, { margin: 2, width: 220 }) }
}

/**
 * Sets the second factor up, when a present code proves that the authenticator has the secret. Gives the recovery codes, which are shown
 * once.
 */
export async function setSecondFactor(
  caller: Caller,
  given: { secret: string, code: string, password: string },
): Promise<{ recoveryCodes: string[] }> {
  const context = await caller.authorise('account.own')
  const step = /^[A-Z2-7]{32}$/.test(given.secret) ? stepOfCode(given.secret, given.code.replace(/\s/g, ''), context.now()) : null
  return context.db.transaction(async (tx) => {
    const [account] = await tx.select().from(staff).where(eq(staff.id, context.principal.id)).for('update')
    if (!account || !await isPassword(account.passwordHash, given.password)) throw refusal('account.password-wrong')
    if (step === null) throw refusal('account.code-wrong')
    const codes = Array.from({ length: recoveryCodes }, () => randomBytes(8).toString('hex').toUpperCase())
    await tx.update(staff).set({ totpSecret: sealText(given.secret, purposeOf(account.id)), totpLastStep: step })
      .where(eq(staff.id, account.id))
    await tx.delete(recoveryCode).where(eq(recoveryCode.staffId, account.id))
    await tx.insert(recoveryCode).values(codes.map(code => ({ staffId: account.id, codeHash: sha256(code) })))
    await log(tx, context, 'set-second-factor', { subject: { kind: 'staff', id: account.id } })
    return { recoveryCodes: codes.map(code => code.match(/.{4}/g)?.join('-') ?? code) }
  })
}

/** Removes one's own second factor, where no role requires it. */
export async function removeSecondFactor(caller: Caller, given: { password: string }): Promise<void> {
  const context = await caller.authorise('account.own')
  await context.db.transaction(async (tx) => {
    const [account] = await tx.select().from(staff).where(eq(staff.id, context.principal.id)).for('update')
    if (!account || !await isPassword(account.passwordHash, given.password)) throw refusal('account.password-wrong')
    if (!account.totpSecret) throw refusal('account.factor-none')
    const wanted = await factorRoles(tx)
    if (account.roles.some(role => wanted.some(one => one === role))) throw refusal('account.factor-required')
    await forgetFactor(tx, account.id)
    await log(tx, context, 'remove-second-factor', { subject: { kind: 'staff', id: account.id } })
  })
}

/** Forgets somebody's second factor, as when it was lost. */
export async function forgetFactor(tx: Executor, staffId: string): Promise<void> {
  await tx.update(staff).set({ totpSecret: null, totpLastStep: 0 }).where(eq(staff.id, staffId))
  await tx.delete(recoveryCode).where(or(eq(recoveryCode.staffId, staffId)))
}

/** Seals all secrets under the key that seals now; how many. Their accounts are held meanwhile: none is set anew in between. */
export async function sealFactorsAnew(tx: Executor): Promise<number> {
  const accounts = await tx.select({ id: staff.id, secret: staff.totpSecret }).from(staff).where(isNotNull(staff.totpSecret))
    .orderBy(staff.id).for('update')
  for (const { id, secret } of accounts) {
    await tx.update(staff).set({ totpSecret: sealText(unsealText(secret ?? '', purposeOf(id)), purposeOf(id)) }).where(eq(staff.id, id))
  }
  return accounts.length
}
