import { drizzle, type NodePgDatabase } from 'drizzle-orm/node-postgres'
import pg from 'pg'
import { keepStatements } from './kept-statements'
import * as schema from './schema'

export type Database = NodePgDatabase<typeof schema> & { $client: pg.Pool }
/** A transaction, or the database itself where a single statement needs none. */
export type Executor = NodePgDatabase<typeof schema> | Parameters<Parameters<Database['transaction']>[0]>[0]

/**
 * Connections that only hold locks, by the pool that the locked work uses. Taken from that pool itself, ten locks at once would be all of
 * its connections, and each would wait for one more to do its work on.
 */
const lockPools = new WeakMap<pg.Pool, pg.Pool>()

/**
 * Runs `work` while no other process does work of the same name; null when one does. The lock goes with its connection: a
 * process that dies leaves nothing locked.
 */
export async function alone<T>(db: Database, name: string, work: () => Promise<T>): Promise<{ result: T } | null> {
  const connection = await (lockPools.get(db.$client) ?? db.$client).connect()
  let broken: Error | undefined
  try {
    const { rows } = await connection.query<{ got: boolean }>('select pg_try_advisory_lock(7004, hashtext($1)) as got', [name])
    if (!rows[0]?.got) return null
    try {
      return { result: await work() }
    } finally {
      // Lost with its connection, the lock is free already; the work says itself what became of it.
      await connection.query('select pg_advisory_unlock(7004, hashtext($1))', [name]).catch((error: Error) => {
        broken = error
      })
    }
  } finally {
    connection.release(broken)
  }
}

export interface DatabaseHandle {
  db: Database
  url: string
  close(): Promise<void>
}

/**
 * How long a connection is kept that nobody uses. A new one learns the tables and makes every plan anew: in a rush after a quiet minute
 * that is what everybody would wait for.
 */
const idleMilliseconds = { work: 10 * 60_000, locks: 10_000 }

/** A pool on the database at `url`, and one for the locks of its work. `close` waits for running queries. */
export function openDatabase(url: string, connections = 10): DatabaseHandle {
  const pool = openPool(url, connections, idleMilliseconds.work)
  pool.on('connect', keepStatements)
  const locks = openPool(url, connections, idleMilliseconds.locks)
  lockPools.set(pool, locks)
  return {
    db: drizzle(pool, { schema }),
    url,
    close: async () => {
      await Promise.all([pool.end(), locks.end()])
    },
  }
}

function openPool(url: string, connections: number, idle: number): pg.Pool {
  // A connection that nobody answers any more is given up, not waited for. Compiling a plan takes longer than any of our statements runs.
  const pool = new pg.Pool({
    connectionString: url,
    max: connections,
    options: '-c jit=off',
    connectionTimeoutMillis: 15_000,
    keepAlive: true,
    keepAliveInitialDelayMillis: 5_000,
    idleTimeoutMillis: idle,
  })
  // Idle connections break when the database restarts; the pool replaces them, so this is a note and not an end.
  const lost = (error: Error) => console.error(JSON.stringify({ level: 'warn', what: 'database connection lost', message: error.message }))
  pool.on('error', lost)
  // One that breaks while it is held, by a transaction or a lock, fails its next statement; nobody else has to hear of it.
  pool.on('connect', client => client.on('error', () => undefined))
  return pool
}
