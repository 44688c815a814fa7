import { randomUUID } from 'node:crypto'
import { sql } from 'drizzle-orm'
import { openDatabase } from '../server/database/client'
import { runReview } from '../server/services/eligibility/review-run'
import { openReview, readReview } from '../server/services/eligibility/reviews'
import { acceptReview } from '../server/services/eligibility/take-over'
import { readBand, readRoster } from '../server/services/roster/page'
import { readDesk } from '../server/services/roster/desk'
import { readCheckRecords, readCheckValues } from '../server/services/scrutiny/checks'
import { Caller } from '../server/services/context'
import { product } from '../core/access/principal'
import { currentNotice, proposeNotice } from '../server/services/notice/notices'

/**
 * A cycle of many applications: the demo's submitted ones copied until there are as many as asked for, each with a number
 * of its own. Then the lists that people look at, and a review of the whole cycle, with times and what the database read.
 * `DATABASE_URL=… npx tsx bench/large.ts [applications]` on a database that holds the demo and nothing of worth.
 */
const wanted = Number(process.argv[2] ?? 200_000)
const { DATABASE_URL } = process.env
if (!DATABASE_URL) throw new Error('DATABASE_URL must name a database that holds the demo; it will be filled')
const handle = openDatabase(DATABASE_URL)
const { db } = handle
const caller = new Caller(db, product, { requestId: 'bench' })
/** The same person as an officer, for what the product itself may not read. */
const officer = caller.as({ ...product, kind: 'staff', roles: ['officer', 'auditor'] })
const cycle = 'HL27'

async function fill(): Promise<number> {
  await db.execute(sql`
    insert into application (id, cycle, number, answers, false_claims, revision, form, fee, scrutiny, placement, card, headline, name_key, mobile_key, display_name, headline_since, created_at, submitted_at, updated_at)
    select gen_random_uuid(), cycle, 'HL27-' || lpad((1000000 + row_number() over ())::text, 8, '0') || '-0', answers || jsonb_build_object('bornOn', to_char(date '1990-01-01' + (random() * 6500)::int, 'YYYY-MM-DD')),
      '[]', revision, form, fee, scrutiny, 'unplaced', 'not issued', case when headline in ('placed', 'card issued') then 'accepted' else headline end,
      name_key, mobile_key, display_name, headline_since + random() * interval '3 days', created_at, submitted_at, updated_at
    from application, generate_series(1, ${
    wanted / 250
  }) where form in ('submitted', 'correcting') and scrutiny <> 'refused' and number < 'HL27-0001'`)
  // Without it the copies below are joined as if there were a few hundred.
  await db.execute(sql`analyze`)
  // What was measured and decided comes along, the files themselves do not.
  const ofOriginals =
    sql`application c join application o on o.mobile_key = c.mobile_key and o.display_name = c.display_name and o.number < 'HL27-0001' and c.number > 'HL27-0001' and c.cycle = ${cycle}`
  await db.execute(sql`
    insert into image (id, application_id, kind, version, sha256, state, display_sha256, format, width, height, findings, marks, by, at)
    select gen_random_uuid(), c.id, kind, version, sha256, state, display_sha256, format, width, height, findings, marks, by, at from ${ofOriginals} join image i on i.application_id = o.id`)
  await db.execute(sql`
    insert into scrutiny_decision (id, application_id, cycle, decision, reasons, slots, by, at)
    select gen_random_uuid(), c.id, c.cycle, decision, reasons, slots, by, at + random() * interval '1 hour' from ${ofOriginals} join scrutiny_decision d on d.application_id = o.id`)
  await db.execute(sql`
    insert into fee_assessment (id, application_id, version, assessment, at, notice_version)
    select gen_random_uuid(), c.id, f.version, f.assessment, f.at, f.notice_version from ${ofOriginals} join fee_assessment f on f.application_id = o.id`)
  await db.execute(sql`analyze`)
  const { rows } = await db.execute(sql`select count(*) as n from application`)
  return Number((rows[0] as { n: string }).n)
}

async function timed<T>(what: string, work: () => Promise<T>): Promise<T> {
  const started = performance.now()
  const result = await work()
  console.log(`${what}: ${(performance.now() - started).toFixed(0)} ms, resident ${(process.memoryUsage.rss() / 2 ** 20).toFixed(0)} MB`)
  return result
}

/** The plan of a statement in one line: its nodes with the rows they gave. */
async function plan(what: string, statement: ReturnType<typeof sql>): Promise<void> {
  const { rows } = await db.execute(sql`explain (analyze, buffers, format text) ${statement}`)
  const lines = rows.map(row => String((row as Record<string, unknown>)['QUERY PLAN']))
  const nodes = lines.filter(line => /(Scan|Sort|Aggregate|Join|Limit|Nested Loop)/.test(line)).map(line =>
    line.trim().replace(/^->\s*/, '').replace(/\(cost.*rows=(\d+) loops.*$/, '[$1 rows]').replace(/\(cost[^)]*\)/, '').replace(
      /\(actual.*$/,
      '',
    )
  )
  console.log(`plan of ${what}: ${nodes.join(' < ')}; ${lines.find(line => line.startsWith('Execution'))}`)
}

async function review(version: number | null): Promise<string> {
  const id = randomUUID()
  await db.transaction(async tx => openReview(tx, await caller.authorise('notice.amend'), cycle, id, version))
  await runReview(caller, id, async () => true)
  return id
}

try {
  console.log(`${await timed('filled', fill)} applications`)
  await timed('band', () => readBand(officer, cycle))
  await timed('desk', () => readDesk(officer, cycle))
  const first = await timed('roster, first page', () => readRoster(officer, cycle, { is: ['at:in scrutiny'], sort: 'waiting', limit: 100 }))
  await timed(
    'roster, next page',
    () => readRoster(officer, cycle, { is: ['at:in scrutiny'], sort: 'waiting', limit: 100, after: first.next ?? undefined }),
  )
  await timed('roster, by name', () => readRoster(officer, cycle, { search: 'tavi', sort: 'number', limit: 100 }))
  await timed('how the checks do', () => readCheckRecords(officer, cycle))
  await timed('values of one check', () => readCheckValues(officer, cycle, 'photograph/photograph.sharpness'))
  const baseline = await timed('review, every verdict for the first time', () => review(null))
  const accepted = await timed('review accepted', () => acceptReview(officer, baseline))
  console.log(JSON.stringify({ ...(await readReview(officer, baseline, { limit: 1 })).totals, ...accepted }))
  const again = await timed('review, nothing changed', () => review(null))
  console.log(JSON.stringify((await readReview(officer, again, { limit: 1 })).totals))
  const { notice } = await currentNotice(db, cycle)
  const amended = structuredClone(notice)
  const rule = amended.posts[0]?.clauses[0]?.rule
  if (rule?.kind === 'age') rule.maxYears = (rule.maxYears ?? 24) - 1
  const version = await db.transaction(async tx =>
    proposeNotice(tx, await caller.authorise('notice.amend'), cycle, amended, 'A bound is corrected.')
  )
  const listed = await timed('review, one clause of one post amended', () => review(version))
  console.log(JSON.stringify((await timed('review, first page of differences', () => readReview(officer, listed, { limit: 100 }))).totals))
  const dearer = structuredClone(notice)
  for (const row of dearer.fees.base) row.amount += 1000
  const dearerVersion = await db.transaction(async tx =>
    proposeNotice(tx, await caller.authorise('notice.amend'), cycle, dearer, 'Fees rise.')
  )
  const fees = await timed('review, every base fee raised', () => review(dearerVersion))
  console.log(JSON.stringify((await timed('review, first page of fees', () => readReview(officer, fees, { limit: 100 }))).totals))
  const due =
    sql`select * from application where cycle = ${cycle} and form in ('submitted', 'correcting') and scrutiny <> 'refused' and number > 'HL27-01001000-0' order by number limit 500`
  await plan('a page of a review', due)
  await plan(
    'differences',
    sql`select * from review_item i join application a on a.id = i.application_id where i.review_id = ${listed} and i.differs and (i.number, i.post) > ('HL27-01001000-0', '') order by i.number, i.post limit 101`,
  )
  await plan(
    'the queue of scrutiny',
    sql`select * from application where cycle = ${cycle} and headline = 'in scrutiny' order by headline_since, id limit 101`,
  )
  await plan(
    'the newest decisions',
    sql`select * from scrutiny_decision where cycle = ${cycle} and decision in ('accept', 'return') order by at desc limit 5000`,
  )
} finally {
  await handle.close()
}
