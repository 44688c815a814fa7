import { defineNitroPlugin } from 'nitropack/runtime'
import { runtime } from '../runtime'

/** Starts the job queue with the server and lets running work end before the process does. */
export default defineNitroPlugin((nitro) => {
  const held = runtime()
  held.queue().catch((error: Error) => console.error(JSON.stringify({ level: 'error', what: 'job queue did not start', message: error.message })))
  nitro.hooks.hook('close', () => held.close())
})
