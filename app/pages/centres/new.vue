<script setup lang="ts">
import { policyKinds, type PolicyKind } from '~~/core/allocation/policy'
import { venueSeats } from '~~/core/seating/seats'
import type { RunDetail, SessionSeats } from '~~/shared/centres'

const { policyTitles, policyWords } = useWords().allocation

/** A new run: its policy and costs, whom it places, and the seats it counts on. `from` takes an earlier run's, `add=city:50` adds seats. */
useHead({ title: titled(say('centres.newRun')) })
const cycle = useCycleStore()
const session = useSessionStore()
const spelling = useSpelling()
const route = useRoute()
const router = useRouter()
const venues = computed<SessionSeats[]>(() => cycle.notice ? venueSeats(cycle.notice) : [])
const seats = ref<SessionSeats[]>(venues.value.map(row => ({ ...row })))
const own = cycle.notice?.allocation
const form = reactive({
  kind: 'best-fit' as PolicyKind,
  seed: 0,
  choiceCosts: own?.choiceCosts.join(', ') ?? '',
  offListBase: own?.offListBase ?? 20,
  kilometreCap: own?.kilometreCap ?? 1000,
  unseated: own?.unseated ?? 1_000_000,
  staying: own?.staying ?? 15,
  scope: 'waiting' as 'waiting' | 'everyone',
  note: '',
})
const chosen = ref<string | null>(null)
const failure = ref('')
const { job, live, find, startAt, cancel } = useJob('allocate', () => {
  const id = job.value?.result?.runId
  if (job.value?.state === 'done' && id) void router.push(`/centres/${id}`)
})

/** Takes over an earlier run's question, and adds the seats that the address asks for. */
async function take(from: string, add: string) {
  const run = await callApi<RunDetail>(`/api/runs/${from}`)
  const { kind, seed, choiceCosts, offListBase, kilometreCap, unseated, staying } = run.policy
  Object.assign(form, {
    kind,
    seed,
    choiceCosts: choiceCosts.join(', '),
    offListBase,
    kilometreCap,
    unseated,
    scope: run.scope,
    ...(run.scope === 'everyone' ? { staying } : {}),
  })
  if (run.seats.length > 0) seats.value = run.seats.map(row => ({ ...row }))
  const [city, more] = [add.split(':')[0], Number(add.split(':')[1])]
  const row = seats.value.find(s => s.city === city)
  if (!row || !Number.isInteger(more)) return
  row.seats += more
  chosen.value = row.city
  form.note = say('centres.asRunWithMoreSeatsIn', { serial: run.serial, more, city: spelling.city(row.city) })
}
onMounted(() =>
  attempt(async () => {
    await find()
    if (typeof route.query.from === 'string') await take(route.query.from, String(route.query.add ?? ''))
  })
)

const changed = computed(() =>
  seats.value.filter((row, i) => row.seats !== venues.value[i]?.seats || row.accessibleSeats !== venues.value[i]?.accessibleSeats)
)
const cityFigures = computed(() =>
  (cycle.notice?.cities ?? []).map((city) => {
    const sum = seats.value.filter(s => s.city === city.id).reduce((n, s) => n + s.seats, 0)
    return { city: city.id, capacity: sum, placed: 0, firstChoice: 0 }
  })
)
async function start() {
  failure.value = ''
  const { scope, note, choiceCosts, ...rest } = form
  const costs = choiceCosts.split(',').map(cost => Number(cost.trim() || Number.NaN))
  const bad = choiceCosts.split(',').find((_, i) => !Number.isInteger(costs[i]) || (costs[i] ?? -1) < 0)
  if (bad !== undefined) {
    failure.value = say('centres.costsOfChoicesIsNotA', { bad: bad.trim() })
    return
  }
  await startAt(cycle.path('runs'), { policy: { ...rest, choiceCosts: costs }, scope, note, seats: changed.value })
    .catch((error: unknown) => {
      failure.value = problemText(error)
    })
}
function choose(city: string) {
  chosen.value = city
  document.getElementById(`seats-${city}`)?.scrollIntoView({ block: 'center' })
}
</script>

<template>
  <div class="sheet-row grow">
    <div class="body">
      <CentresAreas />
      <h1>{{ say('centres.newRun') }}</h1>
      <fieldset>
        <legend>{{ say('centres.policyHeading') }}</legend>
        <ElRadioGroup
          v-model="form.kind"
          class="column"
        >
          <ElRadio
            v-for="kind in policyKinds"
            :key="kind"
            :value="kind"
          >
            <b>{{ policyTitles[kind] }}</b> <span class="soft">{{ policyWords[kind] }}</span>
          </ElRadio>
        </ElRadioGroup>
        <label
          v-if="form.kind === 'lottery'"
          class="field"
        >{{ say('centres.seedToBePublished') }}<ElInputNumber
          v-model="form.seed"
          :min="0"
          :controls="false"
          :precision="0"
        /></label>
      </fieldset>
      <fieldset>
        <legend>{{ say('centres.whomItPlaces') }}</legend>
        <ElRadioGroup
          v-model="form.scope"
          class="column"
        >
          <ElRadio value="waiting">
            <b>{{ say('centres.thoseWaitingChoice') }}</b> <span class="soft">{{ say('centres.publishedSeatsStayAsTheyAre') }}</span>
          </ElRadio>
          <ElRadio value="everyone">
            <b>{{ say('centres.everyone') }}</b> <span class="soft">{{ say('centres.alsoThoseToldACityBefore') }}</span>
          </ElRadio>
        </ElRadioGroup>
        <label
          v-if="form.scope === 'everyone'"
          class="field"
        >{{ say('centres.pointsForMovingSomebodyWhoWas') }}<ElInputNumber
          v-model="form.staying"
          :min="0"
          :controls="false"
          :precision="0"
        /></label>
      </fieldset>
      <fieldset class="costs">
        <legend>{{ say('centres.costsInPoints') }}</legend>
        <label class="field">{{ say('centres.choicesInOrder') }}<ElInput v-model="form.choiceCosts" /></label>
        <label class="field">{{ say('centres.aCityOffTheList') }}<ElInputNumber
          v-model="form.offListBase"
          :min="0"
          :controls="false"
          :precision="0"
        /></label>
        <label class="field">{{ say('centres.and1ForEachKmAt') }}<ElInputNumber
          v-model="form.kilometreCap"
          :min="0"
          :controls="false"
          :precision="0"
        /></label>
        <label class="field">{{ say('centres.noSeat') }}<ElInputNumber
          v-model="form.unseated"
          :min="0"
          :controls="false"
          :precision="0"
        /></label>
      </fieldset>
      <fieldset v-if="cycle.notice">
        <legend>{{ say('centres.seatsToCountOn') }}</legend>
        <CentresSeatTable
          v-model="seats"
          :cities="cycle.notice.cities"
          :sessions="cycle.notice.sessions"
          :venues="venues"
          :chosen="chosen"
        />
      </fieldset>
    </div>
    <div class="beside">
      <div class="stay">
        <h2>{{ say('centres.whatThisRunIs') }}</h2>
        <p class="what">
          <b>{{ policyTitles[form.kind] }}</b> {{ say('centres.forEveryoneWithASeatOr', { scope: form.scope, seats: countText(cityFigures.reduce((n, c) => n + c.capacity, 0)) }) }}
        </p>
        <p
          v-if="changed.length === 0"
          class="soft"
        >
          {{ say('centres.seatsAreThoseOfTheVenues') }}
        </p>
        <ul
          v-else
          class="changes"
        >
          <li
            v-for="row in changed"
            :key="`${row.city}/${row.session}`"
          >
            {{ spelling.city(row.city) }}, {{ cycle.notice?.sessions.find(s => s.id === row.session)?.title.toLowerCase() }}: <b>{{ row.seats }}</b> {{ say('centres.seatsAccessible', { accessibleSeats: row.accessibleSeats }) }}
          </li>
        </ul>
        <button
          v-if="changed.length > 0"
          class="press"
          @click="seats = venues.map(row => ({ ...row }))"
        >
          {{ say('centres.backToTheSeatsOfThe') }}
        </button>
        <CentresCityMap
          v-if="cycle.notice"
          class="map"
          small
          :cities="cycle.notice.cities"
          :figures="cityFigures"
          :chosen="chosen"
          @choose="choose"
        />
        <p class="soft small">
          {{ say('centres.discsAreAsLargeAsThe') }}
        </p>
      </div>
    </div>
  </div>
  <div class="action-bar">
    <label class="note-field">{{ say('centres.note') }} <ElInput
      v-model="form.note"
      maxlength="200"
      :placeholder="say('centres.whatIsThisRunFor')"
    /></label>
    <p
      v-if="failure"
      class="refusal"
    >
      {{ failure }}
    </p>
    <JobsProgress
      :job="job?.state === 'done' ? null : job"
      :live="live"
      undone
      percent
      :what="say('centres.allocation')"
      @cancel="attempt(cancel)"
    />
    <ElButton
      v-if="session.may('centres.run') && !live"
      class="push"
      type="primary"
      @click="start"
    >
      {{ say('centres.runTheAllocation') }}
    </ElButton>
  </div>
</template>

<style scoped>
.grow { flex: 1; }
.body, .beside { padding-top: 18px !important; padding-bottom: 24px !important; }
fieldset { border: 0; border-top: 1px solid var(--line); padding: 10px 0 6px; margin: 12px 0 0; min-width: 0; }
legend { font: 600 18px/1.2 var(--serif); padding: 0 12px 0 0; }
.column { display: flex; flex-direction: column; align-items: flex-start; }
.column :deep(.el-radio) { height: auto; min-height: 32px; white-space: normal; }
.field { display: inline-flex; flex-direction: column; gap: 2px; font-size: 14px; color: var(--ink-soft); margin: 4px 20px 4px 0; }
.field :deep(.el-input-number) { width: 150px; }
.costs .field :deep(.el-input) { width: 150px; }
.what { margin: 6px 0; }
.changes { margin: 4px 0; padding-left: 18px; }
.map { margin: 14px 0 6px; }
.stay { position: sticky; top: 140px; }
.note-field { display: flex; gap: 8px; align-items: center; flex: 0 1 420px; }
</style>
