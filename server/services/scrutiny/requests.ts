import { desc, eq } from 'drizzle-orm'
import { holdsSeat } from '../../../core/application/acts/guards'
import { basisOf, minutesAnHour, needsStepFree, requestLock, requestsMade, saidOf } from '../../../core/application/requests'
import { collide } from '../../../core/application/timetable'
import type { Notice } from '../../../core/notice/schema'
import type { ActInput } from '../../../shared/acts'
import type { RequestView } from '../../../shared/scrutiny'
import { refusal } from '../../../shared/refusal'
import type { Executor } from '../../database/client'
import { requestDecision, seat } from '../../database/schema'
import { carryOut, type Acting, type Carried } from '../acts/carry-out'
import type { Given } from '../acts/given'
import { shutPosts } from '../applications/form'
import { countedAnswers, decidedAnswers, type ApplicationRow } from '../applications/store'
import type { Caller } from '../context'
import { keepVerdicts } from '../eligibility/verdicts'
import { namesOf } from '../people/names'

/**
 * Grants or declines what somebody asked for; verdicts, papers, seat and card follow. No fee hangs on it: conditions of the schedule look
 * at what was typed. The same word again changes nothing.
 *
 * @throws ProblemError `request.none` for what is not asked for, `request.published` where it was decided before a seat was made known or
 * would shut a chosen post after that, `request.seat` where the seat that is held does not suit, and `request.sessions` where its sessions
 * would run into each other.
 */
export function decideRequest(
  caller: Caller,
  id: string,
  { request, word }: Pick<ActInput<'decide-request'>, 'request' | 'word'>,
  given: Given,
): Promise<Carried<null>> {
  return carryOut(caller, 'decide-request', id, given, async (acting) => {
    const { tx, context, row, notice } = acting
    const made = requestsMade(notice, decidedAnswers(notice, row)).find(one => one.rule.id === request)
    if (!made) throw refusal('request.none', { number: row.number, request })
    if (made.word === word) return { result: null, isRepeated: true }
    const lock = requestLock(row, made.word !== null)
    if (lock) throw refusal(`request.${lock}`, { number: row.number, form: row.form })
    const basis = basisOf(notice, made.rule, row.answers)
    const requests = { ...row.requests, [request]: { word, basis } }
    const decided = { ...row, requests }
    await refuseOtherSeat(acting, decided)
    const reason = given.reason?.trim() ?? ''
    await tx.insert(requestDecision).values({
      id: context.newId(),
      applicationId: id,
      request,
      word,
      reason,
      basis,
      by: context.principal.id,
      at: context.now(),
    })
    const isUnchanged = shutPosts(row, await keepVerdicts(tx, context, decided, acting)).length === 0
    if (!isUnchanged && holdsSeat(row)) throw refusal('request.published', { number: row.number })
    const { title } = made.rule
    return {
      result: null,
      outcome: { isUnchanged },
      columns: { requests },
      before: { request: title, word: made.word },
      after: { request: title, word },
      tell: { request: title, word },
    }
  })
}

// Whoever sits already keeps the seat: one that does not suit is taken back first, by whoever finds another.
async function refuseOtherSeat({ tx, notice }: Acting, decided: ApplicationRow): Promise<void> {
  if (!holdsSeat(decided)) return
  const answers = countedAnswers(notice, decided)
  const held = await tx.select().from(seat).where(eq(seat.applicationId, decided.id))
  const sessions = held.flatMap(one => notice.sessions.filter(session => session.id === one.session))
  const anHour = minutesAnHour(notice, answers)
  if (sessions.some((one, i) => sessions.slice(i + 1).some(other => collide(one, other, anHour)))) {
    throw refusal('request.sessions', { number: decided.number })
  }
  if (needsStepFree(notice, answers) && held.some(one => !one.accessible)) throw refusal('request.seat', { number: decided.number })
}

/** What an application asks for and what the office said of it, with all earlier words; `answers` are as typed. */
export async function requestViews(db: Executor, notice: Notice, row: ApplicationRow): Promise<RequestView[]> {
  const made = requestsMade(notice, decidedAnswers(notice, row))
  if (made.length === 0) return []
  const rows = await db.select().from(requestDecision).where(eq(requestDecision.applicationId, row.id)).orderBy(desc(requestDecision.at))
  const name = await namesOf(db, rows.map(one => one.by))
  return made.map(({ rule, word }) => ({
    id: rule.id,
    title: rule.title,
    kind: rule.kind,
    word,
    proof: rule.proof,
    papers: rule.papers,
    said: saidOf(rule, row.answers),
    decisions: rows.filter(one => one.request === rule.id).map(one => ({
      word: one.word,
      reason: one.reason,
      by: name(one.by),
      at: one.at.toISOString(),
    })),
  }))
}
