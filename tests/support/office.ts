import { randomBytes, randomUUID } from 'node:crypto'
import pg from 'pg'
import { sampleAnswers, sampleNotice, testNow } from './sample'
import type { Answers } from '../../core/application/answers'
import type { ImageKind, Notice } from '../../core/notice/schema'
import { drawPortrait } from '../../demo/portraits'
import { documentsAsked } from '../../core/application/slots'
import { drawCertificate, scanPage } from '../../demo/documents'
import { drawSignature } from '../../demo/signatures'
import { demoNotice } from '../../demo/notice'
import { Random } from '../../demo/random'
import { openDatabase, type Database } from '../../server/database/client'
import { readDossier } from '../../server/services/applications/dossier'
import { registerApplication, saveAnswers, submitApplication } from '../../server/services/applications/intake'
import type { Context } from '../../server/services/context'
import { openPayment, receiveGatewayEvent } from '../../server/services/fees/payments'
import { addImage } from '../../server/services/images/store'
import { putNotice } from '../../server/services/notice/notices'
import { decide } from '../../server/services/scrutiny/decisions'
import { GatewayStandin } from '../../server/standins/gateway'
import { runAllocation } from '../../server/services/centres/runs'
import { solveHere } from '../../server/services/centres/solver'
import { runRequestSchema } from '../../shared/centres'
import type { z } from 'zod'
import type { Role } from '../../shared/roles'
import { inspectorWith } from '../../pictures/inspect'
import type { Dossier, ImageView } from '../../shared/applications'

let scan: Promise<Buffer> | null = null
/** A scanned page without a fault, the same for all: what it says is none of the tests' business. */
function cleanScan(): Promise<Buffer> {
  return scan ??= drawCertificate(new Random(8), 'Paper of the tests', { name: 'Tavirel Osk-Anundé', number: 'SB4471923', bornOn: '15 June 2004' }).then(pdf => scanPage(new Random(8), pdf, 'none', 130))
}

/** A registration office with a database of its own, whose clock the test moves. */
export class Office {
  now = testNow
  readonly cycle = 'HL27'
  readonly notice: Notice = sampleNotice()
  readonly gateway: GatewayStandin

  constructor(readonly db: Database, readonly url: string, private readonly end: () => Promise<void>) {
    this.gateway = new GatewayStandin(db, 'a secret of the tests', () => this.now)
  }

  /** The context of somebody with some roles, by default the officer. */
  as(...roles: Role[]): Context {
    const held = roles.length > 0 ? roles : ['officer' as const]
    return { db: this.db, actor: { id: held.join('-'), name: `the ${held.join(' and ')}`, roles: held }, now: () => this.now, newId: randomUUID, requestId: 'test' }
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

  /** Adds a clean scan for every document that the answers ask for and that must be there. */
  async addPapers(id: string): Promise<void> {
    const { answers } = await this.dossier(id)
    for (const slot of documentsAsked(this.notice, answers)) if (slot.required) await addImage(this.as(), inspectorWith(), id, slot.id, { bytes: await cleanScan() })
  }

  async addPictures(id: string, seed = 5): Promise<void> {
    await this.addPicture(id, 'photograph', await drawPortrait(new Random(seed), 'none'))
    await this.addPicture(id, 'signature', await drawSignature(new Random(seed), 'none'))
    await this.addPapers(id)
  }

  async submitted(change: Answers = {}, seed = 5): Promise<string> {
    const id = await this.draft(change)
    await this.addPictures(id, seed)
    const { revision } = await this.dossier(id)
    await submitApplication(this.as(), id, { revision, declared: true })
    return id
  }

  async paid(change: Answers = {}, seed = 5): Promise<string> {
    const id = await this.submitted(change, seed)
    const { order } = await openPayment(this.as(), this.gateway, id)
    for (const event of await this.gateway.act(order, 'pay')) await receiveGatewayEvent(this.as(), this.gateway, event)
    return id
  }

  async accepted(change: Answers = {}, seed = 5): Promise<string> {
    const id = await this.paid(change, seed)
    await decide(this.as('scrutineer'), id, { decision: 'accept', reasons: [] })
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

  close(): Promise<void> {
    return this.end()
  }
}

/** Opens an office on a fresh copy of the template database that `npm test` names. */
export async function openOffice(): Promise<Office> {
  const template = process.env.LUCID_TEST_DATABASE
  if (!template) throw new Error('LUCID_TEST_DATABASE is not set: run these tests with "npm test -- unit"')
  const name = `lucid_test_${randomBytes(6).toString('hex')}`
  const url = new URL(template)
  const source = url.pathname.slice(1)
  url.pathname = '/postgres'
  const admin = new pg.Client({ connectionString: url.href })
  await admin.connect()
  // Copies of one template are made one after the other.
  await admin.query('select pg_advisory_lock(7003)')
  await admin.query(`create database ${name} template ${source}`)
  await admin.query('select pg_advisory_unlock(7003)')
  url.pathname = `/${name}`
  const handle = openDatabase(url.href)
  const office = new Office(handle.db, url.href, async () => {
    await handle.close()
    await admin.query(`drop database if exists ${name} with (force)`)
    await admin.end()
  })
  await putNotice(office.as(), demoNotice(testNow))
  return office
}
