import { createHash } from 'node:crypto'
import { and, eq } from 'drizzle-orm'
import { readNotice } from '../../../core/notice/check'
import type { Notice } from '../../../core/notice/schema'
import { ProblemError } from '../../../shared/problem'
import type { Executor } from '../../database/client'
import { cycle, noticeVersion } from '../../database/schema'
import { audit, demand, type Context } from '../context'

/** Opens a cycle with a notice, or puts a new version of it in force. The same document again changes nothing. */
export async function putNotice(context: Context, json: unknown): Promise<{ code: string, version: number }> {
  const { notice, faults } = readNotice(json)
  if (!notice) {
    throw new ProblemError('bad-input', `The notice has ${faults.length} faults; the first: ${faults[0]?.at}: ${faults[0]?.message}.`, faults)
  }
  const sha256 = createHash('sha256').update(JSON.stringify(notice)).digest('hex')
  return context.db.transaction(async (tx) => {
    await tx.insert(cycle).values({ code: notice.code, noticeVersion: 0 }).onConflictDoNothing()
    const [row] = await tx.select().from(cycle).where(eq(cycle.code, notice.code)).for('update')
    const current = row?.noticeVersion ?? 0
    const [old] = await tx.select().from(noticeVersion).where(and(eq(noticeVersion.cycle, notice.code), eq(noticeVersion.version, current)))
    if (old?.sha256 === sha256) return { code: notice.code, version: current }
    const version = current + 1
    await tx.insert(noticeVersion).values({ cycle: notice.code, version, document: notice, sha256, createdAt: context.now() })
    await tx.update(cycle).set({ noticeVersion: version }).where(eq(cycle.code, notice.code))
    await audit(tx, context, 'put notice in force', `cycle:${notice.code}`, { version: current }, { version, sha256 })
    return { code: notice.code, version }
  })
}

export interface CurrentNotice { notice: Notice, version: number }

// A document never changes, so one once read may be kept by its hash; which is in force is asked each time.
const readDocuments = new Map<string, Notice>()

/** The notice in force for a cycle. */
export async function currentNotice(db: Executor, code: string): Promise<CurrentNotice> {
  const inForce = and(eq(noticeVersion.cycle, cycle.code), eq(noticeVersion.version, cycle.noticeVersion))
  const [row] = await db.select({ version: cycle.noticeVersion, sha256: noticeVersion.sha256 }).from(cycle)
    .innerJoin(noticeVersion, inForce).where(eq(cycle.code, code))
  if (!row) throw new ProblemError('not-found', `There is no cycle "${code}".`)
  const kept = readDocuments.get(row.sha256)
  if (kept) return { notice: kept, version: row.version }
  const [found] = await db.select().from(noticeVersion).where(and(eq(noticeVersion.cycle, code), eq(noticeVersion.version, row.version)))
  if (!found) throw new ProblemError('not-found', `Version ${row.version} of the notice "${code}" is missing.`)
  readDocuments.set(row.sha256, found.document)
  return { notice: found.document, version: row.version }
}

/** The notice of a cycle for a screen. */
export async function showNotice(context: Context, code: string): Promise<CurrentNotice> {
  demand(context, 'read')
  return currentNotice(context.db, code)
}

/** Code and title of every cycle. */
export async function listCycles(context: Context): Promise<{ code: string, title: string }[]> {
  demand(context, 'read')
  const rows = await context.db.select({ code: cycle.code, document: noticeVersion.document }).from(cycle)
    .innerJoin(noticeVersion, and(eq(noticeVersion.cycle, cycle.code), eq(noticeVersion.version, cycle.noticeVersion)))
  return rows.map(r => ({ code: r.code, title: r.document.title }))
}
