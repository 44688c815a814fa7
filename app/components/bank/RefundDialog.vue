<script setup lang="ts">
import type { RefundsPage } from '~~/shared/bank'

/** A refund proposed: how much goes back, to whom and why. A second person approves it. */
const props = defineProps<{ owed: RefundsPage['owed'][number] }>()
const emit = defineEmits<{ done: [], close: [] }>()
const { busy, refusal, send } = useSubmission()
const given = reactive({ amount: props.owed.amount, payee: props.owed.name, number: '', reason: '' })
const isReady = computed(() => given.payee.trim().length > 1 && given.number.trim().length > 3 && given.reason.trim().length > 4 && given.amount > 0)
const save = () => send(async () => {
  await callApi('/api/bank/refunds', { method: 'POST', body: { application: props.owed.applicationId, ...given } })
  emit('done')
})
</script>

<template>
  <ElDialog
    :model-value="true"
    :title="say('bank.proposeTitle', { name: owed.name })"
    width="min(560px, 94vw)"
    @close="emit('close')"
  >
    <form
      id="refund"
      @submit.prevent="save"
    >
      <p>
        <label for="refund-amount">{{ say('bank.refundAmount') }}</label>
        <BankAmountField
          id="refund-amount"
          v-model="given.amount"
          :currency="owed.currency"
          :label="say('bank.refundAmount')"
        /> {{ owed.currency }}
      </p>
      <p>
        <label for="refund-payee">{{ say('bank.payee') }}</label>
        <input
          id="refund-payee"
          v-model="given.payee"
          class="field wide"
          maxlength="140"
          autocomplete="off"
        >
      </p>
      <p>
        <label for="refund-number">{{ say('bank.payeeNumber') }}</label>
        <input
          id="refund-number"
          v-model="given.number"
          class="field wide"
          maxlength="60"
          autocomplete="off"
        >
        <span class="soft small">{{ say('bank.numberHelp') }}</span>
      </p>
      <p>
        <label for="refund-reason">{{ say('bank.refundReason') }}</label>
        <input
          id="refund-reason"
          v-model="given.reason"
          class="field wide"
          maxlength="1000"
          autocomplete="off"
        >
      </p>
    </form>
    <HouseAlert
      :text="refusal"
      kind="refusal"
    />
    <template #footer>
      <ElButton @click="emit('close')">
        {{ say('bank.cancel') }}
      </ElButton>
      <ElButton
        type="primary"
        native-type="submit"
        form="refund"
        :disabled="!isReady"
        :loading="busy"
      >
        {{ say('bank.propose') }}
      </ElButton>
    </template>
  </ElDialog>
</template>

<style scoped>
p { margin-bottom: 12px; }
label { display: block; font-weight: 600; font-size: 14px; margin-bottom: 2px; }
.wide { width: 100%; }
</style>
