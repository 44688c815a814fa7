import { drizzle, type NodePgDatabase } from 'drizzle-orm/node-postgres'
import pg from 'pg'
import * as schema from './schema'

export type Database = NodePgDatabase<typeof schema>
/** A transaction, or the database itself where a single statement needs none. */
export type Executor = Database | Parameters<Parameters<Database['transaction']>[0]>[0]

export interface DatabaseHandle { db: Database, url: string, close(): Promise<void> }

/** A pool on the database at `url`. `close` waits for running queries. */
export function openDatabase(url: string, connections = 10): DatabaseHandle {
  const pool = new pg.Pool({ connectionString: url, max: connections })
  // Idle connections break when the database restarts; the pool replaces them, so this is a note and not an end.
  pool.on('error', error => console.error(JSON.stringify({ level: 'warn', what: 'database connection lost', message: error.message })))
  return { db: drizzle(pool, { schema }), url, close: () => pool.end() }
}
