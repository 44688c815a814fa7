<script setup lang="ts">
import type { LineDetail, LinePage, LineView, MatchingStanding } from '~~/shared/bank'

/** Lines of statements side by side with whose money they may be. What matching was sure of is booked; the rest is decided here. */
useHead({ title: titled(say('bank.matching')) })
const session = useSessionStore()
const cycle = useCycleStore()
const route = useRoute()
const mayWork = computed(() => session.may('bank.work'))
type View = 'in' | 'out' | 'explained'
const view = ref<View>('in')
const search = ref('')
const lines = shallowRef<LineView[]>([])
const next = ref<string | null>(null)
const chosen = ref<string | null>(typeof route.query.line === 'string' ? route.query.line : null)
const detail = shallowRef<LineDetail | null>(null)
const standing = shallowRef<MatchingStanding | null>(null)
const views = [{ id: 'in', title: say('bank.moneyIn') }, { id: 'out', title: say('bank.moneyOut') }, {
  id: 'explained',
  title: say('bank.explainedLines'),
}] as const

async function page(after: string | null): Promise<LinePage> {
  const text = (name: string) => typeof route.query[name] === 'string' ? String(route.query[name]) : undefined
  return callApi<LinePage>('/api/bank/lines', {
    query: {
      state: view.value === 'explained' ? 'explained' : 'open',
      side: view.value === 'out' ? 'out' : 'in',
      search: search.value.trim() || undefined,
      after: after ?? undefined,
      account: text('account'),
      statement: text('statement'),
    },
  })
}
const { failure, reload } = useLoaded(async () => {
  const [first, stands] = await Promise.all([page(null), callApi<MatchingStanding>('/api/bank/matching')])
  lines.value = first.lines
  next.value = first.next
  standing.value = stands
  if (chosen.value === null || (!lines.value.some(line => line.id === chosen.value) && detail.value !== null)) {
    chosen.value = lines.value[0]?.id ?? null
  }
})
async function more() {
  const further = await page(next.value)
  lines.value = [...lines.value, ...further.lines]
  next.value = further.next
}
watch(view, () => {
  chosen.value = null
  void reload()
})
const found = useDebounced(() => {
  void reload()
}, 250)
watch(search, () => found())

// Nothing is typed or pressed beside a line that is no longer the chosen one.
watch(chosen, async (id) => {
  detail.value = null
  const read = id ? await callApi<LineDetail>(`/api/bank/lines/${id}`).catch(() => null) : null
  if (id === chosen.value) detail.value = read
}, { immediate: true })

/** Goes on with the line that follows, so that one after the other is decided. */
async function done() {
  const at = lines.value.findIndex(line => line.id === chosen.value)
  const following = lines.value[at + 1]?.id ?? lines.value[at - 1]?.id ?? null
  await reload()
  chosen.value = lines.value.some(line => line.id === following) ? following : lines.value[0]?.id ?? null
  await cycle.refreshBand().catch(() => undefined)
}
function step(by: number) {
  const at = lines.value.findIndex(line => line.id === chosen.value)
  chosen.value = lines.value[Math.min(lines.value.length - 1, Math.max(0, at + by))]?.id ?? null
}
useKeys((event) => {
  if (event.key === 'j') step(1)
  else if (event.key === 'k') step(-1)
})
</script>

<template>
  <div class="page">
    <FeesAreas />
    <div class="page-head">
      <h1>{{ say('bank.matching') }}</h1>
    </div>
    <HouseAlert
      :text="failure"
      kind="refusal"
    />
    <div class="tools">
      <HouseSegments
        v-model="view"
        :views="views"
        :label="say('bank.lines')"
      />
      <input
        v-model="search"
        class="field"
        type="search"
        :placeholder="say('bank.search')"
        :aria-label="say('bank.search')"
      >
      <span class="soft small keys"><kbd>j</kbd> <kbd>k</kbd> {{ say('bank.keysMove') }} <kbd>1</kbd> <kbd>8</kbd> {{ say('bank.keysTake') }}</span>
    </div>
    <div class="two">
      <div>
        <p
          v-if="lines.length === 0 && !failure"
          class="soft"
        >
          {{ say('bank.nothingWaits') }}
        </p>
        <BankLineList
          v-model="chosen"
          :lines="lines"
        />
        <ElButton
          v-if="next"
          @click="attempt(more)"
        >
          {{ say('bank.showMore') }}
        </ElButton>
      </div>
      <BankLine
        v-if="detail"
        :key="detail.id"
        :line="detail"
        :may-work="mayWork"
        @done="done"
      />
    </div>
    <BankMatchingStanding
      v-if="standing"
      :standing="standing"
      :may-work="mayWork"
      @changed="reload"
    />
  </div>
</template>

<style scoped>
.tools { display: flex; flex-wrap: wrap; gap: 10px 20px; align-items: center; margin-bottom: 14px; }
.tools input { width: 300px; }
.two { display: grid; grid-template-columns: minmax(0, 5fr) minmax(0, 6fr); gap: 32px; align-items: start; }
@media (max-width: 900px) { .two { grid-template-columns: minmax(0, 1fr); } .keys { display: none; } }
</style>
