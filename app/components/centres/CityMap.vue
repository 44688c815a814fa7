<script setup lang="ts">
import type { City } from '~~/core/notice/schema'

/** The made-up map: each city a disc as large as its seats, filled as far as they are taken. Press one to choose it. */
const props = defineProps<{ cities: City[], figures: { city: string, capacity: number, placed: number, firstChoice: number }[], chosen: string | null }>()
const emit = defineEmits<{ choose: [city: string] }>()

const discs = computed(() => {
  const lats = props.cities.map(c => c.lat)
  const lons = props.cities.map(c => c.lon)
  const [south, north, west, east] = [Math.min(...lats), Math.max(...lats), Math.min(...lons), Math.max(...lons)]
  return props.cities.map((city) => {
    const figure = props.figures.find(f => f.city === city.id)
    const capacity = figure?.capacity ?? 0
    const r = 6 + Math.sqrt(capacity) * 2.1
    return {
      city, x: 50 + (city.lon - west) / (east - west) * 500, y: 30 + (north - city.lat) / (north - south) * 300, r,
      inner: capacity > 0 ? r * Math.sqrt(Math.min(1, (figure?.placed ?? 0) / capacity)) : 0, over: (figure?.firstChoice ?? 0) > capacity,
      text: `${city.title}: ${figure?.placed ?? 0} placed of ${capacity} seats, ${figure?.firstChoice ?? 0} first choices`,
    }
  })
})
</script>

<template>
  <svg
    viewBox="0 0 600 372"
    role="group"
    aria-label="Cities and their seats"
  >
    <g
      v-for="disc in discs"
      :key="disc.city.id"
      role="button"
      tabindex="0"
      :aria-label="disc.text"
      :class="{ chosen: chosen === disc.city.id, over: disc.over }"
      @click="emit('choose', disc.city.id)"
      @keydown.enter="emit('choose', disc.city.id)"
    >
      <title>{{ disc.text }}</title>
      <circle
        :cx="disc.x"
        :cy="disc.y"
        :r="disc.r"
        class="seats"
      />
      <circle
        :cx="disc.x"
        :cy="disc.y"
        :r="disc.inner"
        class="taken"
      />
      <text
        :x="disc.x"
        :y="disc.y + disc.r + 11"
      >{{ disc.city.title }}{{ disc.over ? ' ▲' : '' }}</text>
    </g>
  </svg>
</template>

<style scoped>
svg { width: 100%; max-width: 720px; background: var(--accent-soft); border: 1px solid var(--line); }
g { cursor: pointer; }
.seats { fill: var(--sheet); stroke: var(--accent); }
.taken { fill: var(--accent); opacity: 0.75; }
.over .seats { stroke: var(--attention); stroke-width: 2; }
.chosen .seats { stroke: var(--ink); stroke-width: 3; }
text { font: 11px var(--sans); text-anchor: middle; fill: var(--ink); }
</style>
