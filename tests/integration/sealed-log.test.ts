import { execFileSync } from 'node:child_process'
import { mkdtempSync, rmSync, writeFileSync } from 'node:fs'
import { tmpdir } from 'node:os'
import { join, resolve } from 'node:path'
import { sql } from 'drizzle-orm'
import pg from 'pg'
import { afterAll, beforeAll, describe, expect, it } from 'vitest'
import { publicKeys, rotateKey } from '../../server/services/cards/keys'
import { checkSealed, exportSealed, sealLog, sealState } from '../../server/services/records/seal'
import { openOffice, type Office } from '../support/office'

let office: Office
const folder = mkdtempSync(join(tmpdir(), 'lucid-log-'))
beforeAll(async () => {
  office = await openOffice()
  await office.at('accepted')
  await sealLog(office.product)
})
afterAll(async () => {
  rmSync(folder, { recursive: true })
  await office.close()
})

const check = () => checkSealed(office.as('auditor'))
const events = async () => (await office.db.execute(sql`select 1 from audit_event`)).rows.length

describe('the log of acts', () => {
  it('is sealed once a minute at most, and found whole', async () => {
    await office.at('scrutiny')
    expect(await sealLog(office.product)).toBe(0)
    expect((await sealState(office.as('auditor'))).waiting).toBeGreaterThan(0)
    office.pass(2)
    expect(await sealLog(office.product)).toBeGreaterThan(0)
    expect(await check()).toEqual({ rows: await events(), heads: 2, fault: null })
  })

  it('seals what a long transaction wrote when it ends, and holds nobody up meanwhile', async () => {
    const slow = new pg.Client({ connectionString: office.urls.application })
    await slow.connect()
    await slow.query('begin')
    await slow
      .query("insert into audit_event (at, actor, act, subject_kind, subject, request_id) select now(), id, 'sign-in', 'staff', 'late', 'r' from principal limit 1")
    await office.at('drafting')
    office.pass(2)
    expect(await sealLog(office.product, 'now')).toBeGreaterThan(0)
    office.pass(2)
    await office.at('drafting')
    await sealLog(office.product, 'now')
    expect((await check())?.rows).toBe(await events())
    await slow.query('commit')
    await slow.end()
    office.pass(2)
    await sealLog(office.product, 'now')
    expect(await check()).toMatchObject({ rows: await events(), fault: null })
  })

  it('is sealed once, by however many processes', async () => {
    await office.at('scrutiny')
    const sealed = await Promise.all([1, 2, 3].map(() => sealLog(office.product, 'now')))
    expect(sealed.filter(n => n > 0).length).toBe(1)
    // Signed by a new key from then on; what the old one signed stays good.
    expect(await rotateKey(await office.context())).toBe('k2')
    await office.at('drafting')
    await sealLog(office.product, 'now')
    expect((await sealState(office.as('auditor'))).head?.key).toBe('k2')
    expect(await check()).toMatchObject({ rows: await events(), fault: null })
  })

  it('is checked outside the office by the command line, from an export and heads that were kept', async () => {
    const kept = async (what: 'rows' | 'heads') => {
      let text = ''
      for await (const part of await exportSealed(office.as('auditor'), what)) text += part
      writeFileSync(join(folder, `${what}.jsonl`), text)
      return text
    }
    const [rows] = [await kept('rows'), await kept('heads')]
    writeFileSync(join(folder, 'keys.json'), JSON.stringify(await publicKeys(office.as())))
    const lucid = (...args: string[]) => {
      try {
        return [0, execFileSync(resolve(import.meta.dirname, '../../bin/lucid'), ['audit', ...args], {
          cwd: folder,
          encoding: 'utf8',
          stdio: 'pipe',
        })]
      } catch (error) {
        const { status, stdout, stderr } = error as { status: number, stdout: string, stderr: string }
        return [status, stdout + stderr]
      }
    }
    const verify = (file: string) => lucid('verify', '--rows', file, '--heads', 'heads.jsonl', '--keys', 'keys.json')
    expect(verify('rows.jsonl')).toEqual([0, expect.stringContaining('nothing was changed')])
    writeFileSync(join(folder, 'changed.jsonl'), rows.replace('"act":"submit"', '"act":"accept"'))
    expect(verify('changed.jsonl')).toEqual([3, expect.stringMatching(/^✕ Row \d+: who, what, when/)])
    writeFileSync(join(folder, 'cut.jsonl'), rows.split('\n').slice(0, -4).join('\n'))
    expect(verify('cut.jsonl')).toEqual([3, expect.stringContaining('The last ones were taken away')])
    expect(lucid('prove', '--rows', 'rows.jsonl', '--place', '3')).toEqual([0, expect.stringContaining('"proof"')])
    expect(lucid('grown', '--rows', 'rows.jsonl', '--from', '5', '--size', '20')).toEqual([0, expect.stringContaining('"firstRoot"')])
    expect(lucid('prove', '--rows', 'rows.jsonl', '--place', '99999')).toEqual([2, expect.stringContaining('counted from 0')])
    expect(verify('keys.json')).toEqual([2, expect.stringContaining('line 1')])
  })

  it('shows what somebody did who can write to every table', async () => {
    const owner = office.in('owner')
    const after = async (statement: string, fault: object) => {
      await owner.execute(sql.raw('alter table audit_event disable trigger user'))
      await owner.execute(sql.raw(statement))
      expect((await check())?.fault).toMatchObject(fault)
    }
    await owner.execute(sql.raw('create table before as select * from audit_event'))
    const restore = async () => {
      await owner
        .execute(sql.raw('update audit_event e set act = b.act, at = b.at, after = b.after, salt = b.salt from before b where b.id = e.id'))
      expect((await check())?.fault).toBeNull()
    }
    await after("update audit_event set act = 'accept' where id = (select event_id from audit_leaf where place = 4)", {
      code: 'row-changed',
      place: 4,
    })
    await restore()
    await after("update audit_event set at = at - interval '1 day' where id = (select event_id from audit_leaf where place = 6)", {
      code: 'row-changed',
      place: 6,
    })
    await restore()
    await after('update audit_event set after = \'{"x": 1}\' where id = (select event_id from audit_leaf where place = 5)', {
      code: 'personal-changed',
      place: 5,
    })
    await restore()
    await after('update audit_event set salt = null, after = null where id = (select event_id from audit_leaf where place = 5)', {
      code: 'erased-unasked',
      place: 5,
    })
    await restore()
    await after('delete from audit_event where id = (select event_id from audit_leaf where place = 7)', { code: 'row-missing', place: 7 })
    // An old number, used again.
    await owner
      .execute(sql.raw('insert into audit_event select * from before where id = (select event_id from audit_leaf where place = 7)'))
    await after(
      'insert into audit_event (id, at, actor, act, subject_kind, subject, request_id) select -5, now(), actor, act, subject_kind, subject, request_id from audit_event limit 1',
      { code: 'not-sealed', place: -5 },
    )
  })
})
