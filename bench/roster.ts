import { sql } from 'drizzle-orm'
import pg from 'pg'
import { product } from '../core/access/principal'
import { readNotice } from '../core/notice/check'
import { demoNotice } from '../demo/notice'
import { Random } from '../demo/random'
import { openDatabase } from '../server/database/client'
import { migrateDatabase } from '../server/database/migrate'
import { cardsOverview } from '../server/services/cards/overview'
import { Caller } from '../server/services/context'
import { feesOverview } from '../server/services/fees/overview'
import { putNotice } from '../server/services/notice/notices'
import { countRoster } from '../server/services/roster/count'
import { readDesk } from '../server/services/roster/desk'
import { foldTally } from '../server/services/roster/keep'
import { findPeople, readAlike, readBand, readRoster } from '../server/services/roster/page'
import type { RosterQuery } from '../shared/applications'
import { spread } from './database'
import { writeMany } from './many'

/**
 * The roster at size: `DATABASE_URL=… npx tsx bench/roster.ts [applications] [rounds] [seed]` on an empty database, as its owner; one that
 * a run before has filled is taken as it is. Pages by key under many filters, names right, misspelt and unknown, counts, and the screens
 * that count; each page beside its slowest statement sent bare. Then the same while another connection changes fifty applications a second.
 */
const [wanted, rounds, seed] = [Number(process.argv[2] ?? 1_000_000), Number(process.argv[3] ?? 40), Number(process.argv[4] ?? 7)]
const { DATABASE_URL } = process.env
if (!DATABASE_URL) throw new Error('DATABASE_URL must name an empty database; it will be filled')
const handle = openDatabase(DATABASE_URL)
const { db } = handle
await migrateDatabase(handle)
const caller = new Caller(db, { ...product, kind: 'staff', roles: ['officer', 'auditor'] })
const { notice } = readNotice(demoNotice(new Date()))
if (!notice) throw new Error('the notice of the demo has faults')
const { rows: [there] } = await db.execute<{ n: string }>(sql`select count(*) as n from roster_entry`)
if (Number(there?.n) === 0) {
  await putNotice(new Caller(db, product), notice)
  const started = performance.now()
  await writeMany(db, notice, wanted, seed)
  await foldTally(new Caller(db, product))
  await db.execute(sql`vacuum analyze`)
  console.log(`${wanted} applications written, with entries, words and counts: ${((performance.now() - started) / 1000).toFixed(0)} s`)
}
const { rows: sizes } = await db.execute<
  { what: string, size: string }
>(sql`select relname as what, pg_size_pretty(pg_total_relation_size(oid)) as size from pg_class where relname in ('application', 'roster_entry', 'name_word', 'scrutiny_case') order by 1`)
console.log(sizes.map(s => `${s.what} ${s.size}`).join(', '))

const cycle = notice.code
const random = new Random(5)
const { rows: names } = await db.execute<
  { name: string, number: string }
>(sql`select display_name as name, number from application tablesample system (0.5) limit 400`)
const some = () => random.pick(names)
const page = (query: Partial<RosterQuery>) => () => readRoster(caller, cycle, { sort: 'number', limit: 100, ...query })
const misspelt = (name: string) => name.slice(0, 3) + name.slice(4)

const asked: Record<string, () => Promise<unknown>> = {
  'first page by number': page({}),
  'a page in the midst': () => page({ after: some().number })(),
  'longest waits': page({ sort: 'waiting' }),
  'in scrutiny, longest waits': page({ is: ['at:in scrutiny'], sort: 'waiting' }),
  'refused': page({ is: ['at:refused'] }),
  'fee due and outer isles': page({ is: ['fee:due', 'q:category=outer-isles'] }),
  'three filters': page({ is: ['scrutiny:waiting', 'q:category=general', 'q:posts=lighthouse-keeper', 'q:pwd=yes'] }),
  'rare: refused, with a disability, first choice of one town': () =>
    page({ is: ['at:refused', 'q:pwd=yes', `first:cities=${random.pick(notice.cities).id}`] })(),
  'nobody: drafting and settled': page({ is: ['form:drafting', 'fee:settled'] }),
  'an open matter': page({ is: ['matter:scrutiny|scrutineer'], sort: 'waiting' }),
  'a name': () => page({ search: some().name })(),
  'the beginning of a word': () => page({ search: some().name.slice(0, 3) })(),
  'names alike, misspelt': () => readAlike(caller, cycle, { search: misspelt(some().name) }),
  'a name that nobody has': page({ search: 'Xyqzwv Pfflt' }),
  'a telephone': () => page({ search: `5550${random.whole(1000, 9999)}` })(),
  'command field, a number': () => findPeople(caller, cycle, some().number),
}
const counted: Record<string, () => Promise<unknown>> = {
  'band': () => readBand(caller, cycle),
  'desk': () => readDesk(caller, cycle),
  'fees': () => feesOverview(caller, cycle),
  'cards': () => cardsOverview(caller, cycle),
  'count of one filter': () => countRoster(caller, cycle, { is: ['fee:due'] }),
  'count of two filters': () => countRoster(caller, cycle, { is: ['fee:settled', 'q:category=general'] }),
  'count of a rare pair': () => countRoster(caller, cycle, { is: ['at:refused', 'q:pwd=yes'] }),
}

async function time(work: () => Promise<unknown>, times = rounds): Promise<number[]> {
  const found: number[] = []
  for (let i = 0; i < times; i++) {
    const started = performance.now()
    await work()
    found.push(performance.now() - started)
  }
  return found
}

/** The same statements once more, sent bare: what the database alone takes. */
async function bare(work: () => Promise<unknown>): Promise<number> {
  const sent: { text: string, values: unknown[] }[] = []
  const query = pg.Client.prototype.query as (...args: unknown[]) => unknown
  pg.Client.prototype.query = function(this: pg.Client, ...args: unknown[]) {
    const [first, second] = args as [{ text: string, values?: unknown[] } | string, unknown[] | undefined]
    if (typeof first === 'object') sent.push({ text: first.text, values: second ?? first.values ?? [] })
    return query.apply(this, args)
  } as never
  await work()
  pg.Client.prototype.query = query as never
  const times = await time(async () => {
    for (const { text, values } of sent) await db.$client.query(text, values)
  }, 5)
  return Math.min(...times)
}

async function table(what: string, list: Record<string, () => Promise<unknown>>): Promise<void> {
  console.log(`\n${what} | median | p95 | longest | bare\n---|---|---|---|---`)
  for (const [title, work] of Object.entries(list)) {
    await work()
    const { median, most, longest } = spread(await time(work))
    console.log(`${title} | ${median} ms | ${most} ms | ${longest} ms | ${(await bare(work)).toFixed(0)} ms`)
  }
}
await table('pages', asked)
await table('counts', counted)

// Fifty changes a second: what scrutiny and payments do to the tracks, by another connection.
let going = true
let written = 0
const writer = (async () => {
  const { rows } = await db.execute<
    { id: string }
  >(sql`select application_id as id from roster_entry where headline = 'in scrutiny' limit 5000`)
  const started = performance.now()
  while (going) {
    const { id } = random.pick(rows)
    await db
      .execute(sql`with one as (update application set scrutiny = 'accepted', headline = 'accepted', headline_since = now() where id = ${id} and scrutiny = 'waiting' returning id, cycle)
      insert into headline_change (id, application_id, cycle, from_headline, to_headline, at) select gen_random_uuid(), id, cycle, 'in scrutiny', 'accepted', now() from one`)
    written++
    if (written % 100 === 0) await foldTally(new Caller(db, product))
    const ahead = written * 20 - (performance.now() - started)
    if (ahead > 0) await new Promise(resolve => setTimeout(resolve, ahead))
  }
  return written / ((performance.now() - started) / 1000)
})()
await table('while changes are written: pages', Object.fromEntries(Object.entries(asked).slice(0, 9)))
await table('while changes are written: counts', counted)
going = false
console
  .log(`\n${(await writer).toFixed(0)} changes a second; highest resident memory ${(process.resourceUsage().maxRSS / 1024).toFixed(0)} MB`)
await handle.close()
