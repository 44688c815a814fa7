<script setup lang="ts">
import type { ComparedPerson, Comparison, RunRow } from '~~/shared/centres'
import { placeWords, policyTitles } from '~~/core/words/en/allocation'

/** Two runs side by side: who gains and who loses when the second takes the place of the first, by how much, and in which groups. */
useHead({ title: 'Compare runs · Lucid Roster' })
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
const titles = { category: 'Category', pwd: 'Person with disability', gender: 'Gender', island: 'Island of home' } as const

onMounted(() => attempt(async () => {
  runs.value = await callApi<RunRow[]>(cycle.path('runs'))
  const [newest, before] = runs.value
  if (!first.value && !second.value && newest && before) await pick(before.id, newest.id)
}))
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
  const page = await callApi<ComparedPerson[]>('/api/runs/compare/people', { query: { first: first.value ?? '', second: second.value ?? '', side: side.value, afterPoints: after?.points, afterNumber: after?.number } })
  people.value = after ? [...people.value, ...page] : page
  more.value = page.length === 100
}

const count = (n: number) => n.toLocaleString('en-GB')
const share = (n: number, of: number) => of > 0 ? `${(n * 100 / of).toFixed(1)} %` : '–'
function groupTitle(by: keyof typeof titles, group: string): string {
  if (by === 'island') return group || 'not known'
  return group === '' ? 'not said' : spelling.answer(by, group)
}
const got = (place: ComparedPerson['first']) => place.city === null ? 'no seat' : `${spelling.city(place.city)}, ${placeWords(place)}`
const rows = computed(() => {
  const all = comparison.value?.all
  if (!all) return []
  return [
    { title: 'First choice', pair: all.firstChoice, good: 1 }, { title: 'Off the list', pair: all.offList, good: -1 }, { title: 'No seat', pair: all.unseated, good: -1 },
  ]
})
const label = (run: RunRow) => `Run ${run.serial}: ${policyTitles[run.policy.kind]}`
</script>

<template>
  <div class="page">
    <CentresAreas />
    <div class="page-head">
      <h1>Two runs side by side</h1>
    </div>
    <p
      v-if="runs.length < 2"
      class="soft"
    >
      There {{ runs.length === 1 ? 'is one run' : 'is no run' }} so far. <NuxtLink to="/centres/new">Make another</NuxtLink> to compare them.
    </p>
    <div
      v-else
      class="pick"
    >
      <label>Instead of <ElSelect
        :model-value="first"
        aria-label="First run"
        @change="pick($event, second)"
      ><ElOption
        v-for="run in runs"
        :key="run.id"
        :value="run.id"
        :label="label(run)"
      /></ElSelect></label>
      <label>take <ElSelect
        :model-value="second"
        aria-label="Second run"
        @change="pick(first, $event)"
      ><ElOption
        v-for="run in runs"
        :key="run.id"
        :value="run.id"
        :label="label(run)"
      /></ElSelect></label>
      <ElButton @click="pick(second, first)">
        ⇄ Turn round
      </ElButton>
    </div>
    <HouseAlert
      :text="failure"
      kind="refusal"
    />
    <template v-if="comparison">
      <div class="verdict">
        <p><b class="settled">▲ {{ count(comparison.all.gain) }} gain</b> {{ count(comparison.all.pointsGained) }} points</p>
        <p><b class="refusal">▼ {{ count(comparison.all.lose) }} lose</b> {{ count(comparison.all.pointsLost) }} points</p>
        <p><b>= {{ count(comparison.all.same) }} fare the same</b></p>
        <p class="soft small">
          Counted by the costs of run {{ comparison.first.serial }}, for the {{ count(comparison.all.people) }} people of both runs.{{ comparison.onlyFirst + comparison.onlySecond > 0 ? ` ${count(comparison.onlyFirst)} are only in the first, ${count(comparison.onlySecond)} only in the second.` : '' }}
        </p>
      </div>
      <table class="plain-table figures">
        <thead>
          <tr>
            <th /><th class="number">
              run {{ comparison.first.serial }}
            </th><th class="number">
              run {{ comparison.second.serial }}
            </th><th class="number">
              difference
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
              {{ count(row.pair[0]) }} <span class="soft">{{ share(row.pair[0], comparison.all.people) }}</span>
            </td>
            <td class="number">
              {{ count(row.pair[1]) }} <span class="soft">{{ share(row.pair[1], comparison.all.people) }}</span>
            </td>
            <td
              class="number"
              :class="(row.pair[1] - row.pair[0]) * row.good > 0 ? 'settled' : (row.pair[1] - row.pair[0]) * row.good < 0 ? 'refusal' : ''"
            >
              {{ row.pair[1] > row.pair[0] ? '+' : '' }}{{ count(row.pair[1] - row.pair[0]) }}
            </td>
          </tr>
          <tr>
            <td>Mean way from home</td>
            <td class="number">
              {{ comparison.all.km[0].toFixed(1) }} km
            </td><td class="number">
              {{ comparison.all.km[1].toFixed(1) }} km
            </td><td class="number">
              {{ (comparison.all.km[1] - comparison.all.km[0]).toFixed(1) }} km
            </td>
          </tr>
          <tr>
            <td>Cost by its own policy</td>
            <td class="number">
              {{ count(comparison.first.cost) }}
            </td><td class="number">
              {{ count(comparison.second.cost) }}
            </td><td class="number">
              {{ count(comparison.second.cost - comparison.first.cost) }}
            </td>
          </tr>
        </tbody>
      </table>
      <h2 class="section-title">
        By group
      </h2>
      <table class="plain-table">
        <thead>
          <tr>
            <th>group</th><th class="number">
              people
            </th><th class="number">
              gain
            </th><th class="number">
              lose
            </th><th class="number">
              points a person
            </th><th class="number">
              first choice
            </th><th class="number">
              off the list
            </th><th class="number">
              mean way, km
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
              {{ count(row.people) }}
            </td>
            <td class="number settled">
              ▲ {{ count(row.gain) }} <span class="soft">{{ share(row.gain, row.people) }}</span>
            </td>
            <td class="number refusal">
              ▼ {{ count(row.lose) }} <span class="soft">{{ share(row.lose, row.people) }}</span>
            </td>
            <td class="number">
              {{ ((row.pointsGained - row.pointsLost) / Math.max(1, row.people)).toFixed(1) }}
            </td>
            <td class="number">
              {{ share(row.firstChoice[0], row.people) }} → {{ share(row.firstChoice[1], row.people) }}
            </td>
            <td class="number">
              {{ count(row.offList[0]) }} → {{ count(row.offList[1]) }}
            </td>
            <td class="number">
              {{ row.km[0].toFixed(0) }} → {{ row.km[1].toFixed(0) }}
            </td>
          </tr>
        </tbody>
      </table>
      <h2 class="section-title people-head">
        Who
        <ElRadioGroup
          v-model="side"
          aria-label="Who gains or loses"
        >
          <ElRadio value="gain">
            gains most
          </ElRadio><ElRadio value="lose">
            loses most
          </ElRadio>
        </ElRadioGroup>
      </h2>
      <p
        v-if="people.length === 0"
        class="soft"
      >
        Nobody {{ side === 'gain' ? 'gains' : 'loses' }}.
      </p>
      <table
        v-else
        class="plain-table"
      >
        <thead>
          <tr>
            <th>number</th><th>name</th><th>run {{ comparison.first.serial }}</th><th>run {{ comparison.second.serial }}</th><th class="number">
              points
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
              {{ person.points > 0 ? '▲' : '▼' }} {{ count(Math.abs(person.points)) }}
            </td>
            <td><NuxtLink :to="`/centres/why/${second}/${person.applicationId}`">Why here?</NuxtLink></td>
          </tr>
        </tbody>
      </table>
      <ElButton
        v-if="more"
        class="more"
        @click="attempt(() => loadPeople(people.at(-1)))"
      >
        Show more
      </ElButton>
    </template>
  </div>
</template>

<style scoped>
.pick { display: flex; flex-wrap: wrap; gap: 8px 16px; align-items: center; margin-bottom: 16px; }
.pick label { display: flex; gap: 8px; align-items: center; }
.pick :deep(.el-select) { width: 260px; }
.verdict { display: flex; flex-wrap: wrap; gap: 6px 28px; align-items: baseline; border-top: 1px solid var(--line); border-bottom: 1px solid var(--line); padding: 12px 0; margin-bottom: 12px; font-size: 18px; }
.verdict .small { font-size: 14px; flex-basis: 100%; }
.figures { max-width: 760px; margin-bottom: 24px; }
tbody th { padding-top: 14px; color: var(--ink); font-size: 16px; }
.indent { padding-left: 14px !important; }
.people-head { margin-top: 28px; display: flex; gap: 20px; align-items: center; }
.more { margin-top: 12px; }
</style>
