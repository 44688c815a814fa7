import { and, asc, desc, eq, sql } from 'drizzle-orm'
import type { KeptReason, ReadingInput, ReadingView } from '../../../shared/scrutiny'
import { refusal } from '../../../shared/refusal'
import type { Executor } from '../../database/client'
import { image, keptReason, reading } from '../../database/schema'
import { readApplication } from '../applications/store'
import type { Caller } from '../context'
import { namesOf } from '../people/names'

/**
 * Keeps that somebody held an answer against a file by eye, with the answer and the version of the file as they were then. The newest
 * counts; all stay on record.
 */
export async function keepReading(caller: Caller, id: string, { question, image: imageId, result }: ReadingInput): Promise<void> {
  const { db, principal, newId, now } = await caller.authorise('scrutiny.decide', { application: id })
  const row = await readApplication(db, id)
  const [file] = await db.select({ id: image.id }).from(image).where(and(eq(image.id, imageId), eq(image.applicationId, id)))
  if (!file) throw refusal('file.unknown')
  await db.insert(reading).values({
    id: newId(),
    applicationId: id,
    question,
    imageId,
    answer: JSON.stringify(row.answers[question] ?? ''),
    result,
    by: principal.id,
    at: now(),
  })
}

/** What was compared by eye, of each question and file the newest, as far as the answer is still the same. */
export async function readingsOf(db: Executor, id: string, answers: Record<string, unknown>): Promise<ReadingView[]> {
  const rows = await db.selectDistinctOn([reading.question, reading.imageId]).from(reading).where(eq(reading.applicationId, id)).orderBy(
    reading.question,
    reading.imageId,
    desc(reading.at),
  )
  const name = await namesOf(db, rows.map(row => row.by))
  return rows.filter(row => row.answer === JSON.stringify(answers[row.question] ?? '')).map(row => ({
    question: row.question,
    image: row.imageId,
    answer: row.answer,
    result: row.result,
    by: name(row.by),
    at: row.at.toISOString(),
  }))
}

/** Wordings of reasons that the office keeps, those used most first. */
export async function listReasons(caller: Caller, cycle: string): Promise<KeptReason[]> {
  const { db } = await caller.authorise('scrutiny.read', { cycle })
  return db.select({ id: keptReason.id, item: keptReason.item, reason: keptReason.reason, uses: keptReason.uses }).from(keptReason)
    .where(eq(keptReason.cycle, cycle)).orderBy(desc(keptReason.uses), asc(keptReason.reason)).limit(500)
}

/** Keeps a wording for an item; one that is kept already counts as used once more. */
export async function keepReason(caller: Caller, cycle: string, { item, reason }: { item: string, reason: string }): Promise<void> {
  const { db, principal, newId, now } = await caller.authorise('scrutiny.decide', { cycle })
  await db.insert(keptReason).values({ id: newId(), cycle, item, reason, uses: 1, by: principal.id, at: now() }).onConflictDoUpdate({
    target: [keptReason.cycle, keptReason.item, keptReason.reason],
    set: { uses: sql`${keptReason.uses} + 1` },
  })
}
