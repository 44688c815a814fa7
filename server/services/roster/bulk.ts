import { inArray } from 'drizzle-orm'
import { judgeAct } from '../../../core/application/acts/judge'
import { actRule } from '../../../core/application/acts/table'
import { defineWork } from '../../jobs/define'
import { bulkSchema, type BulkAct } from '../../../shared/bulk'
import { ProblemError } from '../../../shared/problem'
import { application } from '../../database/schema'
import { factsOf } from '../acts/facts'
import { performAct } from '../acts/named'
import type { Caller, Context } from '../context'
import { currentNotice } from '../notice/notices'
import { askedOf } from './filter'
import { keysOf } from './page'

const pageSize = 200

/** What became, or would become, of everybody who matched: `refused` by the sentence of the first whom each rule kept. */
interface Tally {
  total: number
  done: number
  waiting: number
  refusals: Map<string, { n: number, text: string }>
}

/**
 * One act on everybody who matches a question to the roster: tried, which changes nothing and tells whom it would reach and whom not, and
 * why; or done, each in a transaction of its own, judged as things stand then. Done again after a process died, whoever was reached already
 * is told as reached.
 */
export async function actOnMany(
  caller: Caller,
  cycle: string,
  { filter, act, mode, reason, outsideDates }: BulkAct,
  tell: (done: number, total: number) => Promise<boolean>,
): Promise<Record<string, string | number>> {
  const context = await caller.authorise(actRule(act).permission, { cycle })
  const tally: Tally = { total: 0, done: 0, waiting: 0, refusals: new Map() }
  const refuse = (code: string, text: string) =>
    tally.refusals.set(code, { n: (tally.refusals.get(code)?.n ?? 0) + 1, text: tally.refusals.get(code)?.text ?? text })
  // Whoever is acted on may leave the question meanwhile: pages go on by number, so that nobody is passed over.
  for (let after: string | undefined;;) {
    const keys = await keysOf(context.db, askedOf(cycle, filter), { sort: 'number', after, limit: pageSize })
    const page = keys.slice(0, pageSize)
    for (const { id } of page) {
      tally.total++
      try {
        if (mode === 'try') await tryOne(context, id, { filter, act, mode, reason, outsideDates }, tally, refuse)
        else {
          const carried = await performAct(caller, act, id, { reason, outsideDates })
          if (carried.isDone) tally.done++
          else tally.waiting++
        }
      } catch (error) {
        if (!(error instanceof ProblemError)) throw error
        refuse(error.problem.code, error.problem.message)
      }
    }
    after = page.at(-1)?.number
    if (keys.length <= pageSize || !await tell(tally.total, tally.total + pageSize)) break
  }
  const sentences = [...tally.refusals.values()].sort((a, b) => b.n - a.n).slice(0, 8)
  return {
    total: tally.total,
    done: tally.done,
    waiting: tally.waiting,
    refused: [...tally.refusals.values()].reduce((sum, one) => sum + one.n, 0),
    ...Object.fromEntries(sentences.map(({ n, text }) => [`refused: ${text}`, n])),
  }
}

async function tryOne(
  context: Context,
  id: string,
  { act, outsideDates }: BulkAct,
  tally: Tally,
  refuse: (code: string, text: string) => void,
): Promise<void> {
  const { db, principal, language } = context
  const [row] = await db.select().from(application).where(inArray(application.id, [id]))
  if (!row) return
  const { notice } = await currentNotice(db, row.cycle)
  const standing = judgeAct(act, principal, [], await factsOf(db, row, notice), notice, context.now())
  const against = standing.refusal ?? (outsideDates ? null : standing.outsideDates)
  if (against) refuse(against.code, language.refusals.refusalText(against.code, against.parameters))
  else if (standing.needsSecond) tally.waiting++
  else tally.done++
}

/** The same as long work. */
export const actOnManyWork = defineWork({
  kind: 'act-on-many',
  permission: 'roster.act',
  input: bulkSchema,
  run: (caller, { cycle, input, tell }) => actOnMany(caller, cycle, input, tell),
})
