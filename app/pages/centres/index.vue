<script setup lang="ts">
import type { RunRow } from '~~/shared/centres'

/** Centres: the allocation is started here, and its runs are kept here. */
useHead({ title: 'Centres · Lucid Roster' })
const cycle = useCycleStore()
const session = useSessionStore()
const spelling = useSpelling()
const router = useRouter()
const runs = shallowRef<RunRow[] | null>(null)
const failure = ref('')
const waiting = computed(() => cycle.band?.points.find(p => p.headline === 'accepted')?.count ?? 0)
const policy = computed(() => cycle.notice?.allocation)

async function load() {
  try {
    runs.value = await callApi<RunRow[]>(cycle.path('runs'))
  } catch (error) {
    failure.value = problemText(error)
  }
}
const { job, live, find, start, cancel } = useJob('allocate', async () => {
  await load()
  const newest = runs.value?.[0]
  if (job.value?.state === 'done' && newest) await router.push(`/centres/${newest.id}`)
})
onMounted(async () => {
  await load()
  await attempt(find)
})
const share = (run: RunRow) => run.summary.candidates > 0 ? `${((run.summary.byChoice[0] ?? 0) * 100 / run.summary.candidates).toFixed(1)} %` : '–'
</script>

<template>
  <div class="sheet-row grow">
    <div class="body">
      <div class="page-head">
        <h1>{{ waiting }} accepted, no centre yet</h1>
        <div class="actions">
          <ElButton
            v-if="session.may('centres.run')"
            type="primary"
            :disabled="live || waiting === 0"
            @click="attempt(start)"
          >
            Run the allocation
          </ElButton>
        </div>
      </div>
      <p
        v-if="failure"
        class="note is-refusal"
      >
        {{ failure }}
      </p>
      <JobsProgress
        :job="job?.state === 'done' ? null : job"
        :live="live"
        what="Allocation"
        @cancel="attempt(cancel)"
      />
      <h2 class="section-title">
        Runs
      </h2>
      <p
        v-if="runs?.length === 0"
        class="soft"
      >
        No run yet. A run computes the best places for everybody accepted; nothing is told to anyone before it is published.
      </p>
      <table
        v-else
        class="plain-table"
      >
        <thead><tr><th>run</th><th>when</th><th class="number">people</th><th class="number">first choice</th><th class="number">off the list</th><th>certificate</th><th>published</th></tr></thead>
        <tbody>
          <tr
            v-for="run in runs ?? []"
            :key="run.id"
          >
            <td><NuxtLink :to="`/centres/${run.id}`">Run {{ run.serial }}</NuxtLink></td>
            <td>{{ spelling.instant(run.at) }}<span class="soft small"> by {{ run.by }}</span></td>
            <td class="number">
              {{ run.summary.candidates }}
            </td>
            <td class="number">
              {{ share(run) }}
            </td>
            <td class="number">
              {{ run.summary.offList }}
            </td>
            <td :class="run.certified ? 'settled' : 'refusal'">
              {{ run.certified ? '✓ proven best' : '✕ not proven' }}
            </td>
            <td>{{ run.publishedAt ? spelling.instant(run.publishedAt) : 'no' }}</td>
          </tr>
        </tbody>
      </table>
    </div>
    <div
      v-if="policy"
      class="beside"
    >
      <h2>The policy of the notice</h2>
      <p class="rule">
        <b>Best fit</b>: the least total cost, exactly. Being early gives no advantage.
      </p>
      <dl>
        <dt>First to fifth choice</dt><dd>{{ policy.choiceCosts.join(', ') }} points</dd>
        <dt>A city off the list</dt><dd>{{ policy.offListBase }} points and 1 for each km from the home city, at most {{ policy.kilometreCap }}</dd>
        <dt>No seat</dt><dd>{{ policy.unseated.toLocaleString('en-GB') }} points</dd>
      </dl>
      <p class="soft small">
        Each run is proven: its prices give a bound that no allocation can fall below, and the run meets it. People with a published seat are not moved.
      </p>
    </div>
  </div>
</template>

<style scoped>
.grow { flex: 1; }
.body, .beside { padding-top: 20px !important; }
.rule { margin-top: 8px; }
dl { margin: 8px 0; }
dt { color: var(--ink-soft); }
dd { margin: 0 0 6px; }
</style>
