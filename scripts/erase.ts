import { openDatabase } from '../server/database/client'
import { objectStore } from '../server/files/objects'
import { productCaller } from '../server/services/context'
import { erasePeople, eraseReleased } from '../server/services/records/erasing'
import { sealLog } from '../server/services/records/seal'

/** Erases what released cycles tell of people, while servers run. `npm run erase` */
const { DATABASE_URL: url, LUCID_FILES_DATABASE_URL: filesUrl } = process.env
if (!url || !filesUrl) {
  console
    .error('lucid: DATABASE_URL, as the application, and LUCID_FILES_DATABASE_URL, as the role of files, must be set; "npm run erase" sets them')
  process.exit(2)
}
const [app, files] = [openDatabase(url, 2), openDatabase(filesUrl, 2)]
try {
  const caller = productCaller(app.db, 'erase')
  // Of a row that is not sealed yet nothing could be proven afterwards.
  await sealLog(caller, 'now')
  const [erasers, context] = [{ app: app.db, files: files.db }, await caller.authorise('records.erase')]
  const people = await erasePeople(erasers, context)
  if (people > 0) console.log(`lucid: ${people} applications erased that were released on their own`)
  const cycles = await eraseReleased(
    erasers,
    context,
    (cycle, done) => console.log(`lucid: ${cycle}: ${done} applications erased`),
  )
  if (people === 0 && cycles.length === 0) {
    console
      .log('lucid: nothing waits to be erased. Two officers release a cycle on the page Records, after its time, or one application on its own page.')
  } else {
    if (cycles.length > 0) console.log(`lucid: erased: ${cycles.join(', ')}`)
    console.log('lucid: backups from before hold it still: let them go in their time.')
  }
} finally {
  objectStore()?.close()
  await Promise.all([app.close(), files.close()])
}
