<script setup lang="ts">
import type { City, Session } from '~~/core/notice/centre-schema'
import type { SessionSeats } from '~~/shared/centres'

/** Seats by city and session, to be changed cell by cell. A changed cell shows what the venues have. */
const props = defineProps<{ cities: City[], sessions: Session[], venues: SessionSeats[], chosen: string | null }>()
const seats = defineModel<SessionSeats[]>({ required: true })
const key = (row: Pick<SessionSeats, 'city' | 'session'>) => `${row.city}/${row.session}`
const rows = computed(() => new Map(seats.value.map(row => [key(row), row])))
const own = computed(() => new Map(props.venues.map(row => [key(row), row])))
type Kind = 'seats' | 'accessibleSeats'
const at = (from: Map<string, SessionSeats>, city: string, session: string, kind: Kind) => from.get(`${city}/${session}`)?.[kind] ?? 0
const changed = (city: string, session: string, kind: Kind) => at(rows.value, city, session, kind) !== at(own.value, city, session, kind)
const isWrong = (city: string, session: string) => at(rows.value, city, session, 'accessibleSeats') > at(rows.value, city, session, 'seats')

function set(city: string, session: string, kind: Kind, event: Event) {
  const input = event.target as HTMLInputElement
  const value = Math.floor(Number(input.value))
  if (input.value.trim() === '' || !Number.isFinite(value) || value < 0 || value > 1_000_000) {
    input.value = String(at(rows.value, city, session, kind))
    return
  }
  seats.value = seats.value.map(row => row.city === city && row.session === session ? { ...row, [kind]: value } : row)
}
const total = (kind: Kind, session?: string) =>
  seats.value.reduce((n, row) => n + (session === undefined || row.session === session ? row[kind] : 0), 0)
</script>

<template>
  <table class="plain-table seats">
    <thead>
      <tr>
        <th rowspan="2">
          {{ say('centres.city') }}
        </th>
        <th
          v-for="session in sessions"
          :key="session.id"
          colspan="2"
          class="session"
        >
          {{ session.title }}
        </th>
      </tr>
      <tr>
        <template
          v-for="session in sessions"
          :key="session.id"
        >
          <th class="number">
            {{ say('centres.seats') }}
          </th><th class="number">
            {{ say('centres.accessible') }}
          </th>
        </template>
      </tr>
    </thead>
    <tbody>
      <tr
        v-for="city in cities"
        :id="`seats-${city.id}`"
        :key="city.id"
        :class="{ chosen: chosen === city.id }"
      >
        <td>{{ city.title }}</td>
        <template
          v-for="session in sessions"
          :key="session.id"
        >
          <td
            v-for="kind in (['seats', 'accessibleSeats'] as const)"
            :key="kind"
            class="number"
          >
            <span
              v-if="changed(city.id, session.id, kind)"
              class="soft small was"
            >{{ say('centres.was', { kind: at(own, city.id, session.id, kind) }) }}</span>
            <input
              type="number"
              min="0"
              :class="{ changed: changed(city.id, session.id, kind), wrong: isWrong(city.id, session.id) }"
              :value="at(rows, city.id, session.id, kind)"
              :aria-label="say(kind === 'seats' ? 'centres.seatsOfSession' : 'centres.accessibleSeatsOfSession', { city: city.title, session: session.title })"
              :aria-invalid="isWrong(city.id, session.id)"
              @change="set(city.id, session.id, kind, $event)"
            >
          </td>
        </template>
      </tr>
    </tbody>
    <tfoot>
      <tr>
        <td>{{ say('centres.allCities') }}</td>
        <template
          v-for="session in sessions"
          :key="session.id"
        >
          <td class="number">
            {{ countText(total('seats', session.id)) }}
          </td><td class="number">
            {{ countText(total('accessibleSeats', session.id)) }}
          </td>
        </template>
      </tr>
    </tfoot>
  </table>
</template>

<style scoped>
.seats td { padding: 3px 12px 3px 0; vertical-align: middle; }
.session { text-align: right; border-bottom: 0; padding-bottom: 0; }
input {
  font: inherit; width: 76px; text-align: right; padding: 3px 6px; border: 1px solid var(--line); border-radius: var(--radius);
  background: var(--sheet); color: var(--ink);
}
.changed { border-color: var(--accent); background: var(--accent-soft); font-weight: 600; }
.wrong { border-color: var(--refusal); background: var(--refusal-soft); }
.was { margin-right: 8px; }
.chosen td { background: var(--accent-soft); }
tfoot td { font-weight: 600; border-bottom: 0; }
</style>
