import { createHash, randomBytes, randomUUID } from 'node:crypto'
import { Agent, request } from 'node:http'
import { buffer } from 'node:stream/consumers'
import { gunzipSync } from 'node:zlib'
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
 * session of their own, each after the texts to accept were read; meanwhile one officer reads a dossier over and over. Some others do so
 * before, ten at once, which is not counted. The ratio is to the
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

/**
 * Who applies before the rush, as on every evening, and how many of them at once: a server that has just begun has still to learn its own
 * program, and each of its connections the statements.
 */
const before = 60
const beforeAtOnce = 10

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

interface Answered {
  status: number
  body: Record<string, unknown>
}

/** A line for each person, as browsers keep theirs; by the plainest client there is, as it shares the machine with what it asks. */
const lines = new Agent({ keepAlive: true, maxSockets: Infinity })
async function ask(one: Pick<One, 'cookie' | 'csrf'>, method: string, path: string, body?: object): Promise<Answered> {
  return sent(`${LUCID_ADDRESS}/api/${path}`, method, { 'cookie': one.cookie, 'x-lucid-csrf': one.csrf }, body)
}

async function pay(page: string, order: string): Promise<Answered> {
  return sent(`${new URL(page).origin}/orders/${encodeURIComponent(order)}/acts`, 'POST', {}, { act: 'pay' })
}

function sent(address: string, method: string, headers: Record<string, string>, body?: object): Promise<Answered> {
  return new Promise((done, fail) => {
    const asked = request(address, {
      agent: lines,
      method,
      headers: { ...headers, 'content-type': 'application/json', 'accept-encoding': 'gzip' },
    }, (answer) => {
      buffer(answer).then((bytes) => {
        const text = answer.headers['content-encoding'] === 'gzip' ? gunzipSync(bytes) : bytes
        done({ status: answer.statusCode ?? 0, body: JSON.parse(text.toString()) as Record<string, unknown> })
      }).catch(fail)
    })
    asked.on('error', fail)
    asked.end(body && JSON.stringify(body))
  })
}

const refused = new Map<string, number>()
const times = { texts: [] as number[], submit: [] as number[], pay: [] as number[], read: [] as number[] }
async function timed(
  kind: keyof typeof times,
  act: () => Promise<Answered>,
): Promise<Record<string, unknown> | null> {
  const started = performance.now()
  const { status, body } = await act()
  times[kind].push(performance.now() - started)
  if (status < 300) return body
  refused.set(`${kind}: ${String(body.code)}`, (refused.get(`${kind}: ${String(body.code)}`) ?? 0) + 1)
  return null
}

async function prepared(from: number, count: number): Promise<One[]> {
  const made: One[] = []
  for (let i = from; i < from + count; i += 1) made.push(await prepare(i))
  return made
}
const all = await prepared(0, people)
console.log(`${people} people with ${people * 2} complete applications are ready`)
const officer = await fetch(`${LUCID_ADDRESS}/api/session`, {
  method: 'POST',
  headers: { 'content-type': 'application/json' },
  body: JSON.stringify({ signInName: 'officer', password: 'lantern-harbour-27' }),
})
const office = { cookie: officer.headers.getSetCookie().map(one => one.split(';')[0]).join('; '), csrf: '' }
let over = false
const free = new Set<string>()
async function submitAll({ ids, ...one }: One): Promise<void> {
  for (const id of ids) {
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
}
async function payAll({ ids, ...one }: One): Promise<void> {
  for (const id of ids.filter(given => !free.has(given))) {
    const opened = await timed('pay', () => ask(one, 'POST', `applications/${id}/payments`, {}))
    if (opened) await timed('pay', () => pay(String(opened.page), String(opened.order)))
  }
}

const early = await prepared(people, before)
for (let from = 0; from < before; from += beforeAtOnce) {
  await Promise.all(early.slice(from, from + beforeAtOnce).map(async (one) => {
    await submitAll(one)
    await payAll(one)
  }))
}
for (const list of Object.values(times)) list.length = 0
const reading = (async () => {
  while (!over) {
    await timed('read', () => ask(office, 'GET', `applications/${all[0]?.ids[0]}`))
    await new Promise(done => setTimeout(done, 50))
  }
})()
const started = performance.now()
await Promise.all(all.map(submitAll))
const submitted = (performance.now() - started) / 1000
await Promise.all(all.map(payAll))
over = true
await reading
lines.destroy()

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
