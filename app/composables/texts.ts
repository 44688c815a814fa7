import type { TextRead } from '~~/shared/acts'
import type { TextsOfApplication, TextView } from '~~/shared/applications'

/** The texts of an application's notice in the reader's language, as the office has them now. */
export function useTexts(id: string) {
  const cycle = useCycleStore()
  const got = shallowRef<TextsOfApplication | null>(null)
  const loaded = useLoaded(async () => {
    const language = cycle.readIn ? `?in=${encodeURIComponent(cycle.readIn)}` : ''
    got.value = await callApi<TextsOfApplication>(`/api/applications/${id}/texts${language}`)
  })
  return { ...loaded, got }
}

/** Ticks at texts, and what they are signed by, by what was read: a text that is changed is ticked anew. */
export function useTicks(texts: () => readonly TextView[], own: boolean) {
  const ticked = ref<Record<string, boolean>>({})
  const typed = ref<Record<string, string>>({})
  /** Whoever acts for somebody else keeps what was signed on paper. */
  const isSigned = ({ signed }: TextView) => own && signed !== 'ticked'
  const isComplete = computed(() =>
    texts().length > 0 && texts().every(one => ticked.value[one.sha256] && (!isSigned(one) || typed.value[one.sha256]?.trim()))
  )
  const read = (): TextRead[] =>
    texts().map(one => ({ id: one.id, sha256: one.sha256, ...isSigned(one) ? { signature: typed.value[one.sha256] ?? '' } : {} }))
  return { ticked, typed, isSigned, isComplete, read }
}
