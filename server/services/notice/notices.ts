import { createHash } from 'node:crypto'
import { and, eq, max, sql } from 'drizzle-orm'
import { parseNotice, readNotice } from '../../../core/notice/check'
import { noticeFormat } from '../../../core/notice/formats'
import type { Notice } from '../../../core/notice/schema'
import { refusal } from '../../../shared/problem'
import type { Executor } from '../../database/client'
import { cycle, noticeVersion } from '../../database/schema'
import { log, type Caller, type Context } from '../context'

/** Opens a cycle with a notice, or puts a new version of it in force at once. The same document again changes nothing. */
export async function putNotice(caller: Caller, json: unknown): Promise<{ code: string, version: number }> {
  const context = await caller.authorise('notice.amend')
  const notice = soundNotice(json)
  return context.db.transaction(tx => putInForce(tx, context, notice))
}

/** Opens a cycle with its first notice. A cycle that is there already is amended in another way: by a proposal that is reviewed first. */
export async function openCycle(caller: Caller, json: unknown): Promise<{ code: string, version: number }> {
  const context = await caller.authorise('notice.amend')
  const notice = soundNotice(json)
  return context.db.transaction(async (tx) => {
    const [there] = await tx.select().from(cycle).where(eq(cycle.code, notice.code))
    if (there) throw refusal('cycle.exists', { cycle: notice.code })
    return putInForce(tx, context, notice)
  })
}

async function putInForce(tx: Executor, context: Context, notice: Notice): Promise<{ code: string, version: number }> {
  await tx.insert(cycle).values({ code: notice.code, noticeVersion: 0 }).onConflictDoNothing()
  const written = await writeVersion(tx, context, notice)
  if (written.isInForce) return { code: notice.code, version: written.version }
  await tx.update(cycle).set({ noticeVersion: written.version }).where(eq(cycle.code, notice.code))
  await log(tx, context, 'put-notice', { subject: { kind: 'cycle', id: notice.code }, cycle: notice.code, before: { version: written.current }, after: { version: written.version, sha256: written.sha256 } })
  return { code: notice.code, version: written.version }
}

/** A room that was found for a venue: one seat a person in each session. */
export interface NewRoom { city: string, venue: string, title: string, seats: number, accessibleSeats: number }

/** Adds a room to a venue: a new version of the notice, in force at once, since it changes nothing for anybody's eligibility. */
export async function addRoom(caller: Caller, code: string, room: NewRoom): Promise<{ code: string, version: number }> {
  const context = await caller.authorise('notice.amend')
  return context.db.transaction(async (tx) => {
    // The cycle's row is held, so that of two rooms added at once none is lost.
    await tx.select().from(cycle).where(eq(cycle.code, code)).for('update')
    const notice = structuredClone((await currentNotice(tx, code)).notice)
    const venue = notice.cities.find(c => c.id === room.city)?.venues.find(v => v.id === room.venue)
    if (!venue) throw refusal('notice.venue-unknown', { venue: room.venue, city: room.city })
    if (venue.rooms.some(r => r.title === room.title)) throw refusal('notice.room-exists', { venue: venue.title, room: room.title })
    venue.rooms.push({ id: `${venue.id}-${venue.rooms.length + 1}`, title: room.title, seats: room.seats, accessibleSeats: room.accessibleSeats })
    return putInForce(tx, context, soundNotice(notice))
  })
}

/** Lays down an amended notice as a version that is not in force; a review shows what it would change. */
export async function proposeNotice(tx: Executor, context: Context, code: string, json: unknown): Promise<number> {
  const notice = soundNotice(json)
  if (notice.code !== code) throw refusal('notice.other-cycle', { found: notice.code, wanted: code })
  const written = await writeVersion(tx, context, notice)
  if (written.isInForce) throw refusal('notice.unchanged', { version: written.version })
  await log(tx, context, 'propose-notice', { subject: { kind: 'cycle', id: code }, cycle: code, before: { version: written.current }, after: { version: written.version, sha256: written.sha256 } })
  return written.version
}

function soundNotice(json: unknown, read = readNotice): Notice {
  const { notice, faults, newerFormat } = read(json)
  if (notice) return notice
  if (newerFormat !== undefined) throw refusal('notice.newer-format', { format: newerFormat, known: noticeFormat })
  const shown = faults.slice(0, 5).map(f => `${f.at}: ${f.message}`).join('; ')
  throw refusal('notice.faults', { count: faults.length, shown, more: faults.length > 5 ? 'yes' : 'no' }, faults)
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
  if (!row) throw refusal('cycle.unknown', { cycle: code })
  return { notice: await noticeOfVersion(db, code, row.version), version: row.version }
}

/** One version of a cycle's notice, in force or not. */
export async function noticeOfVersion(db: Executor, code: string, version: number): Promise<Notice> {
  const which = and(eq(noticeVersion.cycle, code), eq(noticeVersion.version, version))
  const [row] = await db.select({ sha256: noticeVersion.sha256 }).from(noticeVersion).where(which)
  if (!row) throw refusal('notice.version-unknown', { cycle: code, version })
  const kept = readDocuments.get(row.sha256)
  if (kept) return kept
  const [found] = await db.select().from(noticeVersion).where(which)
  if (!found) throw refusal('notice.version-unknown', { cycle: code, version })
  const notice = soundNotice(found.document, parseNotice)
  readDocuments.set(row.sha256, notice)
  return notice
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
export async function showNotice(caller: Caller, code: string): Promise<CurrentNotice> {
  const { db } = await caller.authorise('notice.read')
  return currentNotice(db, code)
}

/** Code and title of every cycle. */
export async function listCycles(caller: Caller): Promise<{ code: string, title: string }[]> {
  const { db } = await caller.authorise('cycles.read')
  const rows = await db.select({ code: cycle.code, title: sql<string>`${noticeVersion.document} ->> 'title'` }).from(cycle)
    .innerJoin(noticeVersion, and(eq(noticeVersion.cycle, cycle.code), eq(noticeVersion.version, cycle.noticeVersion))).orderBy(cycle.code)
  return rows
}
