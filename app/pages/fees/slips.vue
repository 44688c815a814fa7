<script setup lang="ts">
import type { Dossier } from '~~/shared/applications'
import type { SlipPage, WaitingSlip } from '~~/shared/bank'

/**
 * Deposit slips that payers have handed in, those first that have waited longest: the paper, what it says, what is due, and others that may
 * be the same paper.
 */
useHead({ title: titled(say('bank.slips')) })
const cycle = useCycleStore()
const session = useSessionStore()
const spelling = useSpelling()
const { slipWords } = useWords().states
const rows = shallowRef<WaitingSlip[]>([])
const next = ref<string | null>(null)
const isRead = ref(false)
const refusing = shallowRef<WaitingSlip | null>(null)
const busy = ref(false)

async function load(after?: string) {
  const page = await callApi<SlipPage>(cycle.path('slips'), { query: { after } })
  rows.value = after ? [...rows.value, ...page.rows] : page.rows
  next.value = page.next
  isRead.value = true
}
async function decide(slip: WaitingSlip, act: 'confirm-slip' | 'refuse-slip', why?: string) {
  if (busy.value) return
  busy.value = true
  const done = await attempt(async () => {
    await callApi<Dossier>(`/api/applications/${slip.applicationId}/acts/${act}`, { method: 'POST', body: why ? { reason: why } : {} })
    rows.value = rows.value.filter(row => row.id !== slip.id)
    if (rows.value.length === 0) await load()
  })
  busy.value = false
  if (done) refusing.value = null
}
useKeys((event) => {
  const [first] = rows.value
  const key = event.key.toLowerCase()
  if (!first || refusing.value || !session.may('bank.work')) return
  if (key === 'c') void decide(first, 'confirm-slip')
  if (key === 'x') refusing.value = first
})
const { failure } = useLoaded(() => load())
</script>

<template>
  <div class="page">
    <FeesAreas />
    <div class="page-head">
      <h1>{{ isRead ? say('bank.slipsWaiting', { count: rows.length, hasMore: String(next !== null) }) : say('bank.slips') }}</h1>
    </div>
    <p class="soft">
      {{ say('bank.slipsHelp') }}
    </p>
    <HouseAlert
      :text="failure"
      kind="refusal"
    />
    <section
      v-for="(slip, i) in rows"
      :key="slip.id"
      class="slip"
    >
      <div class="papers">
        <img
          v-for="page in slip.pages"
          :key="page"
          :src="`/api/slips/${slip.id}/page?page=${page}`"
          :alt="say('bank.slipPage', { page })"
        >
      </div>
      <div>
        <h2>
          <NuxtLink :to="`/intake/${slip.applicationId}`">
            {{ slip.name }}
          </NuxtLink>
        </h2>
        <dl>
          <dt>{{ say('bank.slipApplication') }}</dt><dd>{{ slip.number }}</dd>
          <dt>{{ say('bank.slipAmount') }}</dt><dd :class="{ attention: slip.amount !== slip.due }">
            {{ spelling.amountIn(slip.amount, slip.currency) }}
          </dd>
          <dt>{{ say('bank.slipDue') }}</dt><dd>{{ spelling.amountIn(slip.due, slip.currency) }}</dd>
          <dt>{{ say('bank.slipDay') }}</dt><dd>{{ spelling.answer('bornOn', slip.paidOn) }}</dd>
          <dt>{{ say('bank.slipBranch') }}</dt><dd>{{ slip.branch }}</dd>
          <dt>{{ say('bank.slipBankReference') }}</dt><dd>{{ slip.bankReference || '–' }}</dd>
          <dt>{{ say('bank.slipHandedIn') }}</dt><dd>{{ spelling.instant(slip.at) }}</dd>
        </dl>
        <p
          v-for="other in slip.alike"
          :key="other.number + other.state"
          class="note is-attention"
        >
          {{ say('bank.slipAlike', { ...other, state: slipWords[other.state] }) }}
        </p>
        <p
          v-if="session.may('bank.work')"
          class="answers"
        >
          <ElButton
            type="primary"
            :loading="busy"
            @click="decide(slip, 'confirm-slip')"
          >
            {{ say('bank.confirmSlip') }} <kbd v-if="i === 0">C</kbd>
          </ElButton>
          <ElButton @click="refusing = slip">
            {{ say('bank.refuseSlip') }} <kbd v-if="i === 0">X</kbd>
          </ElButton>
        </p>
      </div>
    </section>
    <ElButton
      v-if="next"
      @click="attempt(() => load(next ?? undefined))"
    >
      {{ say('band.more') }}
    </ElButton>
    <HouseReasonDialog
      v-if="refusing"
      :title="say('bank.refuseSlip')"
      :placeholder="say('bank.whySlipRefused')"
      :label="say('acts.reason')"
      :press="say('bank.refuseSlip')"
      :busy="busy"
      @give="why => refusing && decide(refusing, 'refuse-slip', why)"
      @close="refusing = null"
    />
  </div>
</template>

<style scoped>
.slip {
  display: grid; grid-template-columns: minmax(0, 420px) minmax(0, 1fr); gap: 24px; padding: 18px 0; border-bottom: 1px solid var(--line);
}
.papers img { width: 100%; border: 1px solid var(--line); display: block; }
.papers img + img { margin-top: 10px; }
h2 { margin: 0 0 8px; font-size: 20px; }
dl { display: grid; grid-template-columns: 190px minmax(0, 1fr); gap: 4px 12px; margin: 0; }
dt { color: var(--ink-soft); }
dd { margin: 0; overflow-wrap: anywhere; }
.note { margin-top: 12px; }
.answers { margin-top: 16px; display: flex; gap: 8px; flex-wrap: wrap; }
@media (max-width: 900px) { .slip { grid-template-columns: minmax(0, 1fr); } dl { grid-template-columns: 130px minmax(0, 1fr); } }
</style>
