<script setup lang="ts">
import type { Desk } from '~~/shared/applications'
import type { Headline } from '~~/core/application/tracks'
import { headlineShapes } from '~~/core/words/en/work'
import { spellInstant, spellMinutes, spellUntil } from '~~/core/calendar/zone'

/** The desk: what needs this member of staff today, the most pressing first. */
useHead({ title: 'Desk · Lucid Roster' })
const cycle = useCycleStore()
const session = useSessionStore()
const router = useRouter()
const now = useNow()
const desk = shallowRef<Desk | null>(null)
const failure = ref('')

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
    ['Applications open', keyDates.opens], ['Applications close', keyDates.closes], ['Corrections open', keyDates.correctionOpens],
    ['Corrections close', keyDates.correctionCloses], ['Cards go out', keyDates.cardsFrom],
  ] as const
  return rows.map(([title, at]) => ({ title, at: spellInstant(at, body.zone), left: spellUntil(at, now.value) }))
})
const age = (at: string) => spellMinutes(Math.max(0, Math.floor((now.value.getTime() - new Date(at).getTime()) / 60_000)))

async function register() {
  await attempt(async () => {
    const id = crypto.randomUUID()
    await callApi(cycle.path(`applications/${id}`), { method: 'PUT' })
    await router.push(`/intake/${id}`)
  })
}
onMounted(async () => {
  try {
    desk.value = await callApi<Desk>(cycle.path('desk'))
  } catch (error) {
    failure.value = problemText(error)
  }
})
</script>

<template>
  <div class="sheet-row">
    <div class="body">
      <div class="page-head">
        <h1>What needs you today</h1>
        <div class="actions">
          <ElButton
            v-if="session.may('intake.write')"
            type="primary"
            @click="register"
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
    </div>
    <div class="beside">
      <h2>Key dates</h2>
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
    </div>
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
dl { margin: 12px 0 0; }
dt { font-weight: 600; }
dt .soft { font-weight: 400; }
dd { margin: 0 0 12px; }
</style>
