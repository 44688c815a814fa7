<script setup lang="ts">
import type { Desk } from '~~/shared/applications'
import { settlePermission, type ActId } from '~~/core/application/acts/table'
import { matterKinds } from '~~/core/application/open-matters'
import type { Headline } from '~~/core/application/tracks'
import { actButtons } from '~~/core/words/en/acts'
import { headlineShapes, matterLines, ownerWords } from '~~/core/words/en/work'
import type { ProposalView } from '~~/shared/acts'
import { spellInstant, spellMinutes, spellUntil } from '~~/core/calendar/zone'

/** The desk: what needs this member of staff today, the most pressing first. */
useHead({ title: 'Desk · Lucid Roster' })
const cycle = useCycleStore()
const session = useSessionStore()
const spelling = useSpelling()
const now = useNow()
const desk = shallowRef<Desk | null>(null)

interface Need { key: string, shape: string, count: number, text: string, oldest: string | null, act: string, to: string }
const needs = computed<Need[]>(() => {
  const list: Need[] = []
  const add = (headline: Headline, text: string, act: string, to: string) => {
    const wait = desk.value?.waits.find(w => w.headline === headline)
    if (wait && wait.count > 0) list.push({ key: headline, shape: headlineShapes[headline], count: wait.count, text, oldest: wait.oldest, act, to })
  }
  if (session.may('scrutiny.decide')) add('in scrutiny', 'wait for scrutiny', 'Begin with the oldest', '/scrutiny?begin=oldest')
  const hanging = desk.value?.hangingPayments
  if (hanging && hanging.count > 0) list.push({ key: 'hanging', shape: '?', count: hanging.count, text: 'payments without a result', oldest: hanging.oldest, act: 'To the payments', to: '/fees' })
  if (session.may('centres.run')) add('accepted', 'accepted, no centre yet', 'To the allocation', '/centres')
  const run = desk.value?.unpublishedRun
  if (run) list.push({ key: 'run', shape: '▣', count: 1, text: `allocation run ${run.serial} is not published`, oldest: run.at, act: 'Look at the run', to: `/centres/${run.id}` })
  if (session.may('cards.issue')) add('placed', 'placed, no admit card yet', 'To the cards', '/cards')
  add('returned', 'returned, wait for the candidate', 'Show them', '/roster?headline=returned')
  add('fee due', 'submitted, fee not settled', 'Show them', '/roster?headline=fee+due')
  add('drafting', 'begun, not submitted', 'Show them', '/roster?headline=drafting')
  return list
})
const dates = computed(() => {
  const { keyDates, body } = cycle.notice ?? {}
  if (!keyDates || !body) return []
  const rows = [
    ['Applications open', keyDates.opens], ['Applications close', keyDates.closes], ['Last moment to pay', keyDates.lastPayment], ['Corrections open', keyDates.correctionOpens],
    ['Corrections close', keyDates.correctionCloses], ['Cards go out', keyDates.cardsFrom],
  ] as const
  return rows.map(([title, at]) => ({ title, at: spellInstant(at, body.zone), left: spellUntil(at, now.value) }))
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
const actTitle = (act: string) => act === 'publish-run' ? 'Publish a run' : actButtons[act as ActId]?.press ?? act
const matters = computed(() => [...desk.value?.matters ?? []].sort((a, b) => matterKinds.indexOf(a.kind) - matterKinds.indexOf(b.kind)))
const { failure } = useLoaded(async () => {
  if (cycle.code && session.may('roster.read')) await load()
})
</script>

<template>
  <div class="sheet-row">
    <div class="body">
      <div class="page-head">
        <h1>What needs you today</h1>
        <div class="actions">
          <ElButton
            v-if="session.may('applications.begin')"
            type="primary"
            :loading="registering"
            @click="register()"
          >
            Register a candidate
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
          <b class="count">{{ need.count.toLocaleString('en-GB') }}</b>
          <span class="text">{{ need.text }}<span
            v-if="need.oldest"
            class="soft small"
          > · oldest waits {{ age(need.oldest) }}</span></span>
          <NuxtLink :to="need.to">{{ need.act }}</NuxtLink>
        </li>
      </ul>
      <p
        v-else-if="desk"
        class="soft"
      >
        Nothing waits. New applications appear here as they come in; to begin one, register a candidate.
      </p>
      <p
        v-else-if="!session.may('roster.read')"
        class="soft"
      >
        Your role looks after accounts. <NuxtLink
          v-if="session.may('staff.manage')"
          to="/people"
        >To the people of the office</NuxtLink>
      </p>
      <p
        v-else-if="!cycle.code && !failure"
        class="soft"
      >
        This office has no cycle yet. It begins with a notice: the definition of one examination. <NuxtLink to="/notice">Open the first notice</NuxtLink>
      </p>
      <section v-if="proposals.length > 0">
        <h2 class="section-title">
          Waits for a second person
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
            >{{ one.number }} {{ one.person }}</NuxtLink><NuxtLink
              v-else
              :to="`/centres/${one.subject}`"
            >the run</NuxtLink>
              <span class="soft small block">begun by {{ one.by }}, {{ spelling.instant(one.at) }}: {{ one.reason }}</span></span>
            <span class="actions">
              <span
                v-if="one.isOwn"
                class="soft small"
              >somebody else confirms it</span>
              <ElButton
                v-else-if="session.may(settlePermission(one.act))"
                type="primary"
                size="small"
                @click="settle(one.id, 'POST')"
              >Confirm</ElButton>
              <ElButton
                v-if="one.isOwn || session.may(settlePermission(one.act))"
                size="small"
                @click="settle(one.id, 'DELETE')"
              >Withdraw</ElButton>
            </span>
          </li>
        </ul>
      </section>
      <section v-if="matters.length > 0">
        <h2 class="section-title">
          Everything that is open
        </h2>
        <table class="plain-table">
          <thead><tr><th class="number">count</th><th>what</th><th>who must act</th><th>nearest last moment</th></tr></thead>
          <tbody>
            <tr
              v-for="matter in matters"
              :key="matter.kind"
            >
              <td class="number">
                <b>{{ matter.count.toLocaleString('en-GB') }}</b>
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
        <h2>Outside the dates</h2>
        <p class="outside">
          ▲ {{ desk.outsideDates.count.toLocaleString('en-GB') }} {{ desk.outsideDates.count === 1 ? 'act' : 'acts' }} of officers outside the notice's dates, the latest {{ spelling.instant(desk.outsideDates.latest ?? '') }}. <NuxtLink
            v-if="session.may('records.read')"
            to="/records"
          >Records</NuxtLink>
        </p>
      </template>
      <h2 v-if="dates.length > 0">Key dates</h2>
      <dl>
        <template
          v-for="date in dates"
          :key="date.title"
        >
          <dt>{{ date.title }}<span
            v-if="date.left"
            class="soft"
          > in {{ date.left }}</span><span
            v-else
            class="soft"
          > · past</span></dt>
          <dd>{{ date.at }}</dd>
        </template>
      </dl>
      <p v-if="cycle.code && session.may('work.read')">
        <NuxtLink to="/work">Work in the background</NuxtLink>
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
li { display: grid; grid-template-columns: 28px 64px minmax(0, 1fr) auto; gap: 8px; align-items: baseline; padding: 13px 0; border-bottom: 1px solid var(--line); }
.shape { color: var(--accent); text-align: center; }
.count { font-size: 20px; text-align: right; padding-right: 8px; }
section { margin-top: 24px; }
.proposal { grid-template-columns: minmax(0, 1fr) auto; }
.proposal .actions { display: flex; gap: 8px; align-items: center; }
.block { display: block; }
.outside { margin: 8px 0 20px; }
dl { margin: 12px 0 0; }
dt { font-weight: 600; }
dt .soft { font-weight: 400; }
dd { margin: 0 0 12px; }
</style>
