import { openDatabase } from '../server/database/client'
import { productCaller } from '../server/services/context'
import { administratorLink, isWaitingForFirst } from '../server/services/people/staff'

/**
 * On the server itself: prints a one-time link that lets an administrator in: the first of an empty office, or one who was locked out. It
 * is recorded. `npx tsx scripts/let-in.ts NAME` with DATABASE_URL set, or through `npm run let-in -- NAME`.
 */
const { DATABASE_URL, LUCID_ADDRESS } = process.env
const [name = 'administrator', flag] = process.argv.slice(2)
if (!DATABASE_URL) throw new Error('DATABASE_URL must be set; "npm run let-in" sets it')

const handle = openDatabase(DATABASE_URL, 2)
try {
  const context = await productCaller(handle.db, 'let-in').authorise('clock.act')
  if (flag !== '--first' || await isWaitingForFirst(context)) {
    const { path, expiresAt, isNew } = await administratorLink(context, name)
    console.log(`lucid: ${isNew ? 'the first administrator' : `"${name}"`} sets a password here, once, until ${expiresAt}:`)
    console.log(`lucid: ${LUCID_ADDRESS ?? 'http://127.0.0.1:3000'}${path}`)
  }
} finally {
  await handle.close()
}
process.exit(0)
