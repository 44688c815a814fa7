import { openDatabase } from '../server/database/client'
import { migrateDatabase } from '../server/database/migrate'

/** Brings the template database, which `npm test` names, to the newest schema: each test file copies it. */
export default async function setup(): Promise<void> {
  const url = process.env.LUCID_TEST_DATABASE
  if (!url) return
  const handle = openDatabase(url)
  try {
    await migrateDatabase(handle)
  } finally {
    await handle.close()
  }
}
