import { and, asc, eq, gt, isNull, sql, type SQL } from 'drizzle-orm'
import type { Database, Executor } from '../../database/client'
import { application, erasure, file } from '../../database/schema'
import { log, type Context } from '../context'
import { erasedFile, removeUnnamed } from '../files/bytes'

/**
 * Carries out what was released: all that a cycle, or one application, tells of people goes, page by page; numbers, tracks, verdicts,
 * fees, books and seats stay, and the sealed log is proven as before. It may be broken off at any time and begun again: what was erased is
 * erased once more.
 */

/** The two roles that it works as: the application for its own rows, and the one that may erase evidence. */
export interface Erasers {
  app: Database
  files: Database
}

const pageSize = 200
const mattersAtOnce = 5000
/** What stands where a name was: an empty one looks like a fault of the page. */
const noName = '–'

type Statements = (ids: SQL) => SQL[]

/** Rows of the log go only once they are sealed: the tree holds the hashes of what they said. */
const logOf = (which: SQL): SQL =>
  sql`update audit_event e set salt = null, reason = null, before = null, after = null from audit_leaf l
    where l.event_id = e.id and e.salt is not null and ${which}`

/** Of evidence, as the role of files. */
const fromEvidence: Statements = ids => [
  logOf(sql`e.subject_kind = 'application' and e.subject = any(${ids}::text[])`),
  sql`update answer_change set before = null, after = null where application_id = any(${ids}::uuid[])`,
  sql`update admit_card set content = '{}', code = '', photograph_sha256 = ${erasedFile}, signature_sha256 = ${erasedFile} where application_id = any(${ids}::uuid[])`,
  sql`update verdict_history set facts_sha256 = '' where application_id = any(${ids}::uuid[])`,
  sql`update scrutiny_decision set reasons = '[]' where application_id = any(${ids}::uuid[])`,
  sql`update claim_ruling set reason = '' where application_id = any(${ids}::uuid[])`,
  sql`update request_decision set reason = '', basis = '' where application_id = any(${ids}::uuid[])`,
  sql`update image set sha256 = ${erasedFile}, display_sha256 = null, pages = '[]', originals = '[]', edits = '[]', findings = '[]', marks = '[]' where application_id = any(${ids}::uuid[])`,
  sql`delete from endorsement_link where endorsement_id in (select id from endorsement where application_id = any(${ids}::uuid[]))`,
  sql`update endorsement set name = ${noName}, address = null, said = null, signed = null where application_id = any(${ids}::uuid[])`,
  sql`update refund set payee = '', number = '', reason = '' where application_id = any(${ids}::uuid[])`,
]

/** Of the application's own rows that know no cycle. */
const fromRows: Statements = ids => [
  sql`delete from reading where application_id = any(${ids}::uuid[])`,
  sql`delete from refund_account where application_id = any(${ids}::uuid[])`,
  sql`delete from printed_page where image_id in (select id from image where application_id = any(${ids}::uuid[]))`,
  sql`delete from letter l using application a where a.id = any(${ids}::uuid[]) and l.principal_id = a.owner_id and (strpos(l.body, a.number) > 0 or strpos(l.subject, a.number) > 0)`,
  sql`update post_verdict set facts_sha256 = '' where application_id = any(${ids}::uuid[])`,
  sql`update paper_form set second = '{}', earlier = '[]', differing = null, settled = null where application_id = any(${ids}::uuid[])`,
]

/** Of rows that name their application as well as their cycle: `whose` picks them by the one or the other. */
const fromBoth = (whose: SQL): SQL[] => [
  sql`delete from identity_key where ${whose}`,
  sql`delete from roll_entry where ${whose}`,
  sql`update message set parameters = '{}' where ${whose}`,
  sql`update correction set changes = '{}', slots = '{}', reason = '', decision = null, effects = null where ${whose}`,
  sql`update office_question set text = '', answer = left(answer, 0) where ${whose}`,
  sql`update referral set question = '', answer = left(answer, 0) where ${whose}`,
  sql`update deposit_slip set sha256 = ${erasedFile}, pages = '[]', branch = '', bank_reference = '', reason = null where ${whose}`,
  sql`update barred_match set reasons = '[]', reason = null where ${whose}`,
]

/** What rolls were sent as: whoever is in one is in its file. */
const fromRolls = (which: SQL): SQL[] => [
  sql`delete from roll_file where roll_id in (select id from roll where ${which})`,
  sql`update roll_row set name = '', reference = '', findings = '[]' where roll_id in (select id from roll where ${which})`,
  sql`update roll set samples = '[]', sha256 = ${erasedFile}, totals = totals - 'words', options = options - 'words' where ${which}`,
]

/** Words of names that nobody bears any more. */
const namesOfNobody =
  sql`delete from name_word where word not in (select distinct unnest(string_to_array(name_key, ' ')) from roster_entry)`

/** Of rows that know their cycle, all at once; with them what was asked of work, and saved questions to the roster. */
const fromCycle = (cycle: string): SQL[] => [
  ...['image_likeness', 'face_likeness', 'roster_view'].map(table => sql`delete from ${sql.identifier(table)} where cycle = ${cycle}`),
  ...fromRolls(sql`cycle = ${cycle}`),
  ...fromBoth(sql`cycle = ${cycle}`),
  sql`update likely_pair set reasons = '[]', reason = null where cycle = ${cycle}`,
  sql`update proposal set reason = '', input = '{}' where cycle = ${cycle} and state <> 'waiting'`,
  sql`update review_item set facts_sha256 = '' where review_id in (select id from review where cycle = ${cycle})`,
  sql`update job set request = '', error = null where cycle = ${cycle} and state not in ('waiting', 'running')`,
  namesOfNobody,
]

/** The same of some people. Work and saved questions that named one of them stay until their cycle's time. */
const fromPeople: Statements = ids => [
  ...['image_likeness', 'face_likeness'].map(table =>
    sql`delete from ${sql.identifier(table)} where image_id in (select id from image where application_id = any(${ids}::uuid[]))`
  ),
  ...fromRolls(sql`(cycle, sender) in (select cycle, sender from roll_entry where application_id = any(${ids}::uuid[])) and state = 'entered'`),
  ...fromBoth(sql`application_id = any(${ids}::uuid[])`),
  sql`update likely_pair set reasons = '[]', reason = null where first = any(${ids}::uuid[]) or second = any(${ids}::uuid[])`,
  sql`update proposal set reason = '', input = '{}' where subject = any(${ids}::uuid[]) and state <> 'waiting'`,
  sql`update review_item set facts_sha256 = '' where application_id = any(${ids}::uuid[])`,
  sql`update open_matter set parameters = '{}' where application_id = any(${ids}::uuid[])`,
]

/**
 * Applications released on their own, whose data nothing needs any more: no money is on its way to or from their payers, and what brought
 * them is entered whole.
 */
const mayGo = sql`erasing_since is not null and erased_at is null and fee <> 'refund due' and fee <> 'confirming'
  and not exists (select 1 from payment where application_id = application.id and state = 'open')
  and not exists (select 1 from refund where application_id = application.id and state in ('proposed', 'approved', 'sent'))
  and not exists (select 1 from deposit_slip where application_id = application.id and state = 'waiting')
  and not exists (select 1 from roll_entry e join roll r on r.cycle = e.cycle and r.sender = e.sender
    where e.application_id = application.id and r.state <> 'entered')`

/** Erases what was released of single applications; how many those were. Others that were released wait for money or a roll. */
export async function erasePeople(erasers: Erasers, context: Context): Promise<number> {
  const { app, files } = erasers
  await app.insert(file).values({ sha256: erasedFile, bytes: 0, content: Buffer.alloc(0) }).onConflictDoNothing()
  let count = 0
  for (;;) {
    // Marked first: from then on nobody keeps it after all. What was marked and not erased, as the power was gone, is found again.
    await app.execute(sql`update application set erased_at = ${context.now().toISOString()}::timestamptz
      where id in (select id from application where ${mayGo} limit ${pageSize})`)
    const { rows } = await app.execute<{ id: string, cycle: string }>(sql`select id, cycle from application
      where erasing_since is not null and erased_at is not null
        and not exists (select 1 from audit_event where subject = application.id::text and act = 'erase-person') limit ${pageSize}`)
    if (rows.length === 0) break
    const ids = sql.param(rows.map(row => row.id))
    const proposed = await app.execute<{ id: string }>(sql`select id from proposal where subject = any(${ids}::uuid[])`)
    const ofProposals = sql.param(proposed.rows.map(row => row.id))
    await all(files, [logOf(sql`e.subject_kind = 'proposal' and e.subject = any(${ofProposals}::text[])`)])
    await all(app, fromPeople(sql`${ids}`))
    await erasePage(erasers, context, rows.map(row => row.id), async (tx) => {
      for (const { id, cycle } of rows) await log(tx, context, 'erase-person', { subject: { kind: 'application', id }, cycle })
    })
    count += rows.length
  }
  // Also after a time that was broken off in between.
  const { rows: [found] } = await app
    .execute(sql`select 1 from application where erasing_since is not null and erased_at is not null limit 1`)
  if (found) {
    await eraseAccounts(erasers, sql`a.erasing_since is not null and p.name <> ${noName}`)
    await app.execute(namesOfNobody)
    await removeUnnamed(files)
  }
  return count
}

/** Erases all cycles that were released; their codes. `tell` is told how far each is. */
export async function eraseReleased(
  erasers: Erasers,
  context: Context,
  tell: (cycle: string, done: number) => void = () => undefined,
): Promise<string[]> {
  const waiting = await erasers.app.select({ cycle: erasure.cycle }).from(erasure).where(isNull(erasure.doneAt)).orderBy(erasure.at)
  for (const { cycle } of waiting) await eraseCycle(erasers, context, cycle, done => tell(cycle, done))
  return waiting.map(row => row.cycle)
}

async function eraseCycle(erasers: Erasers, context: Context, cycle: string, tell: (done: number) => void): Promise<void> {
  const { app, files } = erasers
  await app.insert(file).values({ sha256: erasedFile, bytes: 0, content: Buffer.alloc(0) }).onConflictDoNothing()
  for (let [done, after] = [0, ''];;) {
    const page = await app.select({ id: application.id, number: application.number }).from(application)
      .where(and(eq(application.cycle, cycle), gt(application.number, after), isNull(application.erasedAt)))
      .orderBy(asc(application.number)).limit(pageSize)
    if (page.length === 0) break
    after = page.at(-1)?.number ?? after
    await erasePage(erasers, context, page.map(row => row.id))
    done += page.length
    tell(done)
  }
  await eraseBesides(erasers, context, cycle)
  const accounts = await eraseAccounts(erasers, sql`a.cycle = ${cycle}`)
  const removed = await removeUnnamed(files)
  await app.transaction(async (tx) => {
    const { rows: [count] } = await tx.execute<
      { n: string }
    >(sql`select count(*) as n from application where cycle = ${cycle} and erased_at is not null`)
    const erased = { applications: Number(count?.n), files: removed, accounts }
    await tx.update(erasure).set({ ...erased, doneAt: context.now() }).where(eq(erasure.cycle, cycle))
    await log(tx, context, 'erase-cycle', { subject: { kind: 'cycle', id: cycle }, cycle, after: erased })
  })
}

async function erasePage(
  { app, files }: Erasers,
  context: Context,
  applications: readonly string[],
  besides: (tx: Executor) => Promise<void> = () => Promise.resolve(),
): Promise<void> {
  const ids = sql.param([...applications])
  await all(files, fromEvidence(sql`${ids}`))
  const at = context.now().toISOString()
  // Who is marked as erased is not looked at again: that comes last.
  await all(app, [
    ...fromRows(sql`${ids}`),
    sql`update application set answers = '{}', name_key = '', mobile_key = '', display_name = ${noName}, person_key = null, false_claims = '[]', requests = '{}', endorsed = '{}', opened_items = null,
      card_hold = left(card_hold, 0), erased_at = ${at}::timestamptz where id = any(${ids}::uuid[])`,
  ], besides)
}

async function eraseBesides({ app, files }: Erasers, context: Context, cycle: string): Promise<void> {
  await all(files, [
    logOf(sql`e.cycle = ${cycle} and e.subject_kind = 'proposal'`),
    sql`update bill set payer = ${noName} where cycle = ${cycle} and payer_code is null`,
  ])
  for (const statement of fromCycle(cycle)) await app.execute(statement)
  await settleAllMatters(app, context, cycle)
}

// Matters that were cleared are found by no index, and each that changes touches the roster: once over all of them, a part at a time.
async function settleAllMatters(app: Database, context: Context, cycle: string): Promise<void> {
  const at = context.now().toISOString()
  for (let after = '00000000-0000-0000-0000-000000000000';;) {
    const { rows: [page] } = await app.execute<{ last: string | null }>(sql`
      with page as (select id from open_matter where id > ${after}::uuid order by id limit ${mattersAtOnce}),
      settled as (update open_matter m set parameters = '{}', cleared_at = coalesce(cleared_at, ${at}::timestamptz), cleared_by = coalesce(cleared_by, ${context.principal.id}::uuid)
        from page where m.id = page.id and m.cycle = ${cycle} and (m.parameters <> '{}' or m.cleared_at is null))
      select max(id::text) as last from page`)
    if (!page?.last) return
    after = page.last
  }
}

/** Accounts whose applications are all erased, of those that have certain ones: their addresses, ways in and letters go; how many. */
async function eraseAccounts({ app, files }: Erasers, which: SQL): Promise<number> {
  const { rows } = await app.execute<
    { id: string }
  >(sql`select distinct a.owner_id as id from application a join principal p on p.id = a.owner_id and p.kind = 'candidate'
    where ${which} and not exists (select 1 from application other where other.owner_id = a.owner_id and other.erased_at is null)`)
  for (let from = 0; from < rows.length; from += pageSize) {
    const ids = sql.param(rows.slice(from, from + pageSize).map(row => row.id))
    await all(files, [logOf(sql`e.subject_kind = 'candidate' and e.subject = any(${ids}::text[])`)])
    await all(app, [
      sql`delete from one_time_code c using contact k where k.principal_id = any(${ids}::uuid[]) and c.channel = k.channel and c.address = k.address`,
      ...['contact', 'candidate_password', 'session', 'letter'].map(table =>
        sql`delete from ${sql.identifier(table)} where principal_id = any(${ids}::uuid[])`
      ),
      sql`update principal set name = ${noName}, reads_in = null where id = any(${ids}::uuid[])`,
    ])
  }
  return rows.length
}

async function all(
  db: Database,
  statements: readonly SQL[],
  besides: (tx: Executor) => Promise<void> = () => Promise.resolve(),
): Promise<void> {
  await db.transaction(async (tx: Executor) => {
    for (const statement of statements) await tx.execute(statement)
    await besides(tx)
  })
}
