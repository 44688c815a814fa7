<script setup lang="ts">
import type { Data, Layout } from 'plotly.js-basic-dist-min'
import type { CheckValues } from '~~/shared/scrutiny'

/** Values of one check: accepted pictures above the line, returned ones below it, the bound drawn in, and a bound that is tried. */
const props = defineProps<
  {
    values: CheckValues,
    /** Ends of a bound that is tried, where they differ from the notice's. */
    tried: { min?: number, max?: number } | null,
    label: string,
  }
>()
const middles = computed(() => props.values.accepted.map((_, i) => props.values.from + (i + 0.5) * props.values.width))
const role = (name: string) => getComputedStyle(document.documentElement).getPropertyValue(name).trim()
const data = computed<Data[]>(() => [
  {
    type: 'bar',
    name: say('scrutiny.acceptedSeries'),
    x: middles.value,
    y: props.values.accepted,
    marker: { color: role('--settled') },
    hovertemplate: `${say('scrutiny.acceptedAtAbout', { n: '%{y}', value: '%{x:.2f}' })}<extra></extra>`,
  },
  {
    type: 'bar',
    name: say('scrutiny.returnedSeries'),
    x: middles.value,
    y: props.values.returned.map(n => -n),
    customdata: props.values.returned,
    marker: { color: role('--refusal') },
    hovertemplate: `${say('scrutiny.returnedAtAbout', { n: '%{customdata}', value: '%{x:.2f}' })}<extra></extra>`,
  },
])
const lines = (bound: { min?: number, max?: number } | null, colour: string, dash: 'solid' | 'dot') =>
  [bound?.min, bound?.max].filter(v => v !== undefined).map(x => ({
    type: 'line' as const,
    x0: x,
    x1: x,
    y0: 0,
    y1: 1,
    yref: 'paper' as const,
    line: { color: colour, width: 2, dash },
  }))
const layout = computed<Partial<Layout>>(() => ({
  barmode: 'relative',
  bargap: 0.05,
  yaxis: { title: { text: say('scrutiny.axisOfPictures') }, tickformat: ',', zeroline: true },
  xaxis: { title: { text: say('scrutiny.axisOfValues') } },
  shapes: [...lines(props.values.bound, role('--ink'), 'solid'), ...lines(props.tried, role('--attention'), 'dot')],
  margin: { l: 56, r: 12, t: 8, b: 44 },
}))
</script>

<template>
  <ChartsPlot
    :data="data"
    :layout="layout"
    :height="300"
    :label="label"
  />
</template>
