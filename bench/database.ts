import { sql } from 'drizzle-orm'
import { openDatabase } from '../server/database/client'
import { migrateDatabase } from '../server/database/migrate'

/** An empty database, named by `DATABASE_URL`, made ready for a bench that fills it with a cycle of its own. */
export async function openEmptyDatabase() {
  const { DATABASE_URL } = process.env
  if (!DATABASE_URL) throw new Error('DATABASE_URL must name an empty database; it will be filled')
  const handle = openDatabase(DATABASE_URL)
  await migrateDatabase(handle)
  await handle.db.execute(sql`insert into cycle values ('HL27', 1, 0)`)
  return handle
}

/** Times in milliseconds as a bench tells them: the middle one, the 95th of a hundred and the longest. */
export function spread(times: readonly number[]): { median: string, most: string, longest: string } {
  const sorted = [...times].sort((a, b) => a - b)
  const at = (share: number) => (sorted[Math.min(sorted.length - 1, Math.floor(share * sorted.length))] ?? NaN).toFixed(0)
  return { median: at(0.5), most: at(0.95), longest: at(1) }
}
