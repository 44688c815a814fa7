<script setup lang="ts">
import type { DueView, LineDetail, LinePage, LineView, MatchingStanding, MatchView } from '~~/shared/bank'

/** Lines of statements side by side with whose money they may be. What matching was sure of is booked; the rest is decided here. */
useHead({ title: titled(say('bank.matching')) })
const session = useSessionStore()
const cycle = useCycleStore()
const spelling = useSpelling()
const route = useRoute()
const { matchStepWords } = useWords().bank
const mayWork = computed(() => session.may('bank.work'))
type View = 'in' | 'out' | 'explained'
const view = ref<View>('in')
const search = ref('')
const lines = shallowRef<LineView[]>([])
const next = ref<string | null>(null)
const chosen = ref<string | null>(typeof route.query.line === 'string' ? route.query.line : null)
const detail = shallowRef<LineDetail | null>(null)
const standing = shallowRef<MatchingStanding | null>(null)
const { busy, refusal, send } = useSubmission()
const sendingBack = ref(false)
async function sentBack() {
  sendingBack.value = false
  await done()
}
const views = [{ id: 'in', title: say('bank.moneyIn') }, { id: 'out', title: say('bank.moneyOut') }, {
  id: 'explained',
  title: say('bank.explainedLines'),
}] as const

async function page(after: string | null): Promise<LinePage> {
  const text = (name: string) => typeof route.query[name] === 'string' ? String(route.query[name]) : undefined
  return callApi<LinePage>('/api/bank/lines', {
    query: {
      state: view.value === 'explained' ? 'explained' : 'open',
      side: view.value === 'out' ? 'out' : 'in',
      search: search.value.trim() || undefined,
      after: after ?? undefined,
      account: text('account'),
      statement: text('statement'),
    },
  })
}
const { failure, reload } = useLoaded(async () => {
  const [first, stands] = await Promise.all([page(null), callApi<MatchingStanding>('/api/bank/matching')])
  lines.value = first.lines
  next.value = first.next
  standing.value = stands
  if (chosen.value === null || (!lines.value.some(line => line.id === chosen.value) && detail.value !== null)) {
    chosen.value = lines.value[0]?.id ?? null
  }
})
async function more() {
  const further = await page(next.value)
  lines.value = [...lines.value, ...further.lines]
  next.value = further.next
}
watch(view, () => {
  chosen.value = null
  void reload()
})
const found = useDebounced(() => {
  void reload()
}, 250)
watch(search, () => found())

const parts = ref<{ application: string, name: string, number: string, amount: number }[]>([])
watch(chosen, async (id) => {
  parts.value = []
  refusal.value = ''
  detail.value = id ? await callApi<LineDetail>(`/api/bank/lines/${id}`).catch(() => null) : null
}, { immediate: true })

const given = computed(() => parts.value.reduce((n, part) => n + part.amount, 0))
const left = computed(() => (detail.value?.amount ?? 0) - given.value)
const amount = (minor: number) => spelling.amountIn(minor, detail.value?.currency ?? '')

/** Goes on with the line that follows, so that one after the other is decided. */
async function done() {
  const at = lines.value.findIndex(line => line.id === chosen.value)
  const following = lines.value[at + 1]?.id ?? lines.value[at - 1]?.id ?? null
  await reload()
  chosen.value = lines.value.some(line => line.id === following) ? following : lines.value[0]?.id ?? null
  await cycle.refreshBand().catch(() => undefined)
}
const explain = (body: object) =>
  send(async () => {
    await callApi(`/api/bank/lines/${chosen.value}/explain`, { method: 'POST', body })
    await done()
  })
const takeMatch = (match: MatchView) =>
  explain({ as: 'dues', parts: match.parts.map(part => ({ application: part.applicationId, amount: part.amount })) })
const bookParts = () => explain({ as: 'dues', parts: parts.value.map(({ application, amount: of }) => ({ application, amount: of })) })

function addPerson(due: DueView) {
  if (parts.value.some(part => part.application === due.applicationId)) return
  parts.value = [...parts.value, {
    application: due.applicationId,
    name: due.name,
    number: due.number,
    amount: due.due > 0 ? Math.min(due.due, Math.max(left.value, 1)) : Math.max(left.value, 1),
  }]
}
async function takeBack() {
  const matchId = detail.value?.explained?.matchId
  if (!matchId) return
  const why = await ElMessageBox.prompt(say('bank.takeBackWhy'), say('bank.takeBack'), {
    inputPattern: /\S.{4,}/,
    inputErrorMessage: say('bank.sayWhy'),
    confirmButtonText: say('bank.takeBack'),
    cancelButtonText: say('bank.leaveIt'),
  }).catch(() => null)
  if (why === null) return
  await send(async () => {
    await callApi(`/api/bank/matches/${matchId}/take-back`, {
      method: 'POST',
      body: { reason: (why as unknown as { value: string }).value },
    })
    await done()
  })
}
async function setThreshold(event: Event) {
  const threshold = Number((event.target as HTMLInputElement).value) / 100
  if (await attempt(() => callApi('/api/bank/matching', { method: 'PUT', body: { threshold } }))) await reload()
}
const takeNumbered = (number: number) => {
  const match = detail.value?.matches[number - 1]
  if (match && mayWork.value && view.value === 'in') void takeMatch(match)
}
function step(by: number) {
  const at = lines.value.findIndex(line => line.id === chosen.value)
  chosen.value = lines.value[Math.min(lines.value.length - 1, Math.max(0, at + by))]?.id ?? null
}
useKeys((event) => {
  if (event.key === 'j') step(1)
  else if (event.key === 'k') step(-1)
  else if (/^[1-8]$/.test(event.key)) takeNumbered(Number(event.key))
})
</script>

<template>
  <div class="page">
    <FeesAreas />
    <div class="page-head">
      <h1>{{ say('bank.matching') }}</h1>
    </div>
    <HouseAlert
      :text="failure"
      kind="refusal"
    />
    <div class="tools">
      <HouseSegments
        v-model="view"
        :views="views"
        :label="say('bank.lines')"
      />
      <input
        v-model="search"
        class="field"
        type="search"
        :placeholder="say('bank.search')"
        :aria-label="say('bank.search')"
      >
      <span class="soft small keys"><kbd>j</kbd> <kbd>k</kbd> {{ say('bank.keysMove') }} <kbd>1</kbd> <kbd>8</kbd> {{ say('bank.keysTake') }}</span>
    </div>
    <div class="two">
      <div>
        <p
          v-if="lines.length === 0 && !failure"
          class="soft"
        >
          {{ say('bank.nothingWaits') }}
        </p>
        <ul>
          <li
            v-for="line in lines"
            :key="line.id"
          >
            <button
              type="button"
              :aria-current="chosen === line.id ? 'true' : undefined"
              @click="chosen = line.id"
            >
              <span class="day">{{ line.bookedOn }}</span>
              <b>{{ line.name ?? say('bank.noName') }}</b>
              <span class="number">{{ spelling.amountIn(line.amount, line.currency) }}</span>
              <span class="soft small said">{{ [line.reference, line.text].filter(Boolean).join(' · ') }}</span>
              <span
                v-if="line.best !== null"
                class="small number guess"
                :title="say('bank.guessOf', { best: line.best })"
              >{{ say('bank.guess', { best: line.best }) }}</span>
            </button>
          </li>
        </ul>
        <ElButton
          v-if="next"
          @click="attempt(more)"
        >
          {{ say('bank.showMore') }}
        </ElButton>
      </div>
      <div v-if="detail">
        <BankLineFacts :line="detail" />
        <HouseAlert
          :text="refusal"
          kind="refusal"
        />
        <template v-if="detail.explained">
          <BankExplanation :line="detail" />
          <ElButton
            v-if="mayWork"
            :loading="busy"
            @click="takeBack"
          >
            {{ say('bank.takeBack') }}
          </ElButton>
        </template>
        <template v-else-if="detail.amount < 0">
          <p class="soft">
            {{ say('bank.outgoingHelp') }}
          </p>
          <p v-if="mayWork">
            <ElButton
              :loading="busy"
              @click="explain({ as: 'bank charge' })"
            >
              {{ say('bank.isCharge') }}
            </ElButton>
          </p>
        </template>
        <template v-else>
          <h2 class="section-title">
            {{ say('bank.mayBeFor') }}
          </h2>
          <p
            v-if="detail.matches.length === 0"
            class="soft"
          >
            {{ say('bank.nobodyFits') }}
          </p>
          <BankSuggestion
            v-for="(match, i) in detail.matches"
            :key="i"
            :match="match"
            :number="i + 1"
            :currency="detail.currency"
            :busy="busy"
            :may-take="mayWork"
            @take="takeMatch(match)"
          />
          <template v-if="mayWork">
            <h2 class="section-title">
              {{ say('bank.somebodyElse') }}
            </h2>
            <BankPersonSearch
              :currency="detail.currency"
              @take="addPerson"
            />
            <p class="or">
              <ElButton @click="sendingBack = true">
                {{ say('bank.sendBack') }}
              </ElButton>
            </p>
            <div
              v-for="part in parts"
              :key="part.application"
              class="part"
            >
              <span>{{ part.name }} <span class="soft small">{{ part.number }}</span></span>
              <BankAmountField
                v-model="part.amount"
                :currency="detail.currency"
                :label="say('bank.partAmount', { name: part.name })"
              />
              <button
                type="button"
                class="press"
                @click="parts = parts.filter(one => one.application !== part.application)"
              >
                {{ say('bank.remove') }}
              </button>
            </div>
            <p
              v-if="parts.length > 0"
              class="sum"
            >
              <ElButton
                type="primary"
                :disabled="left !== 0"
                :loading="busy"
                @click="bookParts"
              >
                {{ say('bank.bookParts', { amount: amount(given) }) }}
              </ElButton>
              <span
                v-if="left !== 0"
                class="attention"
              >{{ left > 0 ? say('bank.splitLeft', { left: amount(left) }) : say('bank.splitMore', { over: amount(-left) }) }}</span>
            </p>
          </template>
        </template>
      </div>
    </div>
    <BankRefundDialog
      v-if="sendingBack && detail"
      :line="detail"
      @done="sentBack"
      @close="sendingBack = false"
    />
    <section
      v-if="standing"
      class="standing"
    >
      <h2 class="section-title">
        {{ say('bank.howItHasDone') }}
      </h2>
      <table class="plain-table">
        <thead>
          <tr>
            <th>{{ say('bank.stepColumn') }}</th><th class="number">
              {{ say('bank.bookedColumn') }}
            </th><th class="number">
              {{ say('bank.takenBackColumn') }}
            </th>
          </tr>
        </thead>
        <tbody>
          <tr
            v-for="one in standing.steps"
            :key="one.step"
          >
            <td>{{ matchStepWords[one.step] }}</td><td class="number">
              {{ countText(one.booked) }}
            </td><td class="number">
              {{ countText(one.takenBack) }}
            </td>
          </tr>
          <tr>
            <td>{{ say('bank.byHandRow') }}</td><td class="number">
              {{ countText(standing.byHand) }}
            </td><td />
          </tr>
        </tbody>
      </table>
      <p>
        <label for="threshold">{{ say('bank.threshold') }}</label>
        <input
          id="threshold"
          class="field"
          type="number"
          min="50"
          max="100"
          :value="Math.round(standing.threshold * 100)"
          :disabled="!mayWork"
          @change="setThreshold"
        > %
      </p>
    </section>
  </div>
</template>

<style scoped>
.tools { display: flex; flex-wrap: wrap; gap: 10px 20px; align-items: center; margin-bottom: 14px; }
.tools input { width: 300px; }
.two { display: grid; grid-template-columns: minmax(0, 5fr) minmax(0, 6fr); gap: 32px; align-items: start; }
ul { list-style: none; padding: 0; margin: 0 0 12px; border-top: 1px solid var(--line); max-height: 640px; overflow-y: auto; }
li button {
  display: grid; grid-template-columns: 92px minmax(0, 1fr) auto; gap: 0 10px; width: 100%; text-align: left; font: inherit; color: inherit;
  background: none; border: 0; border-bottom: 1px solid var(--line); padding: 7px 8px; cursor: pointer;
}
li button[aria-current] { background: var(--accent-soft); box-shadow: inset 3px 0 0 var(--accent); }
.day { color: var(--ink-soft); }
.said { grid-column: 2; overflow: hidden; text-overflow: ellipsis; white-space: nowrap; }
.guess { color: var(--attention); }
.two .section-title { margin-top: 20px; }
.or { margin-top: 10px; }
.part { display: flex; gap: 12px; align-items: center; padding: 6px 0; border-bottom: 1px solid var(--line); }
.part > span:first-child { flex: 1; }
.sum { display: flex; gap: 14px; align-items: center; margin-top: 10px; }
.standing { margin-top: 32px; max-width: 620px; }
.standing p { margin-top: 10px; }
.standing input { width: 76px; }
@media (max-width: 900px) { .two { grid-template-columns: minmax(0, 1fr); } .keys { display: none; } }
</style>
