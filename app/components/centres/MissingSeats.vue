<script setup lang="ts">
import type { SessionSeats } from '~~/shared/centres'

/** Seats that a run counts on and no room has yet: each place with a way to say where they were found. */
const props = defineProps<{ missing: SessionSeats[] }>()
const emit = defineEmits<{ added: [] }>()
const cycle = useCycleStore()
const session = useSessionStore()
const spelling = useSpelling()
const open = ref(false)
const busy = ref(false)
const form = reactive({ city: '', venue: '', title: '', seats: 1, accessibleSeats: 0 })
const venues = computed(() => cycle.notice?.cities.find(c => c.id === form.city)?.venues ?? [])

// A room serves every session, so the session that lacks most says how large it must be.
const places = computed(() =>
  [...new Set(props.missing.map(m => m.city))].map((city) => {
    const own = props.missing.filter(m => m.city === city)
    return {
      city,
      seats: Math.max(...own.map(m => m.seats)),
      accessibleSeats: Math.max(...own.map(m => m.accessibleSeats)),
      sessions: own.map(m => m.session),
    }
  })
)
function begin(place: { city: string, seats: number, accessibleSeats: number }) {
  Object.assign(form, {
    city: place.city,
    seats: Math.max(1, place.seats, place.accessibleSeats),
    accessibleSeats: place.accessibleSeats,
    title: '',
  })
  form.venue = venues.value[0]?.id ?? ''
  open.value = true
}
async function add() {
  busy.value = true
  const done = await attempt(() => callApi(cycle.path('rooms'), { method: 'POST', body: { ...form } }))
  busy.value = false
  if (!done) return
  open.value = false
  await cycle.load(true)
  emit('added')
}
</script>

<template>
  <section>
    <h2>{{ say('centres.seatsStillToBeFound') }}</h2>
    <p class="note is-attention">
      {{ say('centres.thisRunCountsOnSeatsThat') }}
    </p>
    <ul>
      <li
        v-for="place in places"
        :key="place.city"
      >
        {{ spelling.city(place.city) }}: {{ place.seats }} {{ place.seats === 1 ? 'seat' : 'seats' }}{{ place.accessibleSeats > 0 ? say('centres.withAccessible', { accessibleSeats: place.accessibleSeats }) : '' }} <span class="soft">({{ place.sessions.join(', ') }})</span>
        <button
          v-if="session.may('notice.amend')"
          class="press"
          @click="begin(place)"
        >
          {{ say('centres.addARoom') }}
        </button>
      </li>
    </ul>
    <ElDialog
      v-model="open"
      :title="say('centres.aRoomIn', { city: spelling.city(form.city) })"
      width="min(520px, 94vw)"
    >
      <p class="soft small">
        {{ say('centres.goesIntoTheNoticeAsIts') }}
      </p>
      <label>{{ say('centres.venue') }}<ElSelect
        v-model="form.venue"
        :aria-label="say('centres.venue')"
      ><ElOption
        v-for="venue in venues"
        :key="venue.id"
        :value="venue.id"
        :label="venue.title"
      /></ElSelect></label>
      <label>{{ say('centres.nameOfTheRoom') }}<ElInput
        v-model="form.title"
        maxlength="60"
        :placeholder="say('centres.gymnasium')"
      /></label>
      <label>{{ say('centres.seatsLabel') }}<ElInputNumber
        v-model="form.seats"
        :min="1"
        :max="5000"
        :precision="0"
        :controls="false"
      /></label>
      <label>{{ say('centres.ofThemAccessible') }}<ElInputNumber
        v-model="form.accessibleSeats"
        :min="0"
        :max="form.seats"
        :precision="0"
        :controls="false"
      /></label>
      <template #footer>
        <ElButton @click="open = false">
          {{ say('centres.notNow') }}
        </ElButton>
        <ElButton
          type="primary"
          :loading="busy"
          :disabled="form.title.trim() === '' || form.venue === ''"
          @click="add"
        >
          {{ say('centres.addTheRoom') }}
        </ElButton>
      </template>
    </ElDialog>
  </section>
</template>

<style scoped>
section { margin-top: 18px; }
ul { margin: 8px 0; padding-left: 18px; }
label { display: flex; flex-direction: column; gap: 2px; color: var(--ink-soft); font-size: 14px; margin: 10px 0; }
</style>
