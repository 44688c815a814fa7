import { and, asc, desc, eq, inArray, lt } from 'drizzle-orm'
import type PgBoss from 'pg-boss'
import { z } from 'zod'
import { product } from '../../core/access/principal'
import { ProblemError } from '../../shared/problem'
import { refusal } from '../../shared/refusal'
import type { JobView, RunRequest } from '../../shared/centres'
import type { Given } from '../services/acts/given'
import { alone, type Database, type Executor } from '../database/client'
import { officeNow } from '../database/clock'
import { locks } from '../database/locks'
import { job } from '../database/schema'
import { matchLinesWork } from '../services/bank/work'
import { cardsWork } from '../services/cards/work'
import { publishableCycle } from '../services/centres/publish'
import { allocationWork, publishingWork } from '../services/centres/work'
import { Caller } from '../services/context'
import { settleMattersWork } from '../services/acts/matters-anew'
import { assessAnewWork } from '../services/fees/work'
import { reviewWork } from '../services/eligibility/work'
import { namesOf, type NameOf } from '../services/people/names'
import { rollOf } from '../services/rolls/rolls'
import { enterRollWork, handInRollWork, tryRollWork } from '../services/rolls/work'
import { announceWork } from '../services/letters/announcements'
import { actOnManyWork } from '../services/roster/bulk'
import { proveCountsWork } from '../services/roster/prove'
import { checkLogWork } from '../services/records/seal'
import { findPairsWork } from '../services/scrutiny/work'
import { principalOf } from '../services/people/sign-in'
import { askForWork, type WorkKind, type WorkTools } from './define'
import { workQueue } from './queue-name'

/**
 * Long work: what people see of it, and all that a process needs to take it up, is a row of `job`. The queue (pg-boss, in the same
 * database) makes it begin at once; whatever nobody is doing is taken up by `takeUpWork`.
 */
const works: readonly WorkKind[] = [allocationWork, publishingWork, cardsWork, reviewWork, assessAnewWork, settleMattersWork, tryRollWork,
  enterRollWork, handInRollWork, matchLinesWork, proveCountsWork, findPairsWork, actOnManyWork, announceWork,
  checkLogWork] as unknown as WorkKind[]
export const workKinds: readonly string[] = works.map(work => work.kind)
/** Seconds without a sign of life after which work is looked at by other processes. */
const silence = 10

function workOf(kind: string): WorkKind {
  const found = works.find(work => work.kind === kind)
  if (!found) throw refusal('work.unknown-kind', { kind: kind.slice(0, 40) })
  return found
}

/**
 * Starts work. While the same work is under way for the cycle, that one is given instead; while other work of the kind is,
 * the new one is refused, so that nothing that was asked for is dropped without a word. Work bears the number of the request
 * that asked for it: a request that is sent again finds what it started, even when that is done.
 */
export async function startWork(caller: Caller, queue: PgBoss, kind: string, cycle: string, asked: unknown): Promise<JobView> {
  const work = workOf(kind)
  const context = await caller.authorise(work.permission)
  const input = work.input.parse(asked ?? {})
  const request = JSON.stringify(input)
  const row = await context.db.transaction(async (tx) => {
    // One at a time looks whether there is work and starts it, so that a double press starts one.
    await locks.startWork(tx)
    const number = z.uuid().safeParse(context.requestId).data
    const [known] = number ? await tx.select().from(job).where(eq(job.id, number)) : []
    if (known && known.kind === kind && known.cycle === cycle && known.request === request && known.by === context.principal.id) {
      return known
    }
    const [live] = await tx.select().from(job)
      .where(and(eq(job.kind, kind), eq(job.cycle, cycle), inArray(job.state, ['waiting', 'running'])))
    if (live && live.request !== request) throw refusal('work.other', { by: (await namesOf(tx, [live.by]))(live.by) })
    if (live) return live
    const made = await askForWork(tx, context, kind, cycle, input, known ? undefined : number)
    if (!made) throw refusal('work.not-started')
    await work.open?.(tx, context, cycle, made.id, input)
    return made
  })
  if (row.state === 'waiting') {
    await queue.send(workQueue, { jobId: row.id }, { singletonKey: row.id, retryLimit: 0, expireInSeconds: 23 * 3600 }).catch(() => null)
  }
  return view(row, await namesOf(context.db, [row.by]))
}

/** Starts a run of the allocation as asked for. */
export function startRun(caller: Caller, queue: PgBoss, cycle: string, run: RunRequest): Promise<JobView> {
  return startWork(caller, queue, allocationWork.kind, cycle, run)
}

/** Judges all applications of a cycle again, under the notice in force or an amended one. */
export function startReview(caller: Caller, queue: PgBoss, cycle: string, asked: unknown): Promise<JobView> {
  return startWork(caller, queue, reviewWork.kind, cycle, asked)
}

/** Tries a nominal roll, enters it, or hands in what is complete of it. */
export async function startRoll(
  caller: Caller,
  queue: PgBoss,
  kind: 'try-roll' | 'enter-roll' | 'hand-in-roll',
  roll: string,
  reason?: string,
): Promise<JobView> {
  const { db } = await caller.authorise('rolls.enter')
  return startWork(caller, queue, kind, (await rollOf(db, roll)).cycle, { roll, ...(reason === undefined ? {} : { reason }) })
}

/** Starts publishing a run, or writes down that a second person has to confirm it. What can be refused at once is refused at once. */
export async function startPublishing(
  caller: Caller,
  queue: PgBoss,
  runId: string,
  given: Given,
): Promise<{ job: JobView | null, proposal: string | null }> {
  const { cycle, proposal } = await publishableCycle(caller, runId, given)
  if (proposal) return { job: null, proposal }
  const { reason, outsideDates, confirmed } = given
  return {
    job: await startWork(caller, queue, publishingWork.kind, cycle, { run: runId, reason, outsideDates, confirmed }),
    proposal: null,
  }
}

export async function readJob(caller: Caller, id: string): Promise<JobView> {
  const { db } = await caller.authorise('work.read')
  return viewOf(db, id)
}

async function viewOf(db: Executor, id: string): Promise<JobView> {
  const [row] = await db.select().from(job).where(eq(job.id, id))
  if (!row) throw refusal('work.unknown')
  return view(row, await namesOf(db, [row.by]))
}

/** The newest work of a kind, so that a reloaded screen finds what it started. */
export async function newestJob(caller: Caller, kind: string, cycle: string): Promise<JobView | null> {
  const { db } = await caller.authorise('work.read', { cycle })
  const [row] = await db.select().from(job).where(and(eq(job.kind, kind), eq(job.cycle, cycle))).orderBy(desc(job.createdAt)).limit(1)
  return row ? view(row, await namesOf(db, [row.by])) : null
}

/** The newest work of a cycle, of all kinds. */
export async function listJobs(caller: Caller, cycle: string): Promise<JobView[]> {
  const { db } = await caller.authorise('work.read', { cycle })
  const rows = await db.select().from(job).where(eq(job.cycle, cycle)).orderBy(desc(job.createdAt)).limit(100)
  const name = await namesOf(db, rows.map(row => row.by))
  return rows.map(row => view(row, name))
}

/** Asks running work to stop at its next step; what it has done stays done. */
export async function cancelJob(caller: Caller, id: string): Promise<JobView> {
  const found = await readJob(caller, id)
  const { db, now } = await caller.authorise(workOf(found.kind).permission)
  await db.update(job).set({ state: 'cancelled', updatedAt: now() }).where(and(eq(job.id, id), inArray(job.state, ['waiting', 'running'])))
  return viewOf(db, id)
}

function view(row: typeof job.$inferSelect, name: NameOf): JobView {
  return {
    id: row.id,
    kind: row.kind,
    state: row.state,
    done: row.done,
    total: row.total,
    result: row.result ?? null,
    error: row.error?.message ?? null,
    by: name(row.by),
    createdAt: row.createdAt.toISOString(),
    updatedAt: row.updatedAt.toISOString(),
  }
}

/**
 * Does one piece of work, unless another process is doing it. A refusal in words ends it; anything else is thrown, and the work is taken up
 * again later.
 *
 * @returns false when another process has it.
 */
export async function performWork(db: Database, jobId: string, tools: WorkTools): Promise<boolean> {
  // The lock goes with its connection: a process that dies leaves its work free at once.
  return await alone(db, `job:${jobId}`, () => performAlone(db, jobId, tools)) !== null
}

async function performAlone(db: Database, jobId: string, tools: WorkTools): Promise<void> {
  const [row] = await db.update(job).set({ state: 'running', updatedAt: officeNow() })
    .where(and(eq(job.id, jobId), inArray(job.state, ['waiting', 'running']))).returning()
  if (!row) return
  const live = and(eq(job.id, jobId), eq(job.state, 'running'))
  const tell = async (done: number, total: number) =>
    (await db.update(job).set({ done, total, updatedAt: officeNow() }).where(live).returning({ id: job.id })).length > 0
  try {
    const work = workOf(row.kind)
    // As whoever asked for it may act now: somebody who left since starts nothing more.
    const principal = await principalOf(db, row.by)
    const caller = new Caller(db, principal ?? { ...product, kind: 'anybody' }, { requestId: `job:${jobId}` })
    const result = await work.run(caller, { id: jobId, cycle: row.cycle, input: work.input.parse(JSON.parse(row.request)), tools, tell })
    await db.update(job).set({ state: 'done', result, updatedAt: officeNow() }).where(live)
  } catch (error) {
    if (!(error instanceof ProblemError)) throw error
    const { code, parameters, message } = error.problem
    await db.update(job).set({ state: 'failed', error: { code, parameters, message }, updatedAt: officeNow() }).where(live)
  }
}

/**
 * Takes up work of which nothing was heard for a while: its process died, or the queue's message was lost. What is being done is left
 * alone.
 */
export async function takeUpWork(db: Database, tools: WorkTools): Promise<number> {
  const silent = await db.select({ id: job.id }).from(job)
    .where(and(inArray(job.state, ['waiting', 'running']), lt(job.updatedAt, new Date(officeNow().getTime() - silence * 1000))))
    .orderBy(asc(job.updatedAt)).limit(20)
  let taken = 0
  for (const { id } of silent) if (await performWork(db, id, tools)) taken += 1
  return taken
}
