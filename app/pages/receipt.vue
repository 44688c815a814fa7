<script setup lang="ts">
import { exponentOf } from '~~/core/bank/statement'
import { spellAmount } from '~~/core/fees/assess'
import type { ReceiptCheck } from '~~/shared/fees'

/** Whether a receipt is genuine, for anybody who has the paper. */
definePageMeta({ layout: 'plain' })
useHead({ title: say('check.checkReceipt') })
const given = reactive({ number: '', code: '' })
const found = shallowRef<ReceiptCheck | null>(null)
const { busy, refusal, send } = useSubmission()
onMounted(askForFaces)
const ask = () =>
  send(async () => {
    found.value = null
    found.value = await callApi<ReceiptCheck>('/api/check/receipt', { method: 'POST', body: given })
  })
const amount = computed(() =>
  found.value ? spellAmount(found.value.amount, { code: found.value.currency, exponent: exponentOf(found.value.currency) }) : ''
)
</script>

<template>
  <form @submit.prevent="ask">
    <h1>{{ say('check.checkReceipt') }}</h1>
    <p class="soft">
      {{ say('check.checkReceiptHow') }}
    </p>
    <label for="receipt-number">{{ say('check.receiptNumber') }}</label>
    <input
      id="receipt-number"
      v-model="given.number"
      class="field"
      autocomplete="off"
      inputmode="numeric"
      maxlength="40"
    >
    <label for="receipt-code">{{ say('check.receiptCode') }}</label>
    <input
      id="receipt-code"
      v-model="given.code"
      class="field"
      autocomplete="off"
      autocapitalize="characters"
      maxlength="40"
    >
    <p class="act">
      <ElButton
        type="primary"
        native-type="submit"
        :loading="busy"
        :disabled="given.number.trim() === '' || given.code.trim() === ''"
      >
        {{ say('check.askOffice') }}
      </ElButton>
    </p>
    <HouseAlert
      :text="refusal"
      kind="refusal"
    />
    <p
      v-if="found"
      class="note"
      :class="{ 'is-refusal': found.voidAt }"
      role="status"
    >
      {{ found.voidAt ? say('check.receiptNoLonger', { application: found.application }) : say('check.receiptGenuine', { amount, application: found.application, at: found.at.slice(0, 10) }) }}
    </p>
  </form>
</template>

<style scoped>
h1 { margin-bottom: 8px; }
label { display: block; font-weight: 600; margin-top: 16px; }
.field { width: min(320px, 100%); }
.act { margin: 20px 0; }
</style>
