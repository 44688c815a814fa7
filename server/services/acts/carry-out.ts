import { sql } from 'drizzle-orm'
import type { Permission } from '../../../core/access/permissions'
import { judgeAct, reasonLeast, type ActStanding } from '../../../core/application/acts/judge'
import { actRule } from '../../../core/application/acts/table'
import type { ActId, ActOutcome } from '../../../core/application/acts/rule'
import { refusal } from '../../../shared/refusal'
import type { Executor } from '../../database/client'
import { inTurn } from '../../database/gate'
import { message } from '../../database/schema'
import { inserting, together, type Write } from '../../database/together'
import { applicationHeld, tracksOf, type ApplicationRow, type StandingRow } from '../applications/store'
import { log, logging, logMany, relationsTo, type Caller, type Context, type Logged } from '../context'
import type { CurrentNotice } from '../notice/notices'
import { factsOfTracks, knownOf, type Asked, type Known } from './facts'
import type { Given } from './given'
import { settleMatters, settleMattersOfAlike, settlingMatters } from './matters'
import { propose, secondPersonWanted, settleProposal } from './proposals'
import { groupsOfAlike, saveTracksOfAlike, savingTracks } from './tracks'

/**
 * The one way to change an application: lock, guard, effect, tracks, log, open matters, messages, in one transaction. The guard is that
 * of `core/application/acts`; what else an act writes is its effect.
 */

/** What an effect works with; the application is held until the transaction ends. */
export interface Acting extends CurrentNotice, Known {
  tx: Executor
  context: Context
  row: ApplicationRow
}

/** Holds an application for an act on it. */
export async function actingOn(tx: Executor, context: Context, applicationId: string): Promise<Acting> {
  return actingOnHeld(tx, context, await applicationHeld(tx, applicationId))
}

async function actingOnHeld(
  tx: Executor,
  context: Context,
  held: CurrentNotice & { row: ApplicationRow },
  asked: Asked | null = null,
): Promise<Acting> {
  return { tx, context, ...held, ...await knownOf(tx, held.row, held.notice, asked) }
}

/** What an act did besides its tracks. */
export interface Effect<T> {
  result: T
  outcome?: ActOutcome
  /** Columns of the application that change with it. */
  columns?: Partial<ApplicationRow>
  before?: unknown
  after?: unknown
  /** What the message to the candidate says, where the act tells them. */
  tell?: Record<string, string | number>
  /**
   * What it has still to be written, in the same statement as the act: nothing that reads what another of them writes. Files, and what
   * others must settle, are as they were.
   */
  writes?: Write[]
  /** What the log tells before the act itself. */
  logged?: Logged[]
  /** It went beyond what the notice's dates open, with a reason. */
  isOutsideDates?: boolean
  /** It was done before: nothing is written. */
  isRepeated?: true
  /** The application is no more. */
  isGone?: true
}

/** An act that hangs on how the application stands; all that it may be take the same permission. */
export interface ActByRow {
  permission: Permission
  of: (row: ApplicationRow) => ActId
}

export type Carried<T> = { isDone: true, result: T } | { isDone: false, proposal: string }

/**
 * Carries out an act for somebody who asks.
 *
 * @param again answers a repeated request from the row as it stands; undefined where this is no repetition.
 * @throws ProblemError with the code of the guard that refuses it; nothing is changed then.
 */
export async function carryOut<T>(
  caller: Caller,
  asked: ActId | ActByRow,
  applicationId: string,
  given: Given,
  effect: (acting: Acting) => Promise<Effect<T>>,
  again?: (row: ApplicationRow, tx: Executor) => Promise<T | undefined>,
): Promise<Carried<T>> {
  const context = await caller.authorise(typeof asked === 'string' ? actRule(asked).permission : asked.permission, {
    application: applicationId,
  })
  return inTurn(() =>
    context.db.transaction(async (tx) => {
      const held = await applicationHeld(tx, applicationId)
      const before = await again?.(held.row, tx)
      if (before !== undefined) return { isDone: true, result: before }
      const act = typeof asked === 'string' ? asked : asked.of(held.row)
      const acting = await actingOnHeld(tx, context, held, given.again ? { act, requestId: context.requestId } : null)
      if (given.again && acting.facts.isRepeated) return { isDone: true, result: given.again.result as T }
      return carryOutOn(acting, act, given, effect)
    })
  )
}

/** As `carryOut`, for an application that the transaction holds already. */
export async function carryOutOn<T>(
  acting: Acting,
  act: ActId,
  given: Given,
  effect: (acting: Acting) => Promise<Effect<T>>,
): Promise<Carried<T>> {
  const { tx, context, row, notice, version, facts, beside } = acting
  const standing = judgeAct(act, context.principal, relationsTo(context.principal, row), facts, notice, context.arrived())
  const reason = demandPermit(standing, given)
  const needsSecond = standing.needsSecond || actRule(act).isSeenTwice?.({ id: row.id, facts, notice, input: given.input ?? {} }) === true
  if (needsSecond && await secondPersonWanted(tx, context, act, row.id, given)) {
    return { isDone: false, proposal: await propose(tx, context, act, row, given) }
  }
  if (given.confirmed) await settleProposal(tx, context, given.confirmed.proposal, 'confirmed')
  const done = await effect(acting)
  if (done.isRepeated) return { isDone: true, result: done.result }
  const rule = actRule(act)
  if (done.isGone) {
    await log(tx, context, act, {
      subject: { kind: 'application', id: row.id },
      cycle: row.cycle,
      reason,
      before: done.before,
      after: done.after,
      noticeVersion: version,
    })
    return { isDone: true, result: done.result }
  }
  const { saved, writes } = savingTracks(tx, context, row, rule.change?.(facts, done.outcome ?? {}) ?? {}, done.columns)
  const logged = logging(context, [...done.logged ?? [], {
    act,
    entry: {
      subject: { kind: 'application', id: row.id },
      cycle: row.cycle,
      reason,
      outsideDates: standing.outsideDates !== null || done.isOutsideDates === true,
      before: done.before ?? changedTracks(row, saved).before,
      after: done.after ?? changedTracks(row, saved).after,
      noticeVersion: version,
    },
  }])
  const told = rule.tells ? [telling(acting, act, { ...(reason ? { reason } : {}), ...done.tell })] : []
  // An effect that has written for itself may have changed what is open.
  if (done.writes) await together(tx, [...done.writes, ...writes, logged, ...settlingMatters(tx, context, saved, notice, beside), ...told])
  else {
    await together(tx, [...writes, logged, ...told])
    await settleMatters(tx, context, saved, notice)
  }
  return { isDone: true, result: done.result }
}

const telling = ({ context, row }: Acting, act: ActId, parameters: Record<string, string | number>) =>
  inserting(message, [{
    id: context.newId(),
    applicationId: row.id,
    cycle: row.cycle,
    kind: act,
    parameters,
    at: context.now(),
    // What somebody did themself is no news to them.
    unseen: context.principal.id !== row.ownerId,
  }])

function demandPermit(standing: ActStanding, given: Given): string | null {
  if (standing.refusal) throw refusal(standing.refusal.code, standing.refusal.parameters)
  const reason = given.reason?.trim() ?? ''
  if (standing.outsideDates && !given.outsideDates) {
    throw refusal(standing.outsideDates.code, standing.outsideDates.parameters, { outsideDates: true })
  }
  if (standing.outsideDates && reason.length < reasonLeast) throw refusal('dates.reason', { least: reasonLeast })
  if (standing.needsReason && reason.length < reasonLeast) throw refusal('act.reason', { least: reasonLeast })
  return reason || null
}

function changedTracks(before: StandingRow, after: StandingRow): { before: Record<string, string>, after: Record<string, string> } {
  const [old, fresh] = [tracksOf(before), tracksOf(after)]
  const keys = (Object.keys(old) as (keyof typeof old)[]).filter(key => old[key] !== fresh[key])
  return { before: Object.fromEntries(keys.map(key => [key, old[key]])), after: Object.fromEntries(keys.map(key => [key, fresh[key]])) }
}

/** What an act on many writes of each into the log, and tells them. */
export interface EachEntry {
  before?: unknown
  after?: unknown
  tell?: Record<string, string | number>
}

/**
 * The same act on many applications that the transaction holds, in a few statements a thousand. Only for acts whose rules ask for the
 * tracks alone. Those whom the rule refuses are left out and given back.
 */
export async function carryOutOnMany<Row extends StandingRow>(
  tx: Executor,
  context: Context,
  act: ActId,
  { notice, version }: CurrentNotice,
  rows: readonly Row[],
  given: Given & { isOutsideDates?: boolean, outcome?: ActOutcome },
  each: (row: Row) => EachEntry,
): Promise<Row[]> {
  const rule = actRule(act)
  const reason = given.reason?.trim() || null
  const leftOut: Row[] = []
  for (const group of groupsOfAlike(rows)) {
    const [first] = group
    if (!first) continue
    const facts = factsOfTracks(first)
    if (rule.refuse(facts)) {
      leftOut.push(...group)
      continue
    }
    const tracks = await saveTracksOfAlike(tx, context, group, rule.change?.(facts, given.outcome ?? {}) ?? {})
    await logMany(
      tx,
      context,
      act,
      group.map(row => ({
        ...each(row),
        subject: { kind: 'application', id: row.id },
        cycle: row.cycle,
        reason,
        outsideDates: given.isOutsideDates ?? false,
        noticeVersion: version,
      })),
    )
    if (tracks) await settleMattersOfAlike(tx, context, group, tracks, notice)
    if (rule.tells) await tellMany(tx, context, act, group, each)
  }
  return leftOut
}

async function tellMany<Row extends StandingRow>(
  tx: Executor,
  context: Context,
  act: ActId,
  group: readonly Row[],
  each: (row: Row) => EachEntry,
): Promise<void> {
  for (let from = 0; from < group.length; from += 5000) {
    const rows = group.slice(from, from + 5000).map(row => ({ id: row.id, cycle: row.cycle, tell: each(row).tell ?? {} }))
    await tx.execute(sql`
      insert into message (id, application_id, cycle, kind, parameters, at, unseen)
      select gen_random_uuid(), id, cycle, ${act}, tell, ${context.now().toISOString()}::timestamptz, true
      from jsonb_to_recordset(${JSON.stringify(rows)}::jsonb) as entry(id uuid, cycle text, tell jsonb)`)
  }
}
