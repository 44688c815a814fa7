<script setup lang="ts">
import type { HandPlacement, RunRow } from '~~/shared/centres'

const { policyTitles } = useWords().allocation

/** Centres: the runs that were made, two of them to be compared, and the people placed by hand. */
useHead({ title: titled(say('centres.centres')) })
const cycle = useCycleStore()
const session = useSessionStore()
const spelling = useSpelling()
const router = useRouter()
const runs = shallowRef<RunRow[] | null>(null)
const byHand = shallowRef<HandPlacement[]>([])
const chosen = ref<string[]>([])
const waiting = computed(() => cycle.band?.points.find(p => p.headline === 'accepted')?.count ?? 0)

const { failure, reload: load } = useLoaded(async () => {
  ;[runs.value, byHand.value] = await Promise.all([callApi<RunRow[]>(cycle.path('runs')),
    callApi<HandPlacement[]>(cycle.path('hand-placements'))])
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
  const given = await ElMessageBox.prompt(say('centres.whyDoesGoBackIntoThe', { name: one.name }), say('centres.release'), {
    inputPattern: /\S.{4,}/,
    inputErrorMessage: say('centres.sayWhyInFiveLettersOr'),
    confirmButtonText: say('centres.release'),
    cancelButtonText: say('centres.leaveAsItIs'),
  }).catch(() => null)
  if (given === null) return
  if (
    await attempt(() =>
      callApi(`/api/applications/${one.applicationId}/placement`, {
        method: 'DELETE',
        body: { reason: (given as unknown as { value: string }).value },
      })
    )
  ) await load()
}
</script>

<template>
  <div class="page">
    <CentresAreas />
    <div class="page-head">
      <h1>{{ waiting === 0 ? say('centres.nobodyWaitsForACentre') : say('centres.acceptedNoCentreYet', { waiting: countText(waiting) }) }}</h1>
      <div class="actions">
        <ElButton
          v-if="pair.length === 2"
          @click="router.push({ path: '/centres/compare', query: { first: pair[0], second: pair[1] } })"
        >
          {{ say('centres.comparePair', { pair: pair.map(serialOf).join(' and ') }) }}
        </ElButton>
        <ElButton
          v-if="session.may('centres.run')"
          type="primary"
          :disabled="live"
          @click="router.push('/centres/new')"
        >
          {{ say('centres.newRun') }}
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
      :what="say('centres.allocation')"
      @cancel="attempt(cancel)"
    />
    <p
      v-if="runs?.length === 0"
      class="soft"
    >
      {{ say('centres.noRunYetARunComputes') }}
    </p>
    <table
      v-else-if="runs"
      class="plain-table"
    >
      <thead>
        <tr>
          <th>{{ say('centres.compareColumn') }}</th><th>{{ say('centres.runColumn') }}</th><th>{{ say('centres.policy') }}</th><th>{{ say('centres.whom') }}</th><th class="number">
            {{ say('centres.people') }}
          </th><th class="number">
            {{ say('centres.firstChoiceColumn') }}
          </th><th class="number">
            {{ say('centres.offTheListColumn') }}
          </th><th class="number">
            {{ say('centres.noSeatInRow') }}
          </th><th class="number">
            {{ say('centres.cost') }}
          </th><th>{{ say('centres.proofColumn') }}</th><th>{{ say('centres.made') }}</th><th>{{ say('centres.published') }}</th>
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
              :aria-label="say('centres.compareRun', { serial: run.serial })"
              class="tick"
              @change="tick(run.id, $event)"
            />
          </td>
          <td>
            <NuxtLink :to="`/centres/${run.id}`">{{ say('centres.run', { serial: run.serial }) }}</NuxtLink><span
              v-if="run.note"
              class="soft small"
            ><br>{{ run.note }}</span>
          </td>
          <td>{{ policyTitles[run.policy.kind] }}</td>
          <td>{{ run.scope === 'everyone' ? 'everyone' : say('centres.thoseWaiting') }}</td>
          <td class="number">
            {{ countText(run.summary.people) }}
          </td>
          <td class="number">
            {{ share(run, run.summary.byChoice[0] ?? 0) }}
          </td>
          <td class="number">
            {{ countText(run.summary.offList) }}
          </td>
          <td class="number">
            {{ countText(run.summary.unseated) }}
          </td>
          <td class="number">
            {{ countText(run.cost) }}
          </td>
          <td><CentresStanding :standing="run.standing" /></td>
          <td>{{ spelling.instant(run.at) }}<span class="soft small"><br>{{ run.by }}</span></td>
          <td>{{ run.publishedAt ? spelling.instant(run.publishedAt) : 'no' }}</td>
        </tr>
      </tbody>
    </table>
    <template v-if="byHand.length > 0">
      <h2 class="section-title by-hand">
        {{ say('centres.placedByHandHeading') }}
      </h2>
      <p class="soft small">
        {{ say('centres.everyRunLeavesThesePeopleWhere') }}
      </p>
      <table class="plain-table">
        <thead><tr><th>{{ say('centres.number') }}</th><th>{{ say('centres.name') }}</th><th>{{ say('centres.city') }}</th><th>{{ say('centres.reason') }}</th><th>{{ say('centres.by') }}</th><th /></tr></thead>
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
                {{ say('centres.release') }}
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
