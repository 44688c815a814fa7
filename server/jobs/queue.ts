import PgBoss from 'pg-boss'
import type { Database } from '../database/client'
import { lapseOverdue } from '../services/clock/lapse'
import { applyReadyCorrections, endCorrections } from '../services/corrections/end'
import { remindInTime } from '../services/clock/remind'
import { productCaller } from '../services/context'
import { takeOverAgreed } from '../services/eligibility/take-over'
import { carryLetters } from '../services/letters/outbox'
import { writeLetters } from '../services/letters/write'
import { forgetOldTries } from '../services/people/pace'
import { sealLog } from '../services/records/seal'
import { issueReceipts } from '../services/fees/receipts'
import { settleMootPairs } from '../services/scrutiny/pairs'
import { sortCases } from '../services/scrutiny/sorting'
import { foldTally, rewriteStale } from '../services/roster/keep'
import { askForProofs } from '../services/roster/nightly'
import { sweepGatewayRefunds } from '../services/bank/refunds'
import { sweepOverduePayments } from '../services/fees/payments'
import { measureWaiting } from '../services/images/store'
import type { PaymentGateway } from '../standins/gateway'
import type { MessageGateway } from '../messages/gateway'
import type { WorkTools } from './define'
import { performWork, takeUpWork } from './jobs'
import { workQueue } from './queue-name'

/** What a process looks for by itself, and how often in milliseconds. */
interface Beat {
  name: string
  every: number
  look: () => Promise<unknown>
}

/** The queue of one process, and its looking for what nobody does. */
export interface Working {
  queue: PgBoss
  stop: () => Promise<void>
}

const warn = (what: string, error: unknown) =>
  console.error(JSON.stringify({ level: 'warn', what, message: error instanceof Error ? error.message : 'unknown' }))

/**
 * Starts the queue and the beats of this process. Each beat waits a while for its last look; a lost database is looked for again with the
 * next.
 */
export async function startWorking(
  db: Database,
  url: string,
  gateway: PaymentGateway,
  messages: MessageGateway,
  tools: WorkTools,
): Promise<Working> {
  const queue = new PgBoss({
    connectionString: url,
    max: 3,
    migrate: false,
    maintenanceIntervalSeconds: 30,
    monitorStateIntervalSeconds: 30,
  })
  queue.on('error', error => warn('job queue', error))
  const beats: Beat[] = [
    { name: 'work that nobody does', every: 5_000, look: () => takeUpWork(db, tools) },
    { name: 'files that nobody measured', every: 5_000, look: () => measureWaiting(productCaller(db, 'pictures'), tools.inspect) },
    { name: 'refunds through the gateway', every: 30_000, look: () => sweepGatewayRefunds(productCaller(db, 'sweep'), gateway) },
    { name: 'overdue payments', every: 20_000, look: () => sweepOverduePayments(productCaller(db, 'sweep'), gateway) },
    { name: 'letters to write', every: 3_000, look: () => writeLetters(productCaller(db, 'letters')) },
    { name: 'letters to carry', every: 2_000, look: () => carryLetters(productCaller(db, 'letters'), messages) },
    { name: 'amendments whose moment has come', every: 5_000, look: () => takeOverAgreed(productCaller(db, 'clock')) },
    { name: 'rows of the log to seal', every: 10_000, look: () => sealLog(productCaller(db, 'seal')) },
    { name: 'tries long past', every: 600_000, look: () => forgetOldTries(productCaller(db, 'pace')) },
    { name: 'receipts to issue', every: 3_000, look: () => issueReceipts(productCaller(db, 'receipts')) },
    { name: 'cases to sort into queues', every: 2_000, look: () => sortCases(productCaller(db, 'sorting')) },
    {
      name: 'likely pairs of which one side has left or come back',
      every: 15_000,
      look: () => settleMootPairs(productCaller(db, 'pairs')),
    },
    { name: 'counts to fold', every: 2_000, look: () => foldTally(productCaller(db, 'tally')) },
    { name: 'counts to prove at night', every: 300_000, look: () => askForProofs(productCaller(db, 'proofs')) },
    { name: 'entries of the roster to write anew', every: 10_000, look: () => rewriteStale(productCaller(db, 'roster')) },
    {
      name: 'corrections to end',
      every: 30_000,
      look: async () => await endCorrections(productCaller(db, 'clock')) + await applyReadyCorrections(productCaller(db, 'clock')),
    },
    { name: 'reminders to send', every: 60_000, look: () => remindInTime(productCaller(db, 'clock')) },
    { name: 'what the clock ends', every: 20_000, look: () => lapseOverdue(productCaller(db, 'clock')) },
  ]
  const stops = beats.map(startBeat)
  await queue.start()
  await queue.work<{ jobId: string }>(workQueue, { pollingIntervalSeconds: 0.5 }, async (messages) => {
    for (const { data } of messages) await performWork(db, data.jobId, tools).catch((error: unknown) => warn('work', error))
  })
  return {
    queue,
    stop: async () => {
      stops.forEach(stop => stop())
      await queue.stop({ graceful: true, timeout: 4000 }).catch(() => undefined)
    },
  }
}

/**
 * Longest that a beat waits for its look: what hangs, or is long work, holds up nothing that came after. Whatever is done twice at once
 * finds its lock taken.
 */
const lookAtMost = 20_000

function startBeat({ name, every, look }: Beat): () => void {
  let stopped = false
  let timer: ReturnType<typeof setTimeout>
  const next = () => {
    if (stopped) return
    timer = setTimeout(() => {
      let patience: ReturnType<typeof setTimeout> | undefined
      const enough = new Promise<void>((done) => {
        patience = setTimeout(done, lookAtMost).unref()
      })
      void Promise.race([look().catch((error: unknown) => warn(name, error)), enough]).finally(() => {
        clearTimeout(patience)
        next()
      })
    }, every)
    timer.unref()
  }
  next()
  return () => {
    stopped = true
    clearTimeout(timer)
  }
}
