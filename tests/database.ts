import { openDatabase } from '../server/database/client'
import { migrateDatabase } from '../server/database/migrate'
import { testDatabase } from './support/databases'

/** Brings the template database, which `npm test` names, to the newest schema: each test file copies it. */
export default async function setup(): Promise<void> {
  if (!process.env.LUCID_TEST_DATABASES) return
  const handle = openDatabase(testDatabase().owner)
  try {
    await migrateDatabase(handle)
  } finally {
    await handle.close()
  }
}
