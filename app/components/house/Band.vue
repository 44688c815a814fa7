<script setup lang="ts">
import { spellInstantShort, spellUntil } from '~~/core/calendar/zone'

const { headlineShapes } = useWords().work
const { headlineWords } = useWords().states

/** The strip across the top: how many applications stand at each point of the flow, and how many came to it today. */
const cycle = useCycleStore()
const route = useRoute()
const now = useNow()
// Not every page of the office loads something by which it would ask.
onMounted(askForFaces)
const clockWords = {
  opens: say('band.applicationsOpenIn'),
  closes: say('band.applicationsCloseIn'),
  payments: say('band.lastPaymentIn'),
  corrections: say('band.correctionsEndIn'),
  cards: say('band.cardsAreDueIn'),
  session: say('band.firstSessionIn'),
}

const clock = computed(() => {
  const band = cycle.band
  if (!band?.clock) return null
  return {
    title: clockWords[band.clock.code as keyof typeof clockWords] ?? band.clock.code,
    left: spellUntil(band.clock.instant, now.value) ?? say('band.now'),
    at: `${spellInstantShort(band.clock.instant, band.zone)} ${band.zone.name}`,
  }
})

/** The flow behind the counts: as thick as the square root of the count, so that small points stay visible. */
const flow = computed(() => {
  const points = cycle.band?.points ?? []
  const most = Math.max(1, ...points.map(p => p.count))
  const thick = points.map(p => 2 + 12 * Math.sqrt(p.count / most))
  const x = (i: number) => (i + 0.5) * 100 / Math.max(1, points.length)
  const edge = (sign: number) => thick.map((t, i) => ({ x: x(i), y: 15 + sign * t }))
  const curve = (list: { x: number, y: number }[]) =>
    list.slice(1).map((p, i) => {
      const before = list[i] ?? p
      const middle = (before.x + p.x) / 2
      return `C ${middle} ${before.y} ${middle} ${p.y} ${p.x} ${p.y}`
    }).join(' ')
  const [upper, lower] = [edge(-1), edge(1).reverse()]
  const [first, last] = [upper[0], upper.at(-1)]
  if (!first || !last) return ''
  return `M 0 ${first.y} L ${first.x} ${first.y} ${curve(upper)} L 100 ${last.y} L 100 ${lower[0]?.y} L ${lower[0]?.x} ${lower[0]?.y} ${
    curve(lower)
  } L 0 ${lower.at(-1)?.y} Z`
})

// A page about one thing of the old cycle is left; a list is shown again for the new one.
async function change(event: Event) {
  const { value } = event.target as HTMLSelectElement
  const [area = ''] = route.path.split('/').filter(Boolean)
  if (await attempt(() => cycle.choose(value))) {
    await navigateTo(Object.keys(route.params).length > 0 ? `/${area === 'intake' ? 'roster' : area}` : { path: route.path, force: true })
  }
}
defineProps<{ /** On a telephone the flow is folded away until it is asked for. */ folded?: boolean }>()

const timer = setInterval(() => {
  if (document.visibilityState === 'visible') cycle.refreshBand().catch(() => undefined)
}, 10_000)
onUnmounted(() => clearInterval(timer))
</script>

<template>
  <header class="band">
    <div class="mark">
      <NuxtLink to="/">{{ say('house.lucidRoster') }}</NuxtLink>
      <label
        v-if="cycle.code && cycle.cycles.length > 1"
        class="cycle"
      >
        <span class="visually-hidden">{{ say('band.cycleInWork') }}</span>
        <select
          :value="cycle.code"
          :title="cycle.band?.title"
          @change="change"
        >
          <option
            v-for="one in cycle.cycles"
            :key="one.code"
            :value="one.code"
          >
            {{ one.title }}
          </option>
        </select>
      </label>
      <span
        v-else
        class="soft small"
      >{{ cycle.band?.title }}</span>
    </div>
    <div
      class="flow"
      :class="{ folded }"
    >
      <svg
        viewBox="0 0 100 30"
        preserveAspectRatio="none"
        aria-hidden="true"
      ><path :d="flow" /></svg>
      <ol>
        <li
          v-for="point in cycle.band?.points ?? []"
          :key="point.headline"
        >
          <NuxtLink
            :to="{ path: '/roster', query: { headline: point.headline } }"
            :aria-current="route.query.headline === point.headline ? 'true' : undefined"
          >
            <span class="name">{{ headlineShapes[point.headline] }} {{ headlineWords[point.headline] }}</span>
            <span class="count"><b>{{ countText(point.count) }}</b> <small v-if="point.today > 0">{{ say('band.moreToday', { today: point.today }) }}</small></span>
          </NuxtLink>
        </li>
      </ol>
    </div>
    <div
      v-if="clock"
      class="clock"
    >
      <span class="soft small">{{ clock.title }}</span>
      <b>{{ clock.left }}</b>
      <span class="soft small">{{ clock.at }}</span>
    </div>
  </header>
</template>

<style scoped>
.cycle select {
  font: inherit; font-size: 14px; color: var(--ink-soft); background: none; border: 0; border-bottom: 1px solid var(--line-strong);
  width: 100%; padding: 0; min-height: 24px; text-overflow: ellipsis;
}
.band {
  display: grid; grid-template-columns: 200px minmax(0, 1fr) auto; gap: 20px; align-items: center; padding: 6px 24px;
  border-bottom: 1px solid var(--line);
}
.mark { min-width: 0; display: flex; flex-direction: column; line-height: 1.25; }
.mark a { min-height: 24px; font: 600 20px/1.25 var(--serif); color: var(--ink); text-decoration: none; }
.flow { position: relative; min-width: 0; }
svg { position: absolute; inset: 20px 0 18px; width: 100%; height: 28px; }
path { fill: var(--flow); }
ol {
  position: relative; display: grid; grid-auto-flow: column; grid-auto-columns: minmax(0, 1fr); list-style: none; margin: 0; padding: 0;
}
li a {
  display: flex; flex-direction: column; justify-content: space-between; height: 66px; color: var(--ink); text-decoration: none;
  text-align: center;
}
.name { font-size: 14px; white-space: nowrap; }
li a:hover .name, li a[aria-current] .name {
  text-decoration: underline; text-decoration-color: var(--accent); text-decoration-thickness: 2px; text-underline-offset: 4px;
}
li a[aria-current] .name { font-weight: 600; }
.count { white-space: nowrap; }
small { color: var(--ink-soft); font-size: 13px; }
.clock { display: flex; flex-direction: column; text-align: right; line-height: 1.3; white-space: nowrap; }
.clock b { font-size: 18px; font-weight: 600; }
@media (max-width: 900px) { .folded { display: none; } .clock { display: none; } .band:has(.folded) { padding-bottom: 4px; } }
@media (max-width: 1100px) {
  .band { grid-template-columns: minmax(0, 1fr) auto; padding: 6px 16px; }
  .flow { grid-column: 1 / -1; grid-row: 2; overflow-x: auto; }
  ol { min-width: 640px; }
  svg { min-width: 640px; }
}
</style>
