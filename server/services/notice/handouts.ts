import { and, asc, desc, eq, isNull } from 'drizzle-orm'
import { may } from '../../../core/access/permissions'
import { isPdf } from '../../../core/documents/container'
import type { HandoutView } from '../../../shared/notice'
import { refusal } from '../../../shared/refusal'
import { cycle, handout } from '../../database/schema'
import { log, type Caller } from '../context'
import { bringFile, keepFile, readFile } from '../files/bytes'
import { namesOf } from '../people/names'

/** Files to read beside a notice: a brochure, a syllabus, a model paper. Anybody may read those that are laid out. */

export const handoutAtMostMegabytes = 20

/** The files to read of a cycle by title, the newest version first. The office sees earlier ones, too, and who laid them out. */
export async function listHandouts(caller: Caller, cycleCode: string): Promise<HandoutView[]> {
  const { db, principal } = await caller.authorise('examinations.read', { cycle: cycleCode })
  const isOffice = may(principal, 'notice.read')
  const rows = await db.select().from(handout).where(eq(handout.cycle, cycleCode)).orderBy(asc(handout.title), desc(handout.version))
    .limit(500)
  const name = isOffice ? await namesOf(db, rows.map(row => row.by)) : () => ''
  const newest = new Map(rows.filter(row => row.takenOutAt === null).reverse().map(row => [row.title, row.id]))
  const all = rows.map(({ id, title, version, bytes, by, at, takenOutAt }) => ({
    id,
    title,
    version,
    bytes,
    by: name(by),
    at: at.toISOString(),
    isLaidOut: takenOutAt === null && newest.get(title) === id,
  }))
  return isOffice ? all : all.filter(one => one.isLaidOut)
}

/**
 * Lays a PDF out to be read; under a title that is there already it is the next version, and the one before is not shown any more.
 *
 * @throws ProblemError `handout.kind` for what is no PDF, `handout.same` for the very file that is laid out already.
 */
export async function addHandout(
  caller: Caller,
  cycleCode: string,
  title: string,
  bytes: Buffer,
): Promise<{ id: string, version: number }> {
  const context = await caller.authorise('notice.amend', { cycle: cycleCode })
  if (!isPdf(bytes)) throw refusal('handout.kind')
  const brought = await bringFile(context.db, bytes)
  return context.db.transaction(async (tx) => {
    const [held] = await tx.select({ code: cycle.code }).from(cycle).where(eq(cycle.code, cycleCode)).for('update')
    if (!held) throw refusal('cycle.unknown', { cycle: cycleCode })
    const [last] = await tx.select().from(handout).where(and(eq(handout.cycle, cycleCode), eq(handout.title, title)))
      .orderBy(desc(handout.version)).limit(1)
    if (last && last.takenOutAt === null && last.sha256 === brought.sha256) throw refusal('handout.same', { title, version: last.version })
    const [id, version] = [context.newId(), (last?.version ?? 0) + 1]
    await tx.insert(handout).values({
      id,
      cycle: cycleCode,
      title,
      version,
      sha256: await keepFile(tx, brought),
      bytes: bytes.length,
      by: context.principal.id,
      at: context.now(),
    })
    await log(tx, context, 'add-handout', {
      subject: { kind: 'cycle', id: cycleCode },
      cycle: cycleCode,
      after: { title, version, bytes: bytes.length, sha256: brought.sha256 },
    })
    return { id, version }
  })
}

/** Takes a file away with all its versions: nobody reads it any more, and it stays for the record. */
export async function takeOutHandout(caller: Caller, cycleCode: string, id: string): Promise<void> {
  const context = await caller.authorise('notice.amend', { cycle: cycleCode })
  await context.db.transaction(async (tx) => {
    const [row] = await tx.select().from(handout).where(and(eq(handout.id, id), eq(handout.cycle, cycleCode)))
    if (!row) throw refusal('handout.unknown')
    const out = await tx.update(handout).set({ takenOutBy: context.principal.id, takenOutAt: context.now() })
      .where(and(eq(handout.cycle, cycleCode), eq(handout.title, row.title), isNull(handout.takenOutAt))).returning({ id: handout.id })
    if (out.length === 0) return
    await log(tx, context, 'take-out-handout', {
      subject: { kind: 'cycle', id: cycleCode },
      cycle: cycleCode,
      after: { title: row.title, version: row.version },
    })
  })
}

/** One file to read. What is not laid out any more only the office may read. */
export async function readHandout(caller: Caller, cycleCode: string, id: string): Promise<{ name: string, pdf: Buffer }> {
  const { db } = await caller.authorise('examinations.read', { cycle: cycleCode })
  const isShown = (await listHandouts(caller, cycleCode)).some(one => one.id === id)
  const [row] = await db.select().from(handout).where(and(eq(handout.id, id), eq(handout.cycle, cycleCode)))
  if (!row || !isShown) throw refusal('handout.unknown')
  return {
    name: `${cycleCode}-${row.title.replaceAll(/[^A-Za-z0-9]+/g, '-').toLowerCase()}-${row.version}.pdf`,
    pdf: await readFile(db, row.sha256),
  }
}
