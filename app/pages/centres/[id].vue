<script setup lang="ts">
import type { ActStanding } from '~~/core/application/acts/judge'
import type { Permit } from '~~/app/composables/act'
import type { JobView, RunDetail } from '~~/shared/centres'

const { costWords, policyTitles, standingWords } = useWords().allocation

/** One run: its proof, who got what, what would help, its people, and its publication. */
const route = useRoute()
const router = useRouter()
const cycle = useCycleStore()
const session = useSessionStore()
const spelling = useSpelling()
const run = shallowRef<RunDetail | null>(null)
const asking = ref(false)
const busy = ref(false)
const id = String(route.params.id)
const chosen = computed(() => typeof route.query.city === 'string' ? route.query.city : null)
useHead({ title: () => titled(say('centres.run', { serial: run.value?.serial ?? '' })) })

const { failure, reload: load } = useLoaded(async () => {
  const found = await callApi<RunDetail>(`/api/runs/${id}`)
  // A link may lead to a run of the other cycle: the work goes over to it.
  if (found.cycle !== cycle.code) await cycle.choose(found.cycle)
  run.value = found
})
const filter = (change: Record<string, string | undefined>) => router.replace({ query: change, hash: '#people' })
const told = computed(() => (run.value?.moves ?? 0) > 0)

const { job, live, find, take, cancel } = useJob('publish', async () => {
  const done = job.value?.result
  if (job.value?.state === 'done' && done) {
    const n = (key: string) => Number(done[key] ?? 0)
    tell(
      say('centres.peopleHaveTheirSeatAndRoll', { seated: n('seated'), moved: n('moved'), reseated: n('reseated'), leftOut: n('leftOut') }),
      'success',
    )
  }
  await load()
  await cycle.refreshBand().catch(() => undefined)
})
const standing = computed<ActStanding>(() => ({
  act: 'publish-seat',
  refusal: null,
  outsideDates: run.value?.early ?? null,
  needsReason: false,
  needsSecond: cycle.notice?.secondPerson.includes('publish-run') ?? false,
  isFinal: true,
}))
async function publish(permit: Permit) {
  if (busy.value) return
  busy.value = true
  const done = await attempt(async () => {
    const { job: started, proposal } = await callApi<{ job: JobView | null, proposal: string | null }>(`/api/runs/${id}/publish`, {
      method: 'POST',
      body: permit,
    })
    if (started) take(started)
    if (proposal) tell(say('centres.aSecondPersonHasToConfirm'))
  })
  if (done) asking.value = false
  busy.value = false
}
onMounted(() => attempt(find))
</script>

<template>
  <p
    v-if="failure"
    class="page note is-refusal"
  >
    {{ failure }} <NuxtLink to="/centres">{{ say('centres.toTheRuns') }}</NuxtLink>
  </p>
  <template v-else-if="run && cycle.notice">
    <div class="sheet-row grow">
      <div class="body">
        <CentresAreas />
        <h1>{{ say('centres.runByPolicy', { serial: run.serial, policy: policyTitles[run.policy.kind].toLowerCase() }) }}</h1>
        <p class="soft">
          {{ say('centres.peopleThoseToldBeforeAmongThem', { people: run.summary.people, scope: run.scope, at: spelling.instant(run.at), by: run.by, tookMilliseconds: (run.tookMilliseconds / 1000).toFixed(1), hasPublishedAt: String(Boolean(run.publishedAt)), publishedAt: spelling.instant(run.publishedAt), publishedBy: run.publishedBy }) }}<template v-if="run.note">
            · {{ run.note }}
          </template>
        </p>
        <p
          v-if="told"
          class="note is-attention"
        >
          {{ say('centres.peopleWhoWereToldACity', { moves: run.moves }) }} <button
            class="press"
            @click="filter({ kind: 'moved' })"
          >
            {{ say('centres.seeWhoAndWhy') }}
          </button>
        </p>
        <div class="two">
          <CentresChoiceBars
            :outcome="run.summary"
            pressable
            @choose="filter"
          />
          <CentresDistanceChart :outcome="run.summary" />
        </div>
        <CentresCityMap
          :cities="cycle.notice.cities"
          :figures="run.summary.cities"
          :chosen="chosen"
          @choose="filter({ city: $event })"
        />
        <CentresSittings
          v-if="run.sittings.length > 0"
          :sittings="run.sittings"
        />
        <CentresKeptSeats
          v-if="run.kept.length > 0"
          :kept="run.kept"
          @choose="filter({ city: $event })"
        />
        <CentresCityFigures
          :run="run"
          :chosen="chosen"
          @choose="filter({ city: $event })"
          @computed="load"
        />
        <CentresRunPeople
          id="people"
          :run="run"
        />
      </div>
      <div class="beside">
        <h2>{{ say('centres.proof') }}</h2>
        <p :class="{ settled: run.standing === 'certified', refusal: run.standing === 'not certified' }">
          <b><CentresStanding :standing="run.standing" /></b>
        </p>
        <p :class="{ refusal: run.standing === 'not certified' }">
          {{ standingWords(run) }}
        </p>
        <dl>
          <template
            v-for="[what, cost] in costWords(run.policy)"
            :key="what"
          >
            <dt>{{ what }}</dt><dd>{{ cost }}</dd>
          </template>
          <template v-if="run.policy.kind === 'lottery'">
            <dt>{{ say('centres.seed') }}</dt><dd>{{ run.policy.seed }}</dd>
          </template>
          <template v-if="run.scope === 'everyone'">
            <dt>{{ say('centres.movingSomebodyTold') }}</dt><dd>{{ say('centres.points', { staying: run.policy.staying }) }}</dd>
          </template>
          <template
            v-for="title in run.restrictions"
            :key="title"
          >
            <dt>{{ say('centres.heldTo') }}</dt><dd>{{ title }}</dd>
          </template>
          <dt>{{ say('centres.whatWentIn') }}</dt><dd :title="run.inputsSha256">
            {{ say('centres.sha256', { inputsSha256: run.inputsSha256.slice(0, 16) }) }}
          </dd>
        </dl>
        <h2>{{ say('centres.takeItAlong') }}</h2>
        <ul class="links">
          <li><a :href="`/api/runs/${id}/report.pdf`">{{ say('centres.reportForTheFilePdf') }}</a></li>
          <li><a :href="`/api/runs/${id}/allotment.csv`">{{ say('centres.everyoneSCityCsv') }}</a></li>
          <li><a :href="`/api/runs/${id}/cities.geojson`">{{ say('centres.citiesWithFiguresGeojson') }}</a></li>
        </ul>
        <h2>{{ say('centres.citiesByFill') }}</h2>
        <CentresFillChart
          :outcome="run.summary"
          @choose="filter({ city: $event })"
        />
        <CentresMissingSeats
          v-if="run.missing.length > 0 && !run.publishedAt"
          :missing="run.missing"
          @added="load"
        />
      </div>
    </div>
    <div class="action-bar">
      <NuxtLink to="/centres">{{ say('centres.allRuns') }}</NuxtLink>
      <JobsProgress
        :job="job?.state === 'done' ? null : job"
        :live="live"
        undone
        :what="say('centres.publishingCityByCity')"
        @cancel="attempt(cancel)"
      />
      <ElButton
        v-if="session.may('centres.run')"
        @click="router.push({ path: '/centres/new', query: { from: id } })"
      >
        {{ say('centres.newRunLikeThis') }}
      </ElButton>
      <p
        v-if="run.standing === 'not certified'"
        class="refusal push"
      >
        {{ say('centres.notCertifiedThisRunCannotBe') }}
      </p>
      <ElButton
        v-else-if="!run.publishedAt && !live && session.may('centres.publish')"
        class="push"
        type="primary"
        :disabled="run.missing.length > 0"
        @click="asking = true"
      >
        {{ say('centres.publishRun', { serial: run.serial }) }}
      </ElButton>
      <ElButton
        v-else-if="run.publishedAt && session.may('cards.issue')"
        class="push"
        type="primary"
        @click="router.push('/cards')"
      >
        {{ say('centres.toTheCards') }}
      </ElButton>
    </div>
    <ActDialog
      v-if="asking"
      :standing="standing"
      :busy="busy"
      :subject="say('centres.run', { serial: run.serial })"
      @act="publish"
      @close="asking = false"
    >
      <p>{{ say('centres.peopleGetTheirCentreSessionSeat', { people: run.summary.people - run.summary.unseated }) }} <b>{{ policyTitles[run.policy.kind].toLowerCase() }}</b>. {{ standingWords(run) }}</p>
      <p
        v-if="told"
        class="note is-attention"
      >
        {{ say('centres.peopleWhoWereToldAnotherCity', { moves: run.moves }) }}
      </p>
      <p class="soft small">
        {{ say('centres.theActIsRecordedWithYour') }}
      </p>
    </ActDialog>
  </template>
</template>

<style scoped>
.grow { flex: 1; }
.body { padding-top: 18px !important; padding-bottom: 24px !important; }
.beside { padding-top: 18px !important; }
.two { display: grid; grid-template-columns: minmax(280px, 1fr) minmax(280px, 1fr); gap: 24px; margin: 16px 0; align-items: start; }
.beside h2 { margin: 18px 0 4px; }
.beside h2:first-child { margin-top: 0; }
dl { display: grid; grid-template-columns: auto 1fr; gap: 2px 14px; margin: 8px 0; font-size: 15px; }
dt { color: var(--ink-soft); }
dd { margin: 0; }
.links { margin: 4px 0; padding-left: 18px; }
@media (max-width: 1100px) { .two { grid-template-columns: minmax(0, 1fr); } }
</style>
