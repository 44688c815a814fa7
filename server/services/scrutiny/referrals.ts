import { and, desc, eq, isNull } from 'drizzle-orm'
import type { ReferralView } from '../../../shared/scrutiny'
import type { ActInput } from '../../../shared/acts'
import type { Executor } from '../../database/client'
import { referral } from '../../database/schema'
import { carryOut, type Carried } from '../acts/carry-out'
import type { Given } from '../acts/given'
import type { Caller } from '../context'
import { namesOf } from '../people/names'

/**
 * Puts a question about a waiting case to a desk of the office. Nobody decides on it until the desk has answered, or the question was taken
 * back.
 */
export function refer(
  caller: Caller,
  id: string,
  { desk, until }: Pick<ActInput<'refer'>, 'desk' | 'until'>,
  given: Given,
): Promise<Carried<null>> {
  return carryOut(caller, 'refer', id, given, async ({ tx, context, row }) => {
    const question = given.reason?.trim() ?? ''
    await tx.insert(referral).values({
      id: context.newId(),
      applicationId: id,
      cycle: row.cycle,
      desk,
      question,
      until: until ? new Date(until) : null,
      by: context.principal.id,
      at: context.now(),
    })
    return { result: null, after: { desk, question, until: until ?? null } }
  })
}

/** Answers what a desk was asked; the case comes back to its queue with the answer. */
export function answerReferral(caller: Caller, id: string, given: Given): Promise<Carried<null>> {
  return carryOut(caller, 'answer-referral', id, given, async ({ tx, context }) => {
    const answer = given.reason?.trim() ?? ''
    await tx.update(referral).set({ answer, answeredBy: context.principal.id, answeredAt: context.now() })
      .where(and(eq(referral.applicationId, id), isNull(referral.answeredAt)))
    return { result: null, after: { answer } }
  })
}

/** Everything that desks were asked about an application, the newest first. */
export async function referralsOf(tx: Executor, applicationId: string): Promise<ReferralView[]> {
  const rows = await tx.select().from(referral).where(eq(referral.applicationId, applicationId)).orderBy(desc(referral.at))
  const name = await namesOf(tx, rows.flatMap(row => [row.by, ...row.answeredBy ? [row.answeredBy] : []]))
  return rows.map(row => ({
    desk: row.desk,
    question: row.question,
    until: row.until?.toISOString() ?? null,
    by: name(row.by),
    at: row.at.toISOString(),
    answer: row.answer,
    answeredBy: row.answeredBy ? name(row.answeredBy) : null,
    answeredAt: row.answeredAt?.toISOString() ?? null,
  }))
}
