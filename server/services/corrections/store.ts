import { and, desc, eq, inArray, isNotNull } from 'drizzle-orm'
import { openCorrectionStates } from '../../../core/application/corrections'
import type { Answers } from '../../../core/application/answers'
import type { Executor } from '../../database/client'
import { correction, image } from '../../database/schema'
import type { ImageRow } from '../images/current'

export type CorrectionRow = typeof correction.$inferSelect

/** The correction of an application that is under way. */
export async function openCorrectionOf(tx: Executor, applicationId: string): Promise<CorrectionRow | null> {
  const [row] = await tx.select().from(correction)
    .where(and(eq(correction.applicationId, applicationId), inArray(correction.state, [...openCorrectionStates])))
  return row ?? null
}

/** The one under way, else the last that was handed in. */
export async function newestCorrectionOf(tx: Executor, applicationId: string): Promise<CorrectionRow | null> {
  const open = await openCorrectionOf(tx, applicationId)
  if (open) return open
  const [row] = await tx.select().from(correction).where(and(eq(correction.applicationId, applicationId), isNotNull(correction.handedAt)))
    .orderBy(desc(correction.begunAt)).limit(1)
  return row ?? null
}

/** The newest file of each slot that a correction puts forward, papers of proof with them. */
export async function filesOfCorrection(tx: Executor, { id }: Pick<CorrectionRow, 'id'>): Promise<Partial<Record<string, ImageRow>>> {
  const rows = await tx.select().from(image).where(and(eq(image.correctionId, id), inArray(image.state, ['waiting', 'measured'])))
    .orderBy(image.version)
  return Object.fromEntries(rows.map(row => [row.kind, row]))
}

/** Answers with what a correction changes. */
export function correctedAnswers(answers: Answers, { changes }: Pick<CorrectionRow, 'changes'>): Answers {
  return { ...answers, ...Object.fromEntries(Object.entries(changes).map(([question, { after }]) => [question, after])) }
}
