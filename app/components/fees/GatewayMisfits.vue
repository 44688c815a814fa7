<script setup lang="ts">
import type { FeesView } from '~~/shared/fees'

/** Events of the gateway that did not fit their orders, and what became of the money. */
defineProps<{ misfits: FeesView['misfits'] }>()
const emit = defineEmits<{ changed: [] }>()
const session = useSessionStore()
const sending = shallowRef<FeesView['misfits'][number] | null>(null)
const { busy, refusal, send } = useSubmission()
const sendBack = (reason: string) =>
  send(async () => {
    await callApi('/api/bank/refunds', { method: 'POST', body: { event: sending.value?.event, reason } })
    sending.value = null
    emit('changed')
  })
const spelling = useSpelling()
const { eventFaultWords } = useWords().bank
</script>

<template>
  <p
    v-if="misfits.length === 0"
    class="soft"
  >
    {{ say('ledger.everyEventFitted') }}
  </p>
  <HouseTable
    v-else
    :columns="[
      { key: 'order', title: say('ledger.order'), kind: 'line', text: one => one.order },
      { key: 'applicant', title: say('ledger.applicant') },
      { key: 'told', title: say('ledger.told') },
      { key: 'misfit', title: say('ledger.whatDoesNotFit') },
    ]"
    :rows="misfits"
    :row-key="one => `${one.event} ${one.fault}`"
  >
    <template #applicant="{ row: one }">
      <NuxtLink
        v-if="one.applicationId"
        :to="`/intake/${one.applicationId}`"
      >
        {{ one.name }}
      </NuxtLink>
      <template v-else>
        –
      </template>
    </template>
    <template #told="{ row: one }">
      {{ one.outcome === 'charged' ? say('ledger.charged', { amount: spelling.amountIn(one.amount, one.currency) }) : say('ledger.declined') }}
      <div
        v-if="one.wanted !== null"
        class="soft small"
      >
        {{ say('ledger.ordered', { amount: spelling.amount(one.wanted) }) }}
      </div>
      <div class="soft small">
        {{ spelling.instant(one.at) }}
      </div>
    </template>
    <template #misfit="{ row: one }">
      {{ eventFaultWords[one.fault].title }} <span class="soft small">{{ eventFaultWords[one.fault].says }}</span>
      <div v-if="one.isOpen && session.may('bank.work')">
        <button
          type="button"
          class="press"
          @click="sending = one"
        >
          {{ say('bank.sendBackGateway') }}
        </button>
      </div>
    </template>
  </HouseTable>
  <HouseReasonDialog
    v-if="sending"
    :title="say('bank.sendBackTitle', { amount: spelling.amountIn(sending.amount, sending.currency) })"
    :note="refusal || say('bank.sendBackNote', { amount: spelling.amountIn(sending.amount, sending.currency) })"
    :placeholder="say('bank.refundReason')"
    :label="say('bank.refundReason')"
    :press="say('bank.propose')"
    :busy="busy"
    @give="sendBack"
    @close="sending = null"
  />
</template>
