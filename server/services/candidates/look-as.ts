import { eq } from 'drizzle-orm'
import { refusal } from '../../../shared/refusal'
import { application } from '../../database/schema'
import type { Caller } from '../context'
import { principalOf } from '../people/sign-in'

/**
 * The candidate who has an application, for somebody of the office who wants to see what they see. Only for questions: what is asked with
 * it may change nothing.
 *
 * @throws ProblemError `look.no-account` where nobody can look at it here.
 */
export async function candidateOf(caller: Caller, applicationId: string): Promise<Caller> {
  const { db } = await caller.authorise('applications.look-as', { application: applicationId })
  const [row] = await db.select({ owner: application.ownerId }).from(application).where(eq(application.id, applicationId))
  if (!row) throw refusal('application.unknown')
  const owner = row.owner && await principalOf(db, row.owner)
  if (!owner) throw refusal('look.no-account')
  return caller.as(owner)
}
