import { and, eq, inArray, ne } from 'drizzle-orm'
import { identityOf } from '../../../core/identity/likely-pair'
import type { Notice } from '../../../core/notice/schema'
import { refusal } from '../../../shared/refusal'
import type { Executor } from '../../database/client'
import { application } from '../../database/schema'
import { countedAnswers, type ApplicationRow } from '../applications/store'

/**
 * Refuses what would make a second accepted application of one person, where the first was accepted under the number of their paper.
 *
 * @throws ProblemError `decision.same-person` with the number of the other one.
 */
export async function refuseSecondOf(tx: Executor, row: Pick<ApplicationRow, 'id' | 'cycle' | 'number' | 'personKey'>): Promise<void> {
  if (row.personKey === null) return
  const [other] = await tx.select({ number: application.number }).from(application).where(and(
    eq(application.cycle, row.cycle),
    eq(application.personKey, row.personKey),
    eq(application.scrutiny, 'accepted'),
    inArray(application.form, ['submitted', 'correcting']),
    ne(application.id, row.id),
  ))
  if (other) throw refusal('decision.same-person', { number: row.number, other: other.number })
}

/**
 * Where the notice wants one application a person: the number of their paper, which no other accepted application of the cycle bears. The
 * database holds it, too.
 *
 * @throws ProblemError `decision.same-person` with the number of the other one.
 */
export async function onlyOf({ tx, row, notice }: { tx: Executor, row: ApplicationRow, notice: Notice }): Promise<string | null> {
  const key = notice.scrutiny?.onePerson ? identityOf(notice, countedAnswers(notice, row)).identityNumber || null : null
  if (key === null) return null
  await refuseSecondOf(tx, { ...row, personKey: key })
  return key
}
