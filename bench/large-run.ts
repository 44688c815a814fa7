import { sql } from 'drizzle-orm'
import { demoNotice } from '../demo/notice'
import { loadCrowd } from '../demo/crowd'
import { marineCollegesNotice } from '../demo/marine-colleges'
import { readNotice } from '../core/notice/check'
import { openDatabase } from '../server/database/client'
import { migrateDatabase } from '../server/database/migrate'
import { comparedPeople, compareRuns } from '../server/services/centres/compare'
import { readDemand } from '../server/services/centres/demand'
import { runCsv } from '../server/services/centres/exports'
import { publishRun } from '../server/services/centres/publish'
import { readRun, readRunPeople, readWhy } from '../server/services/centres/run-view'
import { runAllocation } from '../server/services/centres/runs'
import { computeSavings } from '../server/services/centres/savings'
import { solveHere } from '../server/services/centres/solver'
import { Caller } from '../server/services/context'
import { product } from '../core/access/principal'
import { putNotice } from '../server/services/notice/notices'
import { runRequestSchema } from '../shared/centres'

/**
 * Runs of the allocation on a large cycle in the database: reading, keeping, comparing, publishing, and the pages people look at.
 * `DATABASE_URL=… npx tsx bench/large-run.ts [applications]` on an empty database; halls grow with the number.
 */
const wanted = Number(process.argv[2] ?? 100_000)
const { DATABASE_URL } = process.env
if (!DATABASE_URL) throw new Error('DATABASE_URL must name an empty database; it will be filled')
const handle = openDatabase(DATABASE_URL)
const { db } = handle
const caller = new Caller(db, product, { requestId: 'bench' })
/** The same person as an officer, for what the product itself may not read. */
const officer = caller.as({ ...product, kind: 'staff', roles: ['officer', 'auditor'] })
const cycle = 'MC27'

async function timed<T>(what: string, work: () => Promise<T>): Promise<T> {
  const started = performance.now()
  const result = await work()
  console.log(`| ${what} | ${(performance.now() - started).toFixed(0)} ms | ${(process.memoryUsage.rss() / 2 ** 20).toFixed(0)} MB |`)
  return result
}

/** The plan of a statement in one line: its nodes with the rows they gave. */
async function plan(what: string, statement: ReturnType<typeof sql>): Promise<void> {
  const { rows } = await db.execute(sql`explain (analyze, format text) ${statement}`)
  const lines = rows.map(row => String((row as Record<string, unknown>)['QUERY PLAN']))
  const nodes = lines.filter(line => /(Scan|Sort|Aggregate|Join|Limit|Nested Loop|Hash )/.test(line)).map(line =>
    line.trim().replace(/^->\s*/, '').replace(/\(cost[^)]*\)/, '').replace(/\(actual.*rows=(\d+).*$/, '[$1 rows]')
  )
  console.log(`plan of ${what}: ${nodes.join(' < ')}; ${lines.find(line => line.startsWith('Execution'))}`)
}

async function fill(): Promise<void> {
  await migrateDatabase(handle)
  const { notice: first } = readNotice(demoNotice(new Date()))
  if (!first) throw new Error('the notice of the demo has faults')
  const notice = marineCollegesNotice(first, new Date())
  for (const room of notice.cities.flatMap(c => c.venues).flatMap(v => v.rooms)) {
    Object.assign(room, { seats: Math.ceil(room.seats * wanted / 5000), accessibleSeats: Math.ceil(room.accessibleSeats * wanted / 5000) })
  }
  await putNotice(caller, notice)
  await loadCrowd(db, notice, wanted, new Date())
  await db.execute(sql`analyze`)
}

const run = (kind: 'best-fit' | 'first-come') => runAllocation(caller, cycle, runRequestSchema.parse({ policy: { kind } }), solveHere)
try {
  await timed(`${wanted.toLocaleString('en-GB')} applications written`, fill)
  await timed('demand', () => readDemand(officer, cycle))
  const best = await timed('run, best fit: read, solved, kept', () => run('best-fit'))
  const first = await timed('run, first come', () => run('first-come'))
  await db.execute(sql`analyze run_placement`)
  const detail = await timed("the run's page", () => readRun(officer, best.runId))
  console.log(JSON.stringify({
    standing: detail.standing,
    cost: detail.cost,
    byChoice: detail.summary.byChoice,
    offList: detail.summary.offList,
    unseated: detail.summary.unseated,
  }))
  const page = await timed('people with choice 2, first page', () => readRunPeople(officer, best.runId, { choice: 2, limit: 100 }))
  await timed(
    'people with choice 2, next page',
    () => readRunPeople(officer, best.runId, { choice: 2, limit: 100, after: page.next ?? undefined }),
  )
  await timed('people of one city', () => readRunPeople(officer, best.runId, { city: 'skarnholm', limit: 100 }))
  await timed('people moved', () => readRunPeople(officer, best.runId, { kind: 'moved', limit: 100 }))
  await timed('people off their list', () => readRunPeople(officer, first.runId, { kind: 'off list', limit: 100 }))
  await timed('people by name', () => readRunPeople(officer, first.runId, { search: 'tavi', limit: 100 }))
  await timed('why here', () => readWhy(officer, best.runId, page.people[0]?.applicationId ?? ''))
  await timed('two runs compared', () => compareRuns(officer, first.runId, best.runId))
  await timed('who gains most', () => comparedPeople(officer, first.runId, best.runId, 'gain'))
  await timed(
    'what 50 more seats save, four cities',
    () => computeSavings(caller, best.runId, ['skarnholm', 'veyrane', 'lohnstadt', 'oruvelle'], 50, solveHere),
  )
  await timed('everyone as CSV', async () => {
    let length = 0
    for await (const part of await runCsv(officer, best.runId)) length += part.length
    return length
  })
  await plan(
    'a page of one choice',
    sql`select * from run_placement p join application a on a.id = p.application_id where p.run_id = ${best.runId} and p.choice = 2 order by a.number limit 101`,
  )
  await plan(
    'a page off the list',
    sql`select * from run_placement p join application a on a.id = p.application_id where p.run_id = ${first.runId} and p.choice is null and p.city is not null order by a.number limit 101`,
  )
  await timed('published', () => publishRun(caller, best.runId))
} finally {
  await handle.close()
}
