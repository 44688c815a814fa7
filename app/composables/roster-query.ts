/** What is asked of the roster, as it stands in the address of the page. */
export function useRosterQuery() {
  const route = useRoute()
  const router = useRouter()
  const listOf = (value: unknown): string[] =>
    (Array.isArray(value) ? value : [value]).filter((one): one is string => typeof one === 'string' && one !== '')
  // Addresses of before said the point of the flow and the fee by names of their own.
  const tags = computed(
    () => [...listOf(route.query.is), ...listOf(route.query.headline).map(one => `at:${one}`),
      ...listOf(route.query.fee).map(one => `fee:${one}`)]
  )
  /** A letter to many that they have not read. */
  const unread = computed(() => listOf(route.query.unread)[0])
  const days = computed(() => Number(route.query.days) || null)
  /** What is asked, as the office takes it. */
  const filter = computed(() => {
    const edge = days.value === null
      ? undefined
      : new Date(Math.floor(Date.now() / 60_000) * 60_000 - Math.abs(days.value) * 86_400_000).toISOString()
    return {
      is: tags.value,
      search: String(route.query.search ?? '') || undefined,
      unread: unread.value,
      ...days.value === null ? {} : days.value > 0 ? { before: edge } : { from: edge },
    }
  })
  const sort = computed(() => route.query.sort === 'waiting' ? 'waiting' : 'number')
  function ask(change: Record<string, string | string[] | undefined>) {
    const { headline: _, fee: __, ...kept } = route.query
    router.replace({
      query: Object.fromEntries(Object.entries({ ...kept, is: tags.value, ...change }).filter(([, v]) => v && v.length > 0)),
    })
  }
  return { tags, unread, days, filter, sort, ask }
}
