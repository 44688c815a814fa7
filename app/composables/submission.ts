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
