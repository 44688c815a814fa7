import { readFile } from 'node:fs/promises'
import { buffer } from 'node:stream/consumers'
import { openDatabase } from '../server/database/client'
import { readBounce } from '../server/messages/bounce'
import { productCaller } from '../server/services/context'
import { letterCameBack } from '../server/services/letters/outbox'

/** Marks letters whose mail came back. `npm run bounces` */
const { DATABASE_URL: url } = process.env
if (!url) throw new Error('DATABASE_URL must be set; "npm run bounces" sets it')
const paths = process.argv.slice(2)
const { db, close } = openDatabase(url, 1)
try {
  const caller = productCaller(db, 'bounces')
  for (const path of paths.length > 0 ? paths : [null]) {
    const bounce = await readBounce(path === null ? await buffer(process.stdin) : await readFile(path))
    // Nothing of the mail itself is told: it names people.
    if (!bounce) console.log('lucid: no mail that tells of a letter of this office; left alone')
    else if (!bounce.isFailed) console.log(`lucid: letter ${bounce.letter} is late or was passed on; left alone`)
    else {
      const isNew = await letterCameBack(caller, bounce.letter)
      console.log(isNew
        ? `lucid: letter ${bounce.letter} came back (${bounce.status || 'no reason told'})`
        : `lucid: letter ${bounce.letter} is none of this office, or was refused before`)
    }
  }
} finally {
  await close()
}
