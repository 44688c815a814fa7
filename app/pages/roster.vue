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
/** Where somebody was in this list, so that Back leads to the same row. */
const placeKey = () => `lucid-roster ${cycle.code} ${route.fullPath}`
let place: { top: number, count: number } | null = null
try {
  place = JSON.parse(sessionStorage.getItem(placeKey()) ?? 'null') as typeof place
} catch {
  place = null
}
onBeforeRouteLeave(() => {
  if (rows.value.length > 0) sessionStorage.setItem(placeKey(), JSON.stringify({ top: top.value, count: rows.value.length }))
})

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
const count = shallowRef<RosterCount | null>(null)
const alike = shallowRef<RosterRow[]>([])
const sort = computed(() => route.query.sort === 'waiting' ? 'waiting' : 'number')
const { columns, columnWords, outAtFirst, cell } = useRosterColumns()
const hidden = computed(() => String(route.query.hide ?? outAtFirst).split(',').filter(Boolean))
const shown = computed(() => columns.filter(c => !hidden.value.includes(c)))

function ask(change: Record<string, string | string[] | undefined>) {
  const { headline: _, fee: __, ...kept } = route.query
  router.replace({ query: Object.fromEntries(Object.entries({ ...kept, is: tags.value, ...change }).filter(([, v]) => v && v.length > 0)) })
}
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
const countWords = computed(() => {
  const told = count.value
  if (!told) return say('roster.counting')
  return told.isExact
    ? say('roster.countExact', { n: told.n })
    : say('roster.countAbout', { n: countText(told.n), low: countText(told.low), high: countText(told.high) })
})
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

// Only the rows in sight are drawn, however many have been read.
const rowHeight = 38
const box = ref<HTMLElement | null>(null)
const top = ref(0)
const height = ref(600)
const first = computed(() => Math.max(0, Math.floor(top.value / rowHeight) - 8))
const visible = computed(() => rows.value.slice(first.value, first.value + Math.ceil(height.value / rowHeight) + 16))
function onScroll() {
  if (!box.value) return
  top.value = box.value.scrollTop
  height.value = box.value.clientHeight
  if (next.value && !loading.value && box.value.scrollTop + box.value.clientHeight > box.value.scrollHeight - 600) load(next.value)
}
onMounted(onScroll)

function choose(query: string) {
  search.value = ''
  router.replace({ query: JSON.parse(query) as Record<string, string> }).then(() => {
    search.value = String(route.query.search ?? '')
  })
}
const isActing = ref(false)
const isWriting = ref(false)
const isPaying = ref(false)
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
      <ElPopover
        trigger="click"
        width="200"
      >
        <template #reference>
          <ElButton>{{ say('roster.columns') }}</ElButton>
        </template>
        <ElCheckbox
          v-for="c in columns"
          :key="c"
          :model-value="!hidden.includes(c)"
          :disabled="c === 'number'"
          class="column"
          @change="ask({ hide: columns.filter(o => o === c ? !hidden.includes(c) : hidden.includes(o)).join(',') || ',' })"
        >
          {{ columnWords[c] }}
        </ElCheckbox>
      </ElPopover>
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
      <table class="plain-table">
        <thead>
          <tr>
            <th
              v-for="c in shown"
              :key="c"
              :aria-sort="(c === 'number' && sort === 'number') || (c === 'since' && sort === 'waiting') ? 'ascending' : undefined"
            >
              <button
                v-if="c === 'number' || c === 'since'"
                @click="ask({ sort: c === 'since' ? 'waiting' : undefined })"
              >
                {{ columnWords[c] }} {{ (c === 'number' && sort === 'number') || (c === 'since' && sort === 'waiting') ? '▾' : '' }}
              </button>
              <template v-else>
                {{ columnWords[c] }}
              </template>
            </th>
          </tr>
        </thead>
        <tbody>
          <tr
            v-if="first > 0"
            :style="{ height: `${first * rowHeight}px` }"
          />
          <tr
            v-for="row in visible"
            :key="row.id"
            class="row"
            @click="router.push(`/intake/${row.id}`)"
          >
            <td
              v-for="c in shown"
              :key="c"
              :class="{ soft: c === 'since' || c === 'telephone' }"
            >
              <NuxtLink
                v-if="c === 'number'"
                :to="`/intake/${row.id}`"
                @click.stop
              >{{ row.number }}</NuxtLink>
              <HouseHeadlineMark
                v-else-if="c === 'headline'"
                :headline="row.headline as Headline"
              />
              <template v-else>
                {{ cell(row, c) }}
              </template>
            </td>
          </tr>
          <tr
            v-if="rows.length > first + visible.length"
            :style="{ height: `${(rows.length - first - visible.length) * rowHeight}px` }"
          />
        </tbody>
      </table>
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
    <p class="foot soft small">
      <b>{{ countWords }}</b> <button
        v-if="session.may('roster.act') && (count?.n ?? 0) > 0"
        type="button"
        class="press small"
        @click="isActing = true"
      >
        {{ say('roster.actOnAll') }}
      </button> <button
        v-if="session.may('letters.announce') && (count?.n ?? 0) > 0"
        type="button"
        class="press small"
        @click="isWriting = true"
      >
        {{ say('roster.writeToAll') }}
      </button> <button
        v-if="session.may('fees.collect') && (count?.n ?? 0) > 0"
        type="button"
        class="press small"
        @click="isPaying = true"
      >
        {{ say('roster.payForAll') }}
      </button> · {{ say('roster.readMoreBelow', { rows: rows.length, hasNext: String(Boolean(next)) }) }}
    </p>
    <LazyRosterAnnounce
      v-if="isWriting"
      :filter="filter"
      @close="isWriting = false"
    />
    <LazyRosterPayForAll
      v-if="isPaying"
      :filter="filter"
      @close="isPaying = false"
    />
    <RosterBulk
      v-if="isActing"
      :filter="filter"
      @close="isActing = false; load(null)"
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
.column { display: flex; }
.export { display: flex; flex-wrap: wrap; gap: 2px 10px; }
.push { margin-left: auto; display: flex; gap: 8px 16px; align-items: center; }
.box { flex: 1; min-height: 200px; overflow: auto; background: var(--sheet); border: 1px solid var(--line); }
th { position: sticky; top: 0; background: var(--sheet); padding-left: 12px !important; z-index: 1; }
th button { font: inherit; color: inherit; background: none; border: 0; padding: 0; cursor: pointer; }
td { padding-left: 12px !important; white-space: nowrap; height: 38px; }
.row { cursor: pointer; }
.row:hover { background: var(--accent-soft); }
.empty { padding: 24px; }
.foot { padding-top: 6px; }
.foot button + button { margin-left: 10px; }
</style>
