<script setup lang="ts">
import type { Headline } from '~~/core/application/tracks'
import type { RosterCount, RosterPage, RosterRow } from '~~/shared/applications'

/** The roster: the live list of all applications, filtered and searched; what is asked stands in the address. */
useHead({ title: titled(say('roster.roster')) })
const cycle = useCycleStore()
const session = useSessionStore()
const route = useRoute()
const router = useRouter()
const rows = shallowRef<RosterRow[]>([])
const next = ref<string | null>(null)
const failure = ref('')
const loading = ref(false)
const search = ref(String(route.query.search ?? ''))
let turn = 0
let top = 0
/** Where somebody was in this list, so that Back leads to the same row. */
const placeKey = () => `lucid-roster ${cycle.code} ${route.fullPath}`
let place: { top: number, count: number } | null = null
try {
  place = JSON.parse(sessionStorage.getItem(placeKey()) ?? 'null') as typeof place
} catch {
  place = null
}
onBeforeRouteLeave(() => {
  if (rows.value.length > 0) sessionStorage.setItem(placeKey(), JSON.stringify({ top, count: rows.value.length }))
})

const count = shallowRef<RosterCount | null>(null)
const alike = shallowRef<RosterRow[]>([])
const { tags, unread, days, filter, sort, ask } = useRosterQuery()
const { columns, columnWords, outAtFirst, cell } = useRosterColumns()
const hidden = computed(() => String(route.query.hide ?? outAtFirst).split(',').filter(Boolean))
const shown = computed(() => columns.filter(c => !hidden.value.includes(c)))

let typing: ReturnType<typeof setTimeout> | undefined
watch(search, (value) => {
  clearTimeout(typing)
  typing = setTimeout(() => ask({ search: value.trim() || undefined }), 250)
})
watch(() => JSON.stringify([tags.value, days.value, unread.value, sort.value, route.query.search]), () => load(null), { immediate: true })

async function load(after: string | null) {
  const mine = ++turn
  loading.value = true
  failure.value = ''
  // What was counted before is of another question.
  if (!after) count.value = null
  try {
    const page = await callApi<RosterPage>(cycle.path('roster'), {
      query: {
        ...filter.value,
        sort: sort.value,
        after: after ?? undefined,
        limit: place && !after ? Math.min(500, Math.max(100, place.count)) : 100,
      },
    })
    if (mine !== turn) return
    rows.value = after ? [...rows.value, ...page.rows] : page.rows
    next.value = page.next
    askForFaces()
    if (!after) void tellMore(mine)
    await returnToPlace()
  } catch (error) {
    failure.value = problemText(error)
  } finally {
    if (mine === turn) loading.value = false
  }
}

/** How many there are, and whose names are alike: both come a moment after the page. */
async function tellMore(mine: number) {
  count.value = null
  alike.value = []
  const asked = filter.value
  const isOfFew = asked.search !== undefined && rows.value.length < 10
  const [counted, others] = await Promise.all([
    callApi<RosterCount>(cycle.path('roster/count'), { query: asked }).catch(() => null),
    isOfFew ? callApi<RosterRow[]>(cycle.path('roster/alike'), { query: asked }).catch(() => []) : [],
  ])
  if (mine !== turn) return
  count.value = counted
  alike.value = others
}
const exportFormats = ['csv', 'xlsx', 'ods', 'jsonl'] as const
const exportLink = computed(() => {
  const { is, ...rest } = filter.value
  const query = new URLSearchParams(is.map(tag => ['is', tag]))
  for (const [key, value] of Object.entries(rest)) if (value) query.set(key, value)
  return `${cycle.path('roster/table')}?${query}`
})

async function returnToPlace() {
  const wanted = place
  if (!wanted) return
  if (rows.value.length < wanted.count && next.value) return load(next.value)
  place = null
  await nextTick()
  if (box.value) box.value.scrollTop = wanted.top
}

const box = useTemplateRef('box')
function onScroll() {
  if (!box.value) return
  top = box.value.scrollTop
  if (next.value && !loading.value && top + box.value.clientHeight > box.value.scrollHeight - 600) load(next.value)
}
const heads = computed(() =>
  shown.value.map(c => ({
    key: c,
    title: columnWords[c],
    text: (row: RosterRow) => cell(row, c),
    look: c === 'since' || c === 'telephone' ? 'soft' : '',
    sort: c === 'since' ? 'waiting' as const : c === 'number' ? 'number' as const : undefined,
  }))
)

function choose(query: string) {
  search.value = ''
  router.replace({ query: JSON.parse(query) as Record<string, string> }).then(() => {
    search.value = String(route.query.search ?? '')
  })
}
const { busy: registering, standing: askingToRegister, register } = useRegister()
</script>

<template>
  <div class="roster">
    <div class="tools">
      <h1>{{ say('roster.roster') }}</h1>
      <ElInput
        v-model="search"
        :placeholder="say('roster.numberBeginningOfANameOr')"
        :aria-label="say('roster.numberBeginningOfANameOr')"
        clearable
        class="search"
      />
      <RosterFilters
        :tags="tags"
        :days="days"
        :unread="unread"
        @read="ask({ unread: undefined })"
        @change="ask({ is: $event })"
        @age="ask({ days: $event ? String($event) : undefined })"
      />
      <RosterKept
        :query="JSON.stringify(route.query)"
        @choose="choose"
      />
      <RosterColumns
        :columns="columns"
        :hidden="hidden"
        :words="columnWords"
        @hide="ask({ hide: $event })"
      />
      <span class="export">{{ say('roster.exportAs') }}<a
        v-for="format in exportFormats"
        :key="format"
        :href="`${exportLink}&format=${format}`"
        download
      >{{ say('roster.exportFormat', { format }) }}</a></span>
      <span class="push">
        <NuxtLink
          v-if="session.may('rolls.enter')"
          to="/intake/rolls"
        >
          {{ say('rolls.nominalRolls') }}
        </NuxtLink>
        <NuxtLink
          v-if="session.may('forms.key')"
          to="/intake/keying"
          class="after"
        >
          {{ say('keying.title') }}
        </NuxtLink>
        <ElButton
          v-if="session.may('applications.begin')"
          type="primary"
          :loading="registering"
          @click="register()"
        >
          {{ say('roster.registerACandidate') }}
        </ElButton>
      </span>
    </div>
    <HouseAlert
      :text="failure"
      kind="refusal"
    />
    <div
      ref="box"
      class="box"
      tabindex="0"
      :aria-label="say('roster.applications')"
      @scroll.passive="onScroll"
    >
      <HouseTable
        :columns="heads"
        :rows="rows"
        :row-key="row => row.id"
        :within="box"
        :sorted-by="heads.find(head => head.sort === sort)?.key"
        opens
        @open="row => router.push(`/intake/${row.id}`)"
        @sort="c => ask({ sort: c === 'since' ? 'waiting' : undefined })"
      >
        <template #number="{ row }">
          <NuxtLink
            :to="`/intake/${row.id}`"
            @click.stop
          >{{ row.number }}</NuxtLink>
        </template>
        <template #headline="{ row }">
          <HouseHeadlineMark :headline="row.headline as Headline" />
        </template>
      </HouseTable>
      <p
        v-if="!loading && rows.length === 0 && !failure"
        class="empty soft"
      >
        {{ say('roster.nobodyFound', { hasSearch: String(Boolean(route.query.search)), search: String(route.query.search), hasFilter: String(tags.length > 0 || days !== null || unread !== undefined) }) }} <NuxtLink to="/roster">{{ say('roster.showEverybody') }}</NuxtLink>
      </p>
    </div>
    <section v-if="alike.length > 0">
      <h2 class="section-title">
        {{ say('roster.alike', { search: String(route.query.search) }) }}
      </h2>
      <ul class="alike">
        <li
          v-for="row in alike"
          :key="row.id"
        >
          <NuxtLink :to="`/intake/${row.id}`">{{ row.number }}</NuxtLink> {{ row.name }} <HouseHeadlineMark :headline="row.headline" />
        </li>
      </ul>
    </section>
    <RosterFoot
      :count="count"
      :read="rows.length"
      :has-next="next !== null"
      :filter="filter"
      @changed="load(null)"
    />
    <ActDialog
      v-if="askingToRegister"
      :standing="askingToRegister"
      :busy="registering"
      @act="register"
      @close="askingToRegister = null"
    />
  </div>
</template>

<style scoped>
.roster { display: flex; flex-direction: column; padding: 16px 24px 8px; height: calc(100vh - 126px); min-height: 480px; }
.tools { display: flex; flex-wrap: wrap; gap: 8px; align-items: center; margin-bottom: 10px; }
.tools h1 { margin-right: 12px; }
.search { width: 290px; }
.alike { list-style: none; margin: 4px 0 0; padding: 0; display: flex; flex-wrap: wrap; gap: 4px 24px; }
.export { display: flex; flex-wrap: wrap; gap: 2px 10px; }
.push { margin-left: auto; display: flex; gap: 8px 16px; align-items: center; }
.box { flex: 1; min-height: 200px; overflow: auto; background: var(--sheet); border: 1px solid var(--line); }
.box :deep(th) { position: sticky; top: 0; background: var(--sheet); padding-left: 12px; z-index: 1; }
.box :deep(td) { padding-left: 12px; white-space: nowrap; height: 38px; }
.empty { padding: 24px; }
</style>
