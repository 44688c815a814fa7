import { onOffice, saidWords } from './lib/office.mjs'

/** `npm run rotate-card-key [-- --demo]`: cards are signed with a new key from now on; those signed before stay genuine. */
await onOffice('rotate-card-key', { DATABASE_URL: 'application' }, saidWords())
