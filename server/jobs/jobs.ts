import { randomUUID } from 'node:crypto'
import { and, desc, eq, inArray, sql } from 'drizzle-orm'
import PgBoss from 'pg-boss'
import { alone, type Database, type Executor } from '../database/client'
import { job } from '../database/schema'
import { runRequestSchema } from '../../shared/centres'
import { ProblemError } from '../../shared/problem'
import type { JobView, RunRequest } from '../../shared/centres'
import type { Permission } from '../../shared/roles'
import { demand, systemContext, type Actor, type Context } from '../services/context'
import { publishableCycle, publishAsWork } from '../services/centres/publish'
import { runAllocation } from '../services/centres/runs'
import type { Solver } from '../services/centres/solver'
import { issueCards } from '../services/cards/issue'
import { openReview, runReview } from '../services/eligibility/reviews'
import { proposeNotice } from '../services/notice/notices'
import { sweepOverduePayments } from '../services/fees/payments'
import { measureKept } from '../services/images/store'
import type { Inspector } from '../../pictures/inspect'
import type { PaymentGateway } from '../standins/gateway'

/**
 * Long work: what people see of it is a row of `job`; the queue behind it is pg-boss's, in the same database, so that
 * any server process can take it up, and takes it up again when the one that had it is gone.
 */
export type JobKind = JobView['kind']
const permissions: Record<JobKind, Permission> = { 'allocate': 'centres.run', 'issue-cards': 'cards.issue', 'review': 'notice.amend', 'publish': 'centres.publish' }
export const jobKinds: readonly JobKind[] = ['allocate', 'issue-cards', 'review', 'publish']
/** Work that begins with nothing but its cycle. */
export const plainJobKinds: readonly JobKind[] = ['issue-cards']
const sweepQueue = 'sweep-payments'
const pictureQueue = 'measure-picture'

interface JobMessage { jobId: string, kind: JobKind, cycle: string, actor: Actor, run?: RunRequest, publish?: string }

/** What work needs of the process that does it. */
export interface Means { solve: Solver, inspect: Inspector }

/** What work begins with besides its cycle. */
interface Beginning { open?: (tx: Executor, jobId: string) => Promise<void>, run?: RunRequest, publish?: string }

/**
 * Puts work in the queue. While the same work is under way for the cycle, that one is given instead; while other work of the kind is,
 * the new one is refused. `open` writes what
 * the work begins with, in the same transaction.
 */
export async function startJob(context: Context, queue: PgBoss, kind: JobKind, cycle: string, begin: Beginning = {}): Promise<JobView> {
  const actor = demand(context, permissions[kind])
  const request = begin.run ? JSON.stringify(begin.run) : begin.publish ?? ''
  const row = await context.db.transaction(async (tx) => {
    // One at a time takes this look and leap, so that a double press starts one job.
    await tx.execute(sql`select pg_advisory_xact_lock(7002)`)
    const [live] = await tx.select().from(job).where(and(eq(job.kind, kind), eq(job.cycle, cycle), inArray(job.state, ['waiting', 'running'])))
    if (live && live.request !== request) throw new ProblemError('conflict', `Other work of this kind is under way, started by ${live.by}. Wait for its end or stop it; nothing was started.`)
    if (live) return live
    const at = context.now()
    const [made] = await tx.insert(job).values({ id: context.newId(), kind, cycle, request, state: 'waiting', by: actor.name, createdAt: at, updatedAt: at }).returning()
    if (!made) throw new ProblemError('fault', 'The work could not be started. Try again.')
    await begin.open?.(tx, made.id)
    return made
  })
  const message: JobMessage = { jobId: row.id, kind, cycle, actor, run: begin.run, publish: begin.publish }
  // The singleton key drops a second message for the same job; sending again heals a crash between commit and send.
  await queue.send(kind, message, { singletonKey: row.id, retryLimit: 200, retryDelay: 15, expireInSeconds: 600 })
  return view(row)
}

export async function readJob(context: Context, id: string): Promise<JobView> {
  demand(context, 'read')
  const [row] = await context.db.select().from(job).where(eq(job.id, id))
  if (!row) throw new ProblemError('not-found', 'There is no such work.')
  return view(row)
}

/** The newest work of a kind, so that a reloaded screen finds what it started. */
export async function newestJob(context: Context, kind: JobKind, cycle: string): Promise<JobView | null> {
  demand(context, 'read')
  const [row] = await context.db.select().from(job).where(and(eq(job.kind, kind), eq(job.cycle, cycle))).orderBy(desc(job.createdAt)).limit(1)
  return row ? view(row) : null
}

/** Asks running work to stop at its next step; what it has done stays done. */
export async function cancelJob(context: Context, id: string): Promise<JobView> {
  const found = await readJob(context, id)
  demand(context, permissions[found.kind])
  await context.db.update(job).set({ state: 'cancelled', updatedAt: context.now() }).where(and(eq(job.id, id), inArray(job.state, ['waiting', 'running'])))
  return readJob(context, id)
}

function view(row: typeof job.$inferSelect): JobView {
  return { id: row.id, kind: row.kind, state: row.state, done: row.done, total: row.total, result: row.result ?? null, error: row.error, by: row.by, createdAt: row.createdAt.toISOString() }
}

/** Judges all applications of a cycle again: under the notice in force, or under an amended one that is proposed with it. */
export function startReview(context: Context, queue: PgBoss, cycle: string, proposed: unknown): Promise<JobView> {
  return startJob(context, queue, 'review', cycle, {
    open: async (tx, jobId) => {
      const version = proposed === undefined ? null : await proposeNotice(tx, context, cycle, proposed)
      await openReview(tx, context, cycle, jobId, version)
    },
  })
}

/** Starts a run of the allocation as asked for. */
export function startRun(context: Context, queue: PgBoss, cycle: string, run: RunRequest): Promise<JobView> {
  return startJob(context, queue, 'allocate', cycle, { run })
}

/** Starts publishing a run. What can be refused at once is refused at once. */
export async function startPublishing(context: Context, queue: PgBoss, runId: string): Promise<JobView> {
  return startJob(context, queue, 'publish', await publishableCycle(context, runId), { publish: runId })
}

/**
 * Has a picture measured a little later by whichever process is there then: the one that took it in measures it at once, and this
 * finds nothing left to do unless that one is gone.
 */
export function measureLater(queue: PgBoss, imageId: string): Promise<unknown> {
  return queue.send(pictureQueue, { imageId }, { singletonKey: imageId, startAfter: 20, retryLimit: 6, retryDelay: 5, retryBackoff: true, expireInSeconds: 120 })
}

/** Starts the queue and its workers in this process. */
export async function startQueue(db: Database, url: string, gateway: PaymentGateway, means: Means): Promise<PgBoss> {
  const queue = new PgBoss({ connectionString: url, max: 3, maintenanceIntervalSeconds: 30, monitorStateIntervalSeconds: 30 })
  queue.on('error', error => console.error(JSON.stringify({ level: 'warn', what: 'job queue', message: error.message })))
  await queue.start()
  for (const kind of jobKinds) {
    await queue.createQueue(kind)
    await queue.work<JobMessage>(kind, { pollingIntervalSeconds: 0.5 }, async (messages) => {
      for (const message of messages) await perform(db, message.data, means)
    })
  }
  await queue.createQueue(pictureQueue)
  await queue.work<{ imageId: string }>(pictureQueue, { pollingIntervalSeconds: 2 }, async (messages) => {
    for (const { data } of messages) await measureInTurn(db, data.imageId, means.inspect)
  })
  await queue.createQueue(sweepQueue)
  await queue.work(sweepQueue, { pollingIntervalSeconds: 10 }, async () => {
    await sweepOverduePayments(systemContext(db, 'sweep'), gateway)
  })
  await queue.schedule(sweepQueue, '* * * * *')
  return queue
}

/** Measures a picture whose turn has come. A refusal in words is kept with it; anything else is thrown, so that the queue tries again. */
async function measureInTurn(db: Database, imageId: string, inspect: Inspector): Promise<void> {
  await measureKept(systemContext(db, 'pictures'), inspect, imageId).catch((error: unknown) => {
    if (!(error instanceof ProblemError)) throw error
  })
}

/**
 * Does one piece of long work. A refusal in words ends it; anything else is thrown so that the queue tries again. The queue
 * hands work out anew when it has heard nothing for ten minutes: while it is still being done, that second try waits.
 */
export async function perform(db: Database, message: JobMessage, means: Means): Promise<void> {
  const done = await alone(db, `job:${message.jobId}`, () => performAlone(db, message, means))
  if (!done) throw new Error(`job ${message.jobId} is still being done by another worker`)
}

async function performAlone(db: Database, message: JobMessage, means: Means): Promise<void> {
  const context: Context = { db, actor: message.actor, now: () => new Date(), newId: randomUUID, requestId: `job:${message.jobId}` }
  const begun = await db.update(job).set({ state: 'running', updatedAt: context.now() })
    .where(and(eq(job.id, message.jobId), inArray(job.state, ['waiting', 'running']))).returning()
  if (begun.length === 0) return
  const finish = (values: Partial<typeof job.$inferInsert>) =>
    db.update(job).set({ ...values, updatedAt: context.now() }).where(and(eq(job.id, message.jobId), eq(job.state, 'running')))
  try {
    const result = await work(context, message, means, begun[0]?.createdAt ?? context.now())
    await finish({ state: 'done', result })
  } catch (error) {
    if (!(error instanceof ProblemError)) throw error
    await finish({ state: 'failed', error: error.problem.message })
  }
}

async function work(context: Context, message: JobMessage, means: Means, askedAt: Date): Promise<Record<string, string | number>> {
  const tell = async (done: number, total: number) => {
    const [row] = await context.db.update(job).set({ done, total, updatedAt: context.now() }).where(eq(job.id, message.jobId)).returning()
    return row?.state === 'running'
  }
  switch (message.kind) {
    case 'allocate': return runAllocation(context, message.cycle, message.run ?? runRequestSchema.parse({}), means.solve, tell)
    case 'publish': return { ...await publishAsWork(context, message.publish ?? '', askedAt, tell) }
    case 'issue-cards': return issueCards(context, message.cycle, tell)
    case 'review': return runReview(context, message.jobId, tell)
  }
}
