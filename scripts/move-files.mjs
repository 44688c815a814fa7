import { fail } from './lib/system.mjs'
import { onOffice, saidWords } from './lib/office.mjs'

/** `npm run move-files -- objects|database [--demo]`: moves pictures and papers to the store of objects or back, while servers run. */
const { words: [to], isDemo } = saidWords()
if (to !== 'objects' && to !== 'database') {
  fail('say where the files go: npm run move-files -- objects, or database; and --demo for the demo.')
}
await onOffice('move-files', { DATABASE_URL: 'files' }, { isDemo, args: [to] })
