import { eq } from 'drizzle-orm'
import { answersThatCount } from '../../../core/eligibility/claims'
import type { Answers } from '../../../core/application/answers'
import type { Tracks } from '../../../core/application/tracks'
import type { Notice } from '../../../core/notice/schema'
import { refusal } from '../../../shared/problem'
import type { Executor } from '../../database/client'
import { application } from '../../database/schema'

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
  if (!row) throw refusal('application.unknown')
  return row
}

export async function readApplication(tx: Executor, id: string): Promise<ApplicationRow> {
  const [row] = await tx.select().from(application).where(eq(application.id, id))
  if (!row) throw refusal('application.unknown')
  return row
}
