import { createHash } from 'node:crypto'
import { and, desc, eq, ne, sql } from 'drizzle-orm'
import { slotOf, type Slot } from '../../../core/application/slots'
import { isPdf } from '../../../core/documents/container'
import { pagesAtMost } from '../../../core/documents/document'
import type { Edit } from '../../../core/imaging/fit'
import { faceKeys } from '../../../core/imaging/face-likeness'
import { bandKeys } from '../../../core/imaging/likeness'
import { imageKinds, type Notice } from '../../../core/notice/schema'
import { checkBytes, checkContainer } from '../../../pictures/door'
import type { Inspection, Inspector } from '../../../pictures/inspect'
import type { ImageView } from '../../../shared/applications'
import { ProblemError } from '../../../shared/problem'
import type { Executor } from '../../database/client'
import { application, faceLikeness, file, image, imageLikeness } from '../../database/schema'
import { audit, demand, type Context } from '../context'
import { lockApplication } from '../applications/store'
import { currentNotice } from '../notice/notices'

export type ImageRow = typeof image.$inferSelect

/** Looks at one file before it is left to people. */
const attemptsAtMost = 4

/** What came with an upload: what was done to the file before. */
export interface Upload { bytes: Uint8Array, edits?: Edit[] }

/**
 * Takes a new version of an image or a document and measures it. It is kept first, so that nothing sent is lost when the process ends; earlier
 * versions stay. The same bytes as the current version change nothing, so that a repeated upload is harmless.
 *
 * @param later asks the queue to measure what is kept, should this process not get there.
 * @throws ProblemError in words when it cannot be taken; the one before stays the current one.
 */
export async function addImage(context: Context, inspect: Inspector, applicationId: string, kind: string, upload: Upload, later?: (imageId: string) => Promise<unknown>): Promise<ImageView> {
  const kept = await keepImage(context, applicationId, kind, upload)
  if (kept.measured) return kept
  await later?.(kept.id)
  try {
    return await measureKept(context, inspect, kept.id)
  } catch (error) {
    if (error instanceof ProblemError || !later) throw error
    console.error(JSON.stringify({ level: 'warn', requestId: context.requestId, what: 'file not measured yet', image: kept.id, message: error instanceof Error ? error.message : 'unknown' }))
    return kept
  }
}

async function keepImage(context: Context, applicationId: string, kind: string, { bytes, edits = [] }: Upload): Promise<ImageView> {
  const actor = demand(context, 'intake.write')
  const facts = factsAtTheDoor(bytes)
  return context.db.transaction(async (tx) => {
    const row = await lockApplication(tx, applicationId)
    if (row.form !== 'drafting' && row.form !== 'correcting') {
      throw new ProblemError('not-now', `${row.number} is ${row.form}: its images and documents are frozen. Return it for correction to open them. Nothing was changed.`)
    }
    const { notice } = await currentNotice(tx, row.cycle)
    // Where a picture is wanted a PDF is refused as what is no picture.
    if (wantedSlot(notice, kind).as === 'image') checkContainer(bytes)
    const sha256 = await keepFile(tx, bytes)
    const before = (await currentImages(tx, applicationId))[kind]
    if (before?.sha256 === sha256) return imageView(before, bytes.length)
    const version = await nextVersion(tx, applicationId, kind)
    const [made] = await tx.insert(image).values({
      id: context.newId(), applicationId, kind, version, sha256, state: 'waiting', edits,
      format: facts.format, width: facts.width, height: facts.height, findings: [], by: actor.name, at: context.now(),
    }).returning()
    if (!made) throw new ProblemError('fault', 'The file could not be kept. Add it again.')
    await audit(tx, context, `add ${kind}`, `application:${row.number}`, before ? { version: before.version, sha256: before.sha256 } : null,
      { version, sha256, bytes: bytes.length, edits: edits.map(edit => edit.kind) })
    return imageView(made, bytes.length)
  })
}

function wantedSlot(notice: Notice, id: string): Slot {
  const slot = slotOf(notice, id)
  if (!slot) throw new ProblemError('not-found', `The notice ${notice.code} asks for nothing called "${id.slice(0, 60)}". Load the page anew; nothing was changed.`)
  return slot
}

/** What the bytes say at once; the pages of a PDF are found when it is measured. */
function factsAtTheDoor(bytes: Uint8Array): { format: string, width: number, height: number } {
  if (!isPdf(bytes)) return checkContainer(bytes)
  checkBytes(bytes)
  return { format: 'pdf', width: 0, height: 0 }
}

/** Refused ones count, too: a version's number is never given twice. */
async function nextVersion(tx: Executor, applicationId: string, kind: string): Promise<number> {
  const [newest] = await tx.select({ version: image.version }).from(image).where(and(eq(image.applicationId, applicationId), eq(image.kind, kind))).orderBy(desc(image.version)).limit(1)
  return (newest?.version ?? 0) + 1
}

/**
 * Measures an image or document that is kept. Any process may, as often as it likes: the first that ends writes, and the others find it done.
 * One that fails over and over is left to people.
 *
 * @throws ProblemError when it cannot be taken after all; it is then refused and never counts. Anything else may be tried again.
 */
export async function measureKept(context: Context, inspect: Inspector, imageId: string): Promise<ImageView> {
  const [row] = await context.db.update(image).set({ attempts: sql`${image.attempts} + 1` }).where(and(eq(image.id, imageId), eq(image.state, 'waiting'))).returning()
  if (!row) return readImage(context, imageId)
  const [owner] = await context.db.select({ number: application.number, cycle: application.cycle }).from(application).where(eq(application.id, row.applicationId))
  if (!owner) throw new ProblemError('not-found', 'The application of this file is gone.')
  const slot = wantedSlot((await currentNotice(context.db, owner.cycle)).notice, row.kind)
  const bytes = await readFile(context.db, row.sha256)
  if (row.attempts > attemptsAtMost) {
    return settle(context, row, owner, { findings: [{ code: `${slot.as === 'image' ? slot.id : 'document'}.unmeasured`, about: row.kind, verdict: 'unsure', value: null, unit: 'none', bound: null, parameters: { attempts: attemptsAtMost } }], marks: [] })
  }
  try {
    return await settle(context, row, owner, await inspect(bytes, slot))
  } catch (error) {
    if (!(error instanceof ProblemError)) throw error
    await context.db.transaction(async (tx) => {
      await tx.update(image).set({ state: 'refused' }).where(and(eq(image.id, row.id), eq(image.state, 'waiting')))
      await audit(tx, context, `refuse ${row.kind}`, `application:${owner.number}`, null, { version: row.version, why: error.problem.message })
    })
    throw error
  }
}

type Settled = Pick<Inspection, 'findings' | 'marks'> & Partial<Pick<Inspection, 'copies' | 'facts' | 'likeness'>>

async function settle(context: Context, row: ImageRow, { number, cycle }: { number: string, cycle: string }, { findings, marks, facts, copies = [], likeness }: Settled): Promise<ImageView> {
  await context.db.transaction(async (tx) => {
    const kept: ImageRow['pages'] = []
    for (const { jpeg, width, height } of copies) kept.push({ sha256: await keepFile(tx, jpeg), width, height })
    const shown = isDocument(row) ? { pages: kept } : { displaySha256: kept[0]?.sha256 }
    const size = facts && { width: facts.width, height: facts.height }
    const done = await tx.update(image).set({ state: 'measured', findings, marks, ...size, ...shown }).where(and(eq(image.id, row.id), eq(image.state, 'waiting'))).returning({ id: image.id })
    if (done.length === 0) return
    if (likeness) {
      const { face, ...same } = likeness
      await tx.insert(imageLikeness).values({ imageId: row.id, cycle, kind: row.kind, ...same, keys: bandKeys(same.hash) })
      if (face) await tx.insert(faceLikeness).values({ imageId: row.id, cycle, signs: face, keys: faceKeys(face) })
    }
    await audit(tx, context, `measure ${row.kind}`, `application:${number}`, null, { version: row.version, failed: findings.filter(f => f.verdict === 'fail').map(f => f.code) })
  })
  return readImage(context, row.id)
}

/** Keeps a file from which an image or document was made, beside it: of an image the first, of a document one for each of its pages at most. */
export async function keepOriginal(context: Context, imageId: string, bytes: Uint8Array): Promise<void> {
  demand(context, 'intake.write')
  factsAtTheDoor(bytes)
  await context.db.transaction(async (tx) => {
    const [row] = await tx.select().from(image).where(eq(image.id, imageId)).for('update')
    if (!row) throw new ProblemError('not-found', 'There is no such image or document.')
    if (row.edits.length === 0) throw new ProblemError('not-now', 'This file was sent as it was chosen: it is its own original.')
    const sha256 = await keepFile(tx, bytes)
    if (row.originals.includes(sha256)) return
    if (row.originals.length >= (isDocument(row) ? pagesAtMost : 1)) throw new ProblemError('not-now', 'All files that this one was made of are kept already.')
    await tx.update(image).set({ originals: [...row.originals, sha256] }).where(eq(image.id, imageId))
  })
}

const isDocument = ({ kind }: ImageRow) => !imageKinds.some(one => one === kind)

async function keepFile(tx: Executor, content: Uint8Array): Promise<string> {
  const sha256 = createHash('sha256').update(content).digest('hex')
  await tx.insert(file).values({ sha256, bytes: content.length, content: Buffer.from(content) }).onConflictDoNothing()
  return sha256
}

const newestFirst = [image.kind, desc(image.version)] as const
const counting = (applicationId: string) => and(eq(image.applicationId, applicationId), ne(image.state, 'refused'))

/** The newest version in each slot of an application; refused ones never count. */
export async function currentImages(tx: Executor, applicationId: string): Promise<Partial<Record<string, ImageRow>>> {
  const rows = await tx.selectDistinctOn([image.kind]).from(image).where(counting(applicationId)).orderBy(...newestFirst)
  return Object.fromEntries(rows.map(row => [row.kind, row]))
}

/** Views of the newest version in each slot, with the size of the original files. */
export async function imageViews(tx: Executor, applicationId: string): Promise<Partial<Record<string, ImageView>>> {
  const rows = await tx.selectDistinctOn([image.kind], { image, bytes: file.bytes }).from(image).innerJoin(file, eq(file.sha256, image.sha256))
    .where(counting(applicationId)).orderBy(...newestFirst)
  return Object.fromEntries(rows.map(row => [row.image.kind, imageView(row.image, row.bytes)]))
}

const withBytes = (tx: Executor) => tx.select({ image, bytes: file.bytes }).from(image).innerJoin(file, eq(file.sha256, image.sha256))

/** One version of an image or document. */
export async function readImage(context: Context, imageId: string): Promise<ImageView> {
  demand(context, 'read')
  const [row] = await withBytes(context.db).where(eq(image.id, imageId))
  if (!row) throw new ProblemError('not-found', 'There is no such image or document.')
  return imageView(row.image, row.bytes)
}

/** All versions in one slot that were measured, the newest first. */
export async function imageVersions(context: Context, applicationId: string, kind: string): Promise<ImageView[]> {
  demand(context, 'read')
  const rows = await withBytes(context.db)
    .where(and(eq(image.applicationId, applicationId), eq(image.kind, kind), eq(image.state, 'measured'))).orderBy(desc(image.version))
  return rows.map(row => imageView(row.image, row.bytes))
}

function imageView(row: ImageRow, bytes: number): ImageView {
  const { id, kind, version, format, width, height, findings, marks, by, edits, pages } = row
  return { id, kind, version, format, bytes, width, height, findings, marks, by, edits, pages: pages.map(({ width: w, height: h }) => ({ width: w, height: h })), originals: row.originals.length, at: row.at.toISOString(), measured: row.state === 'measured' }
}

/** The upright copy of one version of an image, or of one page of a document, as JPEG. Pages count from 1. */
export async function displayImage(context: Context, imageId: string, page = 1): Promise<Buffer> {
  demand(context, 'read')
  const [row] = await context.db.select({ picture: image.displaySha256, pages: image.pages }).from(image).where(eq(image.id, imageId))
  const sha256 = row?.pages[page - 1]?.sha256 ?? (page === 1 ? row?.picture : null)
  if (!sha256) throw new ProblemError('not-found', 'There is no such image or page, or no copy of it that can be shown.')
  return readFile(context.db, sha256)
}

/** Bytes of a stored file by hash. */
export async function readFile(tx: Executor, sha256: string): Promise<Buffer> {
  const [row] = await tx.select({ content: file.content }).from(file).where(eq(file.sha256, sha256))
  if (!row) throw new ProblemError('not-found', `The file ${sha256.slice(0, 12)} is not in the store.`)
  return row.content
}
