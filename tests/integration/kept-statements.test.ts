import { sql } from 'drizzle-orm'
import { afterAll, beforeAll, expect, it } from 'vitest'
import { kept } from '../../server/database/kept-statements'
import { openOffice, type Office } from '../support/office'

let office: Office
beforeAll(async () => {
  office = await openOffice()
})
afterAll(() => office.close())

it('has the database keep a marked statement for its connection, and no other', async () => {
  const asked = await office.db.transaction(async (tx) => {
    const numbers: unknown[] = []
    for (const n of [1, 2, 3]) numbers.push((await tx.execute(kept(sql`select ${n}::int + 1 as next`))).rows[0]?.next)
    await tx.execute(sql`select ${4}::int + 2 as next`)
    const { rows } = await tx.execute<
      { statement: string }
    >(sql`select statement from pg_prepared_statements where statement like '%as next'`)
    return { numbers, statements: rows.map(row => row.statement) }
  })
  expect(asked.numbers).toEqual([2, 3, 4])
  expect(asked.statements).toEqual(['/* kept */ select $1::int + 1 as next'])
})
