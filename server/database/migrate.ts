import { migrate } from 'drizzle-orm/node-postgres/migrator'
import { resolve } from 'node:path'
import PgBoss from 'pg-boss'
import { workQueue } from '../jobs/queue-name'
import type { DatabaseHandle } from './client'
import { grantRights } from './rights'

/**
 * Brings a database to the newest schema, makes the queue of the work, and gives the roles their rights. Asked of the owner. Safe to run
 * from several processes: a database lock lets one work at a time.
 */
export async function migrateDatabase(handle: DatabaseHandle, root = process.cwd()): Promise<void> {
  const { Client } = (await import('pg')).default
  const lock = new Client({ connectionString: handle.url })
  await lock.connect()
  try {
    await lock.query('select pg_advisory_lock(7001)')
    await migrate(handle.db, { migrationsFolder: resolve(root, 'server/database/migrations') })
    await prepareQueue(handle.url)
    await grantRights(handle.db)
  } finally {
    await lock.end()
  }
}

// A server may define nothing, so its queue stands before it starts.
async function prepareQueue(url: string): Promise<void> {
  const queue = new PgBoss({ connectionString: url, max: 1, supervise: false, schedule: false })
  queue.on('error', () => undefined)
  await queue.start()
  await queue.createQueue(workQueue)
  await queue.stop({ graceful: false, wait: true })
}
