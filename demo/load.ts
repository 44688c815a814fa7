import { randomUUID } from 'node:crypto'
import { eq, sql } from 'drizzle-orm'
import { textAnswer, type Answers } from '../core/application/answers'
import { documentsAsked } from '../core/application/slots'
import type { Notice } from '../core/notice/schema'
import { spellAnswer } from '../core/words/en/answers'
import { openDatabase, type Database } from '../server/database/client'
import { migrateDatabase } from '../server/database/migrate'
import { application, cycle } from '../server/database/schema'
import { registerApplication, saveAnswers, submitApplication, withdrawApplication } from '../server/services/applications/intake'
import { readRoster } from '../server/services/applications/roster'
import { issueCard, signingKey } from '../server/services/cards/issue'
import { publishRun } from '../server/services/centres/publish'
import { runAllocation } from '../server/services/centres/runs'
import { solveHere } from '../server/services/centres/solver'
import { audit, systemActor, type Context } from '../server/services/context'
import { openPayment, receiveGatewayEvent } from '../server/services/fees/payments'
import { addImage } from '../server/services/images/store'
import { openFaceDetector } from '../pictures/faces'
import { inspectorWith, type Inspector } from '../pictures/inspect'
import { currentNotice, putNotice } from '../server/services/notice/notices'
import { putStaff } from '../server/services/people/sign-in'
import { decide } from '../server/services/scrutiny/decisions'
import { GatewayStandin } from '../server/standins/gateway'
import { runRequestSchema } from '../shared/centres'
import type { Role } from '../shared/roles'
import { loadCrowd } from './crowd'
import { marineCollegesNotice } from './marine-colleges'
import { demoNotice } from './notice'
import { makePerson } from './people'
import { drawCertificate, drawIdentityPage, drawScan, scanFaults, scanPage } from './documents'
import { drawPortrait, portraitFaults, type PortraitFault } from './portraits'
import { drawSignature, signatureFaults, type SignatureFault } from './signatures'
import { Random } from './random'

/** Sign-in names of the demo. The password is no secret: everything in the demo is invented. */
export const demoStaff: { signInName: string, displayName: string, roles: Role[] }[] = [
  { signInName: 'officer', displayName: 'Senna Halwen', roles: ['officer'] },
  { signInName: 'scrutineer', displayName: 'Orin Tamsero', roles: ['scrutineer'] },
  { signInName: 'accounts', displayName: 'Cassil Varno', roles: ['accounts'] },
  { signInName: 'auditor', displayName: 'Ilva Quillor', roles: ['auditor'] },
]
export const demoPassword = 'lantern-harbour-27'

/** How far one made-up person has come. */
type Stage = 'drafting' | 'fee due' | 'fee failed' | 'silent' | 'in scrutiny' | 'returned' | 'refused' | 'withdrawn' | 'accepted' | 'published'
const stages: [Stage, number][] = [
  ['published', 44], ['accepted', 96], ['in scrutiny', 62], ['returned', 14], ['refused', 6], ['fee due', 26], ['fee failed', 5], ['silent', 3], ['drafting', 40], ['withdrawn', 4],
]

/** People of the second cycle, which tries the allocation at some size. */
const crowd = 5000

interface Loader { db: Database, notice: Notice, gateway: GatewayStandin, now: Date, inspect: Inspector }

/** Fills an empty database with the demo through the same services that people use, at invented moments of the past. */
export async function loadDemo(db: Database, secret: string, now: Date, tell: (text: string) => void): Promise<void> {
  const context = at(db, now)
  await putNotice(context, demoNotice(now))
  for (const person of demoStaff) await putStaff(context, { ...person, password: demoPassword })
  const { notice } = await currentNotice(db, 'HL27')
  const gateway = new GatewayStandin(db, secret)
  const loader: Loader = { db, notice, gateway, now, inspect: inspectorWith(await openFaceDetector()) }
  const list = stages.flatMap(([stage, n]) => Array.from({ length: n }, () => stage))
  let next = 0
  const lane = async (end: number) => {
    for (let i = next; i < end; i = next) {
      next += 1
      if (i % 60 === 0) tell(`demo: ${i} of ${list.length} candidates`)
      await loadPerson(loader, list[i] ?? 'drafting', i)
    }
  }
  // Several at a time: pictures are drawn on threads of their own while the database answers.
  const loadUpTo = (end: number) => Promise.all(Array.from({ length: 6 }, () => lane(end)))
  await loadUpTo(list.filter(stage => stage === 'published').length)
  await publishFirst(loader)
  await loadUpTo(list.length)
  const marine = marineCollegesNotice(notice)
  await putNotice(context, marine)
  await loadCrowd(db, marine, crowd, now)
  tell(`demo: ${crowd} candidates of the second cycle`)
  await audit(db, context, demoLoaded, `cycle:${notice.code}`, null, { candidates: list.length + crowd })
  await db.execute(sql`analyze`)
}

// The first are placed and published before the others are accepted, and 30 of them hold their cards.
async function publishFirst(loader: Loader): Promise<void> {
  const context = at(loader.db, hoursBefore(loader.now, 30))
  const { runId } = await runAllocation(context, loader.notice.code, runRequestSchema.parse({}), solveHere)
  await publishRun(context, runId)
  const key = await signingKey(context)
  const { rows } = await readRoster(context, loader.notice.code, { headline: 'placed', sort: 'number', limit: 30 })
  for (const row of rows) await issueCard(at(loader.db, hoursBefore(loader.now, 26)), row.id, key)
}

async function loadPerson(loader: Loader, stage: Stage, index: number): Promise<void> {
  const random = new Random(7919 * (index + 1))
  const { db, notice, now } = loader
  // Published people began long ago, drafts lately.
  const start = hoursBefore(now, stage === 'published' ? random.between(200, 400) : stage === 'drafting' ? random.between(1, 60) : random.between(40, 190))
  let moment = start
  const step = (hours: number): Context => {
    moment = new Date(Math.min(now.getTime() - 60_000, moment.getTime() + hours * 3_600_000))
    return at(db, moment)
  }
  const id = randomUUID()
  await registerApplication(at(db, start), notice.code, id)
  const person = makePerson(random, notice, index)
  const answers = stage === 'drafting' ? Object.fromEntries(Object.entries(person.answers).slice(0, random.whole(4, 20))) : person.answers
  await saveAnswers(step(0.2), id, { revision: 0, changes: answers })
  const photograph = await addPictures(step(0.1), loader.inspect, id, random, stage, index)
  if (stage !== 'drafting' || index % 8 === 1) await addPapers(step(0.05), loader, id, new Random(index + 61), answers, photograph, stage, index)
  if (stage === 'drafting') return
  if (stage === 'withdrawn') return withdrawApplication(step(5), id, 'Took up a post elsewhere.')
  await submitApplication(step(random.between(0.2, 20)), id, { revision: 1, declared: true })
  if (stage === 'fee due') return
  if (!await settleFee(loader, step, id, stage)) return
  if (stage !== 'in scrutiny') await decideCase(step(random.between(2, 20)), id, stage, index)
}

async function addPictures(context: Context, inspect: Inspector, id: string, random: Random, stage: Stage, index: number): Promise<Buffer> {
  const faulty = stage === 'in scrutiny' || stage === 'returned' || stage === 'drafting' || stage === 'refused'
  const portrait: PortraitFault = faulty && (index % 3 === 0 || stage === 'returned') ? portraitFaults[1 + Math.floor(index / (stage === 'returned' ? 1 : 3)) % (portraitFaults.length - 1)] ?? 'none' : 'none'
  const signature: SignatureFault = faulty && index % 7 === 3 ? signatureFaults[1 + Math.floor(index / 7) % (signatureFaults.length - 1)] ?? 'none' : 'none'
  const seed = random.whole(0, 2 ** 31)
  const [photographBytes, signatureBytes] = await Promise.all([drawPortrait(new Random(seed), portrait), drawSignature(new Random(index + 31), signature)])
  // Papers show people as they are, whatever is wrong with the photograph they sent.
  const face = portrait === 'none' ? photographBytes : await drawPortrait(new Random(seed), 'none')
  if (stage === 'drafting' && index % 2 === 0) return face
  await addImage(context, inspect, id, 'photograph', { bytes: photographBytes })
  if (stage !== 'drafting' || index % 4 === 1) await addImage(context, inspect, id, 'signature', { bytes: signatureBytes })
  return face
}

/** The papers that the answers ask for: mostly clean, of people in scrutiny some with a fault. */
async function addPapers(context: Context, { notice, inspect }: Loader, id: string, random: Random, answers: Answers, photograph: Buffer, stage: Stage, index: number): Promise<void> {
  const holder = { name: textAnswer(answers, 'identityName'), number: textAnswer(answers, 'identityNumber'), bornOn: textAnswer(answers, 'bornOn') }
  const fault = stage === 'in scrutiny' && index % 4 === 1 ? scanFaults[1 + Math.floor(index / 4) % (scanFaults.length - 1)] ?? 'none' : 'none'
  for (const { id: document, title, identity, required } of documentsAsked(notice, answers)) {
    if (!required) continue
    const paper = identity ? await drawIdentityPage(photograph, spellAnswer(notice, 'identityKind', answers.identityKind), holder) : await drawCertificate(random, title, holder)
    const bytes = identity ? await scanPage(random, paper, fault, 180) : fault === 'none' ? paper : await drawScan(random, paper, fault)
    await addImage(context, inspect, id, document, { bytes })
  }
}

/** Pays where something is due; whether the way goes on. */
async function settleFee(loader: Loader, step: (hours: number) => Context, id: string, stage: Stage): Promise<boolean> {
  const [row] = await loader.db.select().from(application).where(eq(application.id, id))
  if (row?.fee !== 'due') return true
  const context = stage === 'silent' ? at(loader.db, loader.now) : step(0.4)
  const opened = await openPayment(context, loader.gateway, id)
  const act = stage === 'fee failed' ? 'decline' : stage === 'silent' ? 'silent' : id.charCodeAt(0) % 9 === 0 ? 'twice' : 'pay'
  for (const event of await loader.gateway.act(opened.order, act)) await receiveGatewayEvent(step(0.02), loader.gateway, event)
  return stage !== 'fee failed' && stage !== 'silent'
}

async function decideCase(context: Context, id: string, stage: Stage, index: number): Promise<void> {
  const scrutineer: Context = { ...context, actor: { id: 'demo', name: 'Orin Tamsero', roles: ['scrutineer'] } }
  if (stage === 'returned') return decide(scrutineer, id, { decision: 'return', reasons: [{ item: 'photograph', reason: 'The picture does not meet the rules named in the margin. Send a new one.' }] })
  if (stage === 'refused') return decide(scrutineer, id, { decision: 'refuse', reasons: [{ item: 'category', reason: `Certificate ${index} was not issued by a district office; clause 2.3.` }] })
  return decide(scrutineer, id, { decision: 'accept', reasons: [] })
}

function hoursBefore(now: Date, hours: number): Date {
  return new Date(now.getTime() - hours * 3_600_000)
}

function at(db: Database, moment: Date): Context {
  return { db, actor: systemActor, now: () => moment, newId: randomUUID, requestId: 'demo' }
}

const demoLoaded = 'load demo'

// A first start that was broken off leaves half a demo. It may go only as long as nobody has done anything with it.
async function forgetHalfDemo(db: Database): Promise<void> {
  const { rows } = await db.execute(sql`select count(*) filter (where request_id <> 'demo') as touched, count(*) filter (where action = ${demoLoaded}) as loaded from audit_event`)
  const [state] = rows as { touched: string, loaded: string }[]
  if (Number(state?.touched) > 0 || Number(state?.loaded) > 0) return
  const tables = await db.execute(sql`select string_agg(format('%I', tablename), ', ') as list from pg_tables where schemaname = 'public'`)
  await db.execute(sql.raw(`truncate ${String(tables.rows[0]?.list)} restart identity cascade`))
}

/** Migrates the database and loads the demo once; a database that has a cycle is left as it is. */
export async function prepareDatabase(url: string, secret: string, tell: (text: string) => void): Promise<void> {
  const handle = openDatabase(url)
  try {
    await migrateDatabase(handle)
    await forgetHalfDemo(handle.db)
    const [found] = await handle.db.select().from(cycle).limit(1)
    if (!found) await loadDemo(handle.db, secret, new Date(), tell)
  } finally {
    await handle.close()
  }
}
