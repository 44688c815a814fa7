<script setup lang="ts">
import type { Data, Layout } from 'plotly.js-basic-dist-min'
import type { CityDemand, DemandView, TrialView } from '~~/shared/centres'
import { addDays } from '~~/core/calendar/calendar-date'

/** Demand against seats while applications still come in: what is short, since when, and what it will come to. */
useHead({ title: titled(say('centres.demand')) })
const cycle = useCycleStore()
const session = useSessionStore()
const spelling = useSpelling()
const view = shallowRef<DemandView | null>(null)
const trial = shallowRef<TrialView | null>(null)
const trying = ref(false)
const chosen = ref<string | null>(null)
const { failure } = useLoaded(async () => {
  view.value = await callApi<DemandView>(cycle.path('demand'))
})
async function tryNow() {
  trying.value = true
  await attempt(async () => {
    trial.value = await callApi<TrialView>(cycle.path('demand/trial'), { method: 'POST' })
  })
  trying.value = false
}

const pressure = (row: CityDemand) => row.seats > 0 ? row.firstChoice / row.seats : row.firstChoice > 0 ? Infinity : 0
const rows = computed(() => [...view.value?.cities ?? []].sort((a, b) => pressure(b) - pressure(a) || b.firstChoice - a.firstChoice))
const short = computed(() => rows.value.filter(row => row.firstChoice > row.seats))
const sum = (key: 'seats' | 'accessibleSeats' | 'firstChoice') => rows.value.reduce((n, row) => n + row[key], 0)
const figures = computed(() =>
  rows.value.map(row => ({
    city: row.city,
    capacity: row.seats,
    placed: Math.min(row.firstChoice, row.seats),
    firstChoice: row.firstChoice,
  }))
)
const day = (date: string) =>
  new Date(`${date}T00:00:00Z`).toLocaleDateString(useWords().locale, { day: 'numeric', month: 'short', timeZone: 'UTC' })

/** Where applications are expected to end, with the range in which they may. */
function expected(last: { x: string, y: number }, forecast: NonNullable<DemandView['forecast']>, colour: (role: string) => string): Data[] {
  const { low, middle, high } = forecast
  const end = addDays(last.x, Math.max(1, forecast.days - 1))
  return [
    {
      type: 'scatter',
      mode: 'lines',
      x: [last.x, end, end, last.x],
      y: [last.y, high, low, last.y],
      fill: 'toself',
      fillcolor: colour('--flow'),
      line: { width: 0 },
      hoverinfo: 'skip',
    },
    {
      type: 'scatter',
      mode: 'lines',
      x: [last.x, end],
      y: [last.y, middle],
      line: { color: colour('--accent'), width: 2, dash: 'dot' },
      hovertemplate: `${say('centres.expected', { n: '%{y:,}' })}<extra></extra>`,
    },
  ]
}

const chart = computed<{ data: Data[], layout: Partial<Layout> } | null>(() => {
  const current = view.value
  if (!current || current.byDay.length === 0) return null
  let total = 0
  const past = current.byDay.map(d => ({ x: d.day, y: total += d.submitted }))
  const colour = (role: string) => getComputedStyle(document.documentElement).getPropertyValue(role).trim()
  const last = past.at(-1)
  const data: Data[] = [{
    type: 'scatter',
    mode: 'lines',
    name: say('centres.soFar'),
    x: past.map(p => p.x),
    y: past.map(p => p.y),
    line: { color: colour('--accent'), width: 2.5 },
    hovertemplate: `${say('centres.applicationsBy', { n: '%{y:,}', day: '%{x|%-d %b}' })}<extra></extra>`,
  }]
  if (current.forecast && last) data.push(...expected(last, current.forecast, colour))
  const seats = sum('seats')
  return {
    data,
    layout: {
      yaxis: { rangemode: 'tozero', tickformat: ',' },
      xaxis: { type: 'date', tickformat: '%-d %b' },
      shapes: [{
        type: 'line',
        xref: 'paper',
        x0: 0,
        x1: 1,
        y0: seats,
        y1: seats,
        line: { color: colour('--attention'), width: 1.5, dash: 'dash' },
      }],
      annotations: [{
        xref: 'paper',
        x: 0,
        xanchor: 'left',
        y: seats,
        yanchor: 'bottom',
        text: say('centres.seatsCounted', { seats: seats }),
        showarrow: false,
        font: { color: colour('--attention') },
      }],
    },
  }
})
</script>

<template>
  <div class="sheet-row grow">
    <div class="body">
      <CentresAreas />
      <HouseAlert
        :text="failure"
        kind="refusal"
      />
      <template v-if="view && cycle.notice">
        <h1>{{ say('centres.applicationsForSeats', { applications: view.applications, seats: sum('seats') }) }}</h1>
        <p class="soft">
          {{ say('centres.noCityHasMoreFirstChoices', { hasShort: String(short.length === 0), short: short.length, rows: rows.length, at: spelling.instant(view.at) }) }}
        </p>
        <HouseTable
          class="demand"
          :columns="[
            { key: 'city', title: say('centres.city'), text: row => `${row.firstChoice > row.seats ? '▲ ' : ''}${spelling.city(row.city)}` },
            { key: 'against', title: say('centres.firstChoicesAgainstSeats'), look: 'track' },
            { key: 'first', title: say('centres.first'), kind: 'number', text: row => countText(row.firstChoice) },
            { key: 'seats', title: say('centres.seats'), kind: 'number', text: row => countText(row.seats) },
            { key: 'any', title: say('centres.anyChoice'), kind: 'number', text: row => countText(row.anyChoice) },
            {
              key: 'since',
              title: say('centres.shortSince'),
              kind: 'line',
              text: row => row.shortSince ? day(row.shortSince) : say('centres.enough'),
            },
            { key: 'close', title: say('centres.firstAtTheClose'), kind: 'number' },
          ]"
          :rows="rows"
          :row-key="row => row.city"
          :row-look="row => chosen === row.city ? 'chosen' : ''"
        >
          <template #against="{ row }">
            <span
              class="bar"
              :class="{ over: row.firstChoice > row.seats }"
              :style="{ width: `${Math.min(100, pressure(row) * 50)}%` }"
            /><i :title="say('centres.seatsCounted', { seats: row.seats })" />
          </template>
          <template #close="{ row }">
            <template v-if="row.forecastFirst">
              {{ countText(row.forecastFirst.middle) }}
              <span class="soft small">{{ countText(row.forecastFirst.low) }}–{{ countText(row.forecastFirst.high) }}</span>
            </template>
            <span
              v-else
              class="soft"
            >–</span>
          </template>
        </HouseTable>
        <p
          v-if="cycle.notice.testPapers.length > 0"
          class="soft small"
        >
          {{ say('centres.sittingsCounted') }}
        </p>
        <p class="soft small">
          {{ say('centres.moreFirstChoicesThanSeatsThe') }}
        </p>
      </template>
    </div>
    <div class="beside">
      <template v-if="view && cycle.notice">
        <h2>{{ say('centres.howItGrows') }}</h2>
        <ChartsPlot
          v-if="chart"
          :data="chart.data"
          :layout="chart.layout"
          :height="230"
          :label="say('centres.applicationsByDayWithTheForecast')"
        />
        <p
          v-if="view.forecast"
          class="small"
        >
          <b>{{ countText(view.forecast.middle) }}</b> {{ say('centres.byTheCloseBetweenAndIf', { closes: spelling.instant(view.closes), low: countText(view.forecast.low), high: countText(view.forecast.high) }) }}
        </p>
        <p
          v-else
          class="soft small"
        >
          {{ new Date(view.closes) < new Date(view.at) ? say('centres.applicationsAreClosedNothingMore') : say('centres.aForecastNeedsThreeWholeDays') }}
        </p>
        <CentresCityMap
          class="map"
          small
          :cities="cycle.notice.cities"
          :figures="figures"
          :chosen="chosen"
          @choose="chosen = $event"
        />
        <h2>{{ say('centres.ifItClosedNow') }}</h2>
        <ElButton
          v-if="session.may('centres.run')"
          :loading="trying"
          @click="tryNow"
        >
          {{ say('centres.tryARun') }}
        </ElButton>
        <p class="soft small">
          {{ say('centres.everyoneWhoHasAppliedSoFar') }}
        </p>
        <template v-if="trial">
          <CentresChoiceBars :outcome="trial.outcome" />
          <p class="small">
            <CentresStanding :standing="trial.standing" /> {{ say('centres.costBound', { cost: countText(trial.cost), bound: countText(trial.bound) }) }}
          </p>
        </template>
      </template>
    </div>
  </div>
</template>

<style scoped>
.grow { flex: 1; }
.body, .beside { padding-top: 18px !important; padding-bottom: 24px !important; }
.beside h2 { margin: 14px 0 6px; }
.beside h2:first-child { margin-top: 0; }
.demand { margin: 12px 0 8px; }
.demand :deep(td) { padding: 5px 12px 5px 0; }
:deep(.track) { width: 30%; position: relative; }
:deep(td.track) { vertical-align: middle; }
.bar { display: block; height: 14px; background: var(--accent); min-width: 1px; }
.bar.over { background: var(--attention); }
.demand i { position: absolute; left: calc((100% - 12px) / 2); top: 3px; bottom: 3px; border-left: 2px solid var(--ink); }
:deep(.chosen td) { background: var(--accent-soft); }
.map { margin-top: 10px; }
</style>
