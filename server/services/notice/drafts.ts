import { desc, eq } from 'drizzle-orm'
import { withoutCentres } from '../../../core/notice/centres'
import { differencesBetween, type Difference } from '../../../core/notice/difference'
import { isError } from '../../../core/notice/finding'
import { upgradeNotice } from '../../../core/notice/formats'
import type { Notice } from '../../../core/notice/schema'
import type { DraftDetail, DraftInput, DraftRow } from '../../../shared/notice'
import { refusal } from '../../../shared/refusal'
import { cycle, noticeDraft } from '../../database/schema'
import type { Caller, Context } from '../context'
import { centresFor } from '../centres/register'
import { namesOf } from '../people/names'
import { currentNotice, readWithRegister } from './notices'

/** Notices in work: kept as they are, with what is wrong in them, until they are proposed, opened or thrown away. */

type Row = typeof noticeDraft.$inferSelect
const shownAtMost = 100

/**
 * Keeps a draft under an id that the caller made, so that keeping it twice makes one. How many errors and warnings it has is kept with it.
 */
export async function keepDraft(caller: Caller, id: string, { document, revision }: DraftInput): Promise<DraftRow> {
  const context = await caller.authorise('notice.amend')
  const { db, now, principal } = context
  const { findings } = await readWithRegister(db, document)
  const errors = findings.filter(isError).length
  const values = {
    cycle: textOf(document.code),
    title: textOf(document.title) ?? '',
    document,
    errors,
    warnings: findings.length - errors,
    by: principal.id,
    at: now(),
  }
  const row = await db.transaction(async (tx) => {
    const [made] = await tx.insert(noticeDraft).values({ id, ...values, revision: 1 }).onConflictDoNothing().returning()
    if (made) return made
    const [held] = await tx.select().from(noticeDraft).where(eq(noticeDraft.id, id)).for('update')
    if (!held) throw refusal('draft.unknown')
    // Sent again after its answer was lost, it is the one that was kept.
    if (held.revision === revision + 1 && differencesBetween(held.document, document).length === 0) return held
    if (held.revision !== revision) throw refusal('draft.kept-since', { by: (await namesOf(tx, [held.by]))(held.by) })
    const [kept] = await tx.update(noticeDraft).set({ ...values, revision: revision + 1 }).where(eq(noticeDraft.id, id)).returning()
    return kept ?? held
  })
  const [kept] = await rowsOf(context, [row])
  if (!kept) throw refusal('draft.unknown')
  return kept
}

const textOf = (value: unknown): string | null => typeof value === 'string' && value.trim() !== '' ? value.trim().slice(0, 200) : null

async function rowsOf({ db }: Context, rows: readonly Omit<Row, 'document'>[]): Promise<DraftRow[]> {
  const codes = new Set((await db.select({ code: cycle.code }).from(cycle)).map(row => row.code))
  const name = await namesOf(db, rows.map(row => row.by))
  return rows.map(row => ({
    id: row.id,
    cycle: row.cycle,
    title: row.title,
    isCycle: row.cycle !== null && codes.has(row.cycle),
    errors: row.errors,
    warnings: row.warnings,
    revision: row.revision,
    by: name(row.by),
    at: row.at.toISOString(),
  }))
}

/** The drafts of the office, the newest first. */
export async function listDrafts(caller: Caller): Promise<DraftRow[]> {
  const context = await caller.authorise('notice.amend')
  return rowsOf(context, await context.db.select().from(noticeDraft).orderBy(desc(noticeDraft.at)).limit(shownAtMost))
}

/** One draft with its document, and how it differs from the notice in force. */
export async function readDraft(caller: Caller, id: string): Promise<DraftDetail> {
  const context = await caller.authorise('notice.amend')
  const [row] = await context.db.select().from(noticeDraft).where(eq(noticeDraft.id, id))
  const [shown] = row ? await rowsOf(context, [row]) : []
  if (!row || !shown) throw refusal('draft.unknown')
  const differences = shown.isCycle && shown.cycle ? differencesOf((await currentNotice(context.db, shown.cycle)).notice, row.document) : []
  const { findings } = await readWithRegister(context.db, row.document)
  const register = [...(await centresFor(context.db, row.cycle ?? '')).values()]
  return { ...shown, document: row.document, findings, differences, register }
}

// Rooms are the register's: of cities only what a notice itself says of them is compared.
function differencesOf(inForce: Notice, document: unknown): Difference[] {
  const { json } = upgradeNotice(document)
  if (typeof json !== 'object' || json === null) return []
  const cities = 'cities' in json && Array.isArray(json.cities)
    ? json.cities.map((one: unknown) =>
      typeof one === 'object' && one !== null && 'id' in one && 'number' in one ? { id: one.id, number: one.number } : one
    )
    : undefined
  return differencesBetween(withoutCentres(inForce), cities ? { ...json, cities } : json)
}

/** Throws a draft away. One that is gone already is no error. */
export async function dropDraft(caller: Caller, id: string): Promise<DraftRow[]> {
  const { db } = await caller.authorise('notice.amend')
  await db.delete(noticeDraft).where(eq(noticeDraft.id, id))
  return listDrafts(caller)
}
