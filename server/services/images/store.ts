import { and, asc, desc, eq, lt, sql } from 'drizzle-orm'
import { decisionsThatHold } from '../../../core/application/requests'
import { mayFollow, slotOf, slotsOf, type Slot } from '../../../core/application/slots'
import { isPdf } from '../../../core/documents/container'
import { pagesAtMost } from '../../../core/documents/document'
import type { Edit } from '../../../core/imaging/fit'
import { faceKeys } from '../../../core/imaging/face-likeness'
import { bandKeys } from '../../../core/imaging/likeness'
import type { Notice } from '../../../core/notice/schema'
import { checkBytes, checkContainer } from '../../../pictures/door'
import { LookEnded, LookWaits, type Inspection, type Inspector } from '../../../pictures/inspect'
import type { ImageView } from '../../../shared/applications'
import { ProblemError } from '../../../shared/problem'
import { refusal } from '../../../shared/refusal'
import { alone, type Executor } from '../../database/client'
import { application, faceLikeness, image, imageLikeness } from '../../database/schema'
import { carryOut } from '../acts/carry-out'
import type { Given } from '../acts/given'
import { settleMatters } from '../acts/matters'
import { refuseBeforeFee, refuseClosed } from '../applications/answers'
import { refuseBeforeTexts } from '../applications/texts'
import { decidedAnswers, lockApplication } from '../applications/store'
import { refuseClosedFile } from '../corrections/open'
import { filesOfCorrection, openCorrectionOf } from '../corrections/store'
import { log, type Caller, type Context } from '../context'
import { bringFile, keepFile, readFile } from '../files/bytes'
import { currentNotice } from '../notice/notices'
import { namesOf } from '../people/names'
import { countTry } from '../people/pace'
import { currentImages, type ImageRow } from './current'
import { imageView, isDocument, subjectOf, viewOf } from './views'

/** Looks at one file before it is left to people; one that ended the look counts for two. */
const attemptsAtMost = 4

/** What came with an upload: what was done to the file before. */
export interface Upload {
  bytes: Uint8Array
  edits?: Edit[]
  given?: Given
  /** It is put forward by the correction that is being written. */
  forCorrection?: boolean
  /** A sender brings it, who keeps on paper what the candidate accepts. */
  isSent?: boolean
}

/**
 * Takes a new version of an image or a document and measures it. It is kept first, so that nothing sent is lost when the process ends;
 * earlier versions stay. The same bytes as the current version change nothing, so that a repeated upload is harmless.
 *
 * @throws ProblemError in words when it cannot be taken; the one before stays the current one.
 */
export async function addImage(
  caller: Caller,
  inspect: Inspector,
  applicationId: string,
  kind: string,
  upload: Upload,
): Promise<ImageView> {
  const context = await caller.authorise('applications.write', { application: applicationId })
  await refuseTooMany(context)
  const kept = await keepImage(caller, context, applicationId, kind, upload)
  if (kept.measured) return kept
  try {
    return await measure(context, inspect, kept.id)
  } catch (error) {
    // Kept and not measured: whichever process looks for such files next will do it.
    if (error instanceof ProblemError) throw error
    console.error(JSON.stringify({
      level: 'warn',
      requestId: context.requestId,
      what: 'file not measured yet',
      image: kept.id,
      message: error instanceof Error ? error.message : 'unknown',
    }))
    return kept
  }
}

/** Files that a candidate may send at once, and after how many seconds another: many try a picture ten times, nobody five hundred times. */
const filesOfAnAccount = { free: 60, forget: 20, most: 120 }

async function refuseTooMany(context: Context): Promise<void> {
  const { kind, id } = context.principal
  if (kind === 'candidate') await countTry(context, [{ key: `files:${id}`, ...filesOfAnAccount }])
}

/** Takes a file as `addImage` does, and leaves measuring it to whichever process looks for such files next: for many at once. */
export async function keepForLater(caller: Caller, applicationId: string, kind: string, upload: Upload): Promise<ImageView> {
  return keepImage(caller, await caller.authorise('applications.write', { application: applicationId }), applicationId, kind, {
    ...upload,
    isSent: true,
  })
}

async function keepImage(
  caller: Caller,
  { db, now }: Context,
  applicationId: string,
  kind: string,
  { bytes, edits = [], given = {}, forCorrection = false, isSent = false }: Upload,
): Promise<ImageView> {
  const facts = factsAtTheDoor(bytes)
  const brought = await bringFile(db, bytes)
  const act = forCorrection
    ? 'add-to-correction' as const
    : await isLate(db, applicationId, kind, now())
    ? 'add-late-file' as const
    : 'add-file' as const
  const carried = await carryOut<ImageView>(caller, act, applicationId, given, async (acting) => {
    const { tx, context, row, notice } = acting
    const asked = forCorrection ? await openCorrectionOf(tx, applicationId) : null
    // Where a picture is wanted a PDF is refused as what is no picture.
    if (wantedSlot(notice, kind).as === 'image') checkContainer(bytes)
    const sha256 = await keepFile(tx, brought)
    const before = (asked ? await filesOfCorrection(tx, asked) : await currentImages(tx, applicationId))[kind]
    const name = await namesOf(tx, [before?.by, context.principal.id])
    if (before?.sha256 === sha256) return { result: imageView(before, bytes.length, name), isRepeated: true }
    if (asked) refuseClosedFile(acting, kind, given)
    else {
      refuseClosed(row, notice, [kind])
      refuseBeforeFee(row, notice, [kind])
      if (!isSent) refuseBeforeTexts(row, notice)
    }
    const version = await nextVersion(tx, applicationId, kind)
    const [made] = await tx.insert(image).values({
      id: context.newId(),
      applicationId,
      kind,
      version,
      sha256,
      state: 'waiting',
      edits,
      format: facts.format,
      width: facts.width,
      height: facts.height,
      findings: [],
      correctionId: asked?.id ?? null,
      by: context.principal.id,
      at: context.now(),
    }).returning()
    if (!made) throw refusal('file.not-kept')
    return {
      result: imageView(made, bytes.length, name),
      columns: asked ? {} : { requests: decisionsThatHold(notice, row.answers, row.requests, [kind]) },
      before: before ? { version: before.version, sha256: before.sha256 } : null,
      after: { slot: kind, version, sha256, bytes: bytes.length, edits: edits.map(edit => edit.kind) },
    }
  })
  if (!carried.isDone) throw refusal('file.not-kept')
  return carried.result
}

/** Whether a file is a paper that may follow, and comes after the form was handed in. */
async function isLate(db: Executor, applicationId: string, kind: string, at: Date): Promise<boolean> {
  const [row] = await db.select({
    form: application.form,
    cycle: application.cycle,
    answers: application.answers,
    requests: application.requests,
  }).from(application).where(eq(application.id, applicationId))
  if (row?.form !== 'submitted') return false
  const { notice } = await currentNotice(db, row.cycle)
  return slotsOf(notice, decidedAnswers(notice, row)).some(slot => slot.id === kind && mayFollow(slot, at))
}

function wantedSlot(notice: Notice, id: string): Slot {
  const slot = slotOf(notice, id)
  if (!slot) throw refusal('file.slot-unknown', { notice: notice.code, slot: id.slice(0, 60) })
  return slot
}

/** What the bytes say at once; the pages of a PDF are found when it is measured. */
export function factsAtTheDoor(bytes: Uint8Array): { format: string, width: number, height: number } {
  if (!isPdf(bytes)) return checkContainer(bytes)
  checkBytes(bytes)
  return { format: 'pdf', width: 0, height: 0 }
}

/** Refused ones count, too: a version's number is never given twice. */
async function nextVersion(tx: Executor, applicationId: string, kind: string): Promise<number> {
  const [newest] = await tx.select({ version: image.version }).from(image)
    .where(and(eq(image.applicationId, applicationId), eq(image.kind, kind))).orderBy(desc(image.version)).limit(1)
  return (newest?.version ?? 0) + 1
}

/**
 * Measures an image or document that is kept. Any process may, as often as it likes: the first that ends writes, and the others find it
 * done. One that fails over and over is left to people.
 *
 * @throws ProblemError when it cannot be taken after all; it is then refused and never counts. Anything else may be tried again.
 */
export async function measureKept(caller: Caller, inspect: Inspector, imageId: string): Promise<ImageView> {
  return measure(await caller.authorise('clock.act'), inspect, imageId)
}

/**
 * Measures files that were kept a while ago and that nobody got round to, a few at a time. Those that ended a look come after all others,
 * so that nobody waits behind them, and one that fails keeps no other from its turn.
 */
export async function measureWaiting(caller: Caller, inspect: Inspector, limit = 20): Promise<number> {
  const context = await caller.authorise('clock.act')
  const before = new Date(context.now().getTime() - 15_000)
  const waiting = await context.db.select({ id: image.id }).from(image).where(and(eq(image.state, 'waiting'), lt(image.at, before)))
    .orderBy(asc(image.attempts), asc(image.at)).limit(limit)
  const lane = async () => {
    for (let next = waiting.shift(); next; next = waiting.shift()) {
      const { id } = next
      await alone(context.db, `file:${id}`, () =>
        measure(context, inspect, id).catch((error: unknown) => {
          // A refusal in words is kept with the file; anything else is tried again.
          if (error instanceof ProblemError || error instanceof LookWaits) return
          console.error(JSON.stringify({
            level: 'warn',
            what: 'file not measured',
            image: id,
            message: error instanceof Error ? error.message : 'unknown',
          }))
        }))
    }
  }
  const found = waiting.length
  await Promise.all([lane(), lane()])
  return found
}

async function measure(context: Context, inspect: Inspector, imageId: string): Promise<ImageView> {
  const [row] = await context.db.update(image).set({ attempts: sql`${image.attempts} + 1` })
    .where(and(eq(image.id, imageId), eq(image.state, 'waiting'))).returning()
  if (!row) return viewOf(context.db, imageId)
  const [owner] = await context.db.select({ cycle: application.cycle }).from(application).where(eq(application.id, row.applicationId))
  if (!owner) throw refusal('application.no-owner')
  const slot = wantedSlot((await currentNotice(context.db, owner.cycle)).notice, row.kind)
  const bytes = await readFile(context.db, row.sha256)
  const leave = (looks: number) =>
    settle(context, row, owner.cycle, {
      findings: [{
        code: `${slot.as === 'image' ? slot.id : 'document'}.unmeasured`,
        about: row.kind,
        verdict: 'unsure',
        value: null,
        unit: 'none',
        bound: null,
        parameters: { attempts: looks },
      }],
      marks: [],
    })
  if (row.attempts > attemptsAtMost) return leave(attemptsAtMost)
  try {
    return await settle(context, row, owner.cycle, await inspect(bytes, slot))
  } catch (error) {
    const ended = error instanceof LookEnded
    if (ended && row.attempts >= 3) return leave(2)
    // A look that did not begin is none.
    if (ended || error instanceof LookWaits) {
      await context.db.update(image).set({ attempts: sql`${image.attempts} + ${ended ? 1 : -1}` }).where(eq(image.id, row.id))
    }
    if (!(error instanceof ProblemError)) throw error
    await context.db.transaction(async (tx) => {
      await tx.update(image).set({ state: 'refused' }).where(and(eq(image.id, row.id), eq(image.state, 'waiting')))
      await log(tx, context, 'refuse-file', {
        subject: { kind: 'application', id: row.applicationId },
        cycle: owner.cycle,
        after: { slot: row.kind, version: row.version, why: error.problem.code },
      })
      await resettle(tx, context, row.applicationId)
    })
    throw error
  }
}

type Settled = Pick<Inspection, 'findings' | 'marks'> & Partial<Pick<Inspection, 'copies' | 'facts' | 'likeness'>>

async function settle(
  context: Context,
  row: ImageRow,
  cycle: string,
  { findings, marks, facts, copies = [], likeness }: Settled,
): Promise<ImageView> {
  const brought = await Promise
    .all(copies.map(async ({ jpeg, width, height }) => ({ file: await bringFile(context.db, jpeg), width, height })))
  await context.db.transaction(async (tx) => {
    const kept: ImageRow['pages'] = []
    for (const { file: copy, width, height } of brought) kept.push({ sha256: await keepFile(tx, copy), width, height })
    const shown = isDocument(row) ? { pages: kept } : { displaySha256: kept[0]?.sha256 }
    const size = facts && { width: facts.width, height: facts.height }
    const done = await tx.update(image).set({ state: 'measured', findings, marks, ...size, ...shown })
      .where(and(eq(image.id, row.id), eq(image.state, 'waiting'))).returning({ id: image.id })
    if (done.length === 0) return
    if (likeness) {
      const { face, ...same } = likeness
      await tx.insert(imageLikeness).values({ imageId: row.id, cycle, kind: row.kind, ...same, keys: bandKeys(same.hash) })
      if (face) await tx.insert(faceLikeness).values({ imageId: row.id, cycle, signs: face, keys: faceKeys(face) })
    }
    await log(tx, context, 'measure-file', {
      subject: { kind: 'application', id: row.applicationId },
      cycle,
      after: { slot: row.kind, version: row.version, failed: findings.filter(f => f.verdict === 'fail').map(f => f.code) },
    })
    await resettle(tx, context, row.applicationId)
  })
  return viewOf(context.db, row.id)
}

/** Open matters follow what was measured. */
async function resettle(tx: Executor, context: Context, applicationId: string): Promise<void> {
  const row = await lockApplication(tx, applicationId)
  await settleMatters(tx, context, row, (await currentNotice(tx, row.cycle)).notice)
}

/**
 * Keeps a file from which an image or document was made, beside it: of an image the first, of a document one for each of its pages at most.
 */
export async function keepOriginal(caller: Caller, imageId: string, bytes: Uint8Array): Promise<void> {
  const context = await caller.authorise('applications.write', await subjectOf(caller, imageId))
  await refuseTooMany(context)
  factsAtTheDoor(bytes)
  const brought = await bringFile(context.db, bytes)
  await context.db.transaction(async (tx) => {
    const [row] = await tx.select().from(image).where(eq(image.id, imageId)).for('update')
    if (!row) throw refusal('file.unknown')
    if (row.edits.length === 0) throw refusal('file.own-original')
    const sha256 = await keepFile(tx, brought)
    if (row.originals.includes(sha256)) return
    if (row.originals.length >= (isDocument(row) ? pagesAtMost : 1)) throw refusal('file.originals-kept')
    await tx.update(image).set({ originals: [...row.originals, sha256] }).where(eq(image.id, imageId))
  })
}

/** Refuses who may not add to a file before anything of theirs is taken. */
export async function refuseForeignImage(caller: Caller, imageId: string): Promise<void> {
  await caller.authorise('applications.write', await subjectOf(caller, imageId))
}
