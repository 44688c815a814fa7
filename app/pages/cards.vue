<script setup lang="ts">
import type { ActStanding } from '~~/core/application/acts/judge'
import type { Permit } from '~~/app/composables/act'
import type { CardsOverview } from '~~/shared/centres'

/** Admit cards: issued for everybody seated; what is withheld, and why. */
useHead({ title: 'Cards · Lucid Roster' })
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
const standing = computed<ActStanding>(() => ({ act: 'issue-card', refusal: null, outsideDates: view.value?.early ?? null, needsReason: false, needsSecond: false, isFinal: true }))
async function issue(permit: Permit) {
  if (await attempt(() => startAt(cycle.path('jobs/issue-cards'), permit))) asking.value = false
}
onMounted(() => attempt(find))
</script>

<template>
  <div class="page">
    <div class="page-head">
      <h1>{{ view?.ready ?? 0 }} {{ view?.ready === 1 ? 'card' : 'cards' }} can be issued</h1>
      <span class="soft">{{ view?.issued ?? 0 }} issued · {{ view?.withheld.length ?? 0 }} withheld</span>
      <div class="actions">
        <NuxtLink to="/check">Check a card</NuxtLink>
        <ElButton
          v-if="session.may('cards.issue')"
          type="primary"
          :disabled="live || ((view?.ready ?? 0) + (view?.withheld.length ?? 0)) === 0"
          @click="asking = true"
        >
          Issue the cards
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
      what="Issuing cards"
      @cancel="attempt(cancel)"
    />
    <p
      v-if="job?.state === 'done' && job.result"
      class="note"
    >
      The last issue gave out {{ job.result.issued }} {{ job.result.issued === 1 ? 'card' : 'cards' }} and withheld {{ job.result.withheld }}.
    </p>
    <section v-if="view && view.withheld.length > 0">
      <h2 class="section-title">
        Withheld
      </h2>
      <table class="plain-table">
        <tbody>
          <tr
            v-for="one in view.withheld"
            :key="one.applicationId"
          >
            <td><NuxtLink :to="`/intake/${one.applicationId}`">{{ one.number }}</NuxtLink></td><td>{{ one.name }}</td>
            <td class="refusal">
              {{ one.blockers.join(' ') || 'Nothing stands in the way any more: issue again.' }}
            </td>
          </tr>
        </tbody>
      </table>
    </section>
    <section v-if="view">
      <h2 class="section-title">
        Issued last
      </h2>
      <p
        v-if="view.newest.length === 0"
        class="soft"
      >
        No card yet. Publish an allocation run first, then issue the cards here.
      </p>
      <table
        v-else
        class="plain-table"
      >
        <thead><tr><th>application</th><th>name</th><th>roll number</th><th>city</th><th>issued</th><th>card</th></tr></thead>
        <tbody>
          <tr
            v-for="card in view.newest"
            :key="card.number"
          >
            <td><NuxtLink :to="`/intake/${card.applicationId}`">{{ card.number }}</NuxtLink></td><td>{{ card.name }}</td><td>{{ card.roll }}</td><td>{{ card.city }}</td>
            <td>{{ spelling.instant(card.at) }}</td>
            <td>
              <a
                :href="`/api/applications/${card.applicationId}/card`"
                target="_blank"
              >PDF, version {{ card.version }}</a>
            </td>
          </tr>
        </tbody>
      </table>
    </section>
    <ActDialog
      v-if="asking"
      :standing="standing"
      :subject="`${view?.ready ?? 0} people hold a seat and no card`"
      @act="issue"
      @close="asking = false"
    />
  </div>
</template>

<style scoped>
section { margin-top: 20px; }
.note { margin: 8px 0; }
</style>
