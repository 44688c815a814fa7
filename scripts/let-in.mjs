import { fail } from './lib/system.mjs'
import { onOffice, saidWords } from './lib/office.mjs'

/** `npm run let-in -- NAME [--demo]`: a link for an administrator who was locked out, of the office that began empty or of the demo. */
const { words: [name], isDemo } = saidWords()
if (!name) fail('say who is let in: npm run let-in -- NAME, and --demo for the demo.')
await onOffice('let-in', { DATABASE_URL: 'application' }, { isDemo, args: [name] })
