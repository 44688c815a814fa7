import { randomUUID } from 'node:crypto'
import { eq, sql } from 'drizzle-orm'
import { listAnswer, textAnswer, type Answers } from '../core/application/answers'
import { dateInZone } from '../core/calendar/zone'
import { spellAmount } from '../core/fees/assess'
import { documentsAsked } from '../core/application/slots'
import type { Notice } from '../core/notice/schema'
import { spellAnswer } from '../core/words/en/answers'
import { openDatabase, type Database } from '../server/database/client'
import { migrateDatabase } from '../server/database/migrate'
import { application, cycle } from '../server/database/schema'
import { registerApplication } from '../server/services/applications/begin'
import { saveAnswers } from '../server/services/applications/answers'
import { submitApplication, withdrawApplication } from '../server/services/applications/form'
import { readRoster } from '../server/services/roster/page'
import { putBankAccount } from '../server/services/bank/accounts'
import { matchOpenLines } from '../server/services/bank/matching'
import { takeSettlements } from '../server/services/bank/settlements'
import { handInSlip } from '../server/services/bank/paid-slips'
import { readDeposit } from '../server/services/bank/slip'
import { takeStatements } from '../server/services/bank/statements'
import { issueCard } from '../server/services/cards/issue'
import { publishRun } from '../server/services/centres/publish'
import { runAllocation } from '../server/services/centres/runs'
import { solveHere } from '../server/services/centres/solver'
import { Caller, log } from '../server/services/context'
import { openPayment, receiveGatewayEvent } from '../server/services/fees/payments'
import { addImage } from '../server/services/images/store'
import { openFaceDetector } from '../pictures/faces'
import { inspectorWith, type Inspector } from '../pictures/inspect'
import { currentNotice, putNotice } from '../server/services/notice/notices'
import { changeOfficeSettings } from '../server/services/people/settings'
import { putStaff } from '../server/services/people/staff'
import { principalOf } from '../server/services/people/sign-in'
import { acceptApplication, refuseApplication, returnApplication } from '../server/services/scrutiny/decisions'
import { decideRequest } from '../server/services/scrutiny/requests'
import { sortCases } from '../server/services/scrutiny/sorting'
import { foldTally } from '../server/services/roster/keep'
import { upgradeData } from '../server/services/upgrades/steps'
import { product, type Principal, type StaffRole } from '../core/access/principal'
import { BankStandin } from '../server/standins/bank'
import { GatewayStandin } from '../server/standins/gateway'
import { ProblemError } from '../shared/problem'
import { runRequestSchema } from '../shared/centres'
import { askOffice } from '../server/services/letters/questions'
import { loadCrowd } from './crowd'
import { marineCollegesNotice, withTestPapers } from './marine-colleges'
import { demoNotice, finishedNotice } from './notice'
import { makePerson } from './people'
import { loadPaperForms } from './paper-forms'
import { drawCertificate, drawDepositPaper, drawIdentityPage, drawScan, scanFaults, scanPage } from './documents'
import { drawPortrait, portraitFaults, type PortraitFault } from './portraits'
import { drawSignature, signatureFaults, type SignatureFault } from './signatures'
import { Random } from './random'

/** Sign-in names of the demo. The password is no secret: everything in the demo is invented. */
export const demoStaff: { signInName: string, name: string, roles: StaffRole[] }[] = [
  { signInName: 'officer', name: 'Senna Halwen', roles: ['officer'] },
  { signInName: 'second', name: 'Talin Brenwick', roles: ['officer'] },
  { signInName: 'scrutineer', name: 'Orin Tamsero', roles: ['scrutineer'] },
  { signInName: 'accounts', name: 'Cassil Varno', roles: ['accounts'] },
  { signInName: 'auditor', name: 'Ilva Quillor', roles: ['auditor'] },
  { signInName: 'administrator', name: 'Merrin Ashdune', roles: ['administrator'] },
]
export const demoPassword = 'lantern-harbour-27'
/** The office's bank account: of no country, with check digits that agree. */
const demoAccount = 'ZZ33ILMB0001002270041'

/** How far one made-up person has come. */
type Stage = 'drafting' | 'fee due' | 'fee failed' | 'silent' | 'in scrutiny' | 'returned' | 'refused' | 'withdrawn' | 'accepted' | 'seated'
const stages: [Stage, number][] = [
  ['accepted', 96], ['in scrutiny', 62], ['returned', 14], ['refused', 6], ['fee due', 26], ['fee failed', 5], ['silent', 3], ['drafting', 40], ['withdrawn', 4],
]

/** People of the second cycle, which tries the allocation at some size, and of the third, which is over. */
const crowd = 5000
const seated = 44
const cardsIssued = 30
/** How many days the third cycle lies before the first. */
const finishedDays = 120

interface Loader { db: Database, notice: Notice, gateway: GatewayStandin, now: Date, inspect: Inspector, scrutineer: Principal }

/** Fills an empty database with the demo through the same services that people use, at invented moments of the past. */
export async function loadDemo(db: Database, secret: string, now: Date, tell: (text: string) => void): Promise<void> {
  const caller = at(db, now)
  const context = await caller.authorise('clock.act')
  await putNotice(caller, demoNotice(now))
  const ids = new Map<string, string>()
  for (const person of demoStaff) ids.set(person.signInName, await putStaff(context, { ...person, password: demoPassword }))
  const scrutineer = await principalOf(db, ids.get('scrutineer') ?? '') ?? product
  // Numbers of the demo are of no country: the office knows them as a range of its own.
  await changeOfficeSettings(caller.as(await principalOf(db, ids.get('administrator') ?? '') ?? product), { keepMonths: 12, factorRoles: [], withoutSecondPerson: [], telephones: { country: '', ranges: [{ begins: '555', digits: 10 }] } })
  const { notice } = await currentNotice(db, 'HL27')
  const loader: Loader = { db, notice, gateway: new GatewayStandin(db, secret), now, inspect: inspectorWith(await openFaceDetector()), scrutineer }
  const list = stages.flatMap(([stage, n]) => Array.from({ length: n }, () => stage))
  await loadAll(loader, list, 0, tell)
  await loadFinished(loader, tell)
  await loadBank(loader, await principalOf(db, ids.get('accounts') ?? '') ?? product)
  await loadSlips(loader)
  await loadQuestions(loader)
  const [officer, second] = await Promise.all(['officer', 'second'].map(async name => await principalOf(db, ids.get(name) ?? '') ?? product))
  await loadPaperForms(notice, (who, hours) => at(db, hoursBefore(now, hours)).as(who), second ?? product, officer ?? product)
  const marine = withTestPapers(marineCollegesNotice(notice, now))
  await putNotice(caller, marine)
  await loadCrowd(db, marine, crowd, now)
  tell(`demo: ${crowd} candidates of the second cycle`)
  await sortCases(caller)
  await foldTally(caller)
  await log(db, context, 'load-demo', { subject: { kind: 'cycle', id: notice.code }, cycle: notice.code, after: { candidates: list.length + crowd + seated } })
  await db.execute(sql`analyze`)
}

// Several at a time: pictures are drawn on threads of their own while the database answers.
async function loadAll(loader: Loader, list: readonly Stage[], first: number, tell: (text: string) => void): Promise<void> {
  let next = 0
  const lane = async () => {
    for (let i = next; i < list.length; i = next) {
      next += 1
      if (i % 60 === 0) tell(`demo: ${i} of ${list.length} candidates of ${loader.notice.code}`)
      await loadPerson(loader, list[i] ?? 'drafting', first + i)
    }
  }
  await Promise.all(Array.from({ length: 6 }, lane))
}

// A cycle that is over: its people applied, were placed after the close, and most hold their cards.
async function loadFinished(first: Loader, tell: (text: string) => void): Promise<void> {
  const days = (count: number) => hoursBefore(first.now, count * 24)
  const notice = finishedNotice(days(finishedDays))
  await putNotice(at(first.db, days(finishedDays)), notice)
  const loader: Loader = { ...first, notice: (await currentNotice(first.db, notice.code)).notice, now: days(finishedDays - 2) }
  await loadAll(loader, Array.from({ length: seated }, () => 'seated'), 500, tell)
  const { runId } = await runAllocation(at(first.db, days(finishedDays - 8)), notice.code, runRequestSchema.parse({}), solveHere)
  await publishRun(at(first.db, days(finishedDays - 9)), runId)
  const issuing = at(first.db, days(finishedDays - 31))
  const { rows } = await readRoster(issuing, notice.code, { is: ['at:placed'], sort: 'number', limit: cardsIssued })
  for (const row of rows) await issueCard(issuing, row.id, {})
}

// The office's account, a payout of the gateway, and a first day at the bank on which it came in, with two lines that nobody has explained.
async function loadBank({ db, notice, now }: Loader, accounts: Principal): Promise<void> {
  const caller = at(db, now).as(accounts)
  const id = randomUUID()
  const account = { title: 'Fees', holder: notice.body.name, bank: 'Ilmara Harbour Bank', number: demoAccount, bic: '', currency: notice.body.currency.code, takesDeposits: true }
  await putBankAccount(caller, id, account)
  const bank = new BankStandin(db, () => now)
  await takeSettlements(caller, Buffer.from(await bank.settlement()))
  const day = await bank.passDay(account, [])
  await takeStatements(caller, id, 'first-day.xml', Buffer.from(await bank.statement(account.number, day, 'camt')))
  await matchOpenLines(caller, () => Promise.resolve(true))
}

// Four who have paid at a counter; one of them with the paper of another.
async function loadSlips({ db, notice, inspect, now }: Loader): Promise<void> {
  const { rows } = await readRoster(at(db, now), notice.code, { is: ['fee:due'], sort: 'number', limit: 200 })
  let before: { paper: Buffer, number: string } | null = null
  for (const [i, row] of rows.slice(-4).entries()) {
    const caller = at(db, hoursBefore(now, 20 - 4 * i))
    const deposit = await readDeposit(caller, row.id)
    if (!deposit) continue
    const [branch, paidOn, number] = ['Skarnholm, Quay Street', dateInZone(hoursBefore(now, 26), notice.body.zone), `D-${4711 + i}`]
    const paper = await drawDepositPaper({ branch, amount: spellAmount(deposit.amount, notice.body.currency), reference: deposit.reference, on: paidOn, number })
    const given = i === 3 && before ? before : { paper, number }
    await handInSlip(caller, inspect, row.id, { amount: deposit.amount, branch, bankReference: given.number, paidOn, bytes: await scanPage(new Random(900), given.paper, 'none', 120) })
    before = { paper, number }
  }
}

const asked = [
  ['person', 'My seafarer’s book was renewed after I began the form. Do I bring the new one, or the one that I named?'], ['wishes', 'The ferry to Oruvel sails only on Tuesdays in winter. Can I still change the order of my cities?'],
  ['', 'I have paid at the bank this morning, and the fee still shows as due. How long does that take?'], ['schooling', 'My board gives grades and no marks. Where do I write them?'], ['claims', 'My certificate of the Outer Isles is in my father’s name. Does that count?'],
] as const

// What candidates have asked since the form opened; nobody has answered yet.
async function loadQuestions({ db, notice, now }: Loader): Promise<void> {
  const { rows } = await readRoster(at(db, now), notice.code, { is: ['form:submitted'], sort: 'number', limit: 200 })
  for (const [i, [about, text]] of asked.entries()) {
    const row = rows[i * 17]
    if (row) await askOffice(at(db, hoursBefore(now, 110 - 24 * i)), row.id, { about, text })
  }
}

/** Places in the list of people who have applied already, as the one before them: in scrutiny, so that somebody has to say whether they are one. */
const appliedTwice = [112, 131, 150]

function onceMore(notice: Notice, index: number): Answers {
  const random = new Random(7919 * (index + 1))
  // The moment at which that person began was drawn before.
  random.next()
  const { answers } = makePerson(random, notice, index)
  const name = textAnswer(answers, 'certificateName')
  return { ...answers, certificateName: index % 2 === 1 ? name.split(' ').reverse().join(' ') : name, mobile: `5550200${index}`, email: `again${index}@post.example` }
}

async function loadPerson(loader: Loader, stage: Stage, index: number): Promise<void> {
  const random = new Random(7919 * (index + 1))
  const { db, notice, now } = loader
  // People of the cycle that is over began early, drafts lately.
  const start = hoursBefore(now, stage === 'seated' ? random.between(200, 400) : stage === 'drafting' ? random.between(1, 60) : random.between(40, 190))
  let moment = start
  const step = (hours: number): Caller => {
    moment = new Date(Math.min(now.getTime() - 60_000, moment.getTime() + hours * 3_600_000))
    return at(db, moment)
  }
  const id = randomUUID()
  await registerApplication(at(db, start), notice.code, id)
  const person = appliedTwice.includes(index) ? { ...makePerson(random, notice, index), answers: onceMore(notice, index - 1) } : makePerson(random, notice, index)
  const answers = stage === 'drafting' ? Object.fromEntries(Object.entries(person.answers).slice(0, random.whole(4, 20))) : { ...person.answers, ...askedFor(person.answers, stage, index) }
  await saveAnswers(step(0.2), id, { revision: 0, changes: answers })
  const photograph = await addPictures(step(0.1), loader.inspect, id, random, stage, index)
  if (stage !== 'drafting' || index % 8 === 1) await addPapers(step(0.05), loader, id, new Random(index + 61), answers, photograph, stage, index)
  if (stage === 'drafting') return
  if (stage === 'withdrawn') return void await withdrawApplication(step(5), id, { reason: 'Took up a post elsewhere.' })
  await submitApplication(step(random.between(0.2, 20)), id, { revision: 1, declared: true })
  if (stage === 'fee due') return
  if (!await settleFee(loader, step, id, stage)) return
  if (stage !== 'in scrutiny') await decideCase(step(random.between(2, 20)).as(loader.scrutineer), id, stage, index)
}

/** What some ask for besides a seat; in scrutiny that waits for the office. */
function askedFor(answers: Answers, stage: Stage, index: number): Answers {
  if (stage !== 'in scrutiny' && stage !== 'accepted') return {}
  if (answers.pwd === 'yes') return { moreTime: 'yes', ...index % 2 === 0 ? { scribe: 'yes', scribeName: 'Tovo Menari' } : {} }
  return stage === 'in scrutiny' && listAnswer(answers, 'posts').includes('lighthouse-keeper') && index % 9 === 4 ? { ageException: 'yes', exceptionWhy: 'Kept the light of Ottrevik for three years as a deputy.' } : {}
}

async function addPictures(caller: Caller, inspect: Inspector, id: string, random: Random, stage: Stage, index: number): Promise<Buffer> {
  const faulty = stage === 'in scrutiny' || stage === 'returned' || stage === 'drafting' || stage === 'refused'
  const portrait: PortraitFault = faulty && (index % 3 === 0 || stage === 'returned') ? portraitFaults[1 + Math.floor(index / (stage === 'returned' ? 1 : 3)) % (portraitFaults.length - 1)] ?? 'none' : 'none'
  const signature: SignatureFault = faulty && index % 7 === 3 ? signatureFaults[1 + Math.floor(index / 7) % (signatureFaults.length - 1)] ?? 'none' : 'none'
  const seed = random.whole(0, 2 ** 31)
  const [photographBytes, signatureBytes] = await Promise.all([drawPortrait(new Random(seed), portrait), drawSignature(new Random(index + 31), signature)])
  // Papers show people as they are, whatever is wrong with the photograph they sent.
  const face = portrait === 'none' ? photographBytes : await drawPortrait(new Random(seed), 'none')
  if (stage === 'drafting' && index % 2 === 0) return face
  await addImage(caller, inspect, id, 'photograph', { bytes: photographBytes })
  if (stage !== 'drafting' || index % 4 === 1) await addImage(caller, inspect, id, 'signature', { bytes: signatureBytes })
  return face
}

/** The papers that the answers ask for: mostly clean, of people in scrutiny some with a fault. */
async function addPapers(caller: Caller, { notice, inspect }: Loader, id: string, random: Random, answers: Answers, photograph: Buffer, stage: Stage, index: number): Promise<void> {
  const holder = { name: textAnswer(answers, 'identityName'), number: textAnswer(answers, 'identityNumber'), bornOn: textAnswer(answers, 'bornOn') }
  const fault = stage === 'in scrutiny' && index % 4 === 1 ? scanFaults[1 + Math.floor(index / 4) % (scanFaults.length - 1)] ?? 'none' : 'none'
  for (const { id: document, title, identity, required } of documentsAsked(notice, answers)) {
    if (!required) continue
    const paper = identity ? await drawIdentityPage(photograph, spellAnswer(notice, 'identityKind', answers.identityKind), holder) : await drawCertificate(random, title, holder)
    const bytes = identity ? await scanPage(random, paper, fault, 180) : fault === 'none' ? paper : await drawScan(random, paper, fault)
    await addImage(caller, inspect, id, document, { bytes })
  }
}

/** Pays where something is due; whether the way goes on. */
async function settleFee(loader: Loader, step: (hours: number) => Caller, id: string, stage: Stage): Promise<boolean> {
  const [row] = await loader.db.select().from(application).where(eq(application.id, id))
  if (row?.fee !== 'due') return true
  const caller = stage === 'silent' ? at(loader.db, loader.now) : step(0.4)
  const ways = loader.notice.fees.channels
  const opened = await openPayment(caller, loader.gateway, id, { way: ways[id.charCodeAt(1) % Math.max(1, ways.length)]?.way })
  const act = stage === 'fee failed' ? 'decline' : stage === 'silent' ? 'silent' : id.charCodeAt(0) % 9 === 0 ? 'twice' : 'pay'
  for (const event of await loader.gateway.act(opened.order, act)) await receiveGatewayEvent(step(0.02), loader.gateway, event)
  return stage !== 'fee failed' && stage !== 'silent'
}

async function decideCase(caller: Caller, id: string, stage: Stage, index: number): Promise<void> {
  if (stage === 'returned') await returnApplication(caller, id, [{ item: 'photograph', reason: 'The picture does not meet the rules named in the margin. Send a new one.' }], {})
  else if (stage === 'refused') await refuseApplication(caller, id, [{ item: 'category', reason: `Certificate ${index} was not issued by a district office; clause 2.3.` }], {})
  else {
    for (const request of ['scribe', 'more-time']) await decideRequest(caller, id, { request, word: 'granted' }, { reason: 'The certificate of the district physician says so.' }).catch(unlessNone)
    await acceptApplication(caller, id, [], {})
  }
}

function unlessNone(error: unknown): void {
  if (!(error instanceof ProblemError) || error.problem.code !== 'request.none') throw error
}

function hoursBefore(now: Date, hours: number): Date {
  return new Date(now.getTime() - hours * 3_600_000)
}

function at(db: Database, moment: Date): Caller {
  return new Caller(db, product, { now: () => moment, requestId: 'demo' })
}

// A first start that was broken off leaves half a demo. It may go only as long as nobody has done anything with it.
async function forgetHalfDemo(db: Database): Promise<void> {
  const { rows } = await db.execute(sql`select count(*) filter (where request_id <> 'demo') as touched, count(*) filter (where act = 'load-demo') as loaded from audit_event`)
  const [state] = rows as { touched: string, loaded: string }[]
  if (Number(state?.touched) > 0 || Number(state?.loaded) > 0) return
  const tables = await db.execute(sql`select string_agg(format('%I', tablename), ', ') as list from pg_tables where schemaname = 'public' and tablename not in ('principal', 'data_upgrade')`)
  await db.execute(sql.raw(`truncate ${String(tables.rows[0]?.list)} restart identity cascade`))
  await db.execute(sql`delete from principal where kind not in ('product', 'anybody')`)
}

/** Brings the database of an office to the present shape; it begins with nothing. */
export async function prepareEmptyDatabase(url: string, tell: (text: string) => void): Promise<void> {
  const handle = openDatabase(url)
  try {
    await migrateDatabase(handle)
    await upgradeData(handle.db, tell)
  } finally {
    await handle.close()
  }
}

/** Brings a database to the present shape and, where it holds no cycle, loads the demo once. */
export async function prepareDatabase(url: string, secret: string, tell: (text: string) => void): Promise<void> {
  const handle = openDatabase(url)
  try {
    await migrateDatabase(handle)
    await upgradeData(handle.db, tell)
    await forgetHalfDemo(handle.db)
    const [found] = await handle.db.select().from(cycle).limit(1)
    if (!found) await loadDemo(handle.db, secret, new Date(), tell)
  } finally {
    await handle.close()
  }
}
