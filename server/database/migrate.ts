import { migrate } from 'drizzle-orm/node-postgres/migrator'
import { resolve } from 'node:path'
import type { DatabaseHandle } from './client'

/** Brings a database to the newest schema. Safe to run from several processes: a database lock lets one work at a time. */
export async function migrateDatabase(handle: DatabaseHandle, root = process.cwd()): Promise<void> {
  const { Client } = (await import('pg')).default
  const lock = new Client({ connectionString: handle.url })
  await lock.connect()
  try {
    await lock.query('select pg_advisory_lock(7001)')
    await migrate(handle.db, { migrationsFolder: resolve(root, 'server/database/migrations') })
  } finally {
    await lock.end()
  }
}
