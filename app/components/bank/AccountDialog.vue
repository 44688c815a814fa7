<script setup lang="ts">
import type { BankAccountInput, BankAccountView } from '~~/shared/bank'

/** An account of the office, entered or changed. */
const props = defineProps<{ account: BankAccountView | null, currency: string }>()
const emit = defineEmits<{ done: [], close: [] }>()
const { busy, refusal, send } = useSubmission()
const id = props.account?.id ?? crypto.randomUUID()
const given = reactive<BankAccountInput>(props.account
  ? {
    title: props.account.title,
    holder: props.account.holder,
    bank: props.account.bank,
    number: props.account.number,
    bic: props.account.bic,
    currency: props.account.currency,
    takesDeposits: props.account.takesDeposits,
  }
  : { title: '', holder: '', bank: '', number: '', bic: '', currency: props.currency, takesDeposits: true })
const fields = [
  { key: 'title', title: say('bank.accountTitle') },
  { key: 'holder', title: say('bank.holder') },
  { key: 'bank', title: say('bank.bankName') },
  { key: 'number', title: say('bank.number') },
  { key: 'bic', title: say('bank.bic') },
  { key: 'currency', title: say('bank.currency') },
] as const
const save = () =>
  send(async () => {
    await callApi(`/api/bank/accounts/${id}`, { method: 'PUT', body: given })
    emit('done')
  })
</script>

<template>
  <ElDialog
    :model-value="true"
    :title="account ? say('bank.changeAccount') : say('bank.newAccount')"
    width="min(560px, 94vw)"
    @close="emit('close')"
  >
    <form
      id="bank-account"
      @submit.prevent="save"
    >
      <div
        v-for="field in fields"
        :key="field.key"
        class="row"
      >
        <label :for="`bank-${field.key}`">{{ field.title }}</label>
        <input
          :id="`bank-${field.key}`"
          v-model="given[field.key]"
          class="field"
          autocomplete="off"
          :maxlength="field.key === 'currency' ? 3 : 140"
        >
        <p
          v-if="field.key === 'number'"
          class="soft small"
        >
          {{ say('bank.numberHelp') }}
        </p>
      </div>
      <ElCheckbox v-model="given.takesDeposits">
        {{ say('bank.takesDeposits') }}
      </ElCheckbox>
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
        form="bank-account"
        :loading="busy"
      >
        {{ say('bank.save') }}
      </ElButton>
    </template>
  </ElDialog>
</template>

<style scoped>
.row { margin-bottom: 12px; }
label { display: block; font-weight: 600; font-size: 14px; margin-bottom: 2px; }
.field { width: 100%; }
</style>
