import { randomUUID } from 'node:crypto'
import { eq, sql } from 'drizzle-orm'
import { dateInZone } from '../core/calendar/zone'
import { spellAmount } from '../core/fees/assess'
import { openDatabase, type Database } from '../server/database/client'
import { migrateDatabase } from '../server/database/migrate'
import { application, cycle } from '../server/database/schema'
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
import { log } from '../server/services/context'
import { openFaceDetector } from '../pictures/faces'
import { inspectorWith } from '../pictures/inspect'
import { currentNotice, putNotice } from '../server/services/notice/notices'
import { changeOfficeSettings } from '../server/services/people/settings'
import { putStaff } from '../server/services/people/staff'
import { principalOf } from '../server/services/people/sign-in'
import { sortCases } from '../server/services/scrutiny/sorting'
import { foldTally } from '../server/services/roster/keep'
import { upgradeData } from '../server/services/upgrades/steps'
import { product, type Principal, type StaffRole } from '../core/access/principal'
import { BankStandin } from '../server/standins/bank'
import { GatewayStandin } from '../server/standins/gateway'
import { runRequestSchema } from '../shared/centres'
import { seeApplication } from '../server/services/letters/seen'
import { writeLetters } from '../server/services/letters/write'
import { askOffice } from '../server/services/letters/questions'
import { loadCrowd } from './crowd'
import { marineCollegesNotice, withTestPapers } from './marine-colleges'
import { demoNotice, finishedNotice } from './notice'
import { loadPaperForms } from './paper-forms'
import { drawDepositPaper, scanPage } from './documents'
import { Random } from './random'
import { type Stage, type Loader, loadPerson, hoursBefore, at } from './person'

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

const stages: [Stage, number][] = [
  ['accepted', 96],
  ['in scrutiny', 62],
  ['returned', 14],
  ['refused', 6],
  ['fee due', 26],
  ['fee failed', 5],
  ['silent', 3],
  ['drafting', 40],
  ['withdrawn', 4],
]

/** People of the second cycle, which tries the allocation at some size, and of the third, which is over. */
const crowd = 5000
const seated = 44
const cardsIssued = 30
/** How many days the third cycle lies before the first. */
const finishedDays = 120

/** Fills an empty database with the demo through the same services that people use, at invented moments of the past. */
export async function loadDemo(db: Database, secret: string, now: Date, tell: (text: string) => void): Promise<void> {
  const caller = at(db, now)
  const context = await caller.authorise('clock.act')
  await putNotice(caller, demoNotice(now))
  const ids = new Map<string, string>()
  for (const person of demoStaff) ids.set(person.signInName, await putStaff(context, { ...person, password: demoPassword }))
  const scrutineer = await principalOf(db, ids.get('scrutineer') ?? '') ?? product
  // Numbers of the demo are of no country: the office knows them as a range of its own.
  await changeOfficeSettings(caller.as(await principalOf(db, ids.get('administrator') ?? '') ?? product), {
    keepMonths: 12,
    factorRoles: [],
    withoutSecondPerson: [],
    telephones: { country: '', ranges: [{ begins: '555', digits: 10 }] },
  })
  const { notice } = await currentNotice(db, 'HL27')
  const loader: Loader = {
    db,
    notice,
    gateway: new GatewayStandin(db, secret),
    now,
    inspect: inspectorWith(await openFaceDetector()),
    scrutineer,
  }
  const list = stages.flatMap(([stage, n]) => Array.from({ length: n }, () => stage))
  await loadAll(loader, list, 0, tell)
  await tellPeople(db, notice.code, hoursBefore(now, 1))
  await loadFinished(loader, tell)
  await loadBank(loader, await principalOf(db, ids.get('accounts') ?? '') ?? product)
  await loadSlips(loader)
  await loadQuestions(loader)
  const [officer, second] = await Promise
    .all(['officer', 'second'].map(async name => await principalOf(db, ids.get(name) ?? '') ?? product))
  await loadPaperForms(notice, (who, hours) => at(db, hoursBefore(now, hours)).as(who), second ?? product, officer ?? product)
  const marine = withTestPapers(marineCollegesNotice(notice, now))
  await putNotice(caller, marine)
  await loadCrowd(db, marine, crowd, now)
  tell(`demo: ${crowd} candidates of the second cycle`)
  await sortCases(caller)
  await foldTally(caller)
  await log(db, context, 'load-demo', {
    subject: { kind: 'cycle', id: notice.code },
    cycle: notice.code,
    after: { candidates: list.length + crowd + seated },
  })
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
  await tellPeople(first.db, notice.code, days(finishedDays - 32))
}

// Letters about what was done go out, and two of three people look at their application since.
async function tellPeople(db: Database, code: string, moment: Date): Promise<void> {
  const caller = at(db, moment)
  while (await writeLetters(caller) > 0) { /* page by page */ }
  const rows = await db.select({ id: application.id, owner: application.ownerId }).from(application).where(eq(application.cycle, code))
    .orderBy(application.number)
  for (const [i, { id, owner }] of rows.entries()) {
    const reader = owner !== null && i % 3 !== 0 && await principalOf(db, owner)
    if (reader) await seeApplication(caller.as(reader), id)
  }
}

// The office's account, a payout of the gateway, and a first day at the bank on which it came in, with two lines that nobody has explained.
async function loadBank({ db, notice, now }: Loader, accounts: Principal): Promise<void> {
  const caller = at(db, now).as(accounts)
  const id = randomUUID()
  const account = {
    title: 'Fees',
    holder: notice.body.name,
    bank: 'Ilmara Harbour Bank',
    number: demoAccount,
    bic: '',
    currency: notice.body.currency.code,
    takesDeposits: true,
  }
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
    const paper = await drawDepositPaper({
      branch,
      amount: spellAmount(deposit.amount, notice.body.currency),
      reference: deposit.reference,
      on: paidOn,
      number,
    })
    const given = i === 3 && before ? before : { paper, number }
    await handInSlip(caller, inspect, row.id, {
      amount: deposit.amount,
      branch,
      bankReference: given.number,
      paidOn,
      bytes: await scanPage(new Random(900), given.paper, 'none', 120),
    })
    before = { paper, number }
  }
}

const asked = [
  ['person', 'My seafarer’s book was renewed after I began the form. Do I bring the new one, or the one that I named?'],
  ['wishes', 'The ferry to Oruvel sails only on Tuesdays in winter. Can I still change the order of my cities?'],
  ['', 'I have paid at the bank this morning, and the fee still shows as due. How long does that take?'],
  ['schooling', 'My board gives grades and no marks. Where do I write them?'],
  ['claims', 'My certificate of the Outer Isles is in my father’s name. Does that count?'],
] as const

// What candidates have asked since the form opened; nobody has answered yet.
async function loadQuestions({ db, notice, now }: Loader): Promise<void> {
  const { rows } = await readRoster(at(db, now), notice.code, { is: ['form:submitted'], sort: 'number', limit: 200 })
  for (const [i, [about, text]] of asked.entries()) {
    const row = rows[i * 17]
    if (row) await askOffice(at(db, hoursBefore(now, 110 - 24 * i)), row.id, { about, text })
  }
}

// A first start that was broken off leaves half a demo. It may go only as long as nobody has done anything with it.
async function forgetHalfDemo(db: Database): Promise<void> {
  const { rows } = await db
    .execute(sql`select count(*) filter (where request_id <> 'demo') as touched, count(*) filter (where act = 'load-demo') as loaded from audit_event`)
  const [state] = rows as { touched: string, loaded: string }[]
  if (Number(state?.touched) > 0 || Number(state?.loaded) > 0) return
  const tables = await db
    .execute(sql`select string_agg(format('%I', tablename), ', ') as list from pg_tables where schemaname = 'public' and tablename not in ('principal', 'data_upgrade')`)
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
