<script setup lang="ts">
import type { Desk } from '~~/shared/applications'
import { matterKinds } from '~~/core/application/open-matters'
import type { Headline } from '~~/core/application/tracks'
import type { ProposalView } from '~~/shared/acts'
import { spellMinutes } from '~~/core/calendar/zone'

const { headlineShapes, matterLines, ownerWords } = useWords().work

/** The desk: what needs this member of staff today, the most pressing first. */
useHead({ title: titled(say('desk.desk')) })
const cycle = useCycleStore()
const session = useSessionStore()
const spelling = useSpelling()
const now = useNow()
const desk = shallowRef<Desk | null>(null)

interface Need {
  key: string
  shape: string
  count: number
  text: string
  oldest: string | null
  act: string
  to: string
}
const needs = computed<Need[]>(() => {
  const list: Need[] = []
  const add = (headline: Headline, text: string, act: string, to: string) => {
    const wait = desk.value?.waits.find(w => w.headline === headline)
    if (wait && wait.count > 0) {
      list.push({ key: headline, shape: headlineShapes[headline], count: wait.count, text, oldest: wait.oldest, act, to })
    }
  }
  if (session.may('scrutiny.decide')) {
    add('in scrutiny', say('desk.waitForScrutiny'), say('desk.beginWithTheOldest'), '/scrutiny?begin=oldest')
  }
  const hanging = desk.value?.hangingPayments
  if (hanging && hanging.count > 0) {
    list.push({
      key: 'hanging',
      shape: '?',
      count: hanging.count,
      text: say('desk.paymentsWithoutAResult'),
      oldest: hanging.oldest,
      act: say('desk.toThePayments'),
      to: '/fees',
    })
  }
  const asked = desk.value?.questions
  if (asked && asked.count > 0) {
    list.push({
      key: 'questions',
      shape: '?',
      count: asked.count,
      text: say('desk.questionsOfCandidates'),
      oldest: asked.oldest,
      act: say('desk.toTheQuestions'),
      to: '/questions',
    })
  }
  if (session.may('centres.run')) add('accepted', say('desk.acceptedNoCentreYet'), say('desk.toTheAllocation'), '/centres')
  const run = desk.value?.unpublishedRun
  if (run) {
    list.push({
      key: 'run',
      shape: '▣',
      count: 1,
      text: say('desk.allocationRunIsNotPublished', { serial: run.serial }),
      oldest: run.at,
      act: say('desk.lookAtTheRun'),
      to: `/centres/${run.id}`,
    })
  }
  if (session.may('cards.issue')) add('placed', say('desk.placedNoAdmitCardYet'), say('desk.toTheCards'), '/cards')
  add('returned', say('desk.returnedWaitForTheCandidate'), say('desk.showThem'), '/roster?headline=returned')
  add('fee due', say('desk.submittedFeeNotSettled'), say('desk.showThem'), '/roster?headline=fee+due')
  add('drafting', say('desk.begunNotSubmitted'), say('desk.showThem'), '/roster?headline=drafting')
  return list
})
const age = (at: string) => spellMinutes(Math.max(0, Math.floor((now.value.getTime() - new Date(at).getTime()) / 60_000)))

const { busy: registering, standing: askingToRegister, register } = useRegister()
const proposals = shallowRef<ProposalView[]>([])
async function load() {
  desk.value = await callApi<Desk>(cycle.path('desk'))
  proposals.value = desk.value.proposals > 0 ? await callApi<ProposalView[]>(cycle.path('proposals')) : []
}
const matters = computed(() => [...desk.value?.matters ?? []].sort((a, b) => matterKinds.indexOf(a.kind) - matterKinds.indexOf(b.kind)))
const { failure } = useLoaded(async () => {
  if (cycle.code && session.may('roster.read')) await load()
})
</script>

<template>
  <div class="sheet-row">
    <div class="body">
      <div class="page-head">
        <h1>{{ say('desk.whatNeedsYouToday') }}</h1>
        <div class="actions">
          <ElButton
            v-if="session.may('applications.begin')"
            type="primary"
            :loading="registering"
            @click="register()"
          >
            {{ say('desk.registerACandidate') }}
          </ElButton>
        </div>
      </div>
      <HouseAlert
        :text="failure"
        kind="refusal"
      />
      <ul v-if="needs.length > 0">
        <li
          v-for="need in needs"
          :key="need.key"
        >
          <span
            class="shape"
            aria-hidden="true"
          >{{ need.shape }}</span>
          <b class="count">{{ countText(need.count) }}</b>
          <span class="text">{{ need.text }} <span
            v-if="need.oldest"
            class="soft small"
          >{{ say('desk.oldestWaits', { oldest: age(need.oldest) }) }}</span></span>
          <NuxtLink :to="need.to">{{ need.act }}</NuxtLink>
        </li>
      </ul>
      <p
        v-else-if="desk"
        class="soft"
      >
        {{ say('desk.nothingWaitsNewApplicationsAppear') }}
      </p>
      <p
        v-else-if="!session.may('roster.read')"
        class="soft"
      >
        {{ say('desk.yourRoleLooksAfterAccounts') }} <NuxtLink
          v-if="session.may('staff.manage')"
          to="/people"
        >{{ say('desk.toThePeopleOfTheOffice') }}</NuxtLink>
      </p>
      <p
        v-else-if="!cycle.code && !failure"
        class="soft"
      >
        {{ say('desk.thisOfficeHasNoCycleYet') }} <NuxtLink to="/notice">{{ say('desk.openTheFirstNotice') }}</NuxtLink>
      </p>
      <DeskProposals
        v-if="proposals.length > 0"
        :proposals="proposals"
        @settled="attempt(load)"
      />
      <section v-if="matters.length > 0">
        <h2 class="section-title">
          {{ say('desk.everythingThatIsOpen') }}
        </h2>
        <HouseTable
          :columns="[
            { key: 'count', title: say('desk.count'), kind: 'number' },
            { key: 'what', title: say('desk.what'), text: matter => matterLines[matter.kind] },
            { key: 'who', title: say('desk.whoMustAct'), look: 'soft', text: matter => ownerWords[matter.owner] },
            {
              key: 'last',
              title: say('desk.nearestLastMoment'),
              look: 'soft',
              text: matter => matter.nearest ? spelling.instant(matter.nearest) : '–',
            },
          ]"
          :rows="matters"
          :row-key="matter => matter.kind"
        >
          <template #count="{ row: matter }">
            <b>{{ countText(matter.count) }}</b>
          </template>
        </HouseTable>
      </section>
    </div>
    <div class="beside">
      <DeskMargin :desk="desk" />
    </div>
    <ActDialog
      v-if="askingToRegister"
      :standing="askingToRegister"
      :busy="registering"
      @act="register"
      @close="askingToRegister = null"
    />
  </div>
</template>

<style scoped>
.sheet-row { flex: 1; }
.body { padding-top: 20px !important; }
.beside { padding-top: 24px !important; }
ul { list-style: none; margin: 0; padding: 0; }
li {
  display: grid; grid-template-columns: 28px 64px minmax(0, 1fr) auto; gap: 8px; align-items: baseline; padding: 13px 0;
  border-bottom: 1px solid var(--line);
}
.shape { color: var(--accent); text-align: center; }
.count { font-size: 20px; text-align: right; padding-right: 8px; }
section { margin-top: 24px; }
</style>
