/** A form that is sent once at a time, and says beside itself why it was refused. */
export function useSubmission() {
  const busy = ref(false)
  const refusal = ref('')

  async function send(work: () => Promise<void>): Promise<void> {
    if (busy.value) return
    busy.value = true
    refusal.value = ''
    try {
      await work()
    } catch (error) {
      refusal.value = problemText(error)
    } finally {
      busy.value = false
    }
  }
  return { busy, refusal, send }
}

/** Work that is done once at a time, and whose refusal is told in passing. */
export function useBusy() {
  const busy = ref(false)
  async function during(work: () => Promise<void>): Promise<void> {
    if (busy.value) return
    busy.value = true
    await attempt(work)
    busy.value = false
  }
  return { busy, during }
}
