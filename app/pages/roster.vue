<script setup lang="ts">
import { feeStates, headlines, type Headline } from '~~/core/application/tracks'
import type { RosterPage, RosterRow } from '~~/shared/applications'
import { spellMinutes } from '~~/core/calendar/zone'

/** The roster: the live list of all applications, filtered and searched; what is asked stands in the address. */
useHead({ title: titled(say('roster.roster')) })
const cycle = useCycleStore()
const session = useSessionStore()
const spelling = useSpelling()
const route = useRoute()
const router = useRouter()
const now = useNow()
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
onBeforeRouteLeave(() => { if (rows.value.length > 0) sessionStorage.setItem(placeKey(), JSON.stringify({ top: top.value, count: rows.value.length })) })

const { feeStateWords, headlineWords } = useWords().states
const headline = computed(() => headlines.find(h => h === route.query.headline))
const fee = computed(() => feeStates.find(f => f === route.query.fee))
const sort = computed(() => route.query.sort === 'waiting' ? 'waiting' : 'number')
const columns = ['number', 'name', 'category', 'posts', 'headline', 'since', 'telephone'] as const
const columnWords: Record<typeof columns[number], string> = {
  number: say('roster.number'), name: say('roster.name'), category: say('roster.category'), posts: say('roster.posts'), headline: say('roster.standsAt'), since: say('roster.since'), telephone: say('roster.telephone'),
}
const hidden = computed(() => String(route.query.hide ?? '').split(',').filter(Boolean))
const shown = computed(() => columns.filter(c => !hidden.value.includes(c)))

function ask(change: Record<string, string | undefined>) {
  router.replace({ query: Object.fromEntries(Object.entries({ ...route.query, ...change }).filter(([, v]) => v)) })
}
let typing: ReturnType<typeof setTimeout> | undefined
watch(search, (value) => {
  clearTimeout(typing)
  typing = setTimeout(() => ask({ search: value.trim() || undefined }), 250)
})
watch(() => [headline.value, fee.value, sort.value, route.query.search], () => load(null), { immediate: true })

async function load(after: string | null) {
  const mine = ++turn
  loading.value = true
  failure.value = ''
  try {
    const page = await callApi<RosterPage>(cycle.path('roster'), {
      query: { headline: headline.value, search: String(route.query.search ?? ''), fee: fee.value, sort: sort.value, after: after ?? undefined, limit: place && !after ? Math.min(500, Math.max(100, place.count)) : 100 },
    })
    if (mine !== turn) return
    rows.value = after ? [...rows.value, ...page.rows] : page.rows
    next.value = page.next
    await returnToPlace()
  } catch (error) {
    failure.value = problemText(error)
  } finally {
    if (mine === turn) loading.value = false
  }
}

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

const age = (at: string) => spellMinutes(Math.max(0, Math.floor((now.value.getTime() - new Date(at).getTime()) / 60_000)))
function cell(row: RosterRow, column: typeof columns[number]): string {
  switch (column) {
    case 'number': return row.number
    case 'name': return row.name || say('roster.noNameYet')
    case 'category': return row.category ? spelling.category(row.category) : '–'
    case 'posts': return row.posts.map(spelling.post).join(', ') || '–'
    case 'since': return age(row.since)
    case 'telephone': return row.mobile || '–'
    default: return headlineWords[row.headline as Headline] ?? row.headline
  }
}
async function exportCsv() {
  await attempt(async () => {
    const all: RosterRow[] = []
    for (let after: string | null = ''; after !== null;) {
      const page: RosterPage = await callApi<RosterPage>(cycle.path('roster'), { query: { headline: headline.value, search: String(route.query.search ?? ''), fee: fee.value, sort: sort.value, after, limit: 500 } })
      all.push(...page.rows)
      after = page.next
    }
    // A sign that a spreadsheet would take for a formula is kept as text by a quote before it.
    const quote = (text: string) => `"${text.replace(/^[=+\-@\t]/, '\'$&').replaceAll('"', '""')}"`
    // For programs: moments as ISO 8601 in UTC, durations as numbers with their unit in the head.
    const heads = shown.value.flatMap(c => c === 'since' ? [say('roster.standsSinceIso8601'), say('roster.waitsMinutes')] : [columnWords[c]])
    const minutes = (row: RosterRow) => String(Math.max(0, Math.floor((now.value.getTime() - new Date(row.since).getTime()) / 60_000)))
    const cells = (row: RosterRow) => shown.value.flatMap(c => c === 'since' ? [row.since, minutes(row)] : [c === 'name' ? row.name : cell(row, c)])
    const lines = [heads.map(quote).join(','), ...all.map(row => cells(row).map(quote).join(','))]
    saveFile('roster.csv', `\ufeff${lines.join('\r\n')}`, 'text/csv')
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
      <ElSelect
        :model-value="headline ?? ''"
        :placeholder="say('roster.allPoints')"
        clearable
        :aria-label="say('roster.standsAtFilter')"
        class="pick"
        @update:model-value="ask({ headline: $event || undefined })"
      >
        <ElOption
          v-for="h in headlines"
          :key="h"
          :value="h"
          :label="headlineWords[h]"
        />
      </ElSelect>
      <ElTag
        v-if="fee"
        closable
        @close="ask({ fee: undefined })"
      >
        {{ say('roster.fee', { fee: feeStateWords[fee] }) }}
      </ElTag>
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
          @change="ask({ hide: columns.filter(o => o === c ? !hidden.includes(c) : hidden.includes(o)).join(',') || undefined })"
        >
          {{ columnWords[c] }}
        </ElCheckbox>
      </ElPopover>
      <ElButton @click="exportCsv">
        {{ say('roster.exportCsv') }}
      </ElButton>
      <NuxtLink
        v-if="session.may('rolls.enter')"
        class="push"
        to="/intake/rolls"
      >
        {{ say('rolls.nominalRolls') }}
      </NuxtLink>
      <ElButton
        v-if="session.may('applications.begin')"
        type="primary"
        :loading="registering"
        @click="register()"
      >
        {{ say('roster.registerACandidate') }}
      </ElButton>
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
        {{ say('roster.nobodyFound', { hasSearch: String(Boolean(route.query.search)), search: String(route.query.search), hasHeadline: String(Boolean(headline)), headline: headline && headlineWords[headline] }) }} <NuxtLink to="/roster">{{ say('roster.showEverybody') }}</NuxtLink>
      </p>
    </div>
    <p class="foot soft small">
      {{ say('roster.readMoreBelow', { rows: rows.length, hasNext: String(Boolean(next)) }) }}
    </p>
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
.roster { display: flex; flex-direction: column; padding: 16px 24px 8px; }
.tools { display: flex; flex-wrap: wrap; gap: 8px; align-items: center; margin-bottom: 10px; }
.tools h1 { margin-right: 12px; }
.search { width: 350px; }
.column { display: flex; }
.pick { width: 150px; }
.push { margin-left: auto; }
.box { height: calc(100vh - 240px); min-height: 320px; overflow: auto; background: var(--sheet); border: 1px solid var(--line); }
th { position: sticky; top: 0; background: var(--sheet); padding-left: 12px !important; z-index: 1; }
th button { font: inherit; color: inherit; background: none; border: 0; padding: 0; cursor: pointer; }
td { padding-left: 12px !important; white-space: nowrap; height: 38px; }
.row { cursor: pointer; }
.row:hover { background: var(--accent-soft); }
.empty { padding: 24px; }
.foot { padding-top: 6px; }
</style>
