import { and, asc, desc, eq, isNull, ne, sql, type SQL } from 'drizzle-orm'
import { imageKinds } from '../../../core/notice/image-rules'
import type { ImageView } from '../../../shared/applications'
import { refusal } from '../../../shared/refusal'
import type { Executor } from '../../database/client'
import { asked } from '../../database/kept-statements'
import { application, file, image, principal, staff } from '../../database/schema'
import { asJson } from '../../database/together'
import { log, type Caller, type Context } from '../context'
import { readFile } from '../files/bytes'
import { namesOf, shownName, type NameOf } from '../people/names'
import { counting, type ImageRow } from './current'

/** What a view tells besides the row of its image. */
interface SeenBeside extends Record<string, unknown> {
  id: string
  bytes: number
  by: string
}

/** The same of all images of one application, as a column of a statement that reads more of it. */
export const seenBeside: SQL = asJson(sql`
  select ${image.id}, ${file.bytes}, coalesce(${shownName}, '–') as by from ${image} join ${file} on ${file.sha256} = ${image.sha256}
    left join ${principal} on ${principal.id} = ${image.by} left join ${staff} on ${staff.id} = ${principal.id} where ${
  counting(asked.id)
}`)

/** Views of images whose rows were read, by slot, with what that column gave. */
export function viewsOf(images: Partial<Record<string, ImageRow>>, beside: readonly SeenBeside[]): Partial<Record<string, ImageView>> {
  const seen = new Map(beside.map(one => [one.id, one]))
  return Object.fromEntries(Object.entries(images).flatMap(([slot, row]) => {
    const own = row && seen.get(row.id)
    return own ? [[slot, imageView(row, own.bytes, () => own.by)]] : []
  }))
}

/** Views of what a correction puts forward, papers of proof with it. */
export async function viewsOfCorrection(tx: Executor, correctionId: string): Promise<Partial<Record<string, ImageView>>> {
  const rows = await withBytes(tx).where(and(eq(image.correctionId, correctionId), ne(image.state, 'refused'))).orderBy(asc(image.version))
  const name = await namesOf(tx, rows.map(row => row.image.by))
  return Object.fromEntries(rows.map(row => [row.image.kind, imageView(row.image, row.bytes, name)]))
}

const withBytes = (tx: Executor) => tx.select({ image, bytes: file.bytes }).from(image).innerJoin(file, eq(file.sha256, image.sha256))

/** One version of an image or document. */
export async function readImage(caller: Caller, imageId: string): Promise<ImageView> {
  const { db } = await caller.authorise('files.read', await subjectOf(caller, imageId))
  return viewOf(db, imageId)
}

/** The same for whoever may read it already. */
export async function viewOf(db: Executor, imageId: string): Promise<ImageView> {
  const [row] = await withBytes(db).where(eq(image.id, imageId))
  if (!row) throw refusal('file.unknown')
  return imageView(row.image, row.bytes, await namesOf(db, [row.image.by]))
}

/** All versions in one slot that were measured, the newest first. */
export async function imageVersions(caller: Caller, applicationId: string, kind: string): Promise<ImageView[]> {
  const { db } = await caller.authorise('files.read', { application: applicationId })
  const rows = await withBytes(db)
    .where(and(eq(image.applicationId, applicationId), eq(image.kind, kind), eq(image.state, 'measured'), isNull(image.correctionId)))
    .orderBy(desc(image.version))
  const name = await namesOf(db, rows.map(row => row.image.by))
  return rows.map(row => imageView(row.image, row.bytes, name))
}

export function imageView(row: ImageRow, bytes: number, name: NameOf): ImageView {
  const { id, kind, version, format, width, height, findings, marks, edits } = row
  const pages = row.pages.map(({ width: w, height: h }) => ({ width: w, height: h }))
  return {
    id,
    kind,
    version,
    format,
    bytes,
    width,
    height,
    findings,
    marks,
    by: name(row.by),
    edits,
    pages,
    originals: row.originals.length,
    at: row.at.toISOString(),
    measured: row.state === 'measured',
  }
}

export const isDocument = ({ kind }: Pick<ImageRow, 'kind'>) => !imageKinds.some(one => one === kind)

/**
 * The upright copy of one version of an image, or of one page of a document, as JPEG. Pages count from 1. That somebody of the office read
 * a paper is recorded, once in ten minutes.
 */
export async function displayImage(caller: Caller, imageId: string, page = 1): Promise<Buffer> {
  const context = await caller.authorise('files.read', await subjectOf(caller, imageId))
  const [row] = await context.db.select({
    picture: image.displaySha256,
    pages: image.pages,
    kind: image.kind,
    version: image.version,
    applicationId: image.applicationId,
    cycle: application.cycle,
  }).from(image).innerJoin(application, eq(application.id, image.applicationId)).where(eq(image.id, imageId))
  if (row && isDocument(row) && context.principal.kind === 'staff') await recordReading(context, row)
  const sha256 = row?.pages[page - 1]?.sha256 ?? (page === 1 ? row?.picture : null)
  if (!sha256) throw refusal('file.no-copy')
  return readFile(context.db, sha256)
}

async function recordReading(
  context: Context,
  { applicationId, kind, version, cycle }: { applicationId: string, kind: string, version: number, cycle: string },
): Promise<void> {
  const { db, principal, now } = context
  const after = { slot: kind, version }
  const { rows } = await db
    .execute(sql`select 1 from audit_event where subject = ${applicationId} and act = 'read-paper' and actor = ${principal.id}::uuid
    and at > ${new Date(now().getTime() - 600_000).toISOString()}::timestamptz and after = ${JSON.stringify(after)}::jsonb limit 1`)
  if (rows.length === 0) await log(db, context, 'read-paper', { subject: { kind: 'application', id: applicationId }, cycle, after })
}

/** Whose an image is, for those who may only see their own. Nobody learns from it whether an image exists. */
export async function subjectOf(caller: Caller, imageId: string): Promise<{ application: string }> {
  const { db } = await caller.authorise('session.begin')
  const [row] = await db.select({ id: image.applicationId }).from(image).where(eq(image.id, imageId))
  return { application: row?.id ?? imageId }
}
