import { sql } from 'drizzle-orm'
import type { Office } from './office'

/** Every row of every table, as text; not the stand-ins' books, which belong to companies elsewhere, nor the notices. */
export async function everything(office: Office): Promise<string> {
  const db = office.in('superuser')
  const { rows: tables } = await db.execute<
    { name: string }
  >(sql`select table_name as name from information_schema.tables where table_schema = 'public' and table_type = 'BASE TABLE' and table_name !~ '^(standin_|notice_)'`)
  const texts = await Promise
    .all(tables.map(async ({ name }) =>
      (await db.execute<{ row: string }>(sql`select t::text as row from ${sql.identifier(name)} t`)).rows.map(({ row }) =>
        `${name}: ${row}`
      )
    ))
  return texts.flat().join('\n')
}
