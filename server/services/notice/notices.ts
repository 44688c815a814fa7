import { createHash } from 'node:crypto'
import { and, eq, max, sql } from 'drizzle-orm'
import { may } from '../../../core/access/permissions'
import { describedCities, withoutCentres } from '../../../core/notice/centres'
import { noticeIn } from '../../../core/notice/languages'
import { parseNotice, parseNoticeFile, readableNotice, readNotice, type NoticeRead } from '../../../core/notice/check'
import { isError, type NoticeFinding } from '../../../core/notice/finding'
import { noticeFormat } from '../../../core/notice/formats'
import type { LogAct } from '../../../core/records/log'
import type { City } from '../../../core/notice/centre-schema'
import type { Notice } from '../../../core/notice/schema'
import type { Opening } from '../../../shared/notice'
import { refusal } from '../../../shared/refusal'
import type { Executor } from '../../database/client'
import { cycle, noticeInForce, noticeVersion, type FeesOfThoseIn } from '../../database/schema'
import { centresFor, centresOf, enterCentres } from '../centres/register'
import { log, type Caller, type Context } from '../context'

/** Opens a cycle with a notice, or puts a new version of it in force at once. The same document again changes nothing. */
export async function putNotice(caller: Caller, json: unknown): Promise<{ code: string, version: number }> {
  const context = await caller.authorise('notice.amend')
  return context.db.transaction(async tx => putInForce(tx, context, await soundNotice(tx, context, json)))
}

/**
 * Opens a cycle with its first notice. A cycle that is there already is amended in another way: by a proposal that is reviewed first.
 *
 * @throws ProblemError when the notice has errors, or warnings that no word was given for.
 */
export async function openCycle(caller: Caller, { notice: json, reason }: Opening): Promise<{ code: string, version: number }> {
  const context = await caller.authorise('notice.amend')
  return context.db.transaction(async (tx) => {
    const sound = await soundNotice(tx, context, json)
    const { code } = sound.notice
    const [there] = await tx.select().from(cycle).where(eq(cycle.code, code))
    if (there) throw refusal('cycle.exists', { cycle: code })
    if (sound.warnings.length > 0 && reason === undefined) {
      throw refusal('notice.warnings', { count: sound.warnings.length }, sound.warnings)
    }
    return putInForce(tx, context, sound, reason)
  })
}

async function putInForce(
  tx: Executor,
  context: Context,
  { notice, entering, warnings }: SoundNotice,
  reason?: string,
): Promise<{ code: string, version: number }> {
  await tx.insert(cycle).values({ code: notice.code, noticeVersion: 0 }).onConflictDoNothing()
  await enterCentres(tx, context, notice.code, entering)
  const written = await writeVersion(tx, context, notice)
  if (written.isInForce) return { code: notice.code, version: written.version }
  await letHold(tx, context, notice.code, written.version, { fees: 'anew', reason })
  await log(tx, context, 'put-notice', {
    subject: { kind: 'cycle', id: notice.code },
    cycle: notice.code,
    before: { version: written.current },
    after: { version: written.version, sha256: written.sha256, ...passed(warnings) },
    ...(reason === undefined ? {} : { reason }),
  })
  return { code: notice.code, version: written.version }
}

/** Lets a version hold from now on, in the transaction that holds the cycle's row. */
export async function letHold(
  tx: Executor,
  context: Context,
  code: string,
  version: number,
  { fees, reason = null }: { fees: FeesOfThoseIn, reason?: string | null },
): Promise<void> {
  await tx.update(cycle).set({ noticeVersion: version }).where(eq(cycle.code, code))
  await tx.insert(noticeInForce).values({ cycle: code, version, from: context.now(), fees, reason, by: context.principal.id })
}

/** Puts an amended notice in force at once, for acts that change nothing which a verdict or a fee hangs on. */
export async function amendAtOnce(
  tx: Executor,
  context: Context,
  json: unknown,
  { act, reason, before, after }: { act: LogAct, reason: string, before: unknown, after: object },
): Promise<{ version: number }> {
  const { notice, warnings } = await soundNotice(tx, context, json)
  const written = await writeVersion(tx, context, notice)
  await letHold(tx, context, notice.code, written.version, { fees: 'kept', reason })
  await log(tx, context, act, {
    subject: { kind: 'cycle', id: notice.code },
    cycle: notice.code,
    reason,
    before,
    after: { version: written.version, ...after, ...passed(warnings) },
  })
  return { version: written.version }
}

/**
 * Lays down an amended notice as a version that is not in force; a review shows what it would change. The reason is the officer's word for
 * its warnings, too.
 */
export async function proposeNotice(tx: Executor, context: Context, code: string, json: unknown, reason: string): Promise<number> {
  const { notice, entering, warnings } = await soundNotice(tx, context, json)
  if (notice.code !== code) throw refusal('notice.other-cycle', { found: notice.code, wanted: code })
  await enterCentres(tx, context, code, entering)
  const written = await writeVersion(tx, context, notice)
  if (written.isInForce) throw refusal('notice.unchanged', { version: written.version })
  await log(tx, context, 'propose-notice', {
    subject: { kind: 'cycle', id: code },
    cycle: code,
    before: { version: written.current },
    reason,
    after: { version: written.version, sha256: written.sha256, ...passed(warnings) },
  })
  return written.version
}

/** Warnings that somebody gave a word for, as the log keeps them. */
const passed = (warnings: readonly NoticeFinding[]) =>
  warnings.length > 0 ? { warnings: warnings.map(({ code, at }) => `${code} ${at}`) } : {}

/** A notice without errors, the cities that enter the register or the cycle with it, and what warns of it. */
interface SoundNotice {
  notice: Notice
  entering: City[]
  warnings: NoticeFinding[]
}

/** The notice of a file, checked against the register of centres. @throws ProblemError naming its errors. */
async function soundNotice(tx: Executor, context: Context, json: unknown): Promise<SoundNotice> {
  const { entering, ...read } = await readWithRegister(tx, json)
  const { noticeFindingWords, placeWords } = context.language.notices
  const words = (finding: NoticeFinding) => `${placeWords(json, finding.at)}: ${noticeFindingWords(readableNotice(json), finding)}`
  return { notice: noticeOf(read, words), entering, warnings: read.findings }
}

/**
 * The notice of a file, or what is wrong with it, its centres looked up in the register; with the cities that the cycle does not use yet,
 * or that the file describes.
 */
export async function readWithRegister(db: Executor, json: unknown): Promise<NoticeRead & { entering: City[] }> {
  const { file } = parseNoticeFile(json)
  // What is no notice yet may name cities all the same.
  if (!file) return { ...readNotice(json, await centresFor(db, '')), entering: [] }
  const [described, used, register] = [describedCities(file), await centresOf(db, file.code), await centresFor(db, file.code)]
  // What the cycle does not use yet it will use as the file describes it, however others use the same rooms.
  for (const { id, venues } of described) {
    const known = register.get(id)
    if (known && used.get(id)?.venues.length === 0) register.set(id, { ...known, venues })
  }
  const read = readNotice(json, register)
  const named = (read.notice?.cities ?? []).filter(({ id }) => !described.some(city => city.id === id) && used.get(id)?.venues.length === 0)
  return { ...read, entering: [...described, ...named] }
}

function noticeOf({ notice, findings }: NoticeRead, words = ({ code, at }: NoticeFinding) => `${at} (${code})`): Notice {
  if (notice) return notice
  const errors = findings.filter(isError)
  const newer = errors.find(({ code }) => code === 'format.newer')
  if (newer) throw refusal('notice.newer-format', { format: newer.parameters.format ?? '', known: noticeFormat })
  throw refusal('notice.faults', {
    count: errors.length,
    shown: errors.slice(0, 3).map(words).join(' '),
    more: errors.length > 3 ? 'yes' : 'no',
  }, errors)
}

// Versions count from 1 over all that were ever laid down, in force or not.
async function writeVersion(
  tx: Executor,
  context: Context,
  notice: Notice,
): Promise<{ version: number, current: number, sha256: string, isInForce: boolean }> {
  const document = withoutCentres(notice)
  const sha256 = createHash('sha256').update(JSON.stringify(document)).digest('hex')
  const [row] = await tx.select().from(cycle).where(eq(cycle.code, notice.code)).for('update')
  const current = row?.noticeVersion ?? 0
  const [old] = await tx.select().from(noticeVersion).where(and(eq(noticeVersion.cycle, notice.code), eq(noticeVersion.version, current)))
  if (old?.sha256 === sha256) return { version: current, current, sha256, isInForce: true }
  const [last] = await tx.select({ version: max(noticeVersion.version) }).from(noticeVersion).where(eq(noticeVersion.cycle, notice.code))
  const version = (last?.version ?? 0) + 1
  await tx.insert(noticeVersion).values({ cycle: notice.code, version, document, sha256, createdAt: context.now() })
  return { version, current, sha256, isInForce: false }
}

export interface CurrentNotice {
  notice: Notice
  version: number
}

// A document never changes, nor what the register said at one revision of a cycle, so what was once read may be kept; which of them hold is
// asked each time.
const readDocuments = new Map<string, Notice>()
const keptAtMost = 64

/** Forgets them: for a process that goes over to another database, as only tests do. */
export const forgetNotices = (): void => readDocuments.clear()

/** The notice in force for a cycle. */
export async function currentNotice(db: Executor, code: string): Promise<CurrentNotice> {
  const { rows: [row] } = await db.execute<InForceRow>(sql`select ${noticeInForceColumns} from ${cycle} where ${cycle.code} = ${code}`)
  if (!row) throw refusal('cycle.unknown', { cycle: code })
  return noticeInForceOf(db, code, row)
}

/** What tells which notice of a cycle is in force, for statements that read more of the cycle besides. */
export const noticeInForceColumns = sql`${cycle.noticeVersion} as version, ${cycle.centresRevision} as revision,
  (select ${noticeVersion.sha256} from ${noticeVersion} where ${noticeVersion.cycle} = ${cycle.code} and ${noticeVersion.version} = ${cycle.noticeVersion}) as sha256`
export interface InForceRow extends Record<string, unknown> {
  version: number
  sha256: string | null
  revision: number
}

/** The notice that they told of. */
export async function noticeInForceOf(db: Executor, code: string, { version, sha256, revision }: InForceRow): Promise<CurrentNotice> {
  if (sha256 === null) throw refusal('notice.version-unknown', { cycle: code, version })
  return { notice: await keptNotice(db, code, version, { sha256, revision }), version }
}

/** One version of a cycle's notice, in force or not, with its centres as the register has them now. */
export async function noticeOfVersion(db: Executor, code: string, version: number): Promise<Notice> {
  const [row] = await db.select({ sha256: noticeVersion.sha256, revision: cycle.centresRevision }).from(noticeVersion).innerJoin(
    cycle,
    eq(cycle.code, noticeVersion.cycle),
  ).where(and(eq(noticeVersion.cycle, code), eq(noticeVersion.version, version)))
  if (!row) throw refusal('notice.version-unknown', { cycle: code, version })
  return keptNotice(db, code, version, row)
}

async function keptNotice(
  db: Executor,
  code: string,
  version: number,
  { sha256, revision }: { sha256: string, revision: number },
): Promise<Notice> {
  const key = `${sha256} ${code} ${revision}`
  const kept = readDocuments.get(key)
  if (kept) return kept
  const [found] = await db.select().from(noticeVersion).where(and(eq(noticeVersion.cycle, code), eq(noticeVersion.version, version)))
  if (!found) throw refusal('notice.version-unknown', { cycle: code, version })
  const notice = noticeOf(parseNotice(found.document, await centresOf(db, code)))
  for (const oldest of readDocuments.keys()) if (readDocuments.size >= keptAtMost) readDocuments.delete(oldest)
  readDocuments.set(key, notice)
  return notice
}

/** What a candidate's sheet works with: what stands on the public page, and rooms, would only cost them time on a slow line. */
const forSheet = ({ information: _, letters: __, terms: ___, ...notice }: Notice): Notice => ({
  ...notice,
  declaration: '',
  card: { ...notice.card, instructions: [] },
  cities: notice.cities.map(city => ({ ...city, venues: [] })),
})

/** The notice of a cycle for a screen: the office has it as it is written, others read it in a language that they choose. */
export async function showNotice(caller: Caller, code: string, language: string | null = null): Promise<CurrentNotice> {
  // A notice in force is there for everybody to read.
  const { db, principal } = await caller.authorise('examinations.read')
  const { notice, version } = await currentNotice(db, code)
  if (may(principal, 'notice.read')) return { notice, version }
  const read = noticeIn(notice, language)
  return { notice: principal.kind === 'candidate' ? forSheet(read) : read, version }
}

/** Code and title of every cycle. */
export async function listCycles(caller: Caller): Promise<{ code: string, title: string }[]> {
  const { db } = await caller.authorise('cycles.read')
  const rows = await db.select({ code: cycle.code, title: sql<string>`${noticeVersion.document} ->> 'title'` }).from(cycle).innerJoin(
    noticeVersion,
    and(eq(noticeVersion.cycle, cycle.code), eq(noticeVersion.version, cycle.noticeVersion)),
  ).orderBy(cycle.code)
  return rows
}
