import { eq } from 'drizzle-orm'
import type { Answers } from '../../../core/application/answers'
import { answersThatCount } from '../../../core/eligibility/claims'
import type { Notice } from '../../../core/notice/schema'
import { headline, type Tracks } from '../../../core/application/tracks'
import { ProblemError } from '../../../shared/problem'
import type { Executor } from '../../database/client'
import { application, headlineChange } from '../../database/schema'
import type { Context } from '../context'

export type ApplicationRow = typeof application.$inferSelect

export function tracksOf(row: ApplicationRow): Tracks {
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

/** Writes tracks and the headline derived from them; the only place that does. */
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
