import { inArray, sql } from 'drizzle-orm'
import { afterAll, beforeAll, expect, it } from 'vitest'
import { asked, kept, keptAbout, keptIfOften } from '../../server/database/kept-statements'
import { application } from '../../server/database/schema'
import { openOffice, type Office } from '../support/office'

let office: Office
beforeAll(async () => {
  office = await openOffice()
})
afterAll(() => office.close())

it('has the database keep a marked statement for its connection, and no other', async () => {
  const done = await office.db.transaction(async (tx) => {
    const numbers: unknown[] = []
    for (const n of [1, 2, 3]) numbers.push((await tx.execute(kept(sql`select ${n}::int + 1 as next`))).rows[0]?.next)
    await tx.execute(sql`select ${4}::int + 2 as next`)
    const { rows } = await tx.execute<
      { statement: string }
    >(sql`select statement from pg_prepared_statements where statement like '%as next'`)
    return { numbers, statements: rows.map(row => row.statement) }
  })
  expect(done.numbers).toEqual([2, 3, 4])
  expect(done.statements).toEqual(['/* kept */ select $1::int + 1 as next'])
})

it('has one plan for whatever it is asked about, and answers each of them', async () => {
  const number = keptAbout(() => sql`select 'number of', number from application where id = ${asked.id} and ${asked.since} is null`)
  const ids = await Promise.all(Array.from({ length: 8 }, () => office.draft()))
  const { numbers, plans } = await office.db.transaction(async (tx) => {
    const found: unknown[] = []
    for (const id of ids) found.push((await tx.execute(number({ id }))).rows[0]?.number)
    const { rows } = await tx
      .execute(sql`select generic_plans, custom_plans from pg_prepared_statements where statement like '%number of%'`)
    return { numbers: found, plans: rows }
  })
  const rows = await office.db.select({ id: application.id, number: application.number }).from(application)
    .where(inArray(application.id, ids))
  expect(numbers).toEqual(ids.map(id => rows.find(row => row.id === id)?.number))
  // The database tries five plans before it keeps to one.
  expect(plans).toEqual([{ generic_plans: '3', custom_plans: '5' }])
})

it('has a statement that is put together each time kept once it came often enough, and not one that came once', async () => {
  const statements = await office.db.transaction(async (tx) => {
    for (let i = 0; i < 25; i += 1) await tx.execute(keptIfOften(sql`select ${i}::int as often`))
    await tx.execute(keptIfOften(sql`select ${1}::int as seldom`))
    const { rows } = await tx.execute<
      { statement: string }
    >(sql`select statement from pg_prepared_statements where statement ~ 'as (often|seldom)$'`)
    return rows.map(row => row.statement)
  })
  expect(statements).toEqual(['/* often */ select $1::int as often'])
})
