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
  <table
    v-else
    class="plain-table"
  >
    <thead><tr><th>{{ say('ledger.order') }}</th><th>{{ say('ledger.applicant') }}</th><th>{{ say('ledger.told') }}</th><th>{{ say('ledger.whatDoesNotFit') }}</th></tr></thead>
    <tbody>
      <tr
        v-for="one in misfits"
        :key="`${one.event} ${one.fault}`"
      >
        <td class="order">
          {{ one.order }}
        </td>
        <td>
          <NuxtLink
            v-if="one.applicationId"
            :to="`/intake/${one.applicationId}`"
          >
            {{ one.name }}
          </NuxtLink>
          <template v-else>
            –
          </template>
        </td>
        <td>
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
        </td>
        <td>{{ eventFaultWords[one.fault].title }} <span class="soft small">{{ eventFaultWords[one.fault].says }}</span>
          <div v-if="one.isOpen && session.may('bank.work')">
            <button
              type="button"
              class="press"
              @click="sending = one"
            >
              {{ say('bank.sendBackGateway') }}
            </button>
          </div>
        </td>
      </tr>
    </tbody>
  </table>
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

<style scoped>
.order { white-space: nowrap; }
</style>
