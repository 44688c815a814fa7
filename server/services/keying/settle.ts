import { eq } from 'drizzle-orm'
import { settledAnswers, type Settlement } from '../../../core/application/keying'
import type { Answer } from '../../../core/application/answers'
import { refusal } from '../../../shared/refusal'
import { answerChange, paperForm } from '../../database/schema'
import { carryOut, type Carried } from '../acts/carry-out'
import type { Given } from '../acts/given'
import { searchKeys, storedAnswer } from '../applications/answers'
import type { Caller } from '../context'
import { reassessDraft } from '../fees/assessments'
import { paperOf } from './list'

/**
 * Somebody has looked at the paper: what they say holds at each place where the two differ, and becomes the form's.
 *
 * @throws ProblemError `keying.unsettled` while a difference has no word; nothing is changed then.
 */
export function settleKeying(caller: Caller, id: string, settlements: readonly Settlement[], given: Given): Promise<Carried<null>> {
  return carryOut(caller, 'settle-keying', id, given, async (acting) => {
    const { tx, context, row, notice } = acting
    const paper = await paperOf(tx, id)
    const said = settlements.map(one => one.keep === 'anew' ? { ...one, answer: storedAnswer(one.answer) } : one)
    const { answers, differing, left } = settledAnswers(notice, row.answers, paper.second, said)
    if (left.length > 0) throw refusal('keying.unsettled', { count: left.length, number: row.number })
    const changed = Object.entries(answers).flatMap(([question, after]) =>
      JSON.stringify(row.answers[question] ?? '') === JSON.stringify(after)
        ? []
        : [{ question, before: row.answers[question] ?? null, after }]
    )
    const revision = changed.length > 0 ? row.revision + 1 : row.revision
    if (changed.length > 0) {
      await tx.insert(answerChange).values(changed.map(({ question, before, after }) => ({
        id: context.newId(),
        applicationId: id,
        revision,
        question,
        before,
        after,
        by: context.principal.id,
        at: context.now(),
      })))
    }
    await tx.update(paperForm).set({ settled: said, differing, settledBy: context.principal.id, settledAt: context.now() })
      .where(eq(paperForm.applicationId, id))
    const assessed = await reassessDraft(acting, { ...row, answers })
    const of = (side: 'before' | 'after') => Object.fromEntries(changed.map((one): [string, Answer | null] => [one.question, one[side]]))
    return {
      result: null,
      outcome: { fee: assessed.fee },
      columns: { answers, revision, keying: 'agreed', ...searchKeys(answers), ...assessed.columns },
      before: { keying: 'differing', ...of('before') },
      after: { keying: 'agreed', ...of('after') },
    }
  })
}
