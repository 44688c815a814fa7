import { eq } from 'drizzle-orm'
import { staffRoles, type StaffRole } from '../../../core/access/principal'
import type { OfficeSettings } from '../../../shared/people'
import type { Executor } from '../../database/client'
import { officeSetting } from '../../database/schema'
import { withoutSecondPerson } from '../acts/proposals'
import { log, type Caller } from '../context'

const rolesWithFactor = 'second-factor-roles'

async function setting(tx: Executor, name: string): Promise<string[]> {
  const [row] = await tx.select({ value: officeSetting.value }).from(officeSetting).where(eq(officeSetting.name, name))
  return Array.isArray(row?.value) ? row.value.map(String) : []
}

/** Roles whose holders the office wants to sign in with a second factor. */
export async function factorRoles(tx: Executor): Promise<StaffRole[]> {
  const held = await setting(tx, rolesWithFactor)
  return staffRoles.filter(role => held.includes(role))
}

/** What the office has decided: who needs a second factor, and what it does without a second person. */
export async function readOfficeSettings(caller: Caller): Promise<OfficeSettings> {
  const { db } = await caller.authorise('staff.manage')
  return { factorRoles: await factorRoles(db), withoutSecondPerson: await setting(db, withoutSecondPerson) }
}

/** Changes it, on record. */
export async function changeOfficeSettings(caller: Caller, given: OfficeSettings): Promise<void> {
  const context = await caller.authorise('staff.manage')
  await context.db.transaction(async (tx) => {
    const before = { factorRoles: await factorRoles(tx), withoutSecondPerson: await setting(tx, withoutSecondPerson) }
    for (const [name, value] of [[rolesWithFactor, given.factorRoles], [withoutSecondPerson, given.withoutSecondPerson]] as const) {
      const values = { value, by: context.principal.id, at: context.now() }
      await tx.insert(officeSetting).values({ name, ...values }).onConflictDoUpdate({ target: officeSetting.name, set: values })
    }
    await log(tx, context, 'change-office', { subject: { kind: 'office', id: 'office' }, before, after: given })
  })
}
