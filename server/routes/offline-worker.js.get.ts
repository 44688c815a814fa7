import { setResponseHeaders } from 'h3'
import code from 'virtual:offline-worker'
import { publicRoute } from '../http/handle'

/** The worker that keeps pages in a browser; asked for anew with each visit, so that a new one takes over at once. */
export default publicRoute(async ({ event }) => {
  setResponseHeaders(event, { 'content-type': 'text/javascript; charset=utf-8', 'cache-control': 'no-cache' })
  return code
})
