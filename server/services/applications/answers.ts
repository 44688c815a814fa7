import { and, eq, gt } from 'drizzle-orm'
import { textAnswer, type Answer, type Answers } from '../../../core/application/answers'
import { isOpened } from '../../../core/application/acts/opened'
import { nameKey, storedText } from '../../../core/identity/names'
import { waitsForFee } from '../../../core/fees/order'
import type { AnswerDifference, SavedSheet, SheetChanges } from '../../../core/application/saving'
import type { Notice } from '../../../core/notice/schema'
import type { ProblemError } from '../../../shared/problem'
import { refusal } from '../../../shared/refusal'
import type { Executor } from '../../database/client'
import { answerChange } from '../../database/schema'
import { carryOut } from '../acts/carry-out'
import type { Given } from '../acts/given'
import type { Caller } from '../context'
import { namesOf } from '../people/names'
import { reassessDraft } from '../fees/assessments'
import type { ApplicationRow } from './store'
import { refuseBeforeTexts } from './texts'

/**
 * Saves answers as typed, right or wrong. Changes of other questions than those that somebody else has saved meanwhile are merged; a save
 * that meets another value for the same question changes nothing and tells what the other person changed, unless it stands there already.
 *
 * @throws ProblemError `sheet.conflict` with the differences, `act.form-frozen` when the form is frozen, `sheet.question-unknown`.
 */
export async function saveAnswers(caller: Caller, id: string, asked: SheetChanges, given: Given = {}): Promise<SavedSheet> {
  const changes = Object.entries(asked.changes).map(([question, typed]) => ({ question, after: storedAnswer(typed) }))
  const isNew = (row: ApplicationRow, c: { question: string, after: Answer }) =>
    JSON.stringify(row.answers[c.question] ?? '') !== JSON.stringify(c.after)
  const carried = await carryOut<SavedSheet>(caller, 'save-answers', id, given, async (acting) => {
    const { tx, context, row, notice } = acting
    refuseUnknownQuestions(notice, changes.map(c => c.question))
    const real = changes.filter(c => isNew(row, c))
    refuseClosed(row, notice, real.map(c => c.question))
    refuseBeforeFee(row, notice, real.map(c => c.question))
    refuseBeforeTexts(row, notice)
    if (asked.revision !== row.revision) await refuseClash(tx, row, asked)
    const answers: Answers = { ...row.answers, ...Object.fromEntries(real.map(c => [c.question, c.after])) }
    const revision = row.revision + 1
    await tx.insert(answerChange).values(real.map(c => ({
      id: context.newId(),
      applicationId: id,
      revision,
      question: c.question,
      before: row.answers[c.question] ?? null,
      after: c.after,
      by: context.principal.id,
      at: context.now(),
    })))
    const assessed = await reassessDraft(acting, { ...row, answers })
    return {
      result: { revision, answers },
      outcome: { fee: assessed.fee },
      columns: { answers, revision, ...searchKeys(answers), ...assessed.columns },
      before: Object.fromEntries(real.map(c => [c.question, row.answers[c.question] ?? null])),
      after: Object.fromEntries(real.map(c => [c.question, c.after])),
    }
  }, row => Promise.resolve(changes.some(c => isNew(row, c)) ? undefined : { revision: row.revision, answers: row.answers }))
  if (!carried.isDone) throw refusal('act.proposed', { by: caller.principal.name })
  return carried.result
}

/** An answer as it is kept. */
export function storedAnswer(typed: Answer): Answer {
  if (typeof typed === 'string') return storedText(typed)
  // A list holds texts or rows, never both.
  const [texts, rows] = [typed.filter(member => typeof member === 'string'), typed.filter(member => typeof member !== 'string')]
  if (rows.length === 0) return texts.map(storedText)
  return rows.map(row =>
    Object.fromEntries(Object.entries(row).sort(([a], [b]) => a < b ? -1 : 1).map(([column, cell]) => [column, storedText(cell)]))
  )
}

/** What a row is searched by, derived from its answers. */
export function searchKeys(answers: Answers) {
  const name = textAnswer(answers, 'certificateName')
  return { displayName: name, nameKey: nameKey(name), mobileKey: textAnswer(answers, 'mobile').replace(/\D/g, '') }
}

/** Refuses answers to what the notice does not ask. */
export function refuseUnknownQuestions(notice: Notice, ids: string[]): void {
  const known = new Set(notice.sections.flatMap(s => s.questions).map(q => q.id))
  const unknown = ids.find(id => !known.has(id))
  if (unknown !== undefined) throw refusal('sheet.question-unknown', { question: unknown })
}

/** Refuses what waits until the fee is paid. */
export function refuseBeforeFee(row: ApplicationRow, notice: Notice, items: readonly string[]): void {
  if (items.some(item => waitsForFee(notice, row, item))) throw refusal('sheet.fee-first', { number: row.number })
}

/** Refuses what a correction has not opened. */
export function refuseClosed(row: ApplicationRow, notice: Notice, items: readonly string[]): void {
  if (row.form !== 'correcting') return
  const closed = items.find(item => !isOpened(notice, row.openedItems, item))
  if (closed === undefined) return
  const title = (item: string) => notice.sections.flatMap(s => s.questions).find(q => q.id === item)?.label ?? item
  throw refusal('act.item-closed', { item: title(closed), number: row.number, open: row.openedItems?.map(title).join(', ') ?? '' })
}

// Two people, or two windows of one, who change different questions are merged: only the same question needs somebody to choose.
async function refuseClash(tx: Executor, row: ApplicationRow, asked: SheetChanges): Promise<void> {
  const since = await changesSince(tx, row, asked.revision)
  if (
    since.some(change =>
      change.question in asked.changes
      && JSON.stringify(row.answers[change.question] ?? '') !== JSON.stringify(storedAnswer(asked.changes[change.question] ?? ''))
    )
  ) {
    throw await conflict(tx, row, asked, since)
  }
}

type AnswerChange = typeof answerChange.$inferSelect

function changesSince(tx: Executor, row: ApplicationRow, revision: number): Promise<AnswerChange[]> {
  return tx.select().from(answerChange).where(and(eq(answerChange.applicationId, row.id), gt(answerChange.revision, revision)))
    .orderBy(answerChange.revision)
}

/** The refusal of somebody who works on an older revision, with all that changed since. */
export async function conflict(tx: Executor, row: ApplicationRow, asked: SheetChanges, changes?: AnswerChange[]): Promise<ProblemError> {
  const since = changes ?? await changesSince(tx, row, asked.revision)
  const name = await namesOf(tx, since.map(c => c.by))
  const differences = new Map<string, AnswerDifference>()
  for (const change of since) {
    differences.set(change.question, {
      question: change.question,
      by: name(change.by),
      at: change.at.toISOString(),
      theirs: row.answers[change.question] ?? '',
      yours: asked.changes[change.question] ?? null,
    })
  }
  const people = [...new Set(since.map(c => name(c.by)))].join(', ') || '–'
  return refusal('sheet.conflict', { people }, { revision: row.revision, answers: row.answers, differences: [...differences.values()] })
}
