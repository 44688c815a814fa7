import { createHash } from 'node:crypto'
import { and, desc, eq } from 'drizzle-orm'
import { measureImage } from '../../../core/imaging/measure'
import type { ImageKind } from '../../../core/notice/schema'
import type { ImageView } from '../../../shared/applications'
import { ProblemError } from '../../../shared/problem'
import type { Executor } from '../../database/client'
import { file, image } from '../../database/schema'
import { audit, demand, type Context } from '../context'
import { lockApplication } from '../applications/store'
import { currentNotice } from '../notice/notices'
import { decodeImage } from './decode'

export type ImageRow = typeof image.$inferSelect

/**
 * Takes a new version of an image: decodes and measures the bytes, keeps the original and an upright copy. Earlier
 * versions stay. The same bytes as the current version change nothing, so that a repeated upload is harmless.
 */
export async function addImage(context: Context, applicationId: string, kind: ImageKind, bytes: Buffer): Promise<ImageView> {
  const actor = demand(context, 'intake.write')
  const decoded = await decodeImage(bytes)
  return context.db.transaction(async (tx) => {
    const row = await lockApplication(tx, applicationId)
    if (row.form !== 'drafting' && row.form !== 'correcting') {
      throw new ProblemError('not-now', `${row.number} is ${row.form}: its images are frozen. Return it for correction to open them. Nothing was changed.`)
    }
    const { notice } = await currentNotice(tx, row.cycle)
    const sha256 = await keepFile(tx, bytes)
    const before = (await currentImages(tx, applicationId))[kind]
    if (before?.sha256 === sha256) return imageView(before, bytes.length)
    const [made] = await tx.insert(image).values({
      id: context.newId(), applicationId, kind, version: (before?.version ?? 0) + 1, sha256, displaySha256: await keepFile(tx, decoded.display),
      format: decoded.facts.format, width: decoded.facts.width, height: decoded.facts.height,
      findings: measureImage(kind, decoded.facts, decoded.pixels, notice.images[kind]), by: actor.name, at: context.now(),
    }).returning()
    if (!made) throw new ProblemError('fault', 'The picture could not be kept. Add it again.')
    await audit(tx, context, `add ${kind}`, `application:${row.number}`, before ? { version: before.version, sha256: before.sha256 } : null,
      { version: made.version, sha256, bytes: bytes.length, failed: made.findings.filter(f => f.verdict === 'fail').map(f => f.code) })
    return imageView(made, bytes.length)
  })
}

async function keepFile(tx: Executor, content: Buffer): Promise<string> {
  const sha256 = createHash('sha256').update(content).digest('hex')
  await tx.insert(file).values({ sha256, bytes: content.length, content }).onConflictDoNothing()
  return sha256
}

/** The newest version of each image of an application. */
export async function currentImages(tx: Executor, applicationId: string): Promise<Partial<Record<ImageKind, ImageRow>>> {
  const rows = await tx.selectDistinctOn([image.kind]).from(image).where(eq(image.applicationId, applicationId)).orderBy(image.kind, desc(image.version))
  return Object.fromEntries(rows.map(row => [row.kind, row]))
}

/** Views of the newest images, with the size of the original files. */
export async function imageViews(tx: Executor, applicationId: string): Promise<Partial<Record<ImageKind, ImageView>>> {
  const rows = await tx.selectDistinctOn([image.kind], { image, bytes: file.bytes }).from(image).innerJoin(file, eq(file.sha256, image.sha256))
    .where(eq(image.applicationId, applicationId)).orderBy(image.kind, desc(image.version))
  return Object.fromEntries(rows.map(row => [row.image.kind, imageView(row.image, row.bytes)]))
}

function imageView(row: ImageRow, bytes: number): ImageView {
  return {
    id: row.id, kind: row.kind, version: row.version, format: row.format, bytes, width: row.width, height: row.height,
    findings: row.findings, at: row.at.toISOString(), by: row.by,
  }
}

/** The upright copy of one version of an image, as JPEG. */
export async function displayImage(context: Context, imageId: string): Promise<Buffer> {
  demand(context, 'read')
  const [row] = await context.db.select({ content: file.content }).from(image).innerJoin(file, eq(file.sha256, image.displaySha256)).where(and(eq(image.id, imageId)))
  if (!row) throw new ProblemError('not-found', 'There is no such image.')
  return row.content
}

/** Bytes of a stored file by hash. */
export async function readFile(tx: Executor, sha256: string): Promise<Buffer> {
  const [row] = await tx.select({ content: file.content }).from(file).where(eq(file.sha256, sha256))
  if (!row) throw new ProblemError('not-found', `The file ${sha256.slice(0, 12)} is not in the store.`)
  return row.content
}
