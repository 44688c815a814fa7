import { eq } from 'drizzle-orm'
import { staffRoles, type StaffRole } from '../../../core/access/principal'
import { isCountry } from '../../../core/identity/telephone'
import type { OfficeSettings } from '../../../shared/people'
import { refusal } from '../../../shared/refusal'
import type { Executor } from '../../database/client'
import { officeSetting } from '../../database/schema'
import { withoutSecondPerson } from '../acts/proposals'
import { keepMonths, monthsKept } from '../records/erase'
import { telephones, telephonesOf } from '../letters/addresses'
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

/**
 * What the office has decided: who needs a second factor, what it does without a second person, what telephone numbers it knows, and how
 * long it keeps data of people.
 */
export async function readOfficeSettings(caller: Caller): Promise<OfficeSettings> {
  const { db } = await caller.authorise('staff.manage')
  return settingsOf(db)
}

const settingsOf = async (tx: Executor): Promise<OfficeSettings> => {
  const { country, ranges } = await telephonesOf(tx)
  return {
    keepMonths: await monthsKept(tx),
    factorRoles: await factorRoles(tx),
    withoutSecondPerson: await setting(tx, withoutSecondPerson),
    telephones: { country, ranges: [...ranges] },
  }
}

/** Changes it, on record. @throws ProblemError `office.country` for a country whose numbers are not known. */
export async function changeOfficeSettings(caller: Caller, given: OfficeSettings): Promise<void> {
  const context = await caller.authorise('staff.manage')
  if (given.telephones.country !== '' && !isCountry(given.telephones.country)) {
    throw refusal('office.country', { value: given.telephones.country })
  }
  await context.db.transaction(async (tx) => {
    const before = await settingsOf(tx)
    for (
      const [name, value] of [[rolesWithFactor, given.factorRoles], [withoutSecondPerson, given.withoutSecondPerson], [telephones,
        given.telephones], [keepMonths, given.keepMonths]] as const
    ) {
      const values = { value, by: context.principal.id, at: context.now() }
      await tx.insert(officeSetting).values({ name, ...values }).onConflictDoUpdate({ target: officeSetting.name, set: values })
    }
    await log(tx, context, 'change-office', { subject: { kind: 'office', id: 'office' }, before, after: given })
  })
}
