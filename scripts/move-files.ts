import { openDatabase } from '../server/database/client'
import { objectStore } from '../server/files/objects'
import { log, productCaller } from '../server/services/context'
import { filesByHome, moveFiles, type FileHome } from '../server/services/files/bytes'

/** Moves pictures and papers between the database and the store of objects, while servers run. `npm run move-files -- objects|database` */
const homes: readonly FileHome[] = ['database', 'objects']
const to = homes.find(home => home === process.argv[2])
const url = process.env.DATABASE_URL
if (!to || !url) {
  console
    .error('lucid: say where to: npm run move-files -- objects|database, with DATABASE_URL and, for the store, LUCID_OBJECTS_ENDPOINT, _BUCKET, _KEY and _SECRET set')
  process.exit(2)
}
const { db, close } = openDatabase(url, 4)
try {
  const moved = await moveFiles(db, to, n => console.log(`lucid: ${n} files moved`))
  const context = await productCaller(db, 'move-files').authorise('clock.act')
  if (moved > 0) await log(db, context, 'move-files', { subject: { kind: 'office', id: 'files' }, after: { to, moved } })
  const { database, objects } = await filesByHome(db)
  console
    .log(`lucid: ${moved} files moved to the ${
      to === 'database' ? 'database' : 'store of objects'
    }. There are now ${database} in the database and ${objects} in the store.`)
} finally {
  objectStore()?.close()
  await close()
}
