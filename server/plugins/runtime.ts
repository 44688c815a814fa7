import { defineNitroPlugin } from 'nitropack/runtime'
import { runtime } from '../runtime'
import { officeKey } from '../secrets/office-key'
import { boundHolds } from '../workers/picture-processes'

/** Starts the job queue with the server and lets running work end before the process does. */
export default defineNitroPlugin((nitro) => {
  // A key file that is missing or open to others stops the start, not a card weeks later.
  officeKey()
  const held = runtime()
  held.queue().catch((error: Error) =>
    console.error(JSON.stringify({ level: 'error', what: 'job queue did not start', message: error.message }))
  )
  void tellOfBound()
  nitro.hooks.hook('close', () => held.close())
})

// Said once at the start, so that an operator knows what the server relies on.
async function tellOfBound(): Promise<void> {
  if (!await boundHolds()) {
    console.error(JSON.stringify({
      level: 'warn',
      what: 'bound of memory',
      message: 'this machine does not bound the memory of processes that look at files (RLIMIT_DATA); only the watch does',
    }))
  }
}
