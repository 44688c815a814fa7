<script setup lang="ts">
import type { CheckRecord, CheckRecords, CheckValues } from '~~/shared/scrutiny'

const { findingWords } = useWords().findings

/** How the measurements have done against people's decisions, so that bounds are set by evidence. */
useHead({ title: titled(say('scrutiny.howTheChecksDo')) })
const cycle = useCycleStore()
const spelling = useSpelling()
const route = useRoute()
const router = useRouter()
const records = shallowRef<CheckRecords | null>(null)
const values = shallowRef<CheckValues | null>(null)
const trial = ref<number | null>(null)

const chosen = computed(() =>
  records.value?.checks.find(c => c.id === route.query.check) ?? records.value?.checks.find(c => c.sample.value !== null) ?? null
)
const title = (check: CheckRecord) =>
  findingWords({ ...check.sample, verdict: 'pass', value: check.sample.value === null ? null : 1 }).title
const bound = computed(() => values.value?.bound ?? null)
/** One end of the bound can be tried at another value; a check with two ends tries its lower one. */
const end = computed<'min' | 'max' | null>(() => bound.value?.min !== undefined ? 'min' : bound.value?.max !== undefined ? 'max' : null)
const tried = computed(() =>
  end.value && trial.value !== null && trial.value !== bound.value?.[end.value] ? { ...bound.value, [end.value]: trial.value } : null
)
const step = computed(() => values.value ? Number(values.value.width.toPrecision(1)) : 1)
/** Pictures of a list that keep a bound, by the middles of their bins. */
function kept(counts: number[], within: { min?: number, max?: number }): number {
  const { from, width } = values.value ?? { from: 0, width: 1 }
  return counts.reduce((sum, n, i) => {
    const middle = from + (i + 0.5) * width
    return middle >= (within.min ?? -Infinity) && middle <= (within.max ?? Infinity) ? sum + n : sum
  }, 0)
}
const sum = (counts: number[]) => counts.reduce((a, b) => a + b, 0)
const consequence = computed(() => {
  if (!values.value || !tried.value) return ''
  const { accepted, returned } = values.value
  return say('scrutiny.atInsteadOfAboutOfAccepted', {
    trial: trial.value,
    bound: bound.value?.[end.value ?? 'min'],
    accepted: countText(sum(accepted) - kept(accepted, tried.value)),
    accepted2: countText(sum(accepted)),
    tried: countText(kept(returned, tried.value)),
    returned: countText(sum(returned)),
  })
})

async function load(id: string) {
  values.value = null
  trial.value = null
  await attempt(async () => {
    values.value = await callApi<CheckValues>(cycle.path(`checks/${encodeURIComponent(id)}`))
    trial.value = end.value ? values.value.bound?.[end.value] ?? null : null
  })
}
watch(() => chosen.value?.id, (id) => {
  if (id && chosen.value?.sample.value !== null) void load(id)
})
const { failure } = useLoaded(async () => {
  records.value = await callApi<CheckRecords>(cycle.path('checks'))
})
</script>

<template>
  <div class="page">
    <ScrutinyAreas />
    <div class="page-head">
      <h1>{{ say('scrutiny.howTheChecksDoAgainstPeople') }}</h1>
    </div>
    <HouseAlert
      v-if="failure"
      :text="failure"
      kind="refusal"
    />
    <p
      v-else-if="records && records.checks.length === 0"
      class="soft"
    >
      {{ say('scrutiny.nothingHasBeenDecidedYetWhat') }} <NuxtLink to="/scrutiny">{{ say('scrutiny.toTheQueue') }}</NuxtLink>
    </p>
    <template v-else-if="records">
      <p class="soft">
        {{ say('scrutiny.theNewestDecisions', { decisions: countText(records.decisions), hasSince: String(Boolean(records.since)), since: spelling.instant(records.since) }) }}
      </p>
      <div class="two">
        <table class="plain-table checks">
          <thead>
            <tr>
              <th /><th
                colspan="3"
                class="number"
              >
                {{ say('scrutiny.acceptedByPeople') }}
              </th><th
                colspan="3"
                class="number"
              >
                {{ say('scrutiny.returnedByPeople') }}
              </th>
            </tr>
            <tr>
              <th>{{ say('scrutiny.check') }}</th>
              <th
                v-for="(shape, i) in ['✓', '?', '✕', '✓', '?', '✕']"
                :key="i"
                class="number"
                :title="[say('scrutiny.inOrder'), say('scrutiny.toBeJudged'), say('scrutiny.notInOrder')][i % 3]"
              >
                {{ shape }}
              </th>
            </tr>
          </thead>
          <tbody>
            <tr
              v-for="check in records.checks"
              :key="check.id"
              :class="{ chosen: check.id === chosen?.id }"
            >
              <td>
                <button
                  type="button"
                  class="press"
                  :disabled="check.sample.value === null"
                  @click="router.replace({ query: { check: check.id } })"
                >
                  {{ title(check) }}
                </button> <span class="soft small">{{ spelling.item(check.kind).toLowerCase() }}</span>
              </td>
              <td class="number">
                {{ check.accepted.pass }}
              </td><td class="number attention">
                {{ check.accepted.unsure || '' }}
              </td><td class="number refusal">
                {{ check.accepted.fail || '' }}
              </td>
              <td class="number">
                {{ check.returned.pass || '' }}
              </td><td class="number attention">
                {{ check.returned.unsure || '' }}
              </td><td class="number refusal">
                {{ check.returned.fail || '' }}
              </td>
            </tr>
          </tbody>
        </table>
        <section
          v-if="chosen"
          class="chart"
        >
          <h2>{{ title(chosen) }}</h2>
          <p class="soft small">
            <span class="settled">{{ say('scrutiny.accepted') }}</span> · <span class="refusal">{{ say('scrutiny.returned') }}</span> {{ say('scrutiny.theLineIsTheBoundOf', { hasTried: String(Boolean(tried)) }) }}
          </p>
          <ScrutinyCheckChart
            v-if="values"
            :values="values"
            :tried="tried"
            :label="say('scrutiny.valuesOfOnAcceptedAndReturned', { chosen: title(chosen) })"
          />
          <div
            v-if="values && end && trial !== null"
            class="trial"
          >
            <label for="trial">{{ say('scrutiny.tryAtLeast', { end }) }}</label>
            <ElInputNumber
              id="trial"
              v-model="trial"
              :step="step"
              controls-position="right"
            />
            <p>{{ consequence }}</p>
            <p class="soft small">
              {{ say('scrutiny.tryingChangesNothingABoundChanges') }}
            </p>
          </div>
        </section>
      </div>
    </template>
  </div>
</template>

<style scoped>
.two { display: grid; grid-template-columns: minmax(0, 1fr) minmax(0, 1.1fr); gap: 32px; margin-top: 12px; align-items: start; }
.checks td { padding: 4px 10px 4px 0; }
.checks button:disabled { color: inherit; text-decoration: none; cursor: default; }
.chosen { background: var(--accent-soft); }
.chart { position: sticky; top: 140px; }
.trial { display: flex; flex-wrap: wrap; gap: 6px 12px; align-items: center; margin-top: 8px; }
.trial p { flex: 1 0 100%; }
.checks th { border-bottom: 0; }
.checks tr:last-child th { border-bottom: 1px solid var(--line-strong); padding-top: 0; }
@media (max-width: 900px) { .two { grid-template-columns: minmax(0, 1fr); } .chart { position: static; } }
</style>
