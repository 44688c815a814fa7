import { randomInt, randomUUID } from 'node:crypto'
import { mkdtempSync, writeFileSync } from 'node:fs'
import { tmpdir } from 'node:os'
import { join } from 'node:path'
import { pathToFileURL } from 'node:url'
import pg from 'pg'
import { afterAll, beforeAll, describe, expect, it } from 'vitest'
import { z } from 'zod'
import { startCluster } from '../../scripts/lib/postgres.mjs'
import { demoPassword } from '../../demo/load'
import { openDatabase } from '../../server/database/client'
import { GatewayServer } from '../../server/standins/gateway-server'
import { Client, ServerProcess } from './servers'

/**
 * Two servers on one database, both and the database killed at random moments while people register, answer, pay, and an allocation runs
 * and is published; the clock of one server's machine jumps by days meanwhile. Whatever was acknowledged is there once, nothing closes
 * early, and the books balance. LUCID_FAULT_SECONDS makes it longer.
 */
const given = z.object({
  LUCID_FAULTS: z.string(),
  LUCID_SECRET: z.string(),
  LUCID_KEY_FILE: z.string(),
  LUCID_FAULT_SECONDS: z.coerce.number().default(30),
}).parse(process.env)
const seconds = given.LUCID_FAULT_SECONDS
type Cluster = Awaited<ReturnType<typeof startCluster>>
let cluster: Cluster
let servers: ServerProcess[]
let db: pg.Pool
let gateway: GatewayServer
let gatewayAddress: string
let book: ReturnType<typeof openDatabase>

beforeAll(async () => {
  cluster = await startCluster('postgres-test', { throwaway: true })
  servers = await Promise
    .all([1, 2].map(() =>
      ServerProcess.on(cluster.url(given.LUCID_FAULTS), { LUCID_SECRET: given.LUCID_SECRET, LUCID_KEY_FILE: given.LUCID_KEY_FILE })
    ))
  // The gateway is a company elsewhere: it is not killed, and calls again until the office has answered.
  book = openDatabase(cluster.url(given.LUCID_FAULTS), 3)
  gateway = new GatewayServer({ db: book.db, secret: given.LUCID_SECRET, office: servers[0]?.address ?? '', host: '127.0.0.1', port: 0 })
  gatewayAddress = await gateway.start()
  await Promise.all(servers.map((server, i) => server.start({ LUCID_GATEWAY: gatewayAddress, ...i === 0 ? jumping : {} })))
  db = new pg.Pool({ connectionString: cluster.url(given.LUCID_FAULTS, 'lucid'), max: 2 })
  db.on('error', () => undefined)
})
afterAll(async () => {
  await Promise.all(servers.map(server => server.kill()))
  // A connection that died with the database in the middle of something may never be given back: it is not waited for.
  await Promise.race([Promise.all([gateway.close(), book.close(), db.end()]), pause(5000)])
})

// How far off the clock of the first server's machine is, in milliseconds: read anew by the server all the time.
const clockFile = join(mkdtempSync(join(tmpdir(), 'lucid-clock-')), 'off')
const jumping = {
  LUCID_JUMPING_CLOCK: clockFile,
  NODE_OPTIONS: `--import=${pathToFileURL(join(import.meta.dirname, 'jumping-clock.mjs')).href}`,
}
const day = 86_400_000
const jump = () => writeFileSync(clockFile, String(randomInt(-3 * day, 30 * day)))
jump()

interface Acknowledged {
  began: string[]
  answers: Map<string, string>
  charged: Set<string>
}
const pause = (milliseconds: number) => new Promise(done => setTimeout(done, milliseconds))

async function people(client: Client, until: number, known: Acknowledged): Promise<void> {
  while (Date.now() < until) {
    const id = randomUUID()
    if ((await client.ask('PUT', `cycles/HL27/applications/${id}`))?.status !== 200) continue
    known.began.push(id)
    let revision = 0
    for (let i = 0; i < 3; i += 1) {
      const name = `Person ${id.slice(0, 8)} ${i}`
      const saved = await client.ask<{ revision: number }>('PATCH', `applications/${id}/answers`, {
        revision,
        changes: { certificateName: name },
      })
      if (saved?.status !== 200) break
      revision = saved.body.revision
      known.answers.set(id, name)
    }
  }
}

async function payers(client: Client, due: string[], until: number, known: Acknowledged): Promise<void> {
  for (let id = due.pop(); id !== undefined && Date.now() < until; id = due.pop()) {
    const opened = await client.ask<{ order: string }>('POST', `applications/${id}/payments`, {})
    if (opened?.status !== 200) continue
    // The gateway charges and calls twice; when the office was down it is asked later. Its book lies in the database that is killed: then
    // it has charged nothing.
    const paid = await fetch(`${gatewayAddress}/orders/${encodeURIComponent(opened.body.order)}/acts`, {
      method: 'POST',
      headers: { 'content-type': 'application/json' },
      body: JSON.stringify({ act: 'twice' }),
    }).then(answer => answer.ok ? answer.json() as Promise<{ state: string }> : null).catch(() => null)
    if (paid?.state === 'charged') known.charged.add(id)
  }
}

/** Ends one of the servers at once, and the database with it or not, and starts it again. */
async function killOne(withDatabase: boolean): Promise<void> {
  const server = servers[randomInt(servers.length)]
  await server?.kill()
  if (withDatabase) await cluster.crash()
  await server?.start()
}

/** Work ends, however often its process dies: it is taken up within half a minute. */
const ended = (job: string) =>
  expect.poll(async () => (await db.query('select state, error from job where id = $1', [job])).rows, { timeout: 60_000, interval: 500 })
    .toEqual([{ state: 'done', error: null }])

/** Starts a run of the allocation, everyone anew: whoever was placed before has a place already. */
async function placing(client: Client): Promise<string | null> {
  const asked = await client.ask<{ id: string }>('POST', 'cycles/MC27/runs', { scope: 'everyone' })
  return asked !== null && asked.status < 300 ? asked.body.id : null
}

describe('killed at random moments', () => {
  it('nothing that was acknowledged is lost or doubled, the books balance, and work goes on', async () => {
    const client = new Client(servers)
    await client.signIn('officer', demoPassword)
    const { rows } = await db.query<
      { id: string }
    >("select id from application a where cycle = 'HL27' and fee = 'due' and form = 'submitted' and not exists (select 1 from ledger_transaction t where t.application_id = a.id and t.kind <> 'assessment')")
    const due = rows.map(row => row.id)
    const lapsed = (await db.query("select 1 from application where cycle = 'HL27' and form = 'lapsed'")).rowCount
    const known: Acknowledged = { began: [], answers: new Map(), charged: new Set() }
    const until = Date.now() + seconds * 1000
    const load = Promise.all([people(client, until, known), people(client, until, known), payers(client, due, until, known),
      payers(client, due, until, known), placing(client)])
    let kills = 0
    while (Date.now() < until - 3000) {
      await pause(randomInt(800, 3000))
      jump()
      await killOne(kills % 4 === 1)
      kills += 1
    }
    const begun = await load
    expect(begun[4]).not.toBeNull()
    expect(known.began.length).toBeGreaterThan(5)
    expect(known.charged.size).toBeGreaterThan(0)

    await ended(begun[4] ?? '')
    // The request was sent again whenever its answer was lost, under its number: it started one.
    expect((await db.query("select 1 from job where cycle = 'MC27' and state in ('waiting', 'running')")).rowCount).toBe(0)

    const begunThere = await db.query<{ id: string, number: string, answers: { certificateName?: { text?: string } | string } }>(
      'select id, number, answers from application where id = any($1)',
      [known.began],
    )
    expect(begunThere.rows.map(row => row.id).sort()).toEqual([...known.began].sort())
    expect(new Set(begunThere.rows.map(row => row.number)).size).toBe(known.began.length)
    for (const row of begunThere.rows) {
      if (known.answers.has(row.id)) expect(JSON.stringify(row.answers)).toContain((known.answers.get(row.id) ?? '').slice(0, 15))
    }
    const kept = await db.query<{ id: string, after: unknown }>(
      'select application_id as id, after from answer_change where application_id = any($1)',
      [known.began],
    )
    for (const [id, name] of known.answers) {
      expect(kept.rows.filter(row => row.id === id && JSON.stringify(row.after).includes(name)).length).toBe(1)
    }

    // What the gateway charged was received once, as soon as whoever asks has asked.
    for (const id of known.charged) await client.ask('POST', `applications/${id}/payments/ask`, {})
    const books = await db.query(
      `
      select o.id, o.amount, (select coalesce(-sum(l.amount), 0) from ledger_line l join ledger_transaction t on t.id = l.transaction_id where t.application_id = p.application_id and t.kind <> 'assessment' and l.account in ('receivable', 'refunds payable')) as received
      from standin_gateway_order o join payment p on p.gateway_order = o.id where p.application_id = any($1) and o.state = 'charged'`,
      [[...known.charged]],
    )
    expect(books.rowCount).toBe(known.charged.size)
    for (const row of books.rows as { id: string, amount: string, received: string }[]) {
      expect([row.id, row.received]).toEqual([row.id, row.amount])
    }
    expect((await db.query('select transaction_id from ledger_line group by 1 having sum(amount) <> 0')).rowCount).toBe(0)
    expect((await db.query("select 1 from application a where a.id = any($1) and a.fee <> 'settled'", [[...known.charged]])).rowCount)
      .toBe(0)
    // Nobody's draft ended by a clock that was days ahead.
    expect((await db.query("select 1 from application where cycle = 'HL27' and form = 'lapsed'")).rowCount).toBe(lapsed)
    console
      .log(`faults: ${kills} servers killed, the database ${
        Math.floor((kills + 2) / 4)
      } times; ${known.began.length} began, ${known.answers.size} answered, ${known.charged.size} paid`)
  })

  it('seats that are published while servers die are given once, and all of them are', async () => {
    const client = new Client(servers)
    await client.signIn('officer', demoPassword)
    const { rows: [run] } = await db.query<
      { id: string, placed: number }
    >("select r.id, (select count(*)::int from run_placement p where p.run_id = r.id and p.city is not null) as placed from allocation_run r where r.cycle = 'MC27' order by r.serial desc limit 1")
    const told = async () => (await db.query("select 1 from message where cycle = 'MC27' and kind = 'publish-seat'")).rowCount ?? 0
    const toldBefore = await told()
    const asked = await client.ask<{ job: { id: string } }>('POST', `runs/${run?.id}/publish`, {
      reason: 'tried here before its time',
      outsideDates: true,
    })
    for (let kills = 0; kills < 4; kills += 1) {
      await pause(randomInt(300, 1500))
      jump()
      await killOne(kills === 2)
    }
    await ended(asked?.body.job.id ?? '')
    const { rows: [seats] } = await db.query<{ people: number, elsewhere: number, published: number, logged: number }>(
      `select count(distinct s.application_id)::int as people, (count(*) filter (where s.city <> p.city))::int as elsewhere,
        (select count(*)::int from application where cycle = 'MC27' and placement in ('published', 'moved')) as published, (select count(*)::int from audit_event where act = 'publish-run' and subject::text = $1) as logged
      from seat s join run_placement p on p.application_id = s.application_id and p.run_id::text = $1 where s.cycle = 'MC27'`,
      [run?.id],
    )
    expect(seats).toEqual({ people: run?.placed, elsewhere: 0, published: run?.placed, logged: 1 })
    // Whoever has another seat than before is told once, however often the work was begun.
    const { rows: [work] } = await db.query<{ result: { seated: number, reseated: number } }>('select result from job where id = $1', [
      asked?.body.job.id,
    ])
    expect(await told() - toldBefore).toBe((work?.result.seated ?? NaN) + (work?.result.reseated ?? NaN))
    expect(run?.placed).toBeGreaterThan(1000)
  })

  it('the servers wrote nothing of people into their logs', () => {
    const log = servers.map(server => server.log).join('\n')
    expect(log.length).toBeGreaterThan(0)
    expect(log).not.toMatch(/Person [0-9a-f]{8}/)
  })
})
