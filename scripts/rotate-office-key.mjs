import { onOffice, saidWords } from './lib/office.mjs'

/**
 * `npm run rotate-office-key [-- --demo]`: secrets in the database are sealed under a new key of the office from now on. The demo and the
 * office share the file: see operations.md.
 */
await onOffice('rotate-office-key', { LUCID_OWNER_DATABASE_URL: 'owner' }, saidWords())
