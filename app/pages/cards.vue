<script setup lang="ts">
import type { ActStanding } from '~~/core/application/acts/judge'
import type { Permit } from '~~/app/composables/act'
import type { CardsOverview } from '~~/shared/centres'

const { blockerWords } = useWords().work

/** Admit cards: issued for everybody seated; what is withheld, and why. */
useHead({ title: titled(say('cards.cards')) })
const cycle = useCycleStore()
const session = useSessionStore()
const spelling = useSpelling()
const view = shallowRef<CardsOverview | null>(null)

const { failure, reload: load } = useLoaded(async () => {
  view.value = await callApi<CardsOverview>(cycle.path('cards'))
})
const { job, live, find, startAt, cancel } = useJob('issue-cards', async () => {
  await load()
  await cycle.refreshBand().catch(() => undefined)
})
const asking = ref(false)
const venue = ref('')
const standing = computed<ActStanding>(() => ({
  act: 'issue-card',
  refusal: null,
  outsideDates: view.value?.early ?? null,
  needsReason: false,
  needsSecond: false,
  isFinal: true,
}))
const whyWithheld = ({ blockers, held, letters }: CardsOverview['withheld'][number]) =>
  blockers.map(one =>
    [blockerWords[one], one === 'hold' ? held : '', one === 'letters' ? letters.join(', ') : ''].filter(Boolean).join(' ')
  ).join(' ') || say('cards.nothingStandsInTheWayAny')
async function issue(permit: Permit) {
  if (await attempt(() => startAt(cycle.path('jobs/issue-cards'), permit))) asking.value = false
}
onMounted(() => attempt(find))
</script>

<template>
  <div class="page">
    <div class="page-head">
      <h1>{{ say('cards.canBeIssued', { ready: view?.ready ?? 0 }) }}</h1>
      <span class="soft">{{ say('cards.issuedWithheld', { issued: view?.issued ?? 0, withheld: view?.withheld.length ?? 0 }) }}</span>
      <div class="actions">
        <NuxtLink to="/check">{{ say('cards.checkACard') }}</NuxtLink>
        <ElButton
          v-if="session.may('cards.issue')"
          type="primary"
          :disabled="live || ((view?.ready ?? 0) + (view?.withheld.length ?? 0)) === 0"
          @click="asking = true"
        >
          {{ say('cards.issueTheCards') }}
        </ElButton>
      </div>
    </div>
    <HouseAlert
      :text="failure"
      kind="refusal"
    />
    <JobsProgress
      :job="job"
      :live="live"
      :what="say('cards.issuingCards')"
      @cancel="attempt(cancel)"
    />
    <p
      v-if="job?.state === 'done' && job.result"
      class="note"
    >
      {{ say('cards.theLastIssueGaveOutCard', { issued: job.result.issued, withheld: job.result.withheld }) }}
    </p>
    <section v-if="view && view.withheld.length > 0">
      <h2 class="section-title">
        {{ say('cards.withheld') }}
      </h2>
      <HouseTable
        :columns="[
          { key: 'number' },
          { key: 'name', text: one => one.name },
          { key: 'why', look: 'refusal', text: whyWithheld },
        ]"
        :rows="view.withheld"
        :row-key="one => one.applicationId"
      >
        <template #number="{ row: one }">
          <NuxtLink :to="`/intake/${one.applicationId}`">{{ one.number }}</NuxtLink>
        </template>
      </HouseTable>
    </section>
    <section v-if="view && view.issued > 0">
      <h2 class="section-title">
        {{ say('cards.printTogether') }}
      </h2>
      <div class="together">
        <ElSelect
          v-model="venue"
          filterable
          :aria-label="say('cards.chooseVenue')"
          :placeholder="say('cards.chooseVenue')"
        >
          <ElOption
            v-for="one in view.venues"
            :key="one.id"
            :value="one.id"
            :label="`${one.title}, ${one.city}`"
          />
        </ElSelect>
        <a
          v-if="venue"
          :href="`${cycle.path('cards/print')}?venue=${encodeURIComponent(venue)}`"
          download
        >{{ say('cards.allCardsPdf') }}</a>
        <span class="soft">{{ say('cards.inOneFile') }}</span>
      </div>
    </section>
    <section v-if="view">
      <h2 class="section-title">
        {{ say('cards.issuedLast') }}
      </h2>
      <p
        v-if="view.newest.length === 0"
        class="soft"
      >
        {{ say('cards.noCardYetPublishAnAllocation') }}
      </p>
      <HouseTable
        v-else
        :columns="[
          { key: 'application', title: say('cards.application') },
          { key: 'name', title: say('cards.name'), text: card => card.name },
          { key: 'roll', title: say('cards.rollNumber'), text: card => card.roll },
          { key: 'city', title: say('cards.city'), text: card => card.city },
          { key: 'issued', title: say('cards.issued'), text: card => spelling.instant(card.at) },
          { key: 'card', title: say('cards.card') },
        ]"
        :rows="view.newest"
        :row-key="card => card.number"
      >
        <template #application="{ row: card }">
          <NuxtLink :to="`/intake/${card.applicationId}`">{{ card.number }}</NuxtLink>
        </template>
        <template #card="{ row: card }">
          <a
            :href="`/api/applications/${card.applicationId}/card`"
            target="_blank"
          >{{ say('cards.pdfVersion', { version: card.version }) }}</a>
        </template>
      </HouseTable>
    </section>
    <ActDialog
      v-if="asking"
      :standing="standing"
      :subject="say('cards.peopleHoldASeatAndNo', { ready: view?.ready ?? 0 })"
      @act="issue"
      @close="asking = false"
    />
  </div>
</template>

<style scoped>
section { margin-top: 20px; }
.note { margin: 8px 0; }
.together { display: flex; flex-wrap: wrap; gap: 12px; align-items: center; }
.together .el-select { width: min(360px, 100%); }
</style>
