import { eq, sql } from 'drizzle-orm'
import { compareKeyed } from '../../../core/application/keying'
import type { Answer, Answers } from '../../../core/application/answers'
import type { KeyingView } from '../../../shared/keying'
import { refusal } from '../../../shared/refusal'
import type { Executor } from '../../database/client'
import { paperForm } from '../../database/schema'
import { actingOn, carryOut, type Carried } from '../acts/carry-out'
import type { Given } from '../acts/given'
import { refuseUnknownQuestions, storedAnswer } from '../applications/answers'
import type { Caller, Context } from '../context'
import { nameOf } from '../people/names'
import { paperOf, viewOf } from './list'

/** A paper form that somebody has begun to key a second time is theirs for so long after they last worked on it, in minutes. */
const inHandFor = 30

/** The first person has keyed all of it: it stands still until a second has keyed it, too. */
export function finishKeying(caller: Caller, id: string, given: Given): Promise<Carried<null>> {
  return carryOut(caller, 'finish-keying', id, given, async ({ tx, context }) => {
    await tx.update(paperForm).set({ firstBy: context.principal.id, firstAt: context.now() }).where(eq(paperForm.applicationId, id))
    return { result: null, columns: { keying: 'second' }, before: { keying: 'first' }, after: { keying: 'second' } }
  })
}

/** Opens it again for the first person, while nobody has begun to key it a second time. */
export function takeBackKeying(caller: Caller, id: string, given: Given): Promise<Carried<null>> {
  return carryOut(caller, 'take-back-keying', id, given, async ({ tx }) => {
    await tx.update(paperForm).set({ firstBy: null, firstAt: null }).where(eq(paperForm.applicationId, id))
    return { result: null, columns: { keying: 'first' }, before: { keying: 'second' }, after: { keying: 'first' } }
  })
}

/**
 * Keeps what the second person keys, as typed; the form itself stays as the first has keyed it. With nothing typed it only takes the form
 * in hand.
 *
 * @throws ProblemError `keying.same-person` for whoever keyed any of it the first time, `keying.in-hand` while somebody else works on it.
 */
export async function saveSecondKeying(caller: Caller, id: string, changes: Record<string, Answer>): Promise<KeyingView> {
  const context = await caller.authorise('forms.key')
  return context.db.transaction(async (tx) => {
    const { row, notice, facts } = await actingOn(tx, context, id)
    if (facts.keying?.state !== 'second') throw refusal('act.not-keying', { number: row.number })
    if (facts.keying.first.includes(context.principal.id)) throw refusal('keying.same-person', { number: row.number })
    refuseUnknownQuestions(notice, Object.keys(changes))
    const paper = await paperOf(tx, id)
    const { secondBy, secondSeen } = paper
    if (secondBy !== null && secondBy !== context.principal.id && secondSeen !== null && secondSeen > since(context)) {
      throw refusal('keying.in-hand', { number: row.number, by: await nameOf(tx, secondBy) })
    }
    await keepInHand(
      tx,
      context,
      paper,
      Object.fromEntries(Object.entries(changes).map(([question, typed]) => [question, storedAnswer(typed)])),
    )
    return viewOf(tx, context, id)
  })
}

/**
 * Takes a form in hand, or keeps on: whoever takes over what somebody else has left begins anew, as two people's work would be one
 * otherwise; what those had keyed is kept aside.
 */
async function keepInHand(
  tx: Executor,
  context: Context,
  { applicationId, second, secondBy, secondSeen, earlier }: typeof paperForm.$inferSelect,
  changes: Answers,
): Promise<void> {
  const isOwn = secondBy === context.principal.id
  const left = !isOwn && secondBy !== null && Object.keys(second).length > 0
    ? [{ by: secondBy, at: secondSeen?.toISOString() ?? '', answers: second }]
    : []
  await tx.update(paperForm).set({
    second: { ...isOwn ? second : {}, ...changes },
    secondBy: context.principal.id,
    secondSeen: context.now(),
    earlier: [...earlier, ...left],
  }).where(eq(paperForm.applicationId, applicationId))
}

const since = (context: Context) => new Date(context.now().getTime() - inHandFor * 60_000)

/**
 * Takes the next form in hand that the reader may key a second time: the one that they have begun, or the one that came in first. Two who
 * ask at once get two.
 */
export async function nextToKey(caller: Caller, cycle: string): Promise<{ id: string | null }> {
  const context = await caller.authorise('forms.key', { cycle })
  return context.db.transaction(async (tx) => {
    const id = await nextFor(tx, context, cycle)
    if (id !== null) await keepInHand(tx, context, await paperOf(tx, id), {})
    return { id }
  })
}

async function nextFor(tx: Executor, context: Context, cycle: string): Promise<string | null> {
  const me = context.principal.id
  const { rows: [found] } = await tx.execute<{ id: string }>(sql`select a.id from application a join paper_form p on p.application_id = a.id
    where a.cycle = ${cycle} and a.keying = 'second' and a.form = 'drafting' and (p.second_by is null or p.second_by = ${me} or p.second_seen <= ${
    since(context).toISOString()
  }::timestamptz)
      and not exists (select 1 from answer_change c where c.application_id = a.id and c.by = ${me})
    order by (p.second_by is not distinct from ${me}) desc, a.received_at, a.id limit 1 for update of p skip locked`)
  return found?.id ?? null
}

/** The second person has keyed all of it: both are compared, and where nothing differs the form holds as it is. */
export function finishSecondKeying(caller: Caller, id: string, given: Given): Promise<Carried<null>> {
  return carryOut(caller, 'finish-second-keying', id, given, async ({ tx, context, row, notice }) => {
    const { second } = await paperOf(tx, id)
    if (Object.keys(second).length === 0) throw refusal('act.keyed-nothing', { number: row.number })
    const { compared, differing } = compareKeyed(notice, row.answers, second)
    const isAgreed = differing.length === 0
    await tx.update(paperForm).set({
      secondAt: context.now(),
      compared,
      differing,
      ...isAgreed ? { settled: [], settledAt: context.now() } : {},
    }).where(eq(paperForm.applicationId, id))
    return {
      result: null,
      columns: { keying: isAgreed ? 'agreed' : 'differing' },
      before: { keying: 'second' },
      after: { keying: isAgreed ? 'agreed' : 'differing', compared, differing: differing.length },
    }
  })
}
