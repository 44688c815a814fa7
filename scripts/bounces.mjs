import { onOffice, saidWords } from './lib/office.mjs'

/** `npm run bounces [-- FILE…] [--demo]`: mails that came back, from files or from what is piped in, are marked on their letters. */
const { words, isDemo } = saidWords()
// What a mail server is told by this end (sysexits.h, EX_TEMPFAIL) makes it try again later.
await onOffice('bounces', { DATABASE_URL: 'application' }, { isDemo, args: words, failure: 75 })
