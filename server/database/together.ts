import {
  getTableColumns,
  getTableName,
  sql,
  type Column,
  type InferInsertModel,
  type InferSelectModel,
  type SQL,
  type SQLWrapper,
  type Table,
} from 'drizzle-orm'
import type { Executor } from './client'
import { keptIfOften } from './kept-statements'

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
  await tx.execute(keptIfOften(sql`with ${sql.join(parts, sql`, `)} select 1`))
}

const inserts = new WeakMap<Table, Map<string, string>>()

/**
 * Puts rows, one at least, into a table as one JSON parameter: thirty parameters of their own take the server longer to write down than
 * the database to read them. All rows name the same columns; what is left out of one is null, not the column's default. Not for columns
 * of bytes or of a single answer.
 *
 * @param end what follows, such as what to do where a row stands already.
 */
export function inserting<T extends Table>(table: T, rows: readonly InferInsertModel<T>[], end: SQL = sql``): SQL {
  const columns: Record<string, Column> = getTableColumns(table)
  const keys = Object.keys(rows[0] ?? {}).filter(key => key in columns)
  const given = rows.map(row =>
    Object.fromEntries(keys.map((key) => {
      const [column, value] = [columns[key] as Column, (row as Record<string, unknown>)[key] ?? null]
      return [column.name, value === null || column.columnType === 'PgJsonb' ? value : column.mapToDriverValue(value)]
    }))
  )
  return sql`${sql.raw(insertText(table, keys.map(key => (columns[key] as Column).name)))}${JSON.stringify(given)}::jsonb) ${end}`
}

function insertText(table: Table, names: readonly string[]): string {
  const texts = inserts.get(table) ?? new Map<string, string>()
  inserts.set(table, texts)
  const list = names.map(name => `"${name}"`).join(', ')
  const into = `"${getTableName(table)}"`
  const text = texts.get(list) ?? `insert into ${into} (${list}) select ${list} from jsonb_populate_recordset(null::${into}, `
  texts.set(list, text)
  return text
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
