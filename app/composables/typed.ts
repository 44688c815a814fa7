interface Kept<Value> {
  changes: Record<string, Value>
  reason: string
}

/** What this browser has kept there; null for nothing, and for what cannot be read. */
function keptIn<Value>(store: string): Kept<Value> | null {
  try {
    return JSON.parse(localStorage.getItem(store) ?? 'null') as Kept<Value> | null
  } catch {
    localStorage.removeItem(store)
    return null
  }
}

/**
 * What is typed item by item, and words beside it: sent a moment later, and kept in this browser until the office has it, so that neither a
 * closed page nor a broken connection loses anything.
 *
 * @param store names the place in this browser.
 * @param put sends all that the office does not have yet.
 * @param taken is told what the office answered, once what it has is no longer among the unsaved.
 */
export function useTyped<Value, Read>(
  store: string,
  put: (changes: Record<string, Value>, reason: string) => Promise<Read>,
  taken: (read: Read) => void,
) {
  /** What the office does not have yet. */
  const changes = shallowRef<Record<string, Value>>({})
  const reason = ref('')
  const savedAt = ref<Date | null>(null)
  const trouble = ref('')
  const turns = useTurns(send)
  let isWhole = true

  function plan(milliseconds = 700): void {
    isWhole = false
    localStorage.setItem(store, JSON.stringify({ changes: changes.value, reason: reason.value }))
    turns.plan(milliseconds)
  }
  function set(item: string, value: Value): void {
    changes.value = { ...changes.value, [item]: value }
    plan()
  }
  /** Takes up what an earlier visit could not send. */
  function recover(): void {
    const kept = keptIn<Value>(store)
    if (kept === null) return
    changes.value = { ...kept.changes, ...changes.value }
    reason.value = kept.reason
    plan(0)
  }
  function forget(): void {
    turns.stop()
    isWhole = true
    changes.value = {}
    localStorage.removeItem(store)
  }
  /** Sends what is not saved yet; whether all of it is saved now. */
  async function save(): Promise<boolean> {
    await turns.now()
    return isWhole
  }
  async function send(): Promise<void> {
    if (isWhole) return
    const [sent, said] = [changes.value, reason.value]
    try {
      const read = await put(sent, said)
      changes.value = Object.fromEntries(Object.entries(changes.value).filter(([item, value]) => sent[item] !== value))
      if (Object.keys(changes.value).length === 0 && reason.value === said) {
        isWhole = true
        localStorage.removeItem(store)
      }
      savedAt.value = new Date()
      trouble.value = ''
      taken(read)
    } catch (error) {
      trouble.value = sendingTrouble(error)
      if (isOffline(error)) turns.plan(4000)
    }
  }
  return { changes, reason, savedAt, trouble, plan, set, recover, forget, save }
}
