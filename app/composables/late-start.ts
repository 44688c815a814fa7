import { ProblemError } from '~~/shared/problem'

/** Starting work that is done outside the dates of the notice only with a reason: it is asked for once the office has said so. */
export function useLateStart() {
  const reason = ref('')
  const isClosed = ref(false)
  async function begin(start: (given: { reason?: string }) => Promise<void>): Promise<void> {
    const why = reason.value.trim()
    try {
      await start(why ? { reason: why } : {})
    } catch (error) {
      isClosed.value = error instanceof ProblemError && error.problem.code.startsWith('dates.')
      throw error
    }
  }
  return { reason, isClosed, begin }
}
