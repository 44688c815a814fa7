import { eq, inArray } from 'drizzle-orm'
import type { Answers } from '../../../core/application/answers'
import { answersThatCount } from '../../../core/eligibility/claims'
import type { Notice } from '../../../core/notice/schema'
import { headline, type Tracks } from '../../../core/application/tracks'
import { ProblemError } from '../../../shared/problem'
import type { Executor } from '../../database/client'
import { application, headlineChange } from '../../database/schema'
import type { Context } from '../context'

export type ApplicationRow = typeof application.$inferSelect

/** The columns that say where an application stands. */
export type StandingRow = Pick<ApplicationRow, 'id' | 'number' | 'cycle' | 'headline' | keyof Tracks>
export const standingColumns = {
  id: application.id, number: application.number, cycle: application.cycle, headline: application.headline,
  form: application.form, fee: application.fee, scrutiny: application.scrutiny, placement: application.placement, card: application.card,
}

export function tracksOf(row: Pick<ApplicationRow, keyof Tracks>): Tracks {
  return { form: row.form, fee: row.fee, scrutiny: row.scrutiny, placement: row.placement, card: row.card }
}

/** The answers of a row that count: claims found false have fallen back as the notice says. */
export function countedAnswers(notice: Notice, row: Pick<ApplicationRow, 'answers' | 'falseClaims'>): Answers {
  return row.falseClaims.length === 0 ? row.answers : answersThatCount(notice, row.answers, row.falseClaims)
}

/** Reads one application and holds it until the transaction ends, so that two acts on it follow each other. */
export async function lockApplication(tx: Executor, id: string): Promise<ApplicationRow> {
  const [row] = await tx.select().from(application).where(eq(application.id, id)).for('update')
  if (!row) throw new ProblemError('not-found', 'There is no such application. The link may be cut short.')
  return row
}

export async function readApplication(tx: Executor, id: string): Promise<ApplicationRow> {
  const [row] = await tx.select().from(application).where(eq(application.id, id))
  if (!row) throw new ProblemError('not-found', 'There is no such application. The link may be cut short.')
  return row
}

/** Writes tracks and the headline derived from them; this and `saveTracksOfMany` are the only ones that do. */
export async function saveTracks(tx: Executor, context: Context, row: ApplicationRow, change: Partial<Tracks>, extra: { submittedAt?: Date } = {}): Promise<Tracks> {
  const tracks = { ...tracksOf(row), ...change }
  const next = headline(tracks)
  const at = context.now()
  const moved = next !== row.headline
  await tx.update(application)
    .set({ ...tracks, ...extra, headline: next, updatedAt: at, ...(moved ? { headlineSince: at } : {}) })
    .where(eq(application.id, row.id))
  if (moved) {
    await tx.insert(headlineChange).values({ id: context.newId(), applicationId: row.id, cycle: row.cycle, from: row.headline, to: next, at })
  }
  return tracks
}

/** The same change of tracks for many applications that stand alike, in a few statements. */
export async function saveTracksOfMany(tx: Executor, context: Context, rows: readonly StandingRow[], change: Partial<Tracks>): Promise<void> {
  const alike = new Map<string, StandingRow[]>()
  for (const row of rows) {
    const key = JSON.stringify(tracksOf(row))
    const group = alike.get(key)
    if (group) group.push(row)
    else alike.set(key, [row])
  }
  const at = context.now()
  for (const group of alike.values()) {
    const [first] = group
    if (!first) continue
    const tracks = { ...tracksOf(first), ...change }
    const next = headline(tracks)
    const moved = next !== first.headline
    for (let from = 0; from < group.length; from += 1000) {
      const part = group.slice(from, from + 1000)
      await tx.update(application).set({ ...tracks, headline: next, updatedAt: at, ...(moved ? { headlineSince: at } : {}) }).where(inArray(application.id, part.map(row => row.id)))
      if (moved) await tx.insert(headlineChange).values(part.map(row => ({ id: context.newId(), applicationId: row.id, cycle: row.cycle, from: row.headline, to: next, at })))
    }
  }
}
