import { readdirSync, readFileSync } from 'node:fs'
import { gunzipSync } from 'node:zlib'
import pg from 'pg'
import { afterAll, beforeAll, describe, expect, it } from 'vitest'
import { verifyCode } from '../../core/admit-card/code'
import { noticeFormat, upgradeNotice } from '../../core/notice/formats'
import { readNotice } from '../../core/notice/check'
import { isError } from '../../core/notice/finding'
import type { Notice } from '../../core/notice/schema'
import { openDatabase, type DatabaseHandle } from '../../server/database/client'
import { migrateDatabase } from '../../server/database/migrate'
import { admitCard, principal } from '../../server/database/schema'
import { Caller } from '../../server/services/context'
import { readDossier } from '../../server/services/applications/dossier'
import { cardPdf } from '../../server/services/cards/pdf'
import { publicKeys } from '../../server/services/cards/keys'
import { currentNotice } from '../../server/services/notice/notices'
import { feesOverview } from '../../server/services/fees/overview'
import { principalOf } from '../../server/services/people/sign-in'
import { testDatabase } from '../support/databases'
import { useOfficeKey } from '../../server/secrets/office-key'
import { upgradeData } from '../../server/services/upgrades/steps'

/**
 * A small office that was made by the program before principals and acts: two applications at each point of the flow. It must start with
 * the present program and lose nothing.
 */
const folder = new URL('../upgrade/', import.meta.url)
const name = `lucid_upgrade_${process.pid}`
let admin: pg.Client
let handle: DatabaseHandle
let before: Record<string, unknown[]>

// What is kept word for word, table by table.
const kept = {
  applications:
    'select id, number, cycle, answers, revision, form, fee, placement, card, headline, submitted_at from application order by number',
  files: 'select sha256, bytes, content from file order by sha256',
  versions: 'select application_id, kind, version, sha256, state, findings from image order by application_id, kind, version',
  answers: 'select id, question, before, after, at from answer_change order by id',
  payments: 'select id, amount::text, state, gateway_order from payment order by id',
  events: 'select event_id, gateway_order, outcome, deliveries, first_at from gateway_event order by event_id',
  ledger:
    "select t.source, l.account, l.amount::text from ledger_line l join ledger_transaction t on t.id = l.transaction_id where t.source not like 'surplus:%' order by 1, 2, 3",
  runs: 'select id, serial, cost, bound, inputs_sha256, published_at from allocation_run order by id',
  seats: 'select application_id, venue, room, session, seat, roll from seat order by roll',
  cards: 'select application_id, version, code, photograph_sha256 from admit_card order by application_id',
  decisions: 'select application_id, decision, reasons, at from scrutiny_decision order by id',
  notices: 'select cycle, version, document, sha256 from notice_version order by cycle, version',
  log: 'select id, at, request_id from audit_event order by id',
}
async function read(client: pg.Client): Promise<Record<string, unknown[]>> {
  const found: Record<string, unknown[]> = {}
  for (const [table, statement] of Object.entries(kept)) found[table] = (await client.query(statement)).rows
  return found
}

beforeAll(async () => {
  useOfficeKey(Buffer.alloc(32, 11))
  const url = new URL(testDatabase().superuser)
  url.pathname = '/postgres'
  admin = new pg.Client({ connectionString: url.href })
  await admin.connect()
  await admin.query(`create database ${name}`)
  url.pathname = `/${name}`
  const client = new pg.Client({ connectionString: url.href })
  await client.connect()
  await client.query(gunzipSync(readFileSync(new URL('before-foundations.sql.gz', folder))).toString())
  await client.query('set search_path to public')
  before = await read(client)
  handle = openDatabase(url.href)
  await migrateDatabase(handle)
  await upgradeData(handle.db, () => undefined)
  expect(await read(client)).toEqual(before)
  await client.end()
})
afterAll(async () => {
  await handle.close()
  await admin.query(`drop database ${name} with (force)`)
  await admin.end()
})

const caller = async () =>
  new Caller(handle.db, {
    id: '00000000-0000-4000-9000-00000000000a',
    kind: 'staff',
    name: 'Later Officer',
    roles: ['officer', 'auditor'],
    venues: [],
  })

describe('an office of the program before', () => {
  it('keeps every application, file, payment, run, seat, card and row of the log', () => {
    expect(before.applications?.length).toBe(20)
    for (const rows of Object.values(before)) expect(rows.length).toBeGreaterThan(0)
  })

  it('opens every application, with what is open on it', async () => {
    for (const row of before.applications as { id: string, headline: string }[]) {
      const dossier = await readDossier(await caller(), row.id)
      expect(dossier.headline).toBe(row.headline)
      const { rows } = await handle.db.$client.query('select kind from open_matter where application_id = $1 and cleared_at is null', [
        row.id,
      ])
      expect(rows.map((r: { kind: string }) => r.kind).sort()).toEqual(dossier.matters.map(m => m.kind).sort())
    }
  })

  it('has cards that verify, and freezes what they say', async () => {
    const keys = (await publicKeys(await caller())).map(k => ({ id: k.id, key: new Uint8Array(Buffer.from(k.key, 'base64')) }))
    for (const card of await handle.db.select().from(admitCard)) {
      const verdict = verifyCode(card.code, keys)
      expect(verdict).toMatchObject({
        ok: true,
        content: { name: card.content.name, roll: card.content.roll, application: card.content.application },
      })
      // The pictures of this office are cut down to a word each: only their printing is missing.
      await expect(cardPdf(await caller(), card.applicationId)).rejects.toThrow('are not those that were kept')
    }
  })

  it('has the cities of its notices in the register, with the seats that they had', async () => {
    for (const { cycle, document } of before.notices as { cycle: string, document: Pick<Notice, 'cities'> }[]) {
      const { notice } = await currentNotice(handle.db, cycle)
      // A room has one name from now on, which two notices may have told differently.
      const rooms = ({ cities }: Pick<Notice, 'cities'>) =>
        cities.flatMap(c => c.venues.flatMap(v => v.rooms.map(r => [c.id, v.id, r.id, r.seats, r.accessibleSeats])))
      expect(rooms(notice)).toEqual(rooms(document))
    }
    const { rows } = await handle.db.$client.query('select count(*)::int as n from room_booking')
    expect(rows[0]).not.toEqual({ n: 0 })
  })

  it('has balanced books', async () => {
    const { accounts } = await feesOverview(await caller(), 'HL27')
    expect(accounts.length).toBeGreaterThan(0)
    expect(accounts.reduce((n, a) => n + a.balance, 0)).toBe(0)
  })

  it('knows who did what: staff by their ids, a name that two have or nobody has as a principal of its own', async () => {
    const people = await handle.db.select().from(principal)
    // Two accounts of the name, and whoever of them is meant where only the name was written.
    expect(people.filter(p => p.name === 'Orin Tamsero')).toHaveLength(3)
    expect(people.filter(p => p.name === 'Somebody Else')).toHaveLength(1)
    const { rows } = await handle.db.$client.query<
      { kind: string, n: string }
    >('select p.kind, count(*) as n from audit_event e join principal p on p.id = e.actor group by 1')
    expect(rows.find(r => r.kind === 'product')).toBeDefined()
    // A name that nobody has any more signs nobody in.
    const gone = people.find(p => p.name === 'Somebody Else')
    expect(await principalOf(handle.db, gone?.id ?? '')).toBeNull()
  })
})

describe('a notice of any format ever written', () => {
  const folder = new URL('../notices/', import.meta.url)
  it.each(readdirSync(folder))('%s is read in the present format, sound as it was', (file) => {
    const json = JSON.parse(readFileSync(new URL(file, folder), 'utf8')) as { title: string }
    const { notice, findings } = readNotice(json)
    expect(findings.filter(isError)).toEqual([])
    expect(notice).toMatchObject({ format: noticeFormat, title: json.title })
  })

  it('of a newer program is named as such, and what lacks parts that came later is filled in', () => {
    expect(upgradeNotice({ format: 99 })).toEqual({ json: null, newerFormat: 99 })
    // Of format 8: one amount for each further post, and one late period or none.
    const late = { from: '2026-11-20T09:00:00Z', amount: 20_000 }
    expect(upgradeNotice({ format: 8, fees: { base: [], additionalPost: 15_000, late } })).toEqual({
      json: { format: noticeFormat, fees: { base: [], further: [{ from: 2, amount: 15_000 }], late: [late] } },
    })
    expect(upgradeNotice({ format: 8, fees: { additionalPost: 0 } })).toEqual({
      json: { format: noticeFormat, fees: { further: [], late: [] } },
    })
    const json = JSON.parse(readFileSync(new URL('format-1.json', folder), 'utf8')) as Record<string, unknown>
    const { documents, ...without } = json
    expect(documents).toBeDefined()
    expect(readNotice(without).notice?.documents).toEqual([])
  })
})
