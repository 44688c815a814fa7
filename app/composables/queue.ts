import type { Lane } from '~~/core/scrutiny/doubts'
import type { Dossier } from '~~/shared/applications'
import type { Taken } from '~~/shared/scrutiny'

const store = 'lucid-queue'
interface Kept {
  cycle: string
  lane: Lane | null
  passed: string[]
}

/** The case after the present one, taken in hand and read before it is asked for, so that its pictures stand at once. */
let ready: { id: string, dossier: Dossier } | null = null

/** What the browser's window keeps: which queue of a cycle, and what was laid back. */
function keptFor(cycle: string): Kept {
  try {
    const held = JSON.parse(sessionStorage.getItem(store) ?? '') as Kept
    if (held.cycle === cycle) return held
  } catch {
    // Nothing was kept.
  }
  return { cycle, lane: null, passed: [] }
}

/**
 * The queue as one person goes through it: the office hands out cases, so that nobody else gets the same. Which queue, and what was laid
 * back, is kept for the browser's window, so that a reload goes on where it was.
 */
export function useQueue() {
  const cycle = useCycleStore()
  const read = () => keptFor(cycle.code ?? '')
  const keep = (change: Partial<Kept>) => sessionStorage.setItem(store, JSON.stringify({ ...read(), ...change }))

  async function ask(): Promise<string | null> {
    const { lane, passed } = read()
    const { taken } = await callApi<{ taken: Taken | null }>(cycle.path('queue/next'), {
      method: 'POST',
      body: { lane: lane ?? undefined, passed: passed.slice(-300) },
    })
    return taken?.id ?? null
  }

  /** Takes the next case of a queue, or of the first that has any; from then on that queue is gone through. */
  async function take(lane?: Lane): Promise<string | null> {
    keep({ lane: lane ?? null, passed: [] })
    // What was read ahead may be of another queue: it is free for others again.
    const ahead = ready
    ready = null
    if (ahead) await callApi(`/api/applications/${ahead.id}/hand`, { method: 'DELETE' })
    return ask()
  }

  /** The next case: the one that was read ahead, where there is one. What was laid back comes again when nothing else is left. */
  async function next(): Promise<string | null> {
    if (ready) return ready.id
    const found = await ask()
    if (found || read().passed.length === 0) return found
    keep({ passed: [] })
    return ask()
  }

  /** Lays a case back for others, and does not take it again while there are more. */
  async function pass(id: string): Promise<void> {
    keep({ passed: [...new Set([...read().passed, id])] })
    await callApi(`/api/applications/${id}/hand`, { method: 'DELETE' })
  }

  /** Takes the following case in hand and reads it with its pictures. */
  async function readAhead(present: string): Promise<void> {
    if (ready && ready.id !== present) return
    ready = null
    try {
      const id = await ask()
      if (!id || id === present) return
      const dossier = await callApi<Dossier>(`/api/applications/${id}`)
      ready = { id, dossier }
      await holdPictures(Object.values(dossier.files).flatMap(file =>
        file?.measured ? [`/api/images/${file.id}${file.pages.length > 0 ? '?page=1' : ''}`] : []
      ))
      // What a machine reads on its papers stands by then, too.
      for (const file of Object.values(dossier.files)) {
        if (file?.measured && file.pages.length > 0) await callApi(`/api/images/${file.id}/print`).catch(() => undefined)
      }
    } catch {
      // It is read when it is asked for.
    }
  }
  /** Whether the next case stands ready. */
  const isReady = () => ready !== null
  /** A case that was read ahead; given once. */
  function readBefore(id: string): Dossier | null {
    const found = ready?.id === id ? ready.dossier : null
    if (found) ready = null
    return found
  }

  async function layAllBack(ids: readonly string[]): Promise<void> {
    ready = null
    for (const id of ids) await callApi(`/api/applications/${id}/hand`, { method: 'DELETE' })
  }
  return { take, next, pass, readAhead, isReady, readBefore, layAllBack }
}
