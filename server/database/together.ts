import { getTableColumns, sql, type InferSelectModel, type SQL, type SQLWrapper, type Table } from 'drizzle-orm'
import type { Executor } from './client'

/** A write of its own, or one with a name by which the writes after it know what it returned. */
export type Write = SQLWrapper | { name: string, write: SQLWrapper }

/**
 * Carries out writes none of which reads what another has written, in one statement: a statement costs the server more than the row that it
 * writes. All see the rows as they were before; triggers and foreign keys are looked at after the last of them.
 */
export async function together(tx: Executor, writes: readonly Write[]): Promise<void> {
  if (writes.length === 0) return
  const parts = writes.map((one, i) => {
    const [name, write] = 'write' in one ? [one.name, one.write] : [`write_${i}`, one]
    return sql`${sql.identifier(name)} as (${write.getSQL()})`
  })
  await tx.execute(sql`with ${sql.join(parts, sql`, `)} select 1`)
}

/** Rows of a table that a statement gives as one JSON array, beside what else it reads. `from` is what stands after `select one.* from`. */
export const asJson = (from: SQL): SQL => sql`(select coalesce(jsonb_agg(to_jsonb(one)), '[]'::jsonb) from (${from}) as one)`

/** Rows as `asJson` gave them, with the values that a select of the table would give. Not for columns of bytes. */
export function rowsOfJson<T extends Table>(table: T, json: readonly Record<string, unknown>[]): InferSelectModel<T>[] {
  const columns = Object.entries(getTableColumns(table))
  return json.map(row =>
    Object.fromEntries(columns.map(([key, column]) => {
      const value = row[column.name] ?? null
      return [key, value === null || column.columnType === 'PgJsonb' ? value : column.mapFromDriverValue(value)]
    })) as InferSelectModel<T>
  )
}
