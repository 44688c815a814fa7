import type { SignedInView } from '~~/shared/people'
import { ownKept, shellKept } from './names'

/** What the office said of somebody's own, and when. */
interface Kept {
  at: string
  data: unknown
}

// Browsers keep nothing for pages that came over an open line from elsewhere.
const canKeep = () => 'caches' in window

async function read(path: string): Promise<Kept | null> {
  const found = await (await caches.open(ownKept)).match(path)
  return found ? await found.json() as Kept : null
}

/** Keeps an answer of the office for a time without a line. What somebody else left in this browser is forgotten first. */
export async function keepAnswer(path: string, data: unknown): Promise<void> {
  if (!canKeep()) return
  if (path === '/api/session') {
    const id = (session: unknown) => (session as { principal: SignedInView | null } | null | undefined)?.principal?.id
    const before = await read(path)
    if (before && id(before.data) !== id(data)) await forgetAnswers()
  }
  await (await caches.open(ownKept)).put(path, new Response(JSON.stringify({ at: new Date().toISOString(), data } satisfies Kept)))
}

/** The last answer to a question; null where there is none. */
export const keptAnswer = async (path: string): Promise<Kept | null> => canKeep() ? read(path) : null

/** Forgets all that is somebody's own: whoever uses this browser next does not see it. */
export async function forgetAnswers(): Promise<void> {
  if (canKeep()) await caches.delete(ownKept)
}

/**
 * Lets the browser keep the pages: what this one has loaded so far, and with the worker all that follows; and who is signed in, who may
 * have come without a question to the office.
 */
export async function startKeeping(session: { principal: SignedInView | null, csrfToken: string | null }): Promise<void> {
  if (!canKeep() || !('serviceWorker' in navigator)) return
  if (session.principal?.kind === 'candidate') await keepAnswer('/api/session', session)
  await navigator.serviceWorker.register('/offline-worker.js')
  const parts = performance.getEntriesByType('resource').map(({ name }) => new URL(name)).filter(url =>
    url.origin === location.origin && /^\/(_nuxt|type|looks)\//.test(url.pathname) && !url.pathname.startsWith('/_nuxt/builds/')
  )
  const shell = await caches.open(shellKept)
  const lacking = []
  for (const { pathname } of parts) if (!await shell.match(pathname)) lacking.push(pathname)
  // They lie in the browser's own store already: nothing goes over the line but the frame.
  await Promise.allSettled([...lacking.map(path => shell.add(path)),
    shell.match('/own').then(frame => frame ? undefined : shell.add('/own'))])
}
