<script setup lang="ts">
import type { Config, Data, Layout } from 'plotly.js-basic-dist-min'

/**
 * One chart in the colours and type of the house. The library is fetched when the first chart is shown. `label` says in words what it
 * shows.
 */
const props = defineProps<{ data: Data[], layout?: Partial<Layout>, height: number, label: string }>()
const emit = defineEmits<{ pick: [point: { x: unknown, y: unknown, custom: unknown }] }>()
const box = ref<HTMLDivElement | null>(null)
const config: Partial<Config> = { displayModeBar: false, responsive: true }
type Drawn = HTMLDivElement & {
  on: (name: 'plotly_click', then: (event: { points: { x: unknown, y: unknown, customdata: unknown }[] }) => void) => void,
}
let library: typeof import('plotly.js-basic-dist-min') | null = null

function dressed(): Partial<Layout> {
  const style = getComputedStyle(document.documentElement)
  const role = (name: string) => style.getPropertyValue(name).trim()
  const axis = {
    gridcolor: role('--line'),
    linecolor: role('--line-strong'),
    zerolinecolor: role('--line-strong'),
    fixedrange: true,
    automargin: true,
  }
  const { xaxis, yaxis, ...rest } = props.layout ?? {}
  return {
    height: props.height,
    margin: { l: 8, r: 8, t: 8, b: 8 },
    paper_bgcolor: 'transparent',
    plot_bgcolor: 'transparent',
    bargap: 0.25,
    separators: '.,',
    font: { family: role('--sans'), size: 14, color: role('--ink') },
    hoverlabel: {
      bgcolor: role('--sheet'),
      bordercolor: role('--line-strong'),
      font: { color: role('--ink'), family: role('--sans'), size: 14 },
    },
    xaxis: { ...axis, ...xaxis },
    yaxis: { ...axis, ...yaxis },
    showlegend: false,
    ...rest,
  }
}

async function draw() {
  library ??= (await import('plotly.js-basic-dist-min')).default
  if (!box.value) return
  const drawn = await library.react(box.value, props.data, dressed(), config) as unknown as Drawn
  if (!drawn.dataset.heard) {
    drawn.dataset.heard = 'yes'
    drawn.on('plotly_click', ({ points: [point] }) => {
      if (point) emit('pick', { x: point.x, y: point.y, custom: point.customdata })
    })
  }
}
onMounted(draw)
watch(() => [props.data, props.layout], draw)
onBeforeUnmount(() => {
  if (box.value) library?.purge(box.value)
})
</script>

<template>
  <div
    ref="box"
    role="img"
    :aria-label="label"
    :style="{ minHeight: `${height}px` }"
  />
</template>
