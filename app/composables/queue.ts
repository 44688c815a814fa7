import type { RosterPage } from '~~/shared/applications'

const store = 'lucid-skipped'

/**
 * The order in which somebody goes through the queue of scrutiny: on from the present case, oldest first. What was passed over comes back
 * when nothing later is left. Kept for the browser's window, so that a reload goes on where it was.
 */
export function useQueue() {
  const cycle = useCycleStore()
  const read = (): { cycle: string, seen: string[] } => {
    try {
      const held = JSON.parse(sessionStorage.getItem(store) ?? '') as { cycle: string, seen: string[] }
      return held.cycle === cycle.code ? held : { cycle: cycle.code ?? '', seen: [] }
    } catch {
      return { cycle: cycle.code ?? '', seen: [] }
    }
  }
  const ask = (after?: string) => callApi<RosterPage>(cycle.path('roster'), { query: { headline: 'in scrutiny', sort: 'waiting', limit: 50, after } })

  /** The case after one that was decided or passed over; `since` is its place in the queue, where it had one. Null when the queue is empty. */
  async function after(id: string, since: string | null): Promise<string | null> {
    const { seen } = read()
    const passed = [...new Set([...seen, id])]
    sessionStorage.setItem(store, JSON.stringify({ cycle: cycle.code, seen: passed.slice(-2000) }))
    const later = since ? (await ask(`${since}~${id}`)).rows.filter(row => row.id !== id) : []
    const [first] = later
    if (first) return first.id
    // The end is reached: those that were passed over come again, from the oldest on.
    const again = (await ask()).rows.filter(row => row.id !== id)
    const fresh = again.find(row => !passed.includes(row.id)) ?? again[0]
    if (!again.some(row => !passed.includes(row.id))) sessionStorage.removeItem(store)
    return fresh?.id ?? null
  }
  return { after }
}
