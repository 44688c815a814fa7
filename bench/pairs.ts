import { and, eq, inArray, sql } from 'drizzle-orm'
import { product } from '../core/access/principal'
import { readNotice } from '../core/notice/check'
import { demoNotice } from '../demo/notice'
import { openDatabase } from '../server/database/client'
import { application } from '../server/database/schema'
import { Caller } from '../server/services/context'
import { currentNotice } from '../server/services/notice/notices'
import { keepIdentities } from '../server/services/scrutiny/pairs'
import { findPairs } from '../server/services/scrutiny/work'
import { spread } from './database'
import { writeMany, type Twist } from './many'

/**
 * Likely pairs at size: `DATABASE_URL=… npx tsx bench/pairs.ts [applications] [seed]` on the database that `bench/roster.ts` has filled
 * with as many of that seed. Who has applied twice is known of each; the share that is found, and how many of those found are true, are
 * counted against it, by what was changed. Weights and bounds were set on people of seed 7; those of another seed are unseen.
 */
const [count, seed] = [Number(process.argv[2] ?? 1_000_000), Number(process.argv[3] ?? 7)]
const { DATABASE_URL } = process.env
if (!DATABASE_URL) throw new Error('DATABASE_URL must name the database that bench/roster.ts has filled')
const { db, close } = openDatabase(DATABASE_URL)
const caller = new Caller(db, product)
const { notice: demo } = readNotice(demoNotice(new Date()))
if (!demo) throw new Error('the notice of the demo has faults')
const twice = await writeMany(null, demo, count, seed)
const { notice } = await currentNotice(db, demo.code)

await db.execute(sql`delete from likely_pair`)
await db.execute(sql`delete from identity_key`)
const started = performance.now()
let keysAt = 0
const found = await findPairs(caller, notice.code, (done, total) => {
  if (keysAt === 0 && done > total / 2) keysAt = performance.now()
  return Promise.resolve(true)
})
const ended = performance.now()
console
  .log(`keys of all kept ${((keysAt - started) / 1000).toFixed(0)} s, ${found.compared} pairs compared and ${found.found} opened ${
    ((ended - keysAt) / 1000).toFixed(0)
  } s; highest resident memory ${(process.resourceUsage().maxRSS / 1024).toFixed(0)} MB`)

const { rows } = await db.execute<
  { first: string, second: string, score: number }
>(sql`select a.number as first, b.number as second, score from likely_pair p join application a on a.id = p.first join application b on b.id = p.second`)
const key = (a: string, b: string) => [a, b].sort().join(' ')
const opened = new Map(rows.map(row => [key(row.first, row.second), row.score]))
const { rows: standing } = await db.execute<
  { number: string }
>(sql`select number from application where form in ('submitted', 'correcting')`)
const stands = new Set(standing.map(row => row.number))
// Somebody who has applied three times makes three pairs: all applications of one person are one group.
const leader = new Map<string, string>()
const leaderOf = (number: string): string => {
  const next = leader.get(number)
  return next === undefined || next === number ? number : leaderOf(next)
}
for (const { first, second } of twice) leader.set(leaderOf(second), leaderOf(first))
console.log('\nwhat was changed | applied twice | found\n---|---|---')
const [all, got] = [new Map<Twist, number>(), new Map<Twist, number>()]
for (const { first, second, twist } of twice) {
  if (!stands.has(first) || !stands.has(second)) continue
  all.set(twist, (all.get(twist) ?? 0) + 1)
  if (opened.has(key(first, second))) got.set(twist, (got.get(twist) ?? 0) + 1)
}
const sum = (counts: Map<Twist, number>) => [...counts.values()].reduce((a, b) => a + b, 0)
for (const [twist, n] of all) console.log(`${twist} | ${n} | ${(100 * (got.get(twist) ?? 0) / n).toFixed(1)} %`)
const right = rows.filter(row => leaderOf(row.first) === leaderOf(row.second)).length
console
  .log(`\nrecall ${(100 * sum(got) / sum(all)).toFixed(2)} %, precision ${
    (100 * right / rows.length).toFixed(2)
  } % of ${rows.length} opened`)

// One application, as when its case comes into scrutiny.
const some = await db.select().from(application)
  .where(and(eq(application.cycle, notice.code), inArray(application.number, twice.slice(0, 200).map(pair => pair.second))))
const context = await caller.authorise('clock.act')
const times: number[] = []
for (const row of some) {
  const at = performance.now()
  await db.transaction(tx => keepIdentities(tx, context, [row]))
  times.push(performance.now() - at)
}
const { median, most, longest } = spread(times)
console.log(`one application: median ${median} ms, p95 ${most} ms, longest ${longest} ms`)
await close()
