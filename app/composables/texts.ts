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

/** Ticks at texts, by what was read: a text that is changed is ticked anew. */
export function useTicks(texts: () => readonly TextView[]) {
  const ticked = ref<Record<string, boolean>>({})
  const isComplete = computed(() => texts().length > 0 && texts().every(one => ticked.value[one.sha256]))
  const read = (): TextRead[] => texts().map(({ id, sha256 }) => ({ id, sha256 }))
  return { ticked, isComplete, read }
}
