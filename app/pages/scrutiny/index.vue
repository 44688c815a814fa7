<script setup lang="ts">
import { dateInZone, spellInstantShort, spellMinutes } from '~~/core/calendar/zone'
import { neededADay } from '~~/core/scrutiny/pace'
import type { Lane } from '~~/core/scrutiny/doubts'
import type { QueueView } from '~~/shared/scrutiny'

/** The queues of scrutiny by what is in doubt, what the reader has in hand, who is at work, and when it will be done. */
useHead({ title: titled(say('scrutiny.scrutiny')) })
const cycle = useCycleStore()
const session = useSessionStore()
const route = useRoute()
const router = useRouter()
const now = useNow()
const { laneWords } = useWords().scrutiny
const view = shallowRef<QueueView | null>(null)
const busy = ref(false)
const empty = ref(false)
const queue = useQueue()
const age = (at: string) => spellMinutes(Math.max(0, Math.floor((now.value.getTime() - new Date(at).getTime()) / 60_000)))
const instant = (at: string | null) => at && cycle.notice ? spellInstantShort(at, cycle.notice.body.zone) : ''
const isSoon = (at: string) => new Date(at).getTime() - now.value.getTime() < 2 * 86_400_000
const waiting = computed(() => view.value?.lanes.reduce((sum, lane) => sum + lane.count, 0) ?? 0)
const full = computed(() => view.value?.lanes.filter(lane => lane.count > 0) ?? [])
const mayDecide = computed(() => session.may('scrutiny.decide'))

const { failure, reload } = useLoaded(async () => {
  view.value = await callApi<QueueView>(cycle.path('queue'))
  if (route.query.begin === 'oldest' && mayDecide.value) await take()
})
async function take(lane?: Lane) {
  busy.value = true
  empty.value = false
  await attempt(async () => {
    const id = await queue.take(lane)
    if (id) await router.push(`/scrutiny/${id}`)
    else {
      empty.value = true
      await reload()
    }
  })
  busy.value = false
}
async function layBack() {
  await attempt(() => queue.layAllBack(view.value?.own.map(one => one.id) ?? []))
  await reload()
}

const by = ref('')
const today = computed(() => cycle.notice ? dateInZone(now.value, cycle.notice.body.zone) : '')
watch(() => cycle.notice, (notice) => {
  by.value ||= notice?.keyDates.correctionCloses.slice(0, 10) ?? ''
}, { immediate: true })
const needed = computed(() => {
  const told = view.value
  return told && cycle.notice && by.value
    ? neededADay(waiting.value + told.unsorted, told.outlook?.cameADay ?? 0, today.value, by.value, cycle.notice.body)
    : null
})
const outlookText = computed(() => {
  const told = view.value?.outlook
  if (!told) return say('scrutiny.outlookNone')
  if (told.emptyFrom && told.emptyBy) {
    return told.emptyFrom === today.value
      ? say('scrutiny.outlookEmpty')
      : say('scrutiny.outlookRange', { from: told.emptyFrom, by: told.emptyBy })
  }
  return told.emptyFrom ? say('scrutiny.outlookOpen', { from: told.emptyFrom }) : say('scrutiny.outlookNever')
})
const whole = (n: number) => countText(Math.round(n))
useKeys((event) => {
  if (event.key.toLowerCase() === 'n' && mayDecide.value && !busy.value) void take()
})
</script>

<template>
  <div class="page">
    <ScrutinyAreas />
    <div class="page-head">
      <h1>{{ say('scrutiny.waitForScrutiny', { waiting: waiting + (view?.unsorted ?? 0) }) }}</h1>
      <div class="actions">
        <ElButton
          v-if="mayDecide && waiting > 0"
          type="primary"
          :loading="busy"
          @click="take()"
        >
          {{ say('scrutiny.take') }} <kbd>N</kbd>
        </ElButton>
      </div>
    </div>
    <HouseAlert
      :text="failure"
      kind="refusal"
    />
    <p
      v-if="empty"
      class="note"
      role="status"
    >
      {{ say('scrutiny.nothingInThisQueue') }}
    </p>
    <section v-if="view && view.own.length > 0">
      <h2 class="section-title">
        {{ say('scrutiny.inYourHand') }}
      </h2>
      <p
        v-for="one in view.own"
        :key="one.id"
      >
        <NuxtLink :to="`/scrutiny/${one.id}`">{{ one.number }}</NuxtLink> {{ one.name }} · {{ laneWords[one.lane].title }} <span class="soft">{{ say('scrutiny.holdsUntil', { until: instant(one.until) }) }}</span>
      </p>
      <button
        type="button"
        class="press small"
        @click="layBack"
      >
        {{ say('scrutiny.layAllBack') }}
      </button>
    </section>
    <p
      v-if="view && waiting + view.unsorted === 0"
      class="soft"
    >
      {{ say('scrutiny.theQueueIsEmptyApplicationsCome') }}
      <NuxtLink :to="{ path: '/roster', query: { is: 'at:fee due' } }">{{ say('scrutiny.showThoseWhoseFeeIsDue') }}</NuxtLink>
    </p>
    <HouseTable
      v-else-if="view"
      :columns="[
        { key: 'queue', title: say('scrutiny.queueColumn') },
        { key: 'cases', title: say('scrutiny.casesColumn'), kind: 'number' },
        { key: 'waits', title: say('scrutiny.waits') },
        { key: 'take', title: say('scrutiny.take'), isQuiet: true, kind: 'number' },
      ]"
      :rows="full"
      :row-key="lane => lane.lane"
    >
      <template #queue="{ row: lane }">
        <b>{{ laneWords[lane.lane].title }}</b> <span class="soft small block">{{ laneWords[lane.lane].says }}</span>
      </template>
      <template #cases="{ row: lane }">
        <NuxtLink :to="{ path: '/roster', query: { is: `lane:${lane.lane}`, sort: 'waiting' } }">
          {{ countText(lane.count) }}
        </NuxtLink>
      </template>
      <template #waits="{ row: lane }">
        <template v-if="lane.oldest">
          {{ say('scrutiny.oldestSince', { age: age(lane.oldest) }) }}<span
            v-if="lane.until"
            :class="isSoon(lane.until) ? 'attention' : 'soft'"
          > · {{ say('scrutiny.until', { until: instant(lane.until) }) }}</span>
        </template>
      </template>
      <template #take="{ row: lane }">
        <ElButton
          v-if="mayDecide && lane.lane !== 'elsewhere'"
          :aria-label="say('scrutiny.takeFrom', { lane: laneWords[lane.lane].title })"
          :disabled="busy"
          @click="take(lane.lane)"
        >
          {{ say('scrutiny.take') }}
        </ElButton>
      </template>
    </HouseTable>
    <p
      v-if="view && full.length > 0 && full.length < view.lanes.length"
      class="soft small"
    >
      {{ say('scrutiny.emptyQueues', { lanes: view.lanes.filter(lane => lane.count === 0).map(lane => laneWords[lane.lane].title).join(', ') }) }}
    </p>
    <p
      v-if="view && view.unsorted > 0"
      class="soft small"
    >
      {{ say('scrutiny.beingLookedAt', { n: view.unsorted }) }}
    </p>
    <div
      v-if="view"
      class="two"
    >
      <section>
        <h2 class="section-title">
          {{ say('scrutiny.whenItWillBeDone') }}
        </h2>
        <p>{{ outlookText }}</p>
        <p
          v-if="view.outlook"
          class="soft"
        >
          {{ say('scrutiny.outlookPace', { days: view.outlook.days, decided: whole(view.outlook.decidedADay), came: whole(view.outlook.cameADay) }) }}
        </p>
        <p class="by">
          <label for="done-by">{{ say('scrutiny.doneBy') }}</label>
          <input
            id="done-by"
            v-model="by"
            type="date"
            class="field"
          >
          <span>{{ needed ? say('scrutiny.needed', needed) : say('scrutiny.neededNoDay') }}</span>
        </p>
      </section>
      <section>
        <h2 class="section-title">
          {{ say('scrutiny.whoIsAtWork') }}
        </h2>
        <p
          v-if="view.people.length === 0"
          class="soft"
        >
          {{ say('scrutiny.nobodyYet') }}
        </p>
        <HouseTable
          v-else
          :columns="[
            { key: 'who', title: say('scrutiny.whoColumn'), text: one => one.name },
            { key: 'inHand', title: say('scrutiny.inHand'), kind: 'number', text: one => one.inHand },
            { key: 'today', title: say('scrutiny.decidedToday'), kind: 'number' },
            { key: 'hour', title: say('scrutiny.lastHour'), kind: 'number', text: one => countText(one.lastHour) },
            {
              key: 'before',
              title: say('scrutiny.daysBefore'),
              look: 'soft',
              text: one => one.days.map(n => countText(n)).join(' · ') || '–',
            },
          ]"
          :rows="view.people"
          :row-key="one => one.id"
        >
          <template #today="{ row: one }">
            <NuxtLink :to="{ path: '/roster', query: { is: `by:${one.id}` } }">
              {{ countText(one.today) }}
            </NuxtLink>
          </template>
        </HouseTable>
      </section>
    </div>
  </div>
</template>

<style scoped>
.block { display: block; }
.two { display: grid; grid-template-columns: minmax(0, 1fr) minmax(0, 1fr); gap: 24px 40px; margin-top: 24px; }
.by { display: flex; flex-wrap: wrap; gap: 8px; align-items: center; margin-top: 8px; }
section { margin-bottom: 20px; }
@media (max-width: 900px) { .two { grid-template-columns: minmax(0, 1fr); } }
</style>
