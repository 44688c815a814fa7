<script setup lang="ts">
import { seatsTaken, seatsWanted } from '~~/core/allocation/outcome'
import type { RunDetail, Saving } from '~~/shared/centres'

/** The cities of a run with the price of a seat in each, and what more seats would save: computed by placing everyone anew. */
const props = defineProps<{ run: RunDetail, chosen: string | null }>()
const emit = defineEmits<{ choose: [city: string], computed: [] }>()
const session = useSessionStore()
const spelling = useSpelling()
const router = useRouter()
const more = ref(50)
const done = ref<number | null>(null)
const savings = shallowRef<Saving[]>(props.run.savings)
watch(() => props.run.savings, (fresh) => {
  savings.value = fresh
})
const saving = (city: string) => savings.value.find(s => s.city === city && s.seats === more.value)
const byPolicy = computed(() => props.run.policy.kind !== 'best-fit')
// A seat without a price saves nothing, nor do fifty: what more seats save shrinks with each. Under other policies every city is asked.
const worth = computed(() =>
  props.run.summary.cities.filter(c => byPolicy.value ? seatsTaken(c) >= c.capacity : c.price > 0).sort((a, b) => b.price - a.price).slice(
    0,
    50,
  )
)
const rows = computed(() =>
  [...props.run.summary.cities].sort((a, b) =>
    (saving(b.city)?.saves ?? -1) - (saving(a.city)?.saves ?? -1) || b.price - a.price || b.firstChoice - a.firstChoice
  )
)
const priceOf = ({ price, accessiblePrice }: RunDetail['summary']['cities'][number]) =>
  `${countText(price)}${accessiblePrice > 0 ? say('centres.priceOfAccessible', { accessiblePrice: countText(accessiblePrice) }) : ''}`
const best = computed(() => rows.value.find(row => (saving(row.city)?.saves ?? 0) > 0))

async function compute() {
  done.value = 0
  await attempt(async () => {
    // A few cities at a time, so that the count moves and leaving the page ends it.
    for (let from = 0; from < worth.value.length && done.value !== null; from += 4) {
      const cities = worth.value.slice(from, from + 4).map(c => c.city)
      savings.value = await callApi<Saving[]>(`/api/runs/${props.run.id}/savings`, { method: 'POST', body: { cities, seats: more.value } })
      if (done.value !== null) done.value = from + cities.length
    }
  })
  done.value = null
  emit('computed')
}
onBeforeUnmount(() => {
  done.value = null
})
</script>

<template>
  <section>
    <h2 class="section-title">
      {{ say('centres.whatWouldHelp') }}
    </h2>
    <div class="ask">
      <label>{{ say('centres.whatWould') }} <ElInputNumber
        v-model="more"
        :min="1"
        :max="100000"
        :precision="0"
        :controls="false"
        :aria-label="say('centres.howManyMoreSeats')"
      /> {{ say('centres.moreSeatsInOneCitySave') }}</label>
      <ElButton
        v-if="session.may('centres.run') && done === null"
        @click="compute"
      >
        {{ say('centres.computeForCities', { worth: worth.length }) }}
      </ElButton>
      <span
        v-else-if="done !== null"
        role="status"
      ><progress
        :value="done"
        :max="worth.length"
      /> {{ say('centres.ofCities', { done, worth: worth.length }) }} <button
        class="press"
        @click="done = null"
      >{{ say('centres.stop') }}</button></span>
    </div>
    <p
      v-if="best"
      class="note best"
    >
      {{ say('centres.moreSeatsHelpMostIn', { more }) }} <b>{{ spelling.city(best.city) }}</b>{{ say('centres.pointsSavedPeopleBroughtBackTo', { saves: saving(best.city)?.saves ?? 0, fromOffList: Math.max(0, saving(best.city)?.fromOffList ?? 0) }) }}
      <button
        v-if="session.may('centres.run')"
        class="press"
        @click="router.push({ path: '/centres/new', query: { from: run.id, add: `${best.city}:${more}` } })"
      >
        {{ say('centres.tryARunWithThem') }}
      </button>
    </p>
    <HouseTable
      class="cities"
      :columns="[
        { key: 'city', title: say('centres.city') },
        {
          key: 'first',
          title: say('centres.firstChoices'),
          kind: 'number',
          look: row => seatsWanted(row) > row.capacity ? 'attention' : '',
          text: row => `${seatsWanted(row) > row.capacity ? '▲ ' : ''}${countText(row.firstChoice)}`,
        },
        { key: 'placed', title: say('centres.placed'), kind: 'number', text: row => countText(row.placed) },
        { key: 'seats', title: say('centres.seats'), kind: 'number' },
        {
          key: 'accessible',
          title: say('centres.accessible'),
          kind: 'number',
          text: row => say('centres.of', { placedInNeed: row.placedInNeed, accessibleCapacity: row.accessibleCapacity }),
        },
        { key: 'offList', title: say('centres.offTheirList'), kind: 'number', text: row => countText(row.placedOffList) },
        { key: 'price', title: say('centres.priceOfASeat'), kind: 'number', text: priceOf },
        { key: 'saves', title: say('centres.moreSave', { more }), kind: 'number' },
        { key: 'try', title: say('centres.try'), isQuiet: true },
      ]"
      :rows="rows"
      :row-key="row => row.city"
      :row-look="row => chosen === row.city ? 'chosen' : ''"
    >
      <template #city="{ row }">
        <button
          class="press"
          @click="emit('choose', row.city)"
        >
          {{ spelling.city(row.city) }}
        </button>
      </template>
      <template #seats="{ row }">
        {{ countText(row.capacity) }}
        <span
          v-if="row.full && row.full.length > 0"
          class="soft small"
        >{{ say('centres.fullSessions', { sessions: row.full.map(spelling.session).join(', ') }) }}</span>
      </template>
      <template #saves="{ row }">
        <template v-if="saving(row.city)">
          <b>{{ countText(saving(row.city)?.saves ?? 0) }}</b>
        </template>
        <span
          v-else
          class="soft"
        >{{ byPolicy ? '–' : row.price === 0 ? '0' : say('centres.atMost', { price: countText(row.price * more) }) }}</span>
      </template>
      <template #try="{ row }">
        <button
          v-if="session.may('centres.run') && (row.price > 0 || (saving(row.city)?.saves ?? 0) > 0)"
          class="press nowrap"
          @click="router.push({ path: '/centres/new', query: { from: run.id, add: `${row.city}:${more}` } })"
        >
          {{ say('centres.try') }}
        </button>
      </template>
    </HouseTable>
    <p class="soft small">
      {{ say('centres.moreFirstChoicesThanSeatsPrice', { hasByPolicy: String(Boolean(byPolicy)) }) }}
    </p>
  </section>
</template>

<style scoped>
section { margin-top: 24px; }
.ask { display: flex; flex-wrap: wrap; gap: 8px 16px; align-items: center; margin: 8px 0; }
.ask :deep(.el-input-number) { width: 84px; margin: 0 4px; }
.best { margin: 8px 0; }
.cities :deep(td) { padding: 4px 12px 4px 0; }
:deep(.chosen td) { background: var(--accent-soft); }
progress { accent-color: var(--accent); }
</style>
