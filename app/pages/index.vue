<script setup lang="ts">
import type { Desk } from '~~/shared/applications'
import type { ActId } from '~~/core/application/acts/rule'
import { matterKinds } from '~~/core/application/open-matters'
import type { Headline } from '~~/core/application/tracks'
import type { ProposalView } from '~~/shared/acts'
import { spellInstant, spellMinutes, spellUntil } from '~~/core/calendar/zone'

const { actButtons } = useWords().acts
const { headlineShapes, matterLines, ownerWords } = useWords().work

/** The desk: what needs this member of staff today, the most pressing first. */
useHead({ title: titled(say('desk.desk')) })
const cycle = useCycleStore()
const session = useSessionStore()
const spelling = useSpelling()
const now = useNow()
const { value: spellTag } = useTags()
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
const dates = computed(() => {
  const { keyDates, body } = cycle.notice ?? {}
  if (!keyDates || !body) return []
  return keyDateLines(keyDates).map(([title, at]) => ({ title, at: spellInstant(at, body.zone), left: spellUntil(at, now.value) }))
})
const age = (at: string) => spellMinutes(Math.max(0, Math.floor((now.value.getTime() - new Date(at).getTime()) / 60_000)))

const { busy: registering, standing: askingToRegister, register } = useRegister()
const proposals = shallowRef<ProposalView[]>([])
async function load() {
  desk.value = await callApi<Desk>(cycle.path('desk'))
  proposals.value = desk.value.proposals > 0 ? await callApi<ProposalView[]>(cycle.path('proposals')) : []
}
async function settle(id: string, method: 'POST' | 'DELETE') {
  if (await attempt(() => callApi(`/api/proposals/${id}`, { method }))) await attempt(load)
}
const actTitle = (act: string) =>
  act === 'publish-run'
    ? say('desk.publishARun')
    : act === 'change-rooms'
    ? say('desk.changeRooms')
    : act === 'release-erasing'
    ? say('desk.releaseErasing')
    : actButtons[act as ActId]?.press ?? act
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
      <section v-if="proposals.length > 0">
        <h2 class="section-title">
          {{ say('desk.waitsForASecondPerson') }}
        </h2>
        <ul>
          <li
            v-for="one in proposals"
            :key="one.id"
            class="proposal"
          >
            <span><b>{{ actTitle(one.act) }}</b> <NuxtLink
              v-if="one.number"
              :to="`/intake/${one.subject}`"
            >{{ one.number }} {{ one.person }}</NuxtLink><template v-else-if="one.rooms.length > 0">
              {{ one.rooms.map(room => say('desk.roomProposed', { ...room, lost: String(room.lost) })).join('; ') }}
            </template><NuxtLink
              v-else-if="one.act === 'release-erasing'"
              to="/records"
            >{{ cycle.code }}</NuxtLink><NuxtLink
              v-else
              :to="`/centres/${one.subject}`"
            >{{ say('desk.theRun') }}</NuxtLink>
              <span class="soft small block">{{ say('desk.begunBy', { by: one.by, at: spelling.instant(one.at), reason: one.reason }) }}</span></span>
            <span class="actions">
              <span
                v-if="one.isOwn"
                class="soft small"
              >{{ say('desk.somebodyElseConfirmsIt') }}</span>
              <ElButton
                v-else-if="session.may(one.settledBy)"
                type="primary"
                size="small"
                @click="settle(one.id, 'POST')"
              >{{ say('desk.confirm') }}</ElButton>
              <ElButton
                v-if="one.isOwn || session.may(one.settledBy)"
                size="small"
                @click="settle(one.id, 'DELETE')"
              >{{ say('desk.withdraw') }}</ElButton>
            </span>
          </li>
        </ul>
      </section>
      <section v-if="matters.length > 0">
        <h2 class="section-title">
          {{ say('desk.everythingThatIsOpen') }}
        </h2>
        <table class="plain-table">
          <thead><tr><th class="number">{{ say('desk.count') }}</th><th>{{ say('desk.what') }}</th><th>{{ say('desk.whoMustAct') }}</th><th>{{ say('desk.nearestLastMoment') }}</th></tr></thead>
          <tbody>
            <tr
              v-for="matter in matters"
              :key="matter.kind"
            >
              <td class="number">
                <b>{{ countText(matter.count) }}</b>
              </td>
              <td>{{ matterLines[matter.kind] }}</td>
              <td class="soft">
                {{ ownerWords[matter.owner] }}
              </td>
              <td class="soft">
                {{ matter.nearest ? spelling.instant(matter.nearest) : '–' }}
              </td>
            </tr>
          </tbody>
        </table>
      </section>
    </div>
    <div class="beside">
      <template v-if="desk && desk.outsideDates.count > 0">
        <h2>{{ say('desk.outsideTheDates') }}</h2>
        <p class="outside">
          {{ say('desk.actsOutsideTheDates', { count: desk.outsideDates.count, latest: spelling.instant(desk.outsideDates.latest ?? '') }) }} <NuxtLink
            v-if="session.may('records.read')"
            to="/records"
          >{{ say('desk.records') }}</NuxtLink>
        </p>
      </template>
      <template v-if="desk && desk.unread.length > 0">
        <h2>{{ say('desk.toldNotRead') }}</h2>
        <p class="soft small">
          {{ say('desk.toldNotReadHelp') }}
        </p>
        <ul class="unread">
          <li
            v-for="one in desk.unread"
            :key="one.of"
          >
            <NuxtLink :to="`/roster?is=unread:${one.of}`">{{ spellTag(`unread:${one.of}`) }}</NuxtLink> <b>{{ countText(one.count) }}</b>
          </li>
        </ul>
      </template>
      <h2 v-if="dates.length > 0">{{ say('desk.keyDates') }}</h2>
      <dl>
        <template
          v-for="date in dates"
          :key="date.title"
        >
          <dt>{{ date.title }} <span
            v-if="date.left"
            class="soft"
          >{{ say('desk.in', { left: date.left }) }}</span> <span
            v-else
            class="soft"
          >{{ say('desk.past') }}</span></dt>
          <dd>{{ date.at }}</dd>
        </template>
      </dl>
      <p v-if="cycle.code && session.may('work.read')">
        <NuxtLink to="/work">{{ say('desk.workInTheBackground') }}</NuxtLink>
      </p>
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
.proposal { grid-template-columns: minmax(0, 1fr) auto; }
.proposal .actions { display: flex; gap: 8px; align-items: center; }
.unread { margin: 6px 0 20px; }
.unread li { display: flex; justify-content: space-between; gap: 12px; padding: 5px 0; }
.block { display: block; }
.outside { margin: 8px 0 20px; }
dl { margin: 12px 0 0; }
dt { font-weight: 600; }
dt .soft { font-weight: 400; }
dd { margin: 0 0 12px; }
</style>
