import { createHash, randomBytes, randomUUID } from 'node:crypto'
import { sql } from 'drizzle-orm'
import { documentsAsked } from '../core/application/slots'
import type { Principal } from '../core/access/principal'
import { makePerson } from '../demo/people'
import { Random } from '../demo/random'
import { openDatabase } from '../server/database/client'
import { file, image, principal, session } from '../server/database/schema'
import { registerApplication } from '../server/services/applications/begin'
import { saveAnswers } from '../server/services/applications/answers'
import { Caller } from '../server/services/context'
import { currentNotice } from '../server/services/notice/notices'
import { spread } from './database'

/**
 * The last evening: `DATABASE_URL=… LUCID_ADDRESS=… npx tsx bench/rush.ts [people]` on a server of its own with the simulated gateway
 * beside it, whose database holds the demo. Each person, all at once, submits two complete applications and pays for both, over HTTP, in a
 * session of their own, each after the texts to accept were read; meanwhile one officer reads a dossier over and over. The ratio is to the
 * same rows written bare, in one statement for each submission, over as many connections as the server has.
 */
const { DATABASE_URL, LUCID_ADDRESS } = process.env
if (!DATABASE_URL || !LUCID_ADDRESS) throw new Error('DATABASE_URL must name the database of the server at LUCID_ADDRESS')
const people = Number(process.argv[2] ?? 200)
const { db, close } = openDatabase(DATABASE_URL)
const { notice } = await currentNotice(db, 'HL27')
const drawn = createHash('sha256').update('drawn').digest('hex')
await db.insert(file).values({ sha256: drawn, bytes: 5, content: Buffer.from('drawn') }).onConflictDoNothing()

interface One {
  cookie: string
  csrf: string
  ids: string[]
}

async function prepare(index: number): Promise<One> {
  const [id, token, csrf] = [randomUUID(), randomBytes(32).toString('base64url'), randomBytes(32).toString('base64url')]
  const who: Principal = { id, kind: 'candidate', name: `Person ${index}`, roles: [], venues: [] }
  const now = new Date()
  await db.insert(principal).values({ id, kind: 'candidate', name: who.name, createdAt: now })
  await db.insert(session).values({
    tokenHash: createHash('sha256').update(token).digest('hex'),
    id: randomUUID(),
    principalId: id,
    csrfToken: csrf,
    createdAt: now,
    lastSeenAt: now,
    expiresAt: new Date(now.getTime() + 3_600_000),
  })
  const ids: string[] = []
  for (let i = 0; i < 2; i += 1) {
    const application = randomUUID()
    const { answers } = makePerson(new Random(90_000 + index * 2 + i), notice, index * 2 + i)
    const caller = new Caller(db, who)
    await registerApplication(caller, 'HL27', application)
    await saveAnswers(caller, application, { revision: 0, changes: answers })
    const slots = ['photograph', 'signature', ...documentsAsked(notice, answers).filter(one => one.required).map(one => one.id)]
    await db.insert(image).values(slots.map(kind => ({
      id: randomUUID(),
      applicationId: application,
      kind,
      version: 1,
      sha256: drawn,
      state: 'measured' as const,
      displaySha256: drawn,
      format: 'jpeg',
      width: 420,
      height: 540,
      findings: [],
      by: id,
      at: now,
    })))
    ids.push(application)
  }
  return { cookie: `lucid-session=${token}`, csrf, ids }
}

async function ask(
  one: Pick<One, 'cookie' | 'csrf'>,
  method: string,
  path: string,
  body?: object,
): Promise<{ status: number, body: Record<string, unknown> }> {
  const answer = await fetch(`${LUCID_ADDRESS}/api/${path}`, {
    method,
    headers: { 'cookie': one.cookie, 'x-lucid-csrf': one.csrf, 'content-type': 'application/json' },
    body: body && JSON.stringify(body),
  })
  return { status: answer.status, body: await answer.json() as Record<string, unknown> }
}

async function pay(page: string, order: string): Promise<{ status: number, body: Record<string, unknown> }> {
  const answer = await fetch(`${new URL(page).origin}/orders/${encodeURIComponent(order)}/acts`, {
    method: 'POST',
    headers: { 'content-type': 'application/json' },
    body: JSON.stringify({ act: 'pay' }),
  })
  return { status: answer.status, body: await answer.json() as Record<string, unknown> }
}

const refused = new Map<string, number>()
const times = { texts: [] as number[], submit: [] as number[], pay: [] as number[], read: [] as number[] }
async function timed(
  kind: keyof typeof times,
  act: () => Promise<{ status: number, body: Record<string, unknown> }>,
): Promise<Record<string, unknown> | null> {
  const started = performance.now()
  const { status, body } = await act()
  times[kind].push(performance.now() - started)
  if (status < 300) return body
  refused.set(`${kind}: ${String(body.code)}`, (refused.get(`${kind}: ${String(body.code)}`) ?? 0) + 1)
  return null
}

const all: One[] = []
for (let i = 0; i < people; i += 1) all.push(await prepare(i))
console.log(`${people} people with ${people * 2} complete applications are ready`)
const officer = await fetch(`${LUCID_ADDRESS}/api/session`, {
  method: 'POST',
  headers: { 'content-type': 'application/json' },
  body: JSON.stringify({ signInName: 'officer', password: 'lantern-harbour-27' }),
})
const office = { cookie: officer.headers.getSetCookie().map(one => one.split(';')[0]).join('; '), csrf: '' }
let over = false
const reading = (async () => {
  while (!over) {
    await timed('read', () => ask(office, 'GET', `applications/${all[0]?.ids[0]}`))
    await new Promise(done => setTimeout(done, 50))
  }
})()

const free = new Set<string>()
const started = performance.now()
await Promise.all(all.map(async (one) => {
  for (const id of one.ids) {
    const read = await timed('texts', () => ask(one, 'GET', `applications/${id}/texts`)) as
      | { texts: { id: string, sha256: string }[] }
      | null
    const texts = (read?.texts ?? []).map(({ id: text, sha256 }) => ({ id: text, sha256 }))
    const answer = await timed(
      'submit',
      () => ask(one, 'POST', `applications/${id}/acts/submit`, { revision: 1, declared: true, texts }),
    ) as
      | { dossier: { tracks: { fee: string } } }
      | null
    // Whom the schedule asks for nothing has nothing to pay.
    if (answer?.dossier.tracks.fee === 'nothing due') free.add(id)
  }
}))
const submitted = (performance.now() - started) / 1000
await Promise.all(all.map(async (one) => {
  for (const id of one.ids.filter(one => !free.has(one))) {
    const opened = await timed('pay', () => ask(one, 'POST', `applications/${id}/payments`, {}))
    if (opened) await timed('pay', () => pay(String(opened.page), String(opened.order)))
  }
}))
over = true
await reading

/** The same rows of one submission, in one statement: what the database alone takes. */
const ids = all.flatMap(one => one.ids)
const bare = async (id: string) =>
  db.execute(sql`
  with changed as (update application set updated_at = now() where id = ${id} returning id),
  logged as (insert into audit_event (at, actor, act, subject_kind, subject, cycle, reason, outside_dates, before, after, notice_version, request_id)
    select at, actor, act, subject_kind, subject, cycle, reason, outside_dates, before, after, notice_version, 'bare' from audit_event where subject = ${id} and act in ('submit', 'assess-fee') returning id),
  judged as (insert into post_verdict select application_id, post || '#', verdict, clauses, facts_sha256, rules_sha256, at, notice_version from post_verdict where application_id = ${id} and post not like '%#' on conflict (application_id, post) do update set at = excluded.at returning post),
  assessed as (insert into fee_assessment select gen_random_uuid(), application_id, version + 1000, assessment, at, notice_version from fee_assessment where application_id = ${id} and version < 1000 on conflict do nothing returning id),
  opened as (insert into open_matter select gen_random_uuid(), application_id, cycle, kind, about || '#', owner, holds, parameters, since, until, now(), cleared_by from open_matter where application_id = ${id} and about not like '%#' returning id),
  accepted as (insert into accepted_text select gen_random_uuid(), application_id, text, title, sha256, notice_version, language, act, by, at from accepted_text where application_id = ${id} returning id)
  select 1 from changed, (select count(*) from accepted) t, (select count(*) from logged) l, (select count(*) from judged) j, (select count(*) from assessed) a, (select count(*) from opened) o`)
const bareStarted = performance.now()
let next = 0
await Promise.all(Array.from({ length: 10 }, async () => {
  while (next < ids.length) await bare(ids[next++] ?? '')
}))
const bareSeconds = (performance.now() - bareStarted) / 1000

console.log('\n| | times | median, ms | 95 of 100 | longest |\n|---|---|---|---|---|')
for (const [kind, list] of Object.entries(times)) {
  console.log(`| ${kind} | ${list.length} | ${spread(list).median} | ${spread(list).most} | ${spread(list).longest} |`)
}
console
  .log(`\n${(ids.length / submitted).toFixed(1)} submissions a second; the same rows bare ${
    (ids.length / bareSeconds).toFixed(1)
  } a second: ${(submitted / bareSeconds).toFixed(1)} times`)
for (const [why, n] of refused) console.log(`refused: ${n} ${why}`)
await close()
