<script setup lang="ts">
import type { ComparedPerson, Comparison, RunRow } from '~~/shared/centres'

const { placeWords, policyTitles } = useWords().allocation

/** Two runs side by side: who gains and who loses when the second takes the place of the first, by how much, and in which groups. */
useHead({ title: titled(say('centres.compareRuns')) })
const cycle = useCycleStore()
const spelling = useSpelling()
const route = useRoute()
const router = useRouter()
const runs = shallowRef<RunRow[]>([])
const comparison = shallowRef<Comparison | null>(null)
const people = shallowRef<ComparedPerson[]>([])
const more = ref(false)
const side = ref<'gain' | 'lose'>('gain')
const failure = ref('')
const first = computed(() => typeof route.query.first === 'string' ? route.query.first : null)
const second = computed(() => typeof route.query.second === 'string' ? route.query.second : null)
const titles = {
  category: say('centres.category'),
  pwd: say('centres.personWithDisability'),
  gender: say('centres.gender'),
  island: say('centres.islandOfHome'),
} as const

onMounted(() =>
  attempt(async () => {
    runs.value = await callApi<RunRow[]>(cycle.path('runs'))
    const [newest, before] = runs.value
    if (!first.value && !second.value && newest && before) await pick(before.id, newest.id)
  })
)
const pick = (a: string | null, b: string | null) => router.replace({ query: { first: a ?? undefined, second: b ?? undefined } })

watch([first, second], async () => {
  comparison.value = null
  failure.value = ''
  if (!first.value || !second.value) return
  try {
    comparison.value = await callApi<Comparison>('/api/runs/compare', { query: { first: first.value, second: second.value } })
    await loadPeople()
  } catch (error) {
    failure.value = problemText(error)
  }
}, { immediate: true })
watch(side, () => attempt(() => loadPeople()))

async function loadPeople(after?: ComparedPerson) {
  const page = await callApi<ComparedPerson[]>('/api/runs/compare/people', {
    query: {
      first: first.value ?? '',
      second: second.value ?? '',
      side: side.value,
      afterPoints: after?.points,
      afterNumber: after?.number,
    },
  })
  people.value = after ? [...people.value, ...page] : page
  more.value = page.length === 100
}

const share = (n: number, of: number) => of > 0 ? `${(n * 100 / of).toFixed(1)} %` : '–'
function groupTitle(by: keyof typeof titles, group: string): string {
  if (by === 'island') return group || say('centres.notKnown')
  return group === '' ? say('centres.notSaid') : spelling.answer(by, group)
}
const got = (place: ComparedPerson['first']) =>
  place.city === null ? say('centres.noSeatInRow') : `${spelling.city(place.city)}, ${placeWords(place)}`
/** What is compared, and whether more of it is better: people are shares of all, for distance and cost nothing is said. */
const rows = computed(() => {
  if (!comparison.value) return []
  const { all, first: one, second: other } = comparison.value
  const km = (n: number) => say('centres.km', { km: n.toFixed(1) })
  return [
    { title: say('centres.firstChoice'), pair: all.firstChoice, good: 1, spell: countText },
    { title: say('centres.offTheList'), pair: all.offList, good: -1, spell: countText },
    { title: say('centres.noSeat'), pair: all.unseated, good: -1, spell: countText },
    { title: say('centres.meanWayFromHome'), pair: all.km, good: 0, spell: km },
    { title: say('centres.costByItsOwnPolicy'), pair: [one.cost, other.cost] as const, good: 0, spell: countText },
  ]
})
const label = (run: RunRow) => say('centres.runAndPolicy', { serial: run.serial, policy: policyTitles[run.policy.kind] })
</script>

<template>
  <div class="page">
    <CentresAreas />
    <div class="page-head">
      <h1>{{ say('centres.twoRunsSideBySide') }}</h1>
    </div>
    <p
      v-if="runs.length < 2"
      class="soft"
    >
      {{ say('centres.thereIsOneRun', { runs: runs.length }) }} <NuxtLink to="/centres/new">{{ say('centres.makeAnother') }}</NuxtLink> {{ say('centres.toCompareThem') }}
    </p>
    <div
      v-else
      class="pick"
    >
      <label>{{ say('centres.insteadOf') }} <ElSelect
        :model-value="first"
        :aria-label="say('centres.firstRun')"
        @change="pick($event, second)"
      ><ElOption
        v-for="run in runs"
        :key="run.id"
        :value="run.id"
        :label="label(run)"
      /></ElSelect></label>
      <label>{{ say('centres.take') }} <ElSelect
        :model-value="second"
        :aria-label="say('centres.secondRun')"
        @change="pick(first, $event)"
      ><ElOption
        v-for="run in runs"
        :key="run.id"
        :value="run.id"
        :label="label(run)"
      /></ElSelect></label>
      <ElButton @click="pick(second, first)">
        {{ say('centres.turnRound') }}
      </ElButton>
    </div>
    <HouseAlert
      :text="failure"
      kind="refusal"
    />
    <template v-if="comparison">
      <div class="verdict">
        <p><b class="settled">{{ say('centres.gain', { gain: comparison.all.gain }) }}</b> {{ say('centres.pointsGained', { pointsGained: comparison.all.pointsGained }) }}</p>
        <p><b class="refusal">{{ say('centres.lose', { lose: comparison.all.lose }) }}</b> {{ say('centres.pointsLost', { pointsLost: comparison.all.pointsLost }) }}</p>
        <p><b>{{ say('centres.fareTheSame', { same: countText(comparison.all.same) }) }}</b></p>
        <p class="soft small">
          {{ say('centres.countedByTheCostsOfRun', { serial: comparison.first.serial, people: countText(comparison.all.people), hasOnlyFirst: String(comparison.onlyFirst + comparison.onlySecond > 0), onlyFirst: countText(comparison.onlyFirst), onlySecond: countText(comparison.onlySecond) }) }}
        </p>
      </div>
      <HouseTable
        class="figures"
        :columns="[
          { key: 'title', title: say('centres.whatIsCompared'), isQuiet: true, text: row => row.title },
          { key: 'first', title: say('centres.runInTable', { serial: comparison.first.serial }), kind: 'number' },
          { key: 'second', title: say('centres.runInTable', { serial: comparison.second.serial }), kind: 'number' },
          {
            key: 'difference',
            title: say('centres.difference'),
            kind: 'number',
            look: ({ pair, good }) => (pair[1] - pair[0]) * good > 0 ? 'settled' : (pair[1] - pair[0]) * good < 0 ? 'refusal' : '',
            text: ({ pair, spell, good }) => `${pair[1] > pair[0] && good !== 0 ? '+' : ''}${spell(pair[1] - pair[0])}`,
          },
        ]"
        :rows="rows"
        :row-key="row => row.title"
      >
        <template #first="{ row }">
          {{ row.spell(row.pair[0]) }} <span class="soft">{{ row.good === 0 ? '' : share(row.pair[0], comparison.all.people) }}</span>
        </template>
        <template #second="{ row }">
          {{ row.spell(row.pair[1]) }} <span class="soft">{{ row.good === 0 ? '' : share(row.pair[1], comparison.all.people) }}</span>
        </template>
      </HouseTable>
      <h2 class="section-title">
        {{ say('centres.byGroup') }}
      </h2>
      <HouseTable
        :columns="[
          { key: 'group', title: say('centres.group'), look: 'indent', text: row => groupTitle(row.by, row.group) },
          { key: 'people', title: say('centres.people'), kind: 'number', text: row => countText(row.people) },
          { key: 'gain', title: say('centres.gainColumn'), kind: 'number', look: 'settled' },
          { key: 'lose', title: say('centres.loseColumn'), kind: 'number', look: 'refusal' },
          {
            key: 'points',
            title: say('centres.pointsAPerson'),
            kind: 'number',
            text: row => ((row.pointsGained - row.pointsLost) / Math.max(1, row.people)).toFixed(1),
          },
          {
            key: 'first',
            title: say('centres.firstChoiceColumn'),
            kind: 'number',
            text: row => `${share(row.firstChoice[0], row.people)} → ${share(row.firstChoice[1], row.people)}`,
          },
          {
            key: 'offList',
            title: say('centres.offTheListColumn'),
            kind: 'number',
            text: row => `${countText(row.offList[0])} → ${countText(row.offList[1])}`,
          },
          { key: 'way', title: say('centres.meanWayKm'), kind: 'number', text: row => `${row.km[0].toFixed(0)} → ${row.km[1].toFixed(0)}` },
        ]"
        :rows="comparison.groups.flatMap(({ by, rows: some }) => some.map(row => ({ by, ...row })))"
        :row-key="row => `${row.by} ${row.group}`"
        :group-of="row => titles[row.by]"
      >
        <template #gain="{ row }">
          ▲ {{ countText(row.gain) }} <span class="soft">{{ share(row.gain, row.people) }}</span>
        </template>
        <template #lose="{ row }">
          ▼ {{ countText(row.lose) }} <span class="soft">{{ share(row.lose, row.people) }}</span>
        </template>
      </HouseTable>
      <h2 class="section-title people-head">
        {{ say('centres.who') }}
        <ElRadioGroup
          v-model="side"
          :aria-label="say('centres.whoGainsOrLoses')"
        >
          <ElRadio value="gain">
            {{ say('centres.gainsMost') }}
          </ElRadio><ElRadio value="lose">
            {{ say('centres.losesMost') }}
          </ElRadio>
        </ElRadioGroup>
      </h2>
      <p
        v-if="people.length === 0"
        class="soft"
      >
        {{ say('centres.nobodyGainsOther', { side }) }}
      </p>
      <HouseTable
        v-else
        :columns="[
          { key: 'number', title: say('centres.number'), kind: 'line' },
          { key: 'name', title: say('centres.name'), text: person => person.name },
          { key: 'first', title: say('centres.runInTable', { serial: comparison.first.serial }), text: person => got(person.first) },
          { key: 'second', title: say('centres.runInTable', { serial: comparison.second.serial }), text: person => got(person.second) },
          {
            key: 'points',
            title: say('centres.pointsColumn'),
            kind: 'number',
            look: ({ points }) => points > 0 ? 'settled' : 'refusal',
            text: ({ points }) => `${points > 0 ? '▲' : '▼'} ${countText(Math.abs(points))}`,
          },
          { key: 'why', title: say('centres.whyHere'), isQuiet: true },
        ]"
        :rows="people"
        :row-key="person => person.applicationId"
      >
        <template #number="{ row: person }">
          <NuxtLink :to="`/intake/${person.applicationId}`">{{ person.number }}</NuxtLink>
        </template>
        <template #why="{ row: person }">
          <NuxtLink :to="`/centres/why/${second}/${person.applicationId}`">{{ say('centres.whyHere') }}</NuxtLink>
        </template>
      </HouseTable>
      <ElButton
        v-if="more"
        class="more"
        @click="attempt(() => loadPeople(people.at(-1)))"
      >
        {{ say('centres.showMore') }}
      </ElButton>
    </template>
  </div>
</template>

<style scoped>
.pick { display: flex; flex-wrap: wrap; gap: 8px 16px; align-items: center; margin-bottom: 16px; }
.pick label { display: flex; gap: 8px; align-items: center; }
.pick :deep(.el-select) { width: 260px; }
.verdict {
  display: flex; flex-wrap: wrap; gap: 6px 28px; align-items: baseline; border-top: 1px solid var(--line);
  border-bottom: 1px solid var(--line); padding: 12px 0; margin-bottom: 12px; font-size: 18px;
}
.verdict .small { font-size: 14px; flex-basis: 100%; }
.figures { max-width: 760px; margin-bottom: 24px; }
:deep(tbody th) { padding-top: 14px; color: var(--ink); font-size: 16px; }
:deep(.indent) { padding-left: 14px; }
.people-head { margin-top: 28px; display: flex; gap: 20px; align-items: center; }
.more { margin-top: 12px; }
</style>
