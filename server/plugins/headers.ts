import { setResponseHeader } from 'h3'
import { defineNitroPlugin } from 'nitropack/runtime'
import { originOf, trustedProxies } from '../http/proxy'

/** Two years: what browsers ask of a host that speaks TLS only (RFC 6797). */
const tlsSeconds = 63_072_000

/** What every answer says, whoever makes it: nothing is guessed from bytes, and what came over TLS once comes over TLS for ever. */
export default defineNitroPlugin((nitro) => {
  // A setting that cannot be read is said at the start, not with the first request.
  trustedProxies(process.env.LUCID_TRUSTED_PROXIES ?? '')
  nitro.hooks.hook('request', (event) => {
    setResponseHeader(event, 'x-content-type-options', 'nosniff')
    if (originOf(event).isSecure) setResponseHeader(event, 'strict-transport-security', `max-age=${tlsSeconds}`)
  })
})
