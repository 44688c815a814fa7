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
    <HouseTable
      v-else-if="runs"
      :columns="[
        { key: 'tick', title: say('centres.compareColumn') },
        { key: 'run', title: say('centres.runColumn') },
        { key: 'policy', title: say('centres.policy'), text: run => policyTitles[run.policy.kind] },
        { key: 'whom', title: say('centres.whom'), text: run => say('centres.runFor', { scope: run.scope }) },
        { key: 'people', title: say('centres.people'), kind: 'number', text: run => countText(run.summary.people) },
        { key: 'first', title: say('centres.firstChoiceColumn'), kind: 'number', text: run => share(run, run.summary.byChoice[0] ?? 0) },
        { key: 'offList', title: say('centres.offTheListColumn'), kind: 'number', text: run => countText(run.summary.offList) },
        { key: 'unseated', title: say('centres.noSeatInRow'), kind: 'number', text: run => countText(run.summary.unseated) },
        { key: 'cost', title: say('centres.cost'), kind: 'number', text: run => countText(run.cost) },
        { key: 'proof', title: say('centres.proofColumn') },
        { key: 'made', title: say('centres.made') },
        { key: 'published', title: say('centres.published'), text: run => run.publishedAt ? spelling.instant(run.publishedAt) : say('centres.notPublished') },
      ]"
      :rows="runs"
      :row-key="run => run.id"
    >
      <template #tick="{ row: run }">
        <ElCheckbox
          :model-value="chosen.includes(run.id)"
          :aria-label="say('centres.compareRun', { serial: run.serial })"
          class="tick"
          @change="tick(run.id, $event)"
        />
      </template>
      <template #run="{ row: run }">
        <NuxtLink :to="`/centres/${run.id}`">{{ say('centres.run', { serial: run.serial }) }}</NuxtLink><span
          v-if="run.note"
          class="soft small"
        ><br>{{ run.note }}</span>
      </template>
      <template #proof="{ row: run }">
        <CentresStanding :standing="run.standing" />
      </template>
      <template #made="{ row: run }">
        {{ spelling.instant(run.at) }}<span class="soft small"><br>{{ run.by }}</span>
      </template>
    </HouseTable>
    <template v-if="byHand.length > 0">
      <h2 class="section-title by-hand">
        {{ say('centres.placedByHandHeading') }}
      </h2>
      <p class="soft small">
        {{ say('centres.everyRunLeavesThesePeopleWhere') }}
      </p>
      <HouseTable
        :columns="[
          { key: 'number', title: say('centres.number') },
          { key: 'name', title: say('centres.name'), text: one => one.name },
          { key: 'city', title: say('centres.city'), text: one => spelling.city(one.city) },
          { key: 'reason', title: say('centres.reason'), text: one => one.reason },
          { key: 'by', title: say('centres.by') },
          { key: 'release', title: say('centres.release'), isQuiet: true },
        ]"
        :rows="byHand"
        :row-key="one => one.applicationId"
      >
        <template #number="{ row: one }">
          <NuxtLink :to="`/intake/${one.applicationId}`">{{ one.number }}</NuxtLink>
        </template>
        <template #by="{ row: one }">
          {{ one.by }}<span class="soft small">, {{ spelling.instant(one.at) }}</span>
        </template>
        <template #release="{ row: one }">
          <button
            v-if="session.may('centres.run')"
            class="press"
            @click="release(one)"
          >
            {{ say('centres.release') }}
          </button>
        </template>
      </HouseTable>
    </template>
  </div>
</template>

<style scoped>
.by-hand { margin-top: 28px; }
.tick { height: 20px; margin: 0; }
</style>
