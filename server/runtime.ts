import { randomUUID } from 'node:crypto'
import type PgBoss from 'pg-boss'
import pictureCode from 'virtual:picture-worker'
import { openDatabase, type DatabaseHandle } from './database/client'
import { startWorking, type Working } from './jobs/queue'
import type { Solver } from './services/centres/solver'
import { solveInThread } from './workers/allocation-thread'
import { PictureThreads } from './workers/picture-threads'
import type { Inspector } from '../pictures/inspect'
import { GatewayStandin } from './standins/gateway'
import { MessageStandin } from './standins/messages'

/** What one server process holds: connections and nothing that matters. */
export interface Runtime { database: DatabaseHandle, gateway: GatewayStandin, solve: Solver, inspect: Inspector, queue: () => Promise<PgBoss>, close: () => Promise<void> }

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
  const gateway = new GatewayStandin(database.db, secret)
  const pictures = new PictureThreads(pictureCode)
  let working: Promise<Working> | null = null
  const work = () => working ??= startWorking(database.db, url, gateway, new MessageStandin(), { solve: solveInThread, inspect: pictures.inspect })
  return {
    database,
    gateway,
    solve: solveInThread,
    inspect: pictures.inspect,
    queue: async () => (await work()).queue,
    close: async () => {
      if (working) await (await working).stop()
      await pictures.close()
      await database.close()
    },
  }
}

export const newRequestId = (): string => randomUUID()
