<script setup lang="ts">
import type { Data, Layout } from 'plotly.js-basic-dist-min'
import { kilometreStep, type Outcome } from '~~/core/allocation/outcome'

/** How far people have to go: people by the distance between home and the city they got. */
const props = defineProps<{ outcome: Outcome }>()
const data = computed<Data[]>(() => [{
  type: 'bar',
  x: props.outcome.byDistance.map((_, i) => (i + 0.5) * kilometreStep),
  y: props.outcome.byDistance,
  width: props.outcome.byDistance.map(() => kilometreStep * 0.9),
  marker: { color: getComputedStyle(document.documentElement).getPropertyValue('--accent').trim() },
  customdata: props.outcome.byDistance.map((_, i) => say('centres.toKm', { i: i * kilometreStep, i2: (i + 1) * kilometreStep })),
  hovertemplate: `${say('centres.peopleAt', { n: '%{y:,}' })}<br>%{customdata}<extra></extra>`,
}])
const layout: Partial<Layout> = {
  xaxis: { title: { text: say('centres.kmFromHome'), font: { size: 14 } }, rangemode: 'tozero' },
  yaxis: { tickformat: ',', title: { text: say('centres.axisOfPeople'), font: { size: 14 } } },
}
</script>

<template>
  <ChartsPlot
    :data="data"
    :layout="layout"
    :height="200"
    :label="say('centres.peopleByTheDistanceBetweenHome')"
  />
</template>
