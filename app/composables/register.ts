import type { ActStanding } from '~~/core/application/acts/judge'
import { ProblemError } from '~~/shared/problem'
import type { PaperFormGiven } from '~~/shared/keying'
import type { Permit } from './act'

/**
 * Registers a candidate, or somebody who has sent a paper form. One id is used until it has led to an application: a double press, or one
 * more after a lost answer, makes no second.
 */
export function useRegister() {
  const cycle = useCycleStore()
  const router = useRouter()
  const busy = ref(false)
  /** The act as it stands when the dates are against it: a reason is asked for. */
  const standing = shallowRef<ActStanding | null>(null)
  let id = ''

  async function register(permit: Permit = {}, paper?: PaperFormGiven): Promise<void> {
    if (busy.value) return
    busy.value = true
    id ||= crypto.randomUUID()
    await attempt(async () => {
      try {
        await callApi(cycle.path(`applications/${id}`), { method: 'PUT', body: { ...permit, paper } })
      } catch (error) {
        if (!(error instanceof ProblemError) || !(error.problem.data as { outsideDates?: boolean } | undefined)?.outsideDates) throw error
        const { code, parameters } = error.problem
        standing.value = {
          act: 'begin',
          refusal: null,
          outsideDates: { code: code as 'dates.closed', parameters },
          needsReason: true,
          needsSecond: false,
          isFinal: false,
        }
        return
      }
      standing.value = null
      const made = id
      id = ''
      await router.push(`/intake/${made}`)
    })
    busy.value = false
  }
  return { busy, standing, register }
}
