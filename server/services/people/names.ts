import { eq, inArray, sql } from 'drizzle-orm'
import type { Executor } from '../../database/client'
import { principal, staff } from '../../database/schema'

export type NameOf = (id: string | null | undefined) => string

/** Two members of staff of one name are told apart by what they sign in with, or by the beginning of their id. */
export const shownName = sql<string>`case when ${principal.kind} = 'staff' and exists (
  select 1 from ${principal} other where other.kind = 'staff' and other.name = ${principal.name} and other.id <> ${principal.id}
) then ${principal.name} || ' (' || coalesce(${staff.signInName}, left(${principal.id}::text, 8)) || ')' else ${principal.name} end`

/** The names of principals, as they are shown. */
export async function namesOf(tx: Executor, ids: readonly (string | null | undefined)[]): Promise<NameOf> {
  const wanted = [...new Set(ids.filter(id => id !== null && id !== undefined))]
  const names = new Map<string, string>()
  for (let from = 0; from < wanted.length; from += 1000) {
    const rows = await tx.select({ id: principal.id, name: shownName }).from(principal).leftJoin(staff, eq(staff.id, principal.id))
      .where(inArray(principal.id, wanted.slice(from, from + 1000)))
    for (const row of rows) names.set(row.id, row.name)
  }
  return id => names.get(id ?? '') ?? '–'
}

/** The name of one principal, as it is shown. */
export async function nameOf(tx: Executor, id: string | null | undefined): Promise<string> {
  return (await namesOf(tx, [id]))(id)
}
