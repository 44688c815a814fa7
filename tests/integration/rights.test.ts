import { sql } from 'drizzle-orm'
import { afterAll, beforeAll, describe, expect, it } from 'vitest'
import { evidence } from '../../server/database/rights'
import { moveFiles } from '../../server/services/files/bytes'
import { openOffice, type Office } from '../support/office'

let office: Office
beforeAll(async () => {
  office = await openOffice()
  await office.at('accepted')
  await office.publish((await office.run()).runId)
})
afterAll(() => office.close())

/**
 * Code and words of the database's refusal (PostgreSQL, appendix A: 42501 is "insufficient privilege"); `done` when it did as it was told.
 */
async function answerTo(role: 'application' | 'files', statement: string): Promise<string> {
  return office.in(role).execute(sql.raw(statement)).then(
    () => 'done',
    (error: Error) => String((error.cause as { code?: string } | undefined)?.code),
  )
}

describe('the application in its database', () => {
  it.each(Object.keys(evidence))('only adds to %s: what stands there it cannot change, take away or empty', async (table) => {
    const { rows } = await office.in('owner').execute<
      { name: string }
    >(sql`select column_name as name from information_schema.columns where table_schema = 'public' and table_name = ${table}`)
    const fixed = rows.map(row => row.name).filter(name => !evidence[table]?.includes(name))
    expect(fixed.length).toBeGreaterThan(0)
    for (const name of fixed) {
      expect([name, await answerTo('application', `update ${table} set ${name} = ${name}`)]).toEqual([name, '42501'])
    }
    expect(await answerTo('application', `delete from ${table}`)).toBe('42501')
    expect(await answerTo('application', `truncate ${table} cascade`)).toBe('42501')
  })

  it.each([
    'set session_replication_role = replica',
    'alter table audit_event disable trigger all',
    'drop trigger audit_event_append_only on audit_event',
    'alter table ledger_line disable trigger ledger_line_balanced',
    'create or replace function append_only() returns trigger language plpgsql as $$ begin return null; end $$',
    'create table stolen as select * from staff',
    'create temporary table kept (x int)',
    'drop table letter',
    "copy (select 1) to program 'true'",
    "copy letter from program 'true'",
    "copy (select 1) to '/tmp/lucid-stolen'",
    "select pg_read_file('/etc/passwd')",
    'create role another superuser',
    'alter role lucid_app superuser',
    'set role lucid_owner',
    'create extension file_fdw',
    'alter system set fsync = off',
    "select lo_import('/etc/passwd')",
    'create schema hidden',
    "insert into data_upgrade values ('x', now())",
    'alter table pgboss.job add column x int',
  ])('may not: %s', async (statement) => {
    expect(await answerTo('application', statement)).toBe('42501')
  })

  it('gives itself no right', async () => {
    await answerTo('application', 'grant all on audit_event to lucid_app')
    expect(await answerTo('application', 'delete from audit_event')).toBe('42501')
  })

  it('keeps every verdict that was ever in force', async () => {
    const { rows } = await office.db
      .execute(sql`select 1 from post_verdict v left join verdict_history h using (application_id, post, verdict, clauses, at) where h.id is null`)
    expect(rows).toEqual([])
    await office.db.execute(sql`update post_verdict set verdict = 'unsure'`)
    const { rows: [count] } = await office.db.execute(sql`select count(*)::int as n from verdict_history where verdict = 'unsure'`)
    expect(count).toEqual({ n: (await office.db.execute(sql`select 1 from post_verdict`)).rows.length })
  })
})

describe('the role that moves files', () => {
  it('moves bytes and writes the log, and does nothing else', async () => {
    expect(await moveFiles(office.in('files'), 'database')).toBe(0)
    expect(await answerTo('files', 'update file set content = null where false')).toBe('done')
    // What a row of the log says may go, and nothing else may stand in its place.
    expect(await answerTo('files', "update audit_event set salt = null, reason = 'another', before = null, after = null")).toBe('P0001')
    for (
      const statement of ['update file set sha256 = sha256', 'delete from audit_event', 'delete from image', 'select * from staff',
        'select after from answer_change', 'update audit_event set act = act', 'select * from application']
    ) expect(await answerTo('files', statement)).toBe('42501')
  })
})
