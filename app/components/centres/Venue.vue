<script setup lang="ts">
import { usableSeats } from '~~/core/seating/rooms'
import type { PlaceRoom, PlaceVenue } from '~~/shared/places'

/** A venue of the register with its rooms, drawn seat by seat, and the ways to change it. */
defineProps<{ venue: PlaceVenue }>()
const emit = defineEmits<{ changed: [] }>()
const cycle = useCycleStore()
const session = useSessionStore()
const [changing, editing] = [ref(false), ref(false)]
const ownOf = (room: PlaceRoom) => room.bookings.find(booked => booked.cycle === cycle.code)
const usesAny = (venue: PlaceVenue) => venue.rooms.some(room => ownOf(room))
const titleOf = (id: string) => cycle.notice?.sessions.find(one => one.id === id)?.title ?? id
function saysOf(room: PlaceRoom): string {
  if (room.bookings.length === 0) return say('centres.bookedByNobody')
  return room.bookings.map(one =>
    one.lost
      ? say('centres.lostBy', { cycle: one.cycle })
      : say('centres.bookedBy', { cycle: one.cycle, ...usableSeats(one), unusable: one.unusable.length })
  ).join('; ')
}
/** A room is drawn seat by seat while that can be seen. */
const drawnAtMost = 240
const drawn = (room: PlaceRoom) => {
  const own = ownOf(room)
  return own && !own.lost && own.seats <= drawnAtMost ? own : null
}
</script>

<template>
  <article>
    <p class="head">
      <b>{{ venue.title }}</b> <span class="soft">{{ venue.address }}</span>
      <span v-if="session.may('notice.amend')">
        <button
          class="press"
          :aria-label="say('centres.editVenueOf', { venue: venue.title })"
          @click="editing = true"
        >
          {{ say('centres.editVenue') }}
        </button>
        <button
          v-if="usesAny(venue) && session.may('centres.publish')"
          class="press"
          :aria-label="say('centres.changeRoomsOf', { venue: venue.title })"
          @click="changing = true"
        >
          {{ say('centres.changeRooms') }}
        </button>
      </span>
    </p>
    <p
      v-if="venue.contact"
      class="soft small"
    >
      {{ say('centres.askThere', { contact: venue.contact }) }}
    </p>
    <div
      v-for="room in venue.rooms"
      :key="room.code"
      class="room"
    >
      <p>
        {{ room.title }} <span class="soft small">{{ saysOf(room) }}</span>
      </p>
      <p
        v-if="ownOf(room)?.closedIn.length && !ownOf(room)?.lost"
        class="small attention"
      >
        {{ say('centres.notFreeIn', { sessions: (ownOf(room)?.closedIn ?? []).map(titleOf).join(', ') }) }}
      </p>
      <div
        v-if="drawn(room)"
        class="grid"
        role="img"
        :aria-label="say('centres.roomDrawn', { seats: drawn(room)?.seats ?? 0, stepFree: drawn(room)?.stepFree ?? 0, unusable: drawn(room)?.unusable.length ?? 0 })"
      >
        <i
          v-for="seat in drawn(room)?.seats"
          :key="seat"
          :class="{ free: seat <= (drawn(room)?.stepFree ?? 0), out: drawn(room)?.unusable.includes(seat) }"
        />
      </div>
    </div>
    <LazyCentresRoomsDialog
      v-if="changing"
      v-model="changing"
      :venue="venue"
      @changed="emit('changed')"
    />
    <LazyCentresVenueDialog
      v-if="editing"
      v-model="editing"
      :venue="venue"
      @changed="emit('changed')"
    />
  </article>
</template>

<style scoped>
article { border-top: 1px solid var(--line); padding: 8px 0; }
.head { display: flex; flex-wrap: wrap; gap: 2px 10px; align-items: baseline; }
.head > span:last-child { display: flex; gap: 10px; }
.room { padding: 4px 0 4px 14px; }
.grid { display: flex; flex-wrap: wrap; gap: 3px; max-width: 400px; padding-top: 3px; }
.grid > i { width: 11px; height: 11px; border: 1px solid var(--accent); }
.grid > .free { background: var(--accent); border-radius: 50%; }
.grid > .out {
  border-color: var(--ink-soft); background: linear-gradient(45deg, transparent 44%, var(--ink-soft) 44% 56%, transparent 56%);
  border-style: dashed;
}
</style>
