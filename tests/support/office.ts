import { createHash, randomBytes, randomUUID } from 'node:crypto'
import pg from 'pg'
import type PgBoss from 'pg-boss'
import { testDatabase, type TestDatabase } from './databases'
import { sampleAnswers, sampleNotice, testNow } from './sample'
import type { Answers } from '../../core/application/answers'
import type { ImageKind, Notice } from '../../core/notice/schema'
import { drawPortrait } from '../../demo/portraits'
import { documentsAsked } from '../../core/application/slots'
import { drawCertificate, scanPage } from '../../demo/documents'
import { drawSignature } from '../../demo/signatures'
import { demoNotice } from '../../demo/notice'
import { Random } from '../../demo/random'
import { openDatabase, type Database, type DatabaseHandle } from '../../server/database/client'
import { readDossier } from '../../server/services/applications/dossier'
import { performAct } from '../../server/services/acts/named'
import { saveAnswers } from '../../server/services/applications/answers'
import { registerApplication } from '../../server/services/applications/begin'
import { issueCard } from '../../server/services/cards/issue'
import { publishRun, type Published } from '../../server/services/centres/publish'
import { Caller, type Context } from '../../server/services/context'
import { contact, file, image, principal, staff } from '../../server/database/schema'
import { settleMatters } from '../../server/services/acts/matters'
import { readApplication } from '../../server/services/applications/store'
import { textsOnPaper } from '../../server/services/applications/texts'
import { anybody, product, type Principal, type StaffRole } from '../../core/access/principal'
import type { NamedAct } from '../../shared/acts'
import { useOfficeKey } from '../../server/secrets/office-key'
import { openPayment } from '../../server/services/fees/payments'
import { receiveGatewayEvent } from '../../server/services/fees/events'
import { addImage } from '../../server/services/images/store'
import { forgetNotices, putNotice } from '../../server/services/notice/notices'
import { GatewayStandin } from '../../server/standins/gateway'
import { runAllocation } from '../../server/services/centres/runs'
import { solveHere } from '../../server/services/centres/solver'
import { runRequestSchema } from '../../shared/centres'
import type { z } from 'zod'
import { inspectorWith } from '../../pictures/inspect'
import type { Dossier, ImageView } from '../../shared/applications'

let scan: Promise<Buffer> | null = null
/** A scanned page without a fault, the same for all: what it says is none of the tests' business. */
function cleanScan(): Promise<Buffer> {
  return scan ??= drawCertificate(new Random(8), 'Paper of the tests', {
    name: 'Tavirel Osk-Anundé',
    number: 'SB4471923',
    bornOn: '15 June 2004',
  }).then(pdf => scanPage(new Random(8), pdf, 'none', 130))
}

const members = ['officer/a', 'officer/b', 'scrutineer/a', 'scrutineer/b', 'accounts/a', 'auditor/a', 'administrator/a', 'superintendent/a',
  'officer,auditor/a', 'accounts/b']
const memberId = (place: number) => `00000000-0000-4000-9000-${String(place).padStart(12, '0')}`
/** What an officer says who acts before the notice's dates. */
export const early = { outsideDates: true, reason: 'tried here before its time' }

/** The hash of bytes that stand for a picture. */
const drawn = createHash('sha256').update('drawn').digest('hex')

/** A registration office with a database of its own, whose clock the test moves. */
export class Office {
  now = testNow
  readonly cycle = 'HL27'
  readonly notice: Notice = sampleNotice()
  readonly gateway: GatewayStandin

  constructor(
    /** As the application works in it. */ readonly db: Database,
    readonly urls: TestDatabase,
    private readonly end: () => Promise<void>,
  ) {
    this.gateway = new GatewayStandin(db, 'a secret of the tests', () => this.now)
  }

  /** Somebody with some roles, by default the officer; `who` tells several of the same roles apart. */
  as(...roles: StaffRole[]): Caller {
    return this.by(this.member(roles.length > 0 ? roles : ['officer']))
  }

  /** A second person with the same rights. */
  second(...roles: StaffRole[]): Caller {
    return this.by(this.member(roles.length > 0 ? roles : ['officer'], 'b'))
  }

  by(who: Principal): Caller {
    return new Caller(this.db, who, { now: () => this.now, requestId: randomUUID() })
  }

  /** The product itself, as jobs and the clock act. */
  get product(): Caller {
    return this.by(product)
  }

  get nobody(): Caller {
    return this.by(anybody)
  }

  /** What a service works with; for helpers that tests call without a service. */
  context(): Promise<Context> {
    return this.product.authorise('clock.act')
  }

  /** The same database as another role works in it. */
  in(role: keyof TestDatabase): Database {
    const found = this.others.get(role) ?? openDatabase(this.urls[role], 2)
    this.others.set(role, found)
    return found.db
  }

  private readonly others = new Map<string, DatabaseHandle>()

  private member(roles: StaffRole[], which = 'a'): Principal {
    const place = members.indexOf(`${roles.join()}/${which}`)
    if (place < 0) throw new Error(`the office of the tests has no ${roles.join(' and ')} (${which})`)
    return { id: memberId(place), kind: 'staff', name: `the ${roles.join(' and ')}${which === 'a' ? '' : ' beside'}`, roles, venues: [] }
  }

  /** A candidate with an account of their own, and with a proved e-mail address where one is given. */
  async candidate(name = 'Aldis Berrow', address?: string): Promise<Principal> {
    const id = randomUUID()
    await this.db.insert(principal).values({ id, kind: 'candidate', name, createdAt: this.now })
    if (address) {
      await this.db.insert(contact).values({ id: randomUUID(), principalId: id, channel: 'email', address, provedAt: this.now })
    }
    return { id, kind: 'candidate', name, roles: [], venues: [] }
  }

  async fill(): Promise<void> {
    for (const [place, member] of members.entries()) {
      const [roles = '', which] = member.split('/')
      const name = `the ${roles.split(',').join(' and ')}${which === 'a' ? '' : ' beside'}`
      await this.db.insert(principal).values({ id: memberId(place), kind: 'staff', name, createdAt: this.now })
      await this.db.insert(staff).values({ id: memberId(place), signInName: `member${place}`, roles: roles.split(',') })
    }
  }

  /**
   * A complete draft with files that were measured before: quick, for tests that look at other things. Owned by a candidate where one is
   * given.
   */
  async begin(owner?: Principal): Promise<string> {
    const id = randomUUID()
    await registerApplication(owner ? this.by(owner) : this.as(), this.cycle, id)
    return id
  }

  async complete(owner?: Principal): Promise<string> {
    const id = await this.begin(owner)
    await saveAnswers(owner ? this.by(owner) : this.as(), id, { revision: 0, changes: sampleAnswers })
    await this.addFiles(id)
    return id
  }

  /** All files that an application needs, as if they had been measured: none is drawn, which takes two seconds. */
  async addFiles(id: string): Promise<void> {
    await this.db.insert(file).values({ sha256: drawn, bytes: 5, content: Buffer.from('drawn') }).onConflictDoNothing()
    const { answers } = await readApplication(this.db, id)
    const papers = documentsAsked(this.notice, answers).filter(slot => slot.required).map(slot => slot.id)
    await this.db.insert(image).values(['photograph', 'signature', ...papers].map(kind => ({
      id: randomUUID(),
      applicationId: id,
      kind,
      version: 1,
      sha256: drawn,
      state: 'measured' as const,
      displaySha256: drawn,
      format: 'jpeg',
      width: 420,
      height: 540,
      findings: [],
      by: this.as().principal.id,
      at: this.now,
    })))
    const context = await this.context()
    await settleMatters(this.db, context, await readApplication(this.db, id), this.notice)
  }

  /** A complete draft brought to a point of the flow. */
  async at(point: 'drafting' | 'scrutiny' | 'accepted'): Promise<string> {
    const id = await this.complete()
    if (point === 'drafting') return id
    await this.act(id, 'submit', { revision: 1, declared: true })
    await this.settle(id)
    if (point === 'accepted') await this.act(id, 'accept')
    return id
  }

  /** Carries out an act by its name, as the officer or somebody else. */
  act(id: string, act: NamedAct, input: Record<string, unknown> = {}, who: Caller = this.as()): ReturnType<typeof performAct> {
    // Whoever hands in for a test has read what there is to read.
    const texts = act === 'submit' ? { texts: textsOnPaper(this.notice) } : {}
    return performAct(who, act, id, { ...texts, ...input })
  }

  /** Publishes a run before the close, with a reason. */
  publish(runId: string): Promise<Published> {
    return publishRun(this.as(), runId, early)
  }

  /** Issues a card before cards go out, with a reason. */
  issue(id: string): Promise<'issued' | 'withheld'> {
    return issueCard(this.as(), id, early)
  }

  async draft(change: Answers = {}): Promise<string> {
    const id = randomUUID()
    await registerApplication(this.as(), this.cycle, id)
    await saveAnswers(this.as(), id, { revision: 0, changes: { ...sampleAnswers, ...change } })
    return id
  }

  /** Adds a picture as the officer, measured in this thread without a look for faces. */
  addPicture(id: string, kind: ImageKind, bytes: Uint8Array): Promise<ImageView> {
    return addImage(this.as(), inspectorWith(), id, kind, { bytes })
  }

  /** Adds a clean scan for every document that the answers ask for, that must be there and is not. */
  async addPapers(id: string): Promise<void> {
    const { answers, files } = await this.dossier(id)
    for (const slot of documentsAsked(this.notice, answers)) {
      if (slot.required && !files[slot.id]) await addImage(this.as(), inspectorWith(), id, slot.id, { bytes: await cleanScan() })
    }
  }

  async addPictures(id: string, seed = 5): Promise<void> {
    await this.addPicture(id, 'photograph', await drawPortrait(new Random(seed), 'none'))
    await this.addPicture(id, 'signature', await drawSignature(new Random(seed), 'none'))
    await this.addPapers(id)
  }

  /** A submitted form; its pictures are drawn only where a seed for them is given. */
  async submitted(change: Answers = {}, seed?: number): Promise<string> {
    const id = await this.draft(change)
    await (seed === undefined ? this.addFiles(id) : this.addPictures(id, seed))
    const { revision } = await this.dossier(id)
    await this.act(id, 'submit', { revision, declared: true })
    return id
  }

  async paid(change: Answers = {}, seed?: number): Promise<string> {
    return this.settle(await this.submitted(change, seed))
  }

  /** Pays what is due at the gateway. */
  async settle(id: string): Promise<string> {
    const { order } = await openPayment(this.as(), this.gateway, id)
    for (const event of await this.gateway.act(order, 'pay')) await receiveGatewayEvent(this.product, this.gateway, event)
    return id
  }

  async accepted(change: Answers = {}, seed?: number): Promise<string> {
    const id = await this.paid(change, seed)
    await this.act(id, 'accept', {}, this.as('scrutineer'))
    return id
  }

  /** Runs the allocation in this thread. */
  run(request: z.input<typeof runRequestSchema> = {}): Promise<{ runId: string, serial: number }> {
    return runAllocation(this.as(), this.cycle, runRequestSchema.parse(request), solveHere)
  }

  dossier(id: string): Promise<Dossier> {
    return readDossier(this.as(), id)
  }

  pass(minutes: number): void {
    this.now = new Date(this.now.getTime() + minutes * 60_000)
  }

  async close(): Promise<void> {
    for (const other of this.others.values()) await other.close()
    await this.end()
  }
}

/** Opens an office on a fresh copy of the template database that `npm test` names; `change` is what its notice says otherwise. */
export async function openOffice(change: Record<string, unknown> = {}): Promise<Office> {
  useOfficeKey(Buffer.alloc(32, 11))
  forgetNotices()
  const name = `lucid_test_${randomBytes(6).toString('hex')}`
  const source = new URL(testDatabase().owner).pathname.slice(1)
  const admin = new pg.Client({ connectionString: testDatabase('postgres').superuser })
  await admin.connect()
  // Copies of one template are made one after the other.
  await admin.query('select pg_advisory_lock(7003)')
  await admin.query(`create database ${name} template ${source} owner lucid_owner`)
  await admin.query('select pg_advisory_unlock(7003)')
  // Rights on the whole of a database are not copied with it.
  await admin.query(`revoke temporary on database ${name} from public`)
  const urls = testDatabase(name)
  const handle = openDatabase(urls.application)
  const office = new Office(handle.db, urls, async () => {
    await handle.close()
    await admin.query(`drop database if exists ${name} with (force)`)
    await admin.end()
  })
  await office.fill()
  await putNotice(office.as(), { ...demoNotice(testNow) as object, ...change })
  return office
}

/** A queue that only notes the ids of the work that was put into it. */
export function queueTo(sent: string[]): PgBoss {
  return { send: (_: string, { jobId }: { jobId: string }) => Promise.resolve(void sent.push(jobId)) } as unknown as PgBoss
}
