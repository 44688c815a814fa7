<script setup lang="ts">
import type { DueView, LineDetail, MatchView } from '~~/shared/bank'

/** One line of a statement: whose money it may be, and what is decided. */
const { line, mayWork } = defineProps<{ line: LineDetail, mayWork: boolean }>()
const emit = defineEmits<{ done: [] }>()
const spelling = useSpelling()
const { busy: sending, refusal, send } = useSubmission()
const isDecided = ref(false)
/** Until the next line stands here, nothing of this one can be pressed again. */
const busy = computed(() => sending.value || isDecided.value)
const decide = (work: () => Promise<unknown>) =>
  isDecided.value ? Promise.resolve() : send(async () => {
    await work()
    isDecided.value = true
    emit('done')
  })
const sendingBack = ref(false)
function sentBack() {
  sendingBack.value = false
  isDecided.value = true
  emit('done')
}
const parts = ref<{ application: string, name: string, number: string, amount: number }[]>([])
const given = computed(() => parts.value.reduce((n, part) => n + part.amount, 0))
const left = computed(() => line.amount - given.value)
const amount = (minor: number) => spelling.amountIn(minor, line.currency)

const explain = (body: object) => decide(() => callApi(`/api/bank/lines/${line.id}/explain`, { method: 'POST', body }))
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
  const matchId = line.explained?.matchId
  if (!matchId) return
  const why = await ElMessageBox.prompt(say('bank.takeBackWhy'), say('bank.takeBack'), {
    inputPattern: /\S.{4,}/,
    inputErrorMessage: say('bank.sayWhy'),
    confirmButtonText: say('bank.takeBack'),
    cancelButtonText: say('bank.leaveIt'),
  }).catch(() => null)
  if (why === null) return
  const { value: reason } = why as unknown as { value: string }
  await decide(() => callApi(`/api/bank/matches/${matchId}/take-back`, { method: 'POST', body: { reason } }))
}
const takeNumbered = (number: number) => {
  const match = line.matches[number - 1]
  if (match && mayWork && line.explained === null) void takeMatch(match)
}
useKeys((event) => {
  if (/^[1-8]$/.test(event.key)) takeNumbered(Number(event.key))
})
</script>

<template>
  <div>
    <BankLineFacts :line="line" />
    <HouseAlert
      :text="refusal"
      kind="refusal"
    />
    <template v-if="line.explained">
      <BankExplanation :line="line" />
      <ElButton
        v-if="mayWork"
        :loading="busy"
        @click="takeBack"
      >
        {{ say('bank.takeBack') }}
      </ElButton>
    </template>
    <template v-else-if="line.amount < 0">
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
        v-if="line.matches.length === 0"
        class="soft"
      >
        {{ say('bank.nobodyFits') }}
      </p>
      <BankSuggestion
        v-for="(match, i) in line.matches"
        :key="i"
        :match="match"
        :number="i + 1"
        :currency="line.currency"
        :busy="busy"
        :may-take="mayWork"
        @take="takeMatch(match)"
      />
      <template v-if="mayWork">
        <h2 class="section-title">
          {{ say('bank.somebodyElse') }}
        </h2>
        <BankPersonSearch
          :currency="line.currency"
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
            :currency="line.currency"
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
    <BankRefundDialog
      v-if="sendingBack"
      :line="line"
      @done="sentBack"
      @close="sendingBack = false"
    />
  </div>
</template>

<style scoped>
.section-title { margin-top: 20px; }
.or { margin-top: 10px; }
.part { display: flex; gap: 12px; align-items: center; padding: 6px 0; border-bottom: 1px solid var(--line); }
.part > span:first-child { flex: 1; }
.sum { display: flex; gap: 14px; align-items: center; margin-top: 10px; }
</style>
