import { randomUUID } from 'node:crypto'
import { eq } from 'drizzle-orm'
import { listAnswer, textAnswer, type Answers } from '../core/application/answers'
import { documentsAsked } from '../core/application/slots'
import type { Notice } from '../core/notice/schema'
import { spellAnswer } from '../core/words/en/answers'
import type { Database } from '../server/database/client'
import { application } from '../server/database/schema'
import { principalOf } from '../server/services/people/sign-in'
import { accountOf } from '../server/services/candidates/codes'
import { registerApplication } from '../server/services/applications/begin'
import { saveAnswers } from '../server/services/applications/answers'
import { submitApplication, withdrawApplication } from '../server/services/applications/form'
import { textsOnPaper } from '../server/services/applications/texts'
import { Caller } from '../server/services/context'
import { openPayment } from '../server/services/fees/payments'
import { receiveGatewayEvent } from '../server/services/fees/events'
import { addImage } from '../server/services/images/store'
import type { Inspector } from '../pictures/inspect'
import { acceptApplication, refuseApplication, returnApplication } from '../server/services/scrutiny/decisions'
import { decideRequest } from '../server/services/scrutiny/requests'
import { product, type Principal } from '../core/access/principal'
import type { GatewayStandin } from '../server/standins/gateway'
import { ProblemError } from '../shared/problem'
import { makePerson } from './people'
import { drawCertificate, drawIdentityPage, drawScan, scanFaults, scanPage } from './documents'
import { drawPortrait, portraitFaults, type PortraitFault } from './portraits'
import { drawSignature, signatureFaults, type SignatureFault } from './signatures'
import { Random } from './random'

/** How far one made-up person has come. */
export type Stage =
  | 'drafting'
  | 'fee due'
  | 'fee failed'
  | 'silent'
  | 'in scrutiny'
  | 'returned'
  | 'refused'
  | 'withdrawn'
  | 'accepted'
  | 'seated'

export interface Loader {
  db: Database
  notice: Notice
  gateway: GatewayStandin
  now: Date
  inspect: Inspector
  scrutineer: Principal
}

/**
 * Places in the list of people who have applied already, as the one before them: in scrutiny, so that somebody has to say whether they are
 * one.
 */
const appliedTwice = [112, 131, 150]

function onceMore(notice: Notice, index: number): Answers {
  const random = new Random(7919 * (index + 1))
  // The moment at which that person began was drawn before.
  random.next()
  const { answers } = makePerson(random, notice, index)
  const name = textAnswer(answers, 'certificateName')
  return {
    ...answers,
    certificateName: index % 2 === 1 ? name.split(' ').reverse().join(' ') : name,
    mobile: `5550200${index}`,
    email: `again${index}@post.example`,
  }
}

export async function loadPerson(loader: Loader, stage: Stage, index: number): Promise<void> {
  const random = new Random(7919 * (index + 1))
  const { db, notice, now } = loader
  // People of the cycle that is over began early, drafts lately.
  const start = hoursBefore(
    now,
    stage === 'seated' ? random.between(200, 400) : stage === 'drafting' ? random.between(1, 60) : random.between(40, 190),
  )
  let moment = start
  const step = (hours: number): Caller => {
    moment = new Date(Math.min(now.getTime() - 60_000, moment.getTime() + hours * 3_600_000))
    return at(db, moment)
  }
  const id = randomUUID()
  const person = appliedTwice.includes(index)
    ? { ...makePerson(random, notice, index), answers: onceMore(notice, index - 1) }
    : makePerson(random, notice, index)
  const answers = stage === 'drafting'
    ? Object.fromEntries(Object.entries(person.answers).slice(0, random.whole(4, 20)))
    : { ...person.answers, ...askedFor(person.answers, stage, index) }
  const owner = index % onPaper === 0 ? product : await openAccount(at(db, start), person.answers)
  const mine = (hours: number) => step(hours).as(owner)
  await registerApplication(at(db, start).as(owner), notice.code, id)
  await saveAnswers(mine(0.2), id, { revision: 0, changes: answers })
  const photograph = await addPictures(mine(0.1), loader.inspect, id, random, stage, index)
  if (stage !== 'drafting' || index % 8 === 1) {
    await addPapers(mine(0.05), loader, id, new Random(index + 61), answers, photograph, stage, index)
  }
  if (stage === 'drafting') return
  if (stage === 'withdrawn') return void await withdrawApplication(mine(5), id, { reason: 'Took up a post elsewhere.' })
  await submitApplication(mine(random.between(0.2, 20)), id, { revision: 1, declared: true, texts: textsOnPaper(notice) })
  if (stage === 'fee due') return
  if (!await settleFee(loader, step, id, stage)) return
  if (stage !== 'in scrutiny') await decideCase(step(random.between(2, 20)).as(loader.scrutineer), id, stage, index)
}

/** One of so many hands a paper form in, and has no account. */
const onPaper = 6

/** An account that is opened with the e-mail address in the answers. */
async function openAccount(caller: Caller, answers: Answers): Promise<Principal> {
  const context = await caller.authorise('clock.act')
  return await principalOf(context.db, await accountOf(context.db, context, 'email', textAnswer(answers, 'email'))) ?? product
}

/** What some ask for besides a seat; in scrutiny that waits for the office. */
function askedFor(answers: Answers, stage: Stage, index: number): Answers {
  if (stage !== 'in scrutiny' && stage !== 'accepted') return {}
  if (answers.pwd === 'yes') return { moreTime: 'yes', ...index % 2 === 0 ? { scribe: 'yes', scribeName: 'Tovo Menari' } : {} }
  return stage === 'in scrutiny' && listAnswer(answers, 'posts').includes('lighthouse-keeper') && index % 9 === 4
    ? { ageException: 'yes', exceptionWhy: 'Kept the light of Ottrevik for three years as a deputy.' }
    : {}
}

async function addPictures(caller: Caller, inspect: Inspector, id: string, random: Random, stage: Stage, index: number): Promise<Buffer> {
  const faulty = stage === 'in scrutiny' || stage === 'returned' || stage === 'drafting' || stage === 'refused'
  const portrait: PortraitFault = faulty && (index % 3 === 0 || stage === 'returned')
    ? portraitFaults[1 + Math.floor(index / (stage === 'returned' ? 1 : 3)) % (portraitFaults.length - 1)] ?? 'none'
    : 'none'
  const signature: SignatureFault = faulty && index % 7 === 3
    ? signatureFaults[1 + Math.floor(index / 7) % (signatureFaults.length - 1)] ?? 'none'
    : 'none'
  const seed = random.whole(0, 2 ** 31)
  const [photographBytes, signatureBytes] = await Promise.all([drawPortrait(new Random(seed), portrait),
    drawSignature(new Random(index + 31), signature)])
  // Papers show people as they are, whatever is wrong with the photograph they sent.
  const face = portrait === 'none' ? photographBytes : await drawPortrait(new Random(seed), 'none')
  if (stage === 'drafting' && index % 2 === 0) return face
  await addImage(caller, inspect, id, 'photograph', { bytes: photographBytes })
  if (stage !== 'drafting' || index % 4 === 1) await addImage(caller, inspect, id, 'signature', { bytes: signatureBytes })
  return face
}

/** The papers that the answers ask for: mostly clean, of people in scrutiny some with a fault. */
async function addPapers(
  caller: Caller,
  { notice, inspect }: Loader,
  id: string,
  random: Random,
  answers: Answers,
  photograph: Buffer,
  stage: Stage,
  index: number,
): Promise<void> {
  const holder = {
    name: textAnswer(answers, 'identityName'),
    number: textAnswer(answers, 'identityNumber'),
    bornOn: textAnswer(answers, 'bornOn'),
  }
  const fault = stage === 'in scrutiny' && index % 4 === 1
    ? scanFaults[1 + Math.floor(index / 4) % (scanFaults.length - 1)] ?? 'none'
    : 'none'
  for (const { id: document, title, identity, required } of documentsAsked(notice, answers)) {
    if (!required) continue
    const paper = identity
      ? await drawIdentityPage(photograph, spellAnswer(notice, 'identityKind', answers.identityKind), holder)
      : await drawCertificate(random, title, holder)
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
  if (stage === 'returned') {
    await returnApplication(caller, id, [{
      item: 'photograph',
      reason: 'The picture does not meet the rules named in the margin. Send a new one.',
    }], {})
  } else if (stage === 'refused') {
    await refuseApplication(caller, id, [{
      item: 'category',
      reason: `Certificate ${index} was not issued by a district office; clause 2.3.`,
    }], {})
  } else {
    for (const request of ['scribe', 'more-time']) {
      await decideRequest(caller, id, { request, word: 'granted' }, { reason: 'The certificate of the district physician says so.' })
        .catch(unlessNone)
    }
    await acceptApplication(caller, id, [], {})
  }
}

function unlessNone(error: unknown): void {
  if (!(error instanceof ProblemError) || error.problem.code !== 'request.none') throw error
}

export function hoursBefore(now: Date, hours: number): Date {
  return new Date(now.getTime() - hours * 3_600_000)
}

export function at(db: Database, moment: Date): Caller {
  return new Caller(db, product, { now: () => moment, requestId: 'demo' })
}
