import { onOffice, saidWords } from './lib/office.mjs'

/** `npm run erase [-- --demo]`: what released cycles tell of people is erased. */
await onOffice('erase', { DATABASE_URL: 'application', LUCID_FILES_DATABASE_URL: 'files' }, saidWords())
