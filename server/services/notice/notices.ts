import { createHash } from 'node:crypto'
import { and, eq, max } from 'drizzle-orm'
import { readNotice } from '../../../core/notice/check'
import type { Notice } from '../../../core/notice/schema'
import { ProblemError } from '../../../shared/problem'
import type { Executor } from '../../database/client'
import { cycle, noticeVersion } from '../../database/schema'
import { audit, demand, type Context } from '../context'

/** Opens a cycle with a notice, or puts a new version of it in force at once. The same document again changes nothing. */
export async function putNotice(context: Context, json: unknown): Promise<{ code: string, version: number }> {
  const notice = soundNotice(json)
  return context.db.transaction(tx => putInForce(tx, context, notice))
}

async function putInForce(tx: Executor, context: Context, notice: Notice): Promise<{ code: string, version: number }> {
  await tx.insert(cycle).values({ code: notice.code, noticeVersion: 0 }).onConflictDoNothing()
  const written = await writeVersion(tx, context, notice)
  if (written.isInForce) return { code: notice.code, version: written.version }
  await tx.update(cycle).set({ noticeVersion: written.version }).where(eq(cycle.code, notice.code))
  await audit(tx, context, 'put notice in force', `cycle:${notice.code}`, { version: written.current }, { version: written.version, sha256: written.sha256 })
  return { code: notice.code, version: written.version }
}

/** A room that was found for a venue: one seat a person in each session. */
export interface NewRoom { city: string, venue: string, title: string, seats: number, accessibleSeats: number }

/** Adds a room to a venue: a new version of the notice, in force at once, since it changes nothing for anybody's eligibility. */
export async function addRoom(context: Context, code: string, room: NewRoom): Promise<{ code: string, version: number }> {
  demand(context, 'notice.amend')
  return context.db.transaction(async (tx) => {
    // The cycle's row is held, so that of two rooms added at once none is lost.
    await tx.select().from(cycle).where(eq(cycle.code, code)).for('update')
    const notice = structuredClone((await currentNotice(tx, code)).notice)
    const venue = notice.cities.find(c => c.id === room.city)?.venues.find(v => v.id === room.venue)
    if (!venue) throw new ProblemError('bad-input', `The notice names no venue "${room.venue}" in "${room.city}". Nothing was changed.`)
    if (venue.rooms.some(r => r.title === room.title)) throw new ProblemError('conflict', `${venue.title} has a "${room.title}" already. Give the new room another name; nothing was changed.`)
    venue.rooms.push({ id: `${venue.id}-${venue.rooms.length + 1}`, title: room.title, seats: room.seats, accessibleSeats: room.accessibleSeats })
    return putInForce(tx, context, soundNotice(notice))
  })
}

/** Lays down an amended notice as a version that is not in force; a review shows what it would change. */
export async function proposeNotice(tx: Executor, context: Context, code: string, json: unknown): Promise<number> {
  demand(context, 'notice.amend')
  const notice = soundNotice(json)
  if (notice.code !== code) throw new ProblemError('bad-input', `The file is the notice of ${notice.code}, not of ${code}. Nothing was changed.`)
  const written = await writeVersion(tx, context, notice)
  if (written.isInForce) throw new ProblemError('bad-input', `The file is the notice in force (version ${written.version}) without a change. Nothing was done.`)
  await audit(tx, context, 'propose notice', `cycle:${code}`, { version: written.current }, { version: written.version, sha256: written.sha256 })
  return written.version
}

function soundNotice(json: unknown): Notice {
  const { notice, faults } = readNotice(json)
  if (notice) return notice
  const shown = faults.slice(0, 5).map(f => `${f.at}: ${f.message}`).join('; ')
  throw new ProblemError('bad-input', `The notice has ${faults.length} ${faults.length === 1 ? 'fault' : 'faults'}: ${shown}${faults.length > 5 ? '; and more' : ''}. Nothing was changed.`, faults)
}

// Versions count from 1 over all that were ever laid down, in force or not.
async function writeVersion(tx: Executor, context: Context, notice: Notice): Promise<{ version: number, current: number, sha256: string, isInForce: boolean }> {
  const sha256 = createHash('sha256').update(JSON.stringify(notice)).digest('hex')
  const [row] = await tx.select().from(cycle).where(eq(cycle.code, notice.code)).for('update')
  const current = row?.noticeVersion ?? 0
  const [old] = await tx.select().from(noticeVersion).where(and(eq(noticeVersion.cycle, notice.code), eq(noticeVersion.version, current)))
  if (old?.sha256 === sha256) return { version: current, current, sha256, isInForce: true }
  const [last] = await tx.select({ version: max(noticeVersion.version) }).from(noticeVersion).where(eq(noticeVersion.cycle, notice.code))
  const version = (last?.version ?? 0) + 1
  await tx.insert(noticeVersion).values({ cycle: notice.code, version, document: notice, sha256, createdAt: context.now() })
  return { version, current, sha256, isInForce: false }
}

export interface CurrentNotice { notice: Notice, version: number }

// A document never changes, so one once read may be kept by its hash; which is in force is asked each time.
const readDocuments = new Map<string, Notice>()

/** The notice in force for a cycle. */
export async function currentNotice(db: Executor, code: string): Promise<CurrentNotice> {
  const [row] = await db.select({ version: cycle.noticeVersion }).from(cycle).where(eq(cycle.code, code))
  if (!row) throw new ProblemError('not-found', `There is no cycle "${code}".`)
  return { notice: await noticeOfVersion(db, code, row.version), version: row.version }
}

/** One version of a cycle's notice, in force or not. */
export async function noticeOfVersion(db: Executor, code: string, version: number): Promise<Notice> {
  const which = and(eq(noticeVersion.cycle, code), eq(noticeVersion.version, version))
  const [row] = await db.select({ sha256: noticeVersion.sha256 }).from(noticeVersion).where(which)
  if (!row) throw new ProblemError('not-found', `Version ${version} of the notice "${code}" is missing.`)
  const kept = readDocuments.get(row.sha256)
  if (kept) return kept
  const [found] = await db.select().from(noticeVersion).where(which)
  if (!found) throw new ProblemError('not-found', `Version ${version} of the notice "${code}" is missing.`)
  readDocuments.set(row.sha256, found.document)
  return found.document
}

/** What one version changes in the clauses of the posts against another, a line for each. */
export function amendmentsBetween(before: Notice, after: Notice): string[] {
  const clauses = (notice: Notice) => new Map(notice.posts.flatMap(post => post.clauses.map(c => [`${post.title}, clause ${c.clause}`, c])))
  const [old, fresh] = [clauses(before), clauses(after)]
  return [
    ...[...fresh].filter(([place]) => !old.has(place)).map(([place, c]) => `${place} is new: ${c.text}`),
    ...[...fresh].filter(([place, c]) => old.has(place) && JSON.stringify(old.get(place)) !== JSON.stringify(c)).map(([place, c]) => `${place} now reads: ${c.text}`),
    ...[...old].filter(([place]) => !fresh.has(place)).map(([place]) => `${place} is gone`),
  ]
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
    .innerJoin(noticeVersion, and(eq(noticeVersion.cycle, cycle.code), eq(noticeVersion.version, cycle.noticeVersion))).orderBy(cycle.code)
  return rows.map(r => ({ code: r.code, title: r.document.title }))
}
