import { and, asc, count, desc, eq, isNull, sql } from 'drizzle-orm'
import { answerBy, openAtMost } from '../../../core/application/office-questions'
import type { QuestionPage, QuestionView } from '../../../shared/questions'
import { refusal } from '../../../shared/refusal'
import { application, officeQuestion } from '../../database/schema'
import { carryOut } from '../acts/carry-out'
import type { Given } from '../acts/given'
import type { Caller } from '../context'
import { readApplication } from '../applications/store'
import { currentNotice } from '../notice/notices'
import { namesOf } from '../people/names'

type QuestionRow = typeof officeQuestion.$inferSelect
const pageSize = 50

/**
 * Asks the office something about an application, whatever became of it.
 *
 * @throws ProblemError `question.too-many` while as many wait as may.
 */
export async function askOffice(
  caller: Caller,
  applicationId: string,
  { about, text, ...given }: { about: string, text: string } & Given,
): Promise<void> {
  await carryOut(caller, 'ask-question', applicationId, { ...given, again: { result: null } }, async ({ tx, context, row, notice }) => {
    const [open] = await tx.select({ n: count() }).from(officeQuestion)
      .where(and(eq(officeQuestion.applicationId, row.id), isNull(officeQuestion.answeredAt)))
    if ((open?.n ?? 0) >= openAtMost) throw refusal('question.too-many', { most: openAtMost })
    if (about !== '' && !notice.sections.some(section => section.id === about)) throw refusal('question.about', { about })
    const id = context.newId()
    const dueAt = answerBy(context.now(), notice)
    await tx.insert(officeQuestion).values({
      id,
      applicationId: row.id,
      cycle: row.cycle,
      about,
      text,
      by: context.principal.id,
      at: context.now(),
      dueAt,
    })
    return { result: null, after: { question: id, until: dueAt.toISOString() } }
  })
}

/** Answers a question; whoever asked is told that the answer is there. @throws ProblemError `question.answered` naming who was first. */
export async function answerQuestion(caller: Caller, id: string, { text, ...given }: { text: string } & Given): Promise<void> {
  const { db } = await caller.authorise('questions.answer')
  const [found] = await db.select({ applicationId: officeQuestion.applicationId }).from(officeQuestion).where(eq(officeQuestion.id, id))
  if (!found) throw refusal('question.unknown')
  await carryOut(caller, 'answer-question', found.applicationId, { ...given, again: { result: null } }, async ({ tx, context }) => {
    const [question] = await tx.select().from(officeQuestion).where(eq(officeQuestion.id, id)).for('update')
    if (!question) throw refusal('question.unknown')
    if (question.answeredBy) throw refusal('question.answered', { by: (await namesOf(tx, [question.answeredBy]))(question.answeredBy) })
    await tx.update(officeQuestion).set({ answer: text, answeredBy: context.principal.id, answeredAt: context.now(), holder: null })
      .where(eq(officeQuestion.id, id))
    return { result: null, after: { question: id } }
  })
}

/** Takes a question in hand, or lets it go; others see who has it. @throws ProblemError `question.held` where somebody else has it. */
export async function holdQuestion(caller: Caller, id: string, hold: boolean): Promise<void> {
  const context = await caller.authorise('questions.answer')
  await context.db.transaction(async (tx) => {
    const [question] = await tx.select().from(officeQuestion).where(eq(officeQuestion.id, id)).for('update')
    if (!question || question.answeredAt) throw refusal('question.unknown')
    const { holder } = question
    if (holder && holder !== context.principal.id && hold) throw refusal('question.held', { by: (await namesOf(tx, [holder]))(holder) })
    await tx.update(officeQuestion).set({ holder: hold ? context.principal.id : null }).where(eq(officeQuestion.id, id))
  })
}

const viewOf = (
  { id, about, text, by, at, dueAt, answer, answeredBy, answeredAt }: QuestionRow,
  name: (id: string) => string,
): QuestionView => ({
  id,
  about,
  text,
  by: name(by),
  at: at.toISOString(),
  dueAt: dueAt.toISOString(),
  answer: answer !== null && answeredBy && answeredAt ? { text: answer, by: name(answeredBy), at: answeredAt.toISOString() } : null,
})
const namesIn = (rows: readonly QuestionRow[]) => rows.flatMap(row => [row.by, row.answeredBy, row.holder])

/** All questions of an application, the newest first. */
export async function questionsOf(caller: Caller, applicationId: string): Promise<QuestionView[]> {
  const { db, principal } = await caller.authorise('applications.read', { application: applicationId })
  const rows = await db.select().from(officeQuestion).where(eq(officeQuestion.applicationId, applicationId)).orderBy(
    desc(officeQuestion.at),
    desc(officeQuestion.id),
  )
  const name = await namesOf(db, namesIn(rows))
  if (principal.kind === 'staff') return rows.map(row => viewOf(row, name))
  // Who of its people answers stays inside the office.
  const { notice } = await currentNotice(db, (await readApplication(db, applicationId)).cycle)
  return rows.map(row => viewOf(row, id => id === principal.id ? name(id) : notice.body.name))
}

/** Questions of a cycle that nobody has answered, the oldest first, a page by key: all, those in one's own hand, or those in nobody's. */
export async function waitingQuestions(
  caller: Caller,
  cycle: string,
  { which, after }: { which: 'all' | 'mine' | 'free', after?: string },
): Promise<QuestionPage> {
  const { db, principal } = await caller.authorise('questions.read', { cycle })
  const [at, id] = after?.split('~') ?? []
  const rows = await db.select({ question: officeQuestion, number: application.number, name: application.displayName }).from(officeQuestion)
    .innerJoin(application, eq(application.id, officeQuestion.applicationId)).where(and(
      eq(officeQuestion.cycle, cycle),
      isNull(officeQuestion.answeredAt),
      which === 'mine' ? eq(officeQuestion.holder, principal.id) : which === 'free' ? isNull(officeQuestion.holder) : undefined,
      at && id ? sql`(${officeQuestion.at}, ${officeQuestion.id}) > (${at}::timestamptz, ${id}::uuid)` : undefined,
    )).orderBy(asc(officeQuestion.at), asc(officeQuestion.id)).limit(pageSize + 1)
  const page = rows.slice(0, pageSize)
  const name = await namesOf(db, namesIn(page.map(row => row.question)))
  const last = page.at(-1)?.question
  return {
    rows: page.map(({ question, number, name: who }) => ({
      ...viewOf(question, name),
      applicationId: question.applicationId,
      number,
      name: who,
      holder: question.holder ? name(question.holder) : null,
      isMine: question.holder === principal.id,
    })),
    next: rows.length > pageSize && last ? `${last.at.toISOString()}~${last.id}` : null,
  }
}
