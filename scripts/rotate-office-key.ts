import { openDatabase } from '../server/database/client'
import { productCaller } from '../server/services/context'
import { rotateOfficeKey } from '../server/services/records/office-key'

/** A new key that seals secrets, and all of them sealed under it. `npm run rotate-office-key` */
const { LUCID_OWNER_DATABASE_URL: url, LUCID_KEY_FILE: path } = process.env
if (!url || !path) {
  console.error('lucid: LUCID_OWNER_DATABASE_URL and LUCID_KEY_FILE must be set; "npm run rotate-office-key" sets them')
  process.exit(2)
}
const { db, close } = openDatabase(url, 2)
try {
  const { keys, factors } = await rotateOfficeKey(await productCaller(db, 'rotate-office-key').authorise('clock.act'), path)
  console
    .log(`lucid: ${keys} ${keys === 1 ? 'key' : 'keys'} that sign and ${factors} second ${
      factors === 1 ? 'factor' : 'factors'
    } are sealed under a new key. It is the first line of ${path}; the lines below it open older backups. Copy the file to where backups of it are kept.`)
} finally {
  await close()
}
