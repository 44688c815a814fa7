<script setup lang="ts">
import type { HandPlacement, RunRow } from '~~/shared/centres'
import { policyTitles } from '~~/core/words/en/allocation'

/** Centres: the runs that were made, two of them to be compared, and the people placed by hand. */
useHead({ title: 'Centres · Lucid Roster' })
const cycle = useCycleStore()
const session = useSessionStore()
const spelling = useSpelling()
const router = useRouter()
const runs = shallowRef<RunRow[] | null>(null)
const byHand = shallowRef<HandPlacement[]>([])
const chosen = ref<string[]>([])
const waiting = computed(() => cycle.band?.points.find(p => p.headline === 'accepted')?.count ?? 0)

const { failure, reload: load } = useLoaded(async () => {
  [runs.value, byHand.value] = await Promise.all([callApi<RunRow[]>(cycle.path('runs')), callApi<HandPlacement[]>(cycle.path('hand-placements'))])
})
const { job, live, find, cancel } = useJob('allocate', async () => {
  await load()
  const id = job.value?.result?.runId
  if (job.value?.state === 'done' && id) await router.push(`/centres/${id}`)
})
onMounted(() => attempt(find))

const share = (run: RunRow, count: number) => run.summary.people > 0 ? `${(count * 100 / run.summary.people).toFixed(1)} %` : '–'
function tick(id: string, on: unknown) {
  chosen.value = on ? [...chosen.value, id].slice(-2) : chosen.value.filter(c => c !== id)
}
// The older of the two stands first: the question is what the newer one changes.
const pair = computed(() => [...chosen.value].sort((a, b) => serialOf(a) - serialOf(b)))
const serialOf = (id: string) => runs.value?.find(r => r.id === id)?.serial ?? 0

async function release(one: HandPlacement) {
  const given = await ElMessageBox.prompt(`Why does ${one.name} go back into the runs?`, 'Release', { inputPattern: /\S.{4,}/, inputErrorMessage: 'Say why, in five letters or more.', confirmButtonText: 'Release', cancelButtonText: 'Leave as it is' }).catch(() => null)
  if (given === null) return
  if (await attempt(() => callApi(`/api/applications/${one.applicationId}/placement`, { method: 'DELETE', body: { reason: (given as unknown as { value: string }).value } }))) await load()
}
</script>

<template>
  <div class="page">
    <CentresAreas />
    <div class="page-head">
      <h1>{{ waiting === 0 ? 'Nobody waits for a centre' : `${waiting.toLocaleString('en-GB')} accepted, no centre yet` }}</h1>
      <div class="actions">
        <ElButton
          v-if="pair.length === 2"
          @click="router.push({ path: '/centres/compare', query: { first: pair[0], second: pair[1] } })"
        >
          Compare runs {{ pair.map(serialOf).join(' and ') }}
        </ElButton>
        <ElButton
          v-if="session.may('centres.run')"
          type="primary"
          :disabled="live"
          @click="router.push('/centres/new')"
        >
          New run
        </ElButton>
      </div>
    </div>
    <HouseAlert
      :text="failure"
      kind="refusal"
    />
    <JobsProgress
      :job="job?.state === 'done' ? null : job"
      :live="live"
      undone
      percent
      what="Allocation"
      @cancel="attempt(cancel)"
    />
    <p
      v-if="runs?.length === 0"
      class="soft"
    >
      No run yet. A run computes where everybody accepted would sit; nothing is told to anyone before it is published.
    </p>
    <table
      v-else-if="runs"
      class="plain-table"
    >
      <thead>
        <tr>
          <th>compare</th><th>run</th><th>policy</th><th>whom</th><th class="number">
            people
          </th><th class="number">
            first choice
          </th><th class="number">
            off the list
          </th><th class="number">
            no seat
          </th><th class="number">
            cost
          </th><th>proof</th><th>made</th><th>published</th>
        </tr>
      </thead>
      <tbody>
        <tr
          v-for="run in runs"
          :key="run.id"
        >
          <td>
            <ElCheckbox
              :model-value="chosen.includes(run.id)"
              :aria-label="`Compare run ${run.serial}`"
              class="tick"
              @change="tick(run.id, $event)"
            />
          </td>
          <td>
            <NuxtLink :to="`/centres/${run.id}`">Run {{ run.serial }}</NuxtLink><span
              v-if="run.note"
              class="soft small"
            ><br>{{ run.note }}</span>
          </td>
          <td>{{ policyTitles[run.policy.kind] }}</td>
          <td>{{ run.scope === 'everyone' ? 'everyone' : 'those waiting' }}</td>
          <td class="number">
            {{ run.summary.people.toLocaleString('en-GB') }}
          </td>
          <td class="number">
            {{ share(run, run.summary.byChoice[0] ?? 0) }}
          </td>
          <td class="number">
            {{ run.summary.offList.toLocaleString('en-GB') }}
          </td>
          <td class="number">
            {{ run.summary.unseated.toLocaleString('en-GB') }}
          </td>
          <td class="number">
            {{ run.cost.toLocaleString('en-GB') }}
          </td>
          <td><CentresStanding :standing="run.standing" /></td>
          <td>{{ spelling.instant(run.at) }}<span class="soft small"><br>{{ run.by }}</span></td>
          <td>{{ run.publishedAt ? spelling.instant(run.publishedAt) : 'no' }}</td>
        </tr>
      </tbody>
    </table>
    <template v-if="byHand.length > 0">
      <h2 class="section-title by-hand">
        Placed by hand
      </h2>
      <p class="soft small">
        Every run leaves these people where an officer put them.
      </p>
      <table class="plain-table">
        <thead><tr><th>number</th><th>name</th><th>city</th><th>reason</th><th>by</th><th /></tr></thead>
        <tbody>
          <tr
            v-for="one in byHand"
            :key="one.applicationId"
          >
            <td><NuxtLink :to="`/intake/${one.applicationId}`">{{ one.number }}</NuxtLink></td>
            <td>{{ one.name }}</td><td>{{ spelling.city(one.city) }}</td><td>{{ one.reason }}</td>
            <td>{{ one.by }}<span class="soft small">, {{ spelling.instant(one.at) }}</span></td>
            <td>
              <button
                v-if="session.may('centres.run')"
                class="press"
                @click="release(one)"
              >
                Release
              </button>
            </td>
          </tr>
        </tbody>
      </table>
    </template>
  </div>
</template>

<style scoped>
.by-hand { margin-top: 28px; }
.tick { height: 20px; margin: 0; }
</style>
