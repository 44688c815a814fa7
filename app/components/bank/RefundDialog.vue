<script setup lang="ts">
import type { LineView, RefundsPage } from '~~/shared/bank'

/**
 * A refund proposed: how much goes back, to whom and why; of what somebody is owed, or all of a line that nobody's due explains. A second
 * person approves it.
 */
const props = defineProps<{ owed?: RefundsPage['owed'][number], line?: LineView }>()
const emit = defineEmits<{ done: [], close: [] }>()
const { busy, refusal, send } = useSubmission()
const spelling = useSpelling()
const currency = props.owed?.currency ?? props.line?.currency ?? ''
const orders = props.owed?.orders ?? []
/** The order that it goes back to; empty: an account. Money goes back the way it came, where it can. */
const order = ref(orders[0]?.order ?? '')
const least = (amount: number) => Math.min(amount, orders.find(one => one.order === order.value)?.left ?? amount)
const given = reactive({
  amount: least(props.owed?.amount ?? props.line?.amount ?? 0),
  payee: props.owed?.account?.payee ?? props.owed?.name ?? props.line?.name ?? '',
  number: props.owed?.account?.number ?? props.line?.counterAccount ?? '',
  reason: '',
})
watch(order, () => {
  given.amount = least(props.owed?.amount ?? given.amount)
})
const isReady = computed(() =>
  given.reason.trim().length > 4 && given.amount > 0
  && (order.value !== '' || (given.payee.trim().length > 1 && given.number.trim().length > 3))
)
function asked() {
  const { amount, payee, number, reason } = given
  if (props.line) return { line: props.line.id, payee, number, reason }
  const of = { application: props.owed?.applicationId, amount, reason }
  return order.value === '' ? { ...of, payee, number } : { ...of, order: order.value }
}
const save = () =>
  send(async () => {
    await callApi('/api/bank/refunds', { method: 'POST', body: asked() })
    emit('done')
  })
</script>

<template>
  <ElDialog
    :model-value="true"
    :title="owed ? say('bank.proposeTitle', { name: owed.name }) : say('bank.sendBackTitle', { amount: spelling.amountIn(given.amount, currency) })"
    width="min(560px, 94vw)"
    @close="emit('close')"
  >
    <form
      id="refund"
      @submit.prevent="save"
    >
      <fieldset v-if="orders.length > 0">
        <legend>{{ say('bank.howBack') }}</legend>
        <ElRadioGroup v-model="order">
          <ElRadio
            v-for="one in orders"
            :key="one.order"
            :value="one.order"
          >
            {{ say('bank.backToOrder', { order: one.order, left: spelling.amountIn(one.left, currency) }) }}
          </ElRadio>
          <ElRadio value="">
            {{ say('bank.backToAccount') }}
          </ElRadio>
        </ElRadioGroup>
      </fieldset>
      <p v-if="owed">
        <label for="refund-amount">{{ say('bank.refundAmount') }}</label>
        <BankAmountField
          id="refund-amount"
          v-model="given.amount"
          :currency="currency"
          :label="say('bank.refundAmount')"
        /> {{ currency }}
      </p>
      <p v-if="order === ''">
        <label for="refund-payee">{{ say('bank.payee') }}</label>
        <input
          id="refund-payee"
          v-model="given.payee"
          class="field wide"
          maxlength="140"
          autocomplete="off"
        >
      </p>
      <p v-if="order === ''">
        <label for="refund-number">{{ say('bank.payeeNumber') }}</label>
        <input
          id="refund-number"
          v-model="given.number"
          class="field wide"
          maxlength="60"
          autocomplete="off"
        >
        <span class="soft small">{{ owed?.account ? say('bank.givenByApplicant', { at: spelling.instant(owed.account.at) }) : say('bank.numberHelp') }}</span>
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
fieldset { border: 0; padding: 0; margin: 0 0 12px; }
legend { font-weight: 600; font-size: 14px; padding: 0; }
fieldset :deep(.el-radio) { white-space: normal; height: auto; padding: 4px 0; display: flex; }
label { display: block; font-weight: 600; font-size: 14px; margin-bottom: 2px; }
.wide { width: 100%; }
</style>
