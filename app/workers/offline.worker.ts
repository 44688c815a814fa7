import { clientsClaim } from 'workbox-core'
import { ExpirationPlugin } from 'workbox-expiration'
import { registerRoute } from 'workbox-routing'
import { CacheFirst, NetworkFirst, StaleWhileRevalidate } from 'workbox-strategies'
import { pagesKept, shellKept } from '../offline/names'

/**
 * What a browser keeps of candidates' and public pages, so that they open at once on a slow line, and without one. It keeps pages and their
 * parts only: what the office says of somebody's own is kept by the page itself (`offline/kept`), which knows when it has to be forgotten;
 * what somebody sends passes by untouched.
 */
declare const self: ServiceWorkerGlobalScope

const days = 24 * 3600
const isOwn = (path: string) => path === '/own' || path.startsWith('/own/')

void self.skipWaiting()
clientsClaim()

// Parts of pages bear a hash of what they say: one of that name is always the same.
registerRoute(
  ({ url, sameOrigin }) =>
    sameOrigin && (url.pathname.startsWith('/type/') || (url.pathname.startsWith('/_nuxt/') && !url.pathname.startsWith('/_nuxt/builds/'))),
  new CacheFirst({ cacheName: shellKept, plugins: [new ExpirationPlugin({ maxEntries: 400, maxAgeSeconds: 60 * days })] }),
)
registerRoute(
  ({ url, sameOrigin }) => sameOrigin && (url.pathname.startsWith('/looks/') || url.pathname === '/icon.svg'),
  new StaleWhileRevalidate({ cacheName: shellKept }),
)
// All pages of candidates are drawn in the browser from one frame.
registerRoute(
  ({ request, url, sameOrigin }) => sameOrigin && request.mode === 'navigate' && isOwn(url.pathname),
  new StaleWhileRevalidate({ cacheName: shellKept, plugins: [{ cacheKeyWillBeUsed: () => Promise.resolve('/own') }] }),
)
registerRoute(
  ({ request, url, sameOrigin }) => sameOrigin && request.mode === 'navigate' && url.pathname.startsWith('/examinations'),
  new NetworkFirst({
    cacheName: pagesKept,
    networkTimeoutSeconds: 4,
    plugins: [new ExpirationPlugin({ maxEntries: 30, maxAgeSeconds: 30 * days })],
  }),
)
