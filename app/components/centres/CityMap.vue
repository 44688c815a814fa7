<script setup lang="ts">
import { seatsTaken, seatsWanted } from '~~/core/allocation/outcome'
import type { City } from '~~/core/notice/centre-schema'

/** The made-up map: each city a disc as large as its seats, filled as far as they are taken. Press one to choose it. */
const props = defineProps<
  {
    cities: City[],
    figures: { city: string, capacity: number, placed: number, firstChoice: number, taken?: number, firstSeats?: number }[],
    chosen: string | null,
    small?: boolean,
    /** What is said of a disc, where it is not of an allocation. */
    said?: (city: City, figure: { capacity: number, placed: number }) => string,
  }
>()
const emit = defineEmits<{ choose: [city: string] }>()

interface Disc {
  city: City
  x: number
  y: number
  r: number
  inner: number
  over: boolean
  text: string
}
const discs = computed<Disc[]>(() => {
  const lats = props.cities.map(c => c.lat)
  const lons = props.cities.map(c => c.lon)
  const [south, north, west, east] = [Math.min(...lats), Math.max(...lats), Math.min(...lons), Math.max(...lons)]
  const most = Math.max(1, ...props.figures.map(f => f.capacity))
  return props.cities.map((city) => {
    const figure = props.figures.find(f => f.city === city.id)
    const capacity = figure?.capacity ?? 0
    const r = capacity > 0 ? 5 + 17 * Math.sqrt(capacity / most) : 4
    return {
      city,
      x: 50 + (city.lon - west) / (east - west) * 500,
      y: 30 + (north - city.lat) / (north - south) * 300,
      r,
      inner: capacity > 0 ? r * Math.sqrt(Math.min(1, (figure ? seatsTaken(figure) : 0) / capacity)) : 0,
      over: (figure ? seatsWanted(figure) : 0) > capacity,
      text: props.said
        ? props.said(city, { capacity, placed: figure?.placed ?? 0 })
        : say('centres.placedOfSeatsFirstChoices', {
          title: city.title,
          placed: figure?.placed ?? 0,
          capacity,
          firstChoice: figure?.firstChoice ?? 0,
        }),
    }
  }).sort((a, b) => b.r - a.r || Number(a.over) - Number(b.over))
})

interface Label {
  x: number
  y: number
  anchor: 'start' | 'middle' | 'end'
}
interface Box {
  left: number
  right: number
  top: number
  bottom: number
}
const shared = (a: Box, b: Box) =>
  Math.max(0, Math.min(a.right, b.right) - Math.max(a.left, b.left)) * Math.max(0, Math.min(a.bottom, b.bottom) - Math.max(a.top, b.top))
/** Where each name stands: below, above, beside or at a corner of its disc, wherever it covers least of discs and names. */
const labels = computed(() => {
  const placed: Box[] = []
  const result = new Map<string, Label>()
  for (const disc of [...discs.value].sort((a, b) => b.r - a.r)) {
    const width = (disc.city.title.length + (disc.over ? 2 : 0)) * (props.small ? 7.4 : 5.6)
    const [under, corner] = [props.small ? 14 : 11, disc.r * Math.SQRT1_2 + 3]
    const sides: Label[] = [
      { x: disc.x, y: disc.y + disc.r + under, anchor: 'middle' },
      { x: disc.x, y: disc.y - disc.r - 4, anchor: 'middle' },
      { x: disc.x + disc.r + 4, y: disc.y + 4, anchor: 'start' },
      { x: disc.x - disc.r - 4, y: disc.y + 4, anchor: 'end' },
      { x: disc.x + corner, y: disc.y + corner + under / 2, anchor: 'start' },
      { x: disc.x - corner, y: disc.y + corner + under / 2, anchor: 'end' },
      { x: disc.x + corner, y: disc.y - corner, anchor: 'start' },
      { x: disc.x - corner, y: disc.y - corner, anchor: 'end' },
    ]
    const boxOf = (side: Label): Box => {
      const left = side.anchor === 'middle' ? side.x - width / 2 : side.anchor === 'start' ? side.x : side.x - width
      return { left, right: left + width, top: side.y - (props.small ? 12 : 9), bottom: side.y + 3 }
    }
    const cost = (side: Label) => {
      const box = boxOf(side)
      const outside = box.left < 2 || box.right > 598 || box.top < 2 || box.bottom > 370 ? 10_000 : 0
      const discsUnder = discs.value.reduce(
        (sum, d) => d === disc ? sum : sum + shared(box, { left: d.x - d.r, right: d.x + d.r, top: d.y - d.r, bottom: d.y + d.r }),
        0,
      )
      // A name over a name cannot be read at all.
      return outside + discsUnder + placed.reduce((sum, other) => sum + 3 * shared(box, other), 0)
    }
    // The usual sides come first: a corner is taken only where it is clearly better.
    const best = sides.reduce((a, b) => cost(b) + 4 < cost(a) ? b : a)
    placed.push(boxOf(best))
    result.set(disc.city.id, best)
  }
  return result
})
</script>

<template>
  <svg
    viewBox="0 0 600 372"
    role="group"
    :aria-label="say('centres.citiesAndTheirSeats')"
    :class="{ small }"
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
    </g>
    <text
      v-for="disc in discs"
      :key="disc.city.id"
      :x="labels.get(disc.city.id)?.x"
      :y="labels.get(disc.city.id)?.y"
      :text-anchor="labels.get(disc.city.id)?.anchor"
      aria-hidden="true"
    >{{ disc.city.title }}{{ disc.over ? ' ▲' : '' }}</text>
  </svg>
</template>

<style scoped>
svg { width: 100%; max-width: 720px; background: var(--accent-soft); border: 1px solid var(--line); }
g { cursor: pointer; }
.seats { fill: var(--sheet); stroke: var(--accent); }
.taken { fill: var(--accent); opacity: 0.75; }
.over .seats { stroke: var(--attention); stroke-width: 2; }
.chosen .seats { stroke: var(--ink); stroke-width: 3; }
text { pointer-events: none; font: 11px var(--sans); fill: var(--ink); paint-order: stroke; stroke: var(--accent-soft); stroke-width: 3px; }
.small text { font-size: 15px; }
</style>
