<script setup lang="ts">
import { seatsTaken } from '~~/core/allocation/outcome'
import type { Data, Layout } from 'plotly.js-basic-dist-min'
import type { Outcome } from '~~/core/allocation/outcome'

/** How full each city is: placed people and free seats, the fullest first. Press a bar for its people. */
const props = defineProps<{ outcome: Outcome }>()
const emit = defineEmits<{ choose: [city: string] }>()
const spelling = useSpelling()
const share = (placed: number, capacity: number) => capacity > 0 ? placed / capacity : 0
const rows = computed(() =>
  [...props.outcome.cities].filter(c => c.capacity > 0).sort((a, b) =>
    share(seatsTaken(a), a.capacity) - share(seatsTaken(b), b.capacity) || a.placed - b.placed
  ).slice(-40)
)
const data = computed<Data[]>(() => {
  const colour = (role: string) => getComputedStyle(document.documentElement).getPropertyValue(role).trim()
  const y = rows.value.map(c => spelling.city(c.city))
  const customdata = rows.value.map(c => c.city)
  return [
    {
      type: 'bar',
      orientation: 'h',
      name: say('centres.placedSeries'),
      y,
      x: rows.value.map(c => seatsTaken(c)),
      customdata,
      marker: { color: colour('--accent') },
      hovertemplate: `${say('centres.placedIn', { n: '%{x:,}', city: '%{y}' })}<extra></extra>`,
    },
    {
      type: 'bar',
      orientation: 'h',
      name: say('centres.freeSeries'),
      y,
      x: rows.value.map(c => c.capacity - seatsTaken(c)),
      customdata,
      marker: { color: colour('--flow') },
      hovertemplate: `${say('centres.freeIn', { n: '%{x:,}', city: '%{y}' })}<extra></extra>`,
    },
  ]
})
const layout: Partial<Layout> = {
  barmode: 'stack',
  bargap: 0.2,
  xaxis: { tickformat: ',' },
  yaxis: { ticksuffix: ' ', tickfont: { size: 13 } },
}
</script>

<template>
  <ChartsPlot
    :data="data"
    :layout="layout"
    :height="40 + rows.length * 19"
    :label="say('centres.placedPeopleAndFreeSeatsBy')"
    @pick="emit('choose', String($event.custom))"
  />
</template>
