<script setup lang="ts">
import type { Finding } from '~~/core/finding/finding'

const { workingWords } = useWords().eligibility
const { findingWords } = useWords().findings
const { verdictShapes } = useWords().work

/** One finding in the margin: what was checked, the value, the bound, the verdict, and what to do. */
const props = defineProps<
  { finding: Finding, /** Its place on a picture can be shown by pressing its title. */ pointable?: boolean, pointed?: boolean }
>()
defineEmits<{ point: [code: string] }>()
const words = computed(() => findingWords(props.finding))
const cycle = useCycleStore()
const subject = (id: string) => cycle.notice?.subjects.find(s => s.id === id)?.title ?? id
const working = computed(() => (props.finding.working ?? []).map(line => workingWords(line, subject)))
const spoken = { pass: say('house.inOrder'), fail: say('house.notInOrder'), unsure: say('house.toBeJudged') }

/** A measured colour is shown, too. */
const swatch = computed(() =>
  /^#[0-9a-f]{6}$/.test(String(props.finding.parameters.colour)) ? String(props.finding.parameters.colour) : null
)

/** Where the value stands against its bound, in percent of a scale that shows both. */
const scale = computed(() => {
  const { value, bound, unit } = props.finding
  if (
    value === null || !bound || unit === 'none' || unit === 'degree' || unit === 'years'
    || (bound.min === undefined && (bound.max === undefined || bound.max === 0))
  ) return null
  const low = bound.min ?? 0
  const high = bound.max ?? low * 2.5
  const room = (high - low) * 0.35 || 1
  const from = bound.min === undefined ? low : low - room
  const to = bound.max === undefined ? Math.max(high, low + room) : high + room
  const place = (v: number) => Math.min(100, Math.max(0, (v - from) * 100 / (to - from)))
  return { left: bound.min === undefined ? 0 : place(low), right: bound.max === undefined ? 100 : place(high), mark: place(value) }
})
</script>

<template>
  <div
    class="finding"
    :class="finding.verdict"
  >
    <span
      class="shape"
      :title="spoken[finding.verdict]"
    >
      <span class="visually-hidden">{{ spoken[finding.verdict] }}: </span>
      <span aria-hidden="true">{{ verdictShapes[finding.verdict] }}</span>
    </span>
    <span class="title"><button
      v-if="pointable"
      type="button"
      class="press"
      :aria-pressed="pointed"
      :title="say('house.showOnThePictureWhereThis')"
      @click="$emit('point', finding.code)"
    >{{ words.title }}</button><template v-else>{{ words.title }}</template><span
      v-if="finding.origin"
      class="clause"
    >{{ finding.origin.clause }}</span></span>
    <span
      v-if="words.value"
      class="value"
    ><i
      v-if="swatch"
      class="swatch"
      :style="{ background: swatch }"
    />{{ words.value }}<template v-if="words.bound"> ({{ words.bound }})</template></span>
    <div
      v-if="scale && finding.verdict !== 'pass'"
      class="scale"
      aria-hidden="true"
    >
      <span
        class="good"
        :style="{ left: `${scale.left}%`, right: `${100 - scale.right}%` }"
      />
      <span
        class="mark"
        :style="{ left: `${scale.mark}%` }"
      />
    </div>
    <p
      v-if="words.advice"
      class="advice"
    >
      {{ words.advice }}
    </p>
    <details
      v-if="working.length > 1"
      class="working"
    >
      <summary>{{ say('house.howWasFound', { words: words.value }) }}</summary>
      <dl>
        <template
          v-for="line in working"
          :key="line.label"
        >
          <dt>{{ line.label }}</dt><dd>{{ line.value }}</dd>
        </template>
      </dl>
    </details>
    <div
      v-if="finding.parts"
      class="parts"
    >
      <HouseFindingNote
        v-for="(part, i) in finding.parts"
        :key="part.code + i"
        :finding="part"
      />
    </div>
  </div>
</template>

<style scoped>
.swatch { display: inline-block; width: 14px; height: 14px; border: 1px solid var(--line-strong); vertical-align: -2px; margin-right: 6px; }
.finding { display: grid; grid-template-columns: 20px minmax(0, auto) minmax(116px, 1fr); gap: 0 4px; padding: 3px 0; line-height: 1.3; }
.shape { font-weight: 700; }
.title { font-weight: 600; }
.title .press { color: inherit; font-weight: inherit; text-decoration-style: dotted; }
.title .press[aria-pressed=true] { text-decoration-style: solid; text-decoration-thickness: 2px; }
.value { text-align: right; color: var(--ink-soft); font-size: 14px; padding-top: 1px; }
.advice { grid-column: 2 / -1; color: var(--ink-soft); font-size: 14px; }
.clause { margin-left: 6px; font-weight: 400; font-size: 14px; color: var(--ink-soft); }
.working, .parts { grid-column: 2 / -1; }
.working { font-size: 14px; color: var(--ink-soft); }
.working summary { cursor: pointer; }
.working dl { display: grid; grid-template-columns: minmax(0, 1fr) auto; gap: 2px 12px; margin: 4px 0; }
.working dd { margin: 0; text-align: right; color: var(--ink); }
.parts { border-left: 1px solid var(--line-strong); padding-left: 8px; }
.parts :deep(.clause) { display: none; }
.pass > .shape { color: var(--settled); }
.pass > .title { font-weight: 500; }
.fail > .shape, .fail > .title { color: var(--refusal); }
.unsure > .shape, .unsure > .title { color: var(--attention); }
.scale { grid-column: 2 / -1; position: relative; height: 5px; background: var(--line); margin: 5px 0; border-radius: 3px; }
.good { position: absolute; top: 0; bottom: 0; background: var(--settled); opacity: 0.4; border-radius: 3px; }
.mark { position: absolute; top: -3px; width: 2px; height: 11px; margin-left: -1px; background: var(--ink); }
</style>
