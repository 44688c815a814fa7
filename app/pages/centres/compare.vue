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
const rows = computed(() => {
  const all = comparison.value?.all
  if (!all) return []
  return [
    { title: say('centres.firstChoice'), pair: all.firstChoice, good: 1 },
    { title: say('centres.offTheList'), pair: all.offList, good: -1 },
    { title: say('centres.noSeat'), pair: all.unseated, good: -1 },
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
      <table class="plain-table figures">
        <thead>
          <tr>
            <th /><th class="number">
              {{ say('centres.runInTable', { serial: comparison.first.serial }) }}
            </th><th class="number">
              {{ say('centres.runInTable', { serial: comparison.second.serial }) }}
            </th><th class="number">
              {{ say('centres.difference') }}
            </th>
          </tr>
        </thead>
        <tbody>
          <tr
            v-for="row in rows"
            :key="row.title"
          >
            <td>{{ row.title }}</td>
            <td class="number">
              {{ countText(row.pair[0]) }} <span class="soft">{{ share(row.pair[0], comparison.all.people) }}</span>
            </td>
            <td class="number">
              {{ countText(row.pair[1]) }} <span class="soft">{{ share(row.pair[1], comparison.all.people) }}</span>
            </td>
            <td
              class="number"
              :class="(row.pair[1] - row.pair[0]) * row.good > 0 ? 'settled' : (row.pair[1] - row.pair[0]) * row.good < 0 ? 'refusal' : ''"
            >
              {{ row.pair[1] > row.pair[0] ? '+' : '' }}{{ countText(row.pair[1] - row.pair[0]) }}
            </td>
          </tr>
          <tr>
            <td>{{ say('centres.meanWayFromHome') }}</td>
            <td class="number">
              {{ say('centres.km', { km: comparison.all.km[0].toFixed(1) }) }}
            </td><td class="number">
              {{ say('centres.km', { km: comparison.all.km[1].toFixed(1) }) }}
            </td><td class="number">
              {{ say('centres.km', { km: (comparison.all.km[1] - comparison.all.km[0]).toFixed(1) }) }}
            </td>
          </tr>
          <tr>
            <td>{{ say('centres.costByItsOwnPolicy') }}</td>
            <td class="number">
              {{ countText(comparison.first.cost) }}
            </td><td class="number">
              {{ countText(comparison.second.cost) }}
            </td><td class="number">
              {{ countText(comparison.second.cost - comparison.first.cost) }}
            </td>
          </tr>
        </tbody>
      </table>
      <h2 class="section-title">
        {{ say('centres.byGroup') }}
      </h2>
      <table class="plain-table">
        <thead>
          <tr>
            <th>{{ say('centres.group') }}</th><th class="number">
              {{ say('centres.people') }}
            </th><th class="number">
              {{ say('centres.gainColumn') }}
            </th><th class="number">
              {{ say('centres.loseColumn') }}
            </th><th class="number">
              {{ say('centres.pointsAPerson') }}
            </th><th class="number">
              {{ say('centres.firstChoiceColumn') }}
            </th><th class="number">
              {{ say('centres.offTheListColumn') }}
            </th><th class="number">
              {{ say('centres.meanWayKm') }}
            </th>
          </tr>
        </thead>
        <tbody
          v-for="part in comparison.groups"
          :key="part.by"
        >
          <tr><th colspan="8">
            {{ titles[part.by] }}
          </th></tr>
          <tr
            v-for="row in part.rows"
            :key="row.group"
          >
            <td class="indent">
              {{ groupTitle(part.by, row.group) }}
            </td>
            <td class="number">
              {{ countText(row.people) }}
            </td>
            <td class="number settled">
              ▲ {{ countText(row.gain) }} <span class="soft">{{ share(row.gain, row.people) }}</span>
            </td>
            <td class="number refusal">
              ▼ {{ countText(row.lose) }} <span class="soft">{{ share(row.lose, row.people) }}</span>
            </td>
            <td class="number">
              {{ ((row.pointsGained - row.pointsLost) / Math.max(1, row.people)).toFixed(1) }}
            </td>
            <td class="number">
              {{ share(row.firstChoice[0], row.people) }} → {{ share(row.firstChoice[1], row.people) }}
            </td>
            <td class="number">
              {{ countText(row.offList[0]) }} → {{ countText(row.offList[1]) }}
            </td>
            <td class="number">
              {{ row.km[0].toFixed(0) }} → {{ row.km[1].toFixed(0) }}
            </td>
          </tr>
        </tbody>
      </table>
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
      <table
        v-else
        class="plain-table"
      >
        <thead>
          <tr>
            <th>{{ say('centres.number') }}</th><th>{{ say('centres.name') }}</th><th>{{ say('centres.runInTable', { serial: comparison.first.serial }) }}</th><th>{{ say('centres.runInTable', { serial: comparison.second.serial }) }}</th><th class="number">
              {{ say('centres.pointsColumn') }}
            </th><th />
          </tr>
        </thead>
        <tbody>
          <tr
            v-for="person in people"
            :key="person.applicationId"
          >
            <td class="nowrap"><NuxtLink :to="`/intake/${person.applicationId}`">{{ person.number }}</NuxtLink></td>
            <td>{{ person.name }}</td><td>{{ got(person.first) }}</td><td>{{ got(person.second) }}</td>
            <td
              class="number"
              :class="person.points > 0 ? 'settled' : 'refusal'"
            >
              {{ person.points > 0 ? '▲' : '▼' }} {{ countText(Math.abs(person.points)) }}
            </td>
            <td><NuxtLink :to="`/centres/why/${second}/${person.applicationId}`">{{ say('centres.whyHere') }}</NuxtLink></td>
          </tr>
        </tbody>
      </table>
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
tbody th { padding-top: 14px; color: var(--ink); font-size: 16px; }
.indent { padding-left: 14px !important; }
.people-head { margin-top: 28px; display: flex; gap: 20px; align-items: center; }
.more { margin-top: 12px; }
</style>
