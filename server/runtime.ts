import { createHmac, randomUUID } from 'node:crypto'
import type PgBoss from 'pg-boss'
import pictureCode from 'virtual:picture-worker'
import { keepClock } from './database/clock'
import { openDatabase, type DatabaseHandle } from './database/client'
import { startWorking, type Working } from './jobs/queue'
import { LiveWatch } from './services/applications/live'
import type { Solver } from './services/centres/solver'
import { solveInThread } from './workers/allocation-thread'
import { PictureProcesses } from './workers/picture-processes'
import { PrintEngine, type PrintReader } from '../pictures/print'
import type { Inspector } from '../pictures/inspect'
import { noGateway, type PaymentGateway } from './standins/gateway'
import { GatewayClient } from './standins/gateway-client'
import { refusal } from '../shared/refusal'
import { BankStandin } from './standins/bank'
import { MessageStandin } from './standins/messages'
import { publicAddress } from './messages/public-address'
import { SmtpMail, smtpSettings } from './messages/smtp'

/** What one server process holds: connections and nothing that matters. */
export interface Runtime {
  database: DatabaseHandle
  gateway: PaymentGateway
  solve: Solver
  inspect: Inspector
  readPrint: PrintReader
  live: LiveWatch
  /** What proofs of work are signed with, the same in all processes. */
  proofSecret: string
  /** From whom mail goes out; null while it is simulated. */
  mailFrom: string | null
  queue: () => Promise<PgBoss>
  close: () => Promise<void>
}

let current: Runtime | null = null

/** The process's runtime, opened on first use from `DATABASE_URL` and `LUCID_SECRET`. */
export function runtime(): Runtime {
  current ??= openRuntime(required('DATABASE_URL'), required('LUCID_SECRET'))
  return current
}

function required(name: string): string {
  const value = process.env[name]
  if (!value) throw new Error(`${name} is not set. Start the server with "npm start", which sets it.`)
  return value
}

function openRuntime(url: string, secret: string): Runtime {
  const database = openDatabase(url)
  const gateway = hasStandins() && process.env.LUCID_GATEWAY ? new GatewayClient(process.env.LUCID_GATEWAY, secret) : noGateway
  const pictures = new PictureProcesses(pictureCode)
  const print = new PrintEngine()
  const live = new LiveWatch(database.db)
  const stopClock = keepClock(database.db)
  const mailServer = smtpSettings(process.env)
  // Better at the start than in the first letter with a link.
  publicAddress()
  if (mailServer && !process.env.LUCID_PUBLIC_ADDRESS) {
    console.error(JSON.stringify({
      level: 'warn',
      what: 'no public address',
      message: 'mail leaves this house, and links in it lead to this machine alone: set LUCID_PUBLIC_ADDRESS',
    }))
  }
  const mail = mailServer && new SmtpMail(mailServer, new MessageStandin())
  let working: Promise<Working> | null = null
  const work = () =>
    working ??= startWorking(database.db, url, gateway, mail ?? new MessageStandin(), { solve: solveInThread, inspect: pictures.inspect })
  return {
    database,
    gateway,
    solve: solveInThread,
    inspect: pictures.inspect,
    readPrint: print.read,
    live,
    proofSecret: createHmac('sha256', secret).update('proofs of work').digest('base64url'),
    mailFrom: mailServer?.from ?? null,
    queue: async () => (await work()).queue,
    close: async () => {
      stopClock()
      if (working) await (await working).stop()
      mail?.close()
      live.close()
      await pictures.close()
      await print.close()
      await database.close()
    },
  }
}

// Elsewhere there are none: whoever could press the gateway's buttons could settle every fee.
const hasStandins = (): boolean => process.env.LUCID_STANDINS === 'yes'

/** The simulated bank, where the operator asked for stand-ins. */
export function bankStandin(): BankStandin {
  if (!hasStandins()) throw refusal('standin.none')
  return new BankStandin(runtime().database.db)
}

export const newRequestId = (): string => randomUUID()
