<script setup lang="ts">
import { isRoomAsBefore, roomFaults, usableSeats } from '~~/core/seating/rooms'
import type { PlaceVenue, RoomsChange, RoomsChanged } from '~~/shared/places'

/** What the examination in work has of a venue's rooms: changed here, with what that does to people who have seats there told before. */
const { venue } = defineProps<{ venue: PlaceVenue }>()
const emit = defineEmits<{ changed: [] }>()
const open = defineModel<boolean>({ required: true })
const cycle = useCycleStore()
const reason = ref('')
const before = venue.rooms.flatMap((room) => {
  const own = room.bookings.find(booked => booked.cycle === cycle.code)
  // A session that an amendment took away is closed no more.
  return own
    ? [{
      ...own,
      closedIn: own.closedIn.filter(id => cycle.notice?.sessions.some(one => one.id === id)),
      room: room.code,
      title: room.title,
    }]
    : []
})
const rooms = reactive(before.map(({ room, title, seats, stepFree, unusable, closedIn, lost }) => ({
  room,
  title,
  seats,
  stepFree,
  unusable: [...unusable],
  closedIn: [...closedIn],
  lost,
  typed: unusable.join(' '),
})))
const sessions = computed(() => cycle.notice?.sessions ?? [])
const faults = computed(() => rooms.flatMap(one => roomFaults(one).map(fault => ({ room: one.title, ...fault }))))
const changed = computed(() =>
  rooms.filter((one, i) => {
    const was = before[i]
    return was && !isRoomAsBefore({ ...was, accessibleSeats: was.stepFree }, one)
  })
)
const asked = computed((): RoomsChange => ({
  rooms: changed.value.map(({ title: _, typed: _typed, ...one }) => one),
  reason: reason.value.trim(),
}))

/** A room is drawn while its seats can be pressed one by one. */
const drawnAtMost = 240
function toggle(room: typeof rooms[number], seat: number) {
  room.unusable = room.unusable.includes(seat) ? room.unusable.filter(one => one !== seat) : [...room.unusable, seat].sort((a, b) => a - b)
  room.typed = room.unusable.join(' ')
}
function read(room: typeof rooms[number]) {
  room.unusable = [...new Set(room.typed.split(/[\s,;]+/).filter(part => /^\d{1,6}$/.test(part)).map(Number).filter(n => n > 0))]
}
function loseAll(lost: boolean) {
  for (const room of rooms) room.lost = lost
}

const seen = shallowRef<RoomsChanged | null>(null)
const problem = ref('')
let asking: ReturnType<typeof setTimeout> | undefined
/** What it would do is asked once nothing was changed for a moment. */
watch([changed, faults], () => {
  seen.value = null
  problem.value = ''
  clearTimeout(asking)
  if (changed.value.length === 0 || faults.value.length > 0) return
  asking = setTimeout(async () => {
    const body = asked.value
    try {
      const found = await callApi<RoomsChanged>(cycle.path('rooms'), { method: 'PUT', body, query: { mode: 'try' } })
      if (JSON.stringify(asked.value.rooms) === JSON.stringify(body.rooms)) seen.value = found
    } catch (error) {
      problem.value = problemText(error)
    }
  }, 400)
})
onBeforeUnmount(() => {
  clearTimeout(asking)
})

const { busy, refusal, send } = useSubmission()
const change = () =>
  send(async () => {
    const done = await callApi<RoomsChanged>(cycle.path('rooms'), { method: 'PUT', body: asked.value, query: { mode: 'do' } })
    tell(
      done.proposal ? say('centres.roomsProposed') : say('centres.roomsChanged', { moved: done.moved, without: done.without }),
      'success',
    )
    await cycle.load(true)
    // Once it is closed nobody hears it.
    emit('changed')
    open.value = false
  })
</script>

<template>
  <ElDialog
    v-model="open"
    :title="say('centres.changeRoomsOf', { venue: venue.title })"
    width="min(760px, 96vw)"
  >
    <p class="soft small">
      {{ say('centres.roomsOfCycle', { cycle: cycle.code ?? '' }) }}
      <button
        class="press"
        @click="loseAll(rooms.some(room => !room.lost))"
      >
        {{ say('centres.venueIsLost', { lost: String(rooms.some(room => !room.lost)) }) }}
      </button>
    </p>
    <section
      v-for="room in rooms"
      :key="room.room"
    >
      <div class="line">
        <b>{{ room.title }}</b>
        <ElCheckbox v-model="room.lost">
          {{ say('centres.roomLost') }}
        </ElCheckbox>
        <span
          v-if="!room.lost"
          class="soft small"
        >{{ say('centres.usable', usableSeats(room)) }}</span>
      </div>
      <template v-if="!room.lost">
        <div class="line">
          <label class="asked">{{ say('centres.seatsInAll') }}<ElInputNumber
            v-model="room.seats"
            :min="1"
            :max="100000"
            :controls="false"
            :aria-label="say('centres.seatsInAll')"
          /></label>
          <label class="asked">{{ say('centres.stepFreeOfThem') }}<ElInputNumber
            v-model="room.stepFree"
            :min="0"
            :max="100000"
            :controls="false"
            :aria-label="say('centres.stepFreeOfThem')"
          /></label>
          <label class="asked wide">{{ say('centres.unusableSeats') }}<ElInput
            v-model="room.typed"
            :placeholder="say('centres.unusableSeatsAs')"
            @input="read(room)"
          /></label>
        </div>
        <div
          v-if="room.seats <= drawnAtMost"
          class="grid"
        >
          <button
            v-for="seat in room.seats"
            :key="seat"
            type="button"
            :aria-pressed="room.unusable.includes(seat)"
            :aria-label="say('centres.seatOf', { seat, room: room.title })"
            :class="{ free: seat <= room.stepFree, out: room.unusable.includes(seat) }"
            @click="toggle(room, seat)"
          >
            {{ seat }}
          </button>
        </div>
        <ElCheckboxGroup
          v-model="room.closedIn"
          class="line"
          :aria-label="say('centres.notFreeLabel')"
        >
          <span class="soft small">{{ say('centres.notFreeLabel') }}</span>
          <ElCheckbox
            v-for="one in sessions"
            :key="one.id"
            :value="one.id"
            :label="one.title"
          />
        </ElCheckboxGroup>
      </template>
    </section>
    <HouseAlert
      :text="faults.map(fault => say('centres.roomFault', fault)).join(' ') || problem"
      kind="refusal"
    />
    <p
      v-if="seen"
      class="note"
      :class="{ 'is-attention': seen.without > 0 }"
      role="status"
    >
      {{ say('centres.roomsWould', { people: seen.people, moved: seen.moved, without: seen.without }) }}
    </p>
    <p
      v-else-if="changed.length > 0 && faults.length === 0 && !problem"
      class="soft"
      role="status"
    >
      {{ say('centres.roomsAsking') }}
    </p>
    <label class="asked">{{ say('centres.reasonForTheRecord') }}<ElInput
      v-model="reason"
      type="textarea"
      :rows="2"
      maxlength="1000"
    /></label>
    <HouseAlert
      :text="refusal"
      kind="refusal"
    />
    <template #footer>
      <ElButton @click="open = false">
        {{ say('centres.leaveIt') }}
      </ElButton>
      <ElButton
        type="primary"
        :loading="busy"
        :disabled="!seen || reason.trim().length < 5"
        @click="change"
      >
        {{ say('centres.changeThem', { n: changed.length }) }}
      </ElButton>
    </template>
  </ElDialog>
</template>

<style scoped>
section { border-top: 1px solid var(--line); padding: 8px 0; }
.asked { display: flex; flex-direction: column; gap: 2px; color: var(--ink-soft); font-size: 14px; }
.line { display: flex; flex-wrap: wrap; gap: 6px 16px; align-items: center; padding: 3px 0; }
.line .el-input-number { width: 110px; }
.wide { flex: 1; min-width: 200px; }
.grid { display: flex; flex-wrap: wrap; gap: 3px; padding: 6px 0; }
.grid > button {
  min-width: 30px; height: 26px; padding: 0 2px; border: 1px solid var(--accent); background: var(--sheet); color: var(--ink);
  font: 12px var(--sans); cursor: pointer;
}
.grid > .free { border-radius: 13px; background: var(--accent-soft); }
.grid > .out {
  border-style: dashed; border-color: var(--ink-soft); color: var(--ink-soft); text-decoration: line-through; background: transparent;
}
</style>
