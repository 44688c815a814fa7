import { openDatabase } from '../server/database/client'
import { rotateKey } from '../server/services/cards/keys'
import { productCaller } from '../server/services/context'

/** A new key that signs cards. `npm run rotate-card-key` */
const url = process.env.DATABASE_URL
if (!url) {
  console.error('lucid: DATABASE_URL and LUCID_KEY_FILE must be set; "npm run rotate-card-key" sets them')
  process.exit(2)
}
const { db, close } = openDatabase(url, 2)
try {
  const id = await rotateKey(await productCaller(db, 'rotate-card-key').authorise('clock.act'))
  console
    .log(`lucid: cards are signed with the key ${id} from now on; those signed before stay genuine. Copy the database before the next check of cards.`)
} finally {
  await close()
}
