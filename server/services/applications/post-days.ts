import { and, asc, eq, gt } from 'drizzle-orm'
import { may } from '../../../core/access/permissions'
import { postsOutOfTime } from '../../../core/application/acts/dates'
import { reasonLeast } from '../../../core/application/acts/judge'
import { listAnswer } from '../../../core/application/answers'
import { spellInstant } from '../../../core/calendar/zone'
import { refusal } from '../../../shared/refusal'
import type { Executor } from '../../database/client'
import { answerChange } from '../../database/schema'
import type { Acting } from '../acts/carry-out'
import type { Given } from '../acts/given'
import type { ApplicationRow } from './store'

/**
 * Refuses a form with a post whose own opening lies ahead, or whose own close has come, unless the post stood in it when it was handed in
 * before, or the office keeps the draft open longer. Whoever may go beyond the dates may here, too, with a reason.
 *
 * @returns whether somebody went beyond them.
 */
export async function refusePostsOutOfTime(
  { tx, context, row, notice }: Pick<Acting, 'tx' | 'context' | 'row' | 'notice'>,
  given: Given,
): Promise<boolean> {
  const now = row.form === 'drafting' ? row.receivedAt ?? context.arrived() : context.arrived()
  // A return keeps the form open, too, but not for posts that are over; and nothing opens a post before its time.
  const isKeptOpen = row.form === 'drafting' && row.openUntil !== null && now < row.openUntil
  const shut = postsOutOfTime(notice, listAnswer(row.answers, 'posts'), now).filter(({ when }) => when === 'not yet' || !isKeptOpen)
  if (shut.length === 0) return false
  const known = await postsHandedIn(tx, row)
  const [first] = shut.filter(({ post }) => !known.includes(post.id))
  if (!first) return false
  const { post, when } = first
  const spell = (moment = '') => spellInstant(moment, notice.body.zone)
  const isAllowed = may(context.principal, 'dates.override')
  const data = isAllowed ? { outsideDates: true } : undefined
  if (!isAllowed || !given.outsideDates) {
    throw when === 'not yet'
      ? refusal('sheet.post-early', { post: post.title, opens: spell(post.opens) }, data)
      : refusal('sheet.post-closed', { post: post.title, closes: spell(post.closes) }, data)
  }
  if ((given.reason?.trim().length ?? 0) < reasonLeast) throw refusal('dates.reason', { least: reasonLeast })
  return true
}

/** The posts of a form as it was handed in before: as they stood before the first change since; none of a form that never was. */
async function postsHandedIn(tx: Executor, { id, submittedAt, answers }: ApplicationRow): Promise<string[]> {
  if (!submittedAt) return []
  const [first] = await tx.select({ before: answerChange.before }).from(answerChange)
    .where(and(eq(answerChange.applicationId, id), eq(answerChange.question, 'posts'), gt(answerChange.at, submittedAt)))
    .orderBy(asc(answerChange.revision)).limit(1)
  return listAnswer(first ? { posts: first.before ?? [] } : answers, 'posts')
}
