import { and, eq, gt, sql } from 'drizzle-orm'
import { isFormOpen, sheetFaults } from '../../../core/application/sheet'
import { listAnswer, textAnswer, type Answer, type Answers } from '../../../core/application/answers'
import { emptySlots, slotsOf } from '../../../core/application/slots'
import { headline, newTracks } from '../../../core/application/tracks'
import { evaluatePosts } from '../../../core/eligibility/evaluate'
import { applicationNumber } from '../../../core/identity/check-digit'
import { nameKey, storedText } from '../../../core/identity/names'
import { dateInZone, spellInstant } from '../../../core/calendar/zone'
import { findingWords } from '../../../core/words/en/findings'
import type { Notice } from '../../../core/notice/schema'
import { ProblemError } from '../../../shared/problem'
import type { AnswerDifference, SavedSheet } from '../../../shared/applications'
import type { Executor } from '../../database/client'
import { answerChange, application, cycle, headlineChange } from '../../database/schema'
import { audit, demand, type Context } from '../context'
import { keepVerdicts } from '../eligibility/verdicts'
import { reassess } from '../fees/assessments'
import { currentImages } from '../images/store'
import { currentNotice } from '../notice/notices'
import { countedAnswers, lockApplication, saveTracks, type ApplicationRow } from './store'

/**
 * Begins an application under an id that the caller made. The same id again gives the same application: a double press
 * or a repeated request makes no second one.
 */
export async function registerApplication(context: Context, cycleCode: string, id: string): Promise<{ id: string, number: string }> {
  demand(context, 'intake.write')
  return context.db.transaction(async (tx) => {
    const { notice } = await currentNotice(tx, cycleCode)
    const [existing] = await tx.select().from(application).where(eq(application.id, id))
    if (existing) return { id, number: existing.number }
    if (!isFormOpen(notice, context.now())) throw closedProblem(notice, context.now())
    const [counter] = await tx.update(cycle).set({ lastSerial: sql`${cycle.lastSerial} + 1` }).where(eq(cycle.code, cycleCode)).returning()
    const [again] = await tx.select().from(application).where(eq(application.id, id))
    if (again) return { id, number: again.number }
    const number = applicationNumber(notice.code, counter?.lastSerial ?? 1)
    const at = context.now()
    await tx.insert(application).values({
      id, cycle: cycleCode, number, answers: {}, ...newTracks, headline: headline(newTracks), headlineSince: at, createdAt: at, updatedAt: at,
    })
    await tx.insert(headlineChange).values({ id: context.newId(), applicationId: id, cycle: cycleCode, from: null, to: headline(newTracks), at })
    await audit(tx, context, 'register', `application:${number}`, null, newTracks)
    return { id, number }
  })
}

function closedProblem(notice: Notice, now: Date): ProblemError {
  const { opens, closes } = notice.keyDates
  const early = now < new Date(opens)
  return new ProblemError('not-now', early
    ? `Applications open on ${spellInstant(opens, notice.body.zone)}.`
    : `Applications closed on ${spellInstant(closes, notice.body.zone)}. What was typed before is kept.`)
}

/**
 * Saves answers as typed, right or wrong. A save against an older revision changes nothing and tells what the other
 * person changed since, unless all of it stands there already (a repeated request).
 *
 * @throws ProblemError `conflict` with the differences, `not-now` when the form is frozen, `bad-input` for unknown questions.
 */
export async function saveAnswers(context: Context, id: string, given: { revision: number, changes: Record<string, Answer> }): Promise<SavedSheet> {
  const actor = demand(context, 'intake.write')
  return context.db.transaction(async (tx) => {
    const row = await lockApplication(tx, id)
    const { notice } = await currentNotice(tx, row.cycle)
    const changes = Object.entries(given.changes).map(([question, typed]) => ({ question, after: storedAnswer(typed) }))
    refuseUnknownQuestions(notice, changes.map(c => c.question))
    const real = changes.filter(c => JSON.stringify(row.answers[c.question] ?? '') !== JSON.stringify(c.after))
    if (real.length === 0) return { revision: row.revision, answers: row.answers }
    if (row.form !== 'drafting' && row.form !== 'correcting') {
      throw new ProblemError('not-now', `${row.number} is ${row.form}: its answers are frozen. Return it for correction to open them. Nothing was changed.`)
    }
    if (given.revision !== row.revision) throw await conflictProblem(tx, row, given)
    const answers: Answers = { ...row.answers, ...Object.fromEntries(real.map(c => [c.question, c.after])) }
    const revision = row.revision + 1
    const at = context.now()
    await tx.update(application).set({ answers, revision, updatedAt: at, ...searchKeys(answers) }).where(eq(application.id, id))
    await tx.insert(answerChange).values(real.map(c => ({
      id: context.newId(), applicationId: id, revision, question: c.question, before: row.answers[c.question] ?? null, after: c.after, by: actor.name, at,
    })))
    await audit(tx, context, 'change answers', `application:${row.number}`,
      Object.fromEntries(real.map(c => [c.question, row.answers[c.question] ?? null])), Object.fromEntries(real.map(c => [c.question, c.after])))
    return { revision, answers }
  })
}

function storedAnswer(typed: Answer): Answer {
  if (typeof typed === 'string') return storedText(typed)
  // A list holds texts or rows, never both.
  const [texts, rows] = [typed.filter(member => typeof member === 'string'), typed.filter(member => typeof member !== 'string')]
  if (rows.length === 0) return texts.map(storedText)
  return rows.map(row => Object.fromEntries(Object.entries(row).sort(([a], [b]) => a < b ? -1 : 1).map(([column, cell]) => [column, storedText(cell)])))
}

function searchKeys(answers: Answers) {
  const name = textAnswer(answers, 'certificateName')
  return { displayName: name, nameKey: nameKey(name), mobileKey: textAnswer(answers, 'mobile').replace(/\D/g, '') }
}

function refuseUnknownQuestions(notice: Notice, ids: string[]): void {
  const known = new Set(notice.sections.flatMap(s => s.questions).map(q => q.id))
  const unknown = ids.filter(id => !known.has(id))
  if (unknown.length > 0) throw new ProblemError('bad-input', `The notice asks no question "${unknown[0]}". Load the sheet anew. Nothing was changed.`)
}

async function conflictProblem(tx: Executor, row: ApplicationRow, given: { revision: number, changes: Record<string, Answer> }): Promise<ProblemError> {
  const since = await tx.select().from(answerChange)
    .where(and(eq(answerChange.applicationId, row.id), gt(answerChange.revision, given.revision))).orderBy(answerChange.revision)
  const differences = new Map<string, AnswerDifference>()
  for (const change of since) {
    differences.set(change.question, {
      question: change.question, by: change.by, at: change.at.toISOString(),
      theirs: row.answers[change.question] ?? '', yours: given.changes[change.question] ?? null,
    })
  }
  const people = [...new Set(since.map(c => c.by))].join(', ') || 'somebody'
  return new ProblemError('conflict', `${people} saved this sheet while you had it open. Nothing of yours was written yet: compare and choose.`,
    { revision: row.revision, answers: row.answers, differences: [...differences.values()] })
}

/**
 * Submits a complete sheet with its declaration: freezes the answers, assesses the fee, puts the case in the queue.
 * Submitting again changes nothing.
 *
 * @throws ProblemError `bad-input` with the findings when something is missing, wrong, or a chosen post is not open.
 */
export async function submitApplication(context: Context, id: string, given: { revision: number, declared: boolean }): Promise<void> {
  demand(context, 'intake.write')
  await context.db.transaction(async (tx) => {
    const row = await lockApplication(tx, id)
    if (row.form === 'submitted') return
    const { notice } = await currentNotice(tx, row.cycle)
    if (row.form !== 'drafting' && row.form !== 'correcting') throw new ProblemError('not-now', `${row.number} is ${row.form} and cannot be submitted.`)
    if (row.form === 'drafting' && !isFormOpen(notice, context.now())) throw closedProblem(notice, context.now())
    if (row.revision !== given.revision) throw await conflictProblem(tx, row, { revision: given.revision, changes: {} })
    if (!given.declared) throw new ProblemError('bad-input', 'The declaration must be accepted before the form is submitted. Nothing was changed.')
    await refuseIncomplete(tx, context, row, notice)
    const fee = await reassess(tx, context, row, notice)
    await keepVerdicts(tx, context, row, notice)
    const after = await saveTracks(tx, context, row, { form: 'submitted', fee, scrutiny: 'waiting' }, { submittedAt: row.submittedAt ?? context.now() })
    await audit(tx, context, 'submit', `application:${row.number}`, { form: row.form }, after)
  })
}

async function refuseIncomplete(tx: Executor, context: Context, row: ApplicationRow, notice: Notice): Promise<void> {
  const faults = sheetFaults(notice, row.answers, dateInZone(context.now(), notice.body.zone))
  if (faults.length > 0) {
    const first = faults[0] ? findingWords(faults[0]).title : ''
    throw new ProblemError('bad-input', `${faults.length} answers are missing or wrong; the first: ${first}. All that was typed is kept.`, faults)
  }
  const images = await currentImages(tx, row.id)
  const lacking = emptySlots(notice, row.answers, images)
  if (lacking.length > 0) {
    throw new ProblemError('bad-input', `Missing: ${lacking.map(slot => slot.title).join(' and ')}. Add it and submit again; all that was typed is kept.`)
  }
  const waiting = slotsOf(notice, row.answers).filter(({ id }) => images[id]?.state === 'waiting')
  if (waiting.length > 0) {
    throw new ProblemError('not-now', `${waiting.map(slot => slot.title).join(' and ')}: kept, and being measured. Submit again in a moment; all that was typed is kept.`)
  }
  const chosen = listAnswer(row.answers, 'posts')
  const shut = evaluatePosts(notice, countedAnswers(notice, row)).filter(v => chosen.includes(v.post) && v.verdict === 'fail')
  if (shut.length > 0) {
    throw new ProblemError('bad-input', `Not open to this person: ${shut.map(v => v.title).join(', ')}. The margin says why; take it off the list or correct the facts.`,
      shut.flatMap(v => v.findings))
  }
}

/** Takes an application out of the flow for good, with a reason. Money that came in stays in the ledger. */
export async function withdrawApplication(context: Context, id: string, reason: string): Promise<void> {
  demand(context, 'intake.write')
  await context.db.transaction(async (tx) => {
    const row = await lockApplication(tx, id)
    if (row.form === 'withdrawn') return
    if (row.placement === 'published' || row.placement === 'moved') {
      throw new ProblemError('not-now', `${row.number} holds a published seat. Take the seat back first; nothing was changed.`)
    }
    await saveTracks(tx, context, row, { form: 'withdrawn' })
    await audit(tx, context, 'withdraw', `application:${row.number}`, { form: row.form }, { form: 'withdrawn', reason })
  })
}
