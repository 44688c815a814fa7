<script setup lang="ts">
import { inFours } from '~~/core/bank/check-digits'
import type { DepositView } from '~~/shared/bank'

/** The other way to pay: where, with which reference, until when, and the slip to print. Nothing is shown where the office takes no deposits. */
const props = defineProps<{ applicationId: string }>()
const spelling = useSpelling()
const deposit = shallowRef<DepositView | null>(null)
onMounted(async () => {
  deposit.value = (await callApi<{ deposit: DepositView | null }>(`/api/applications/${props.applicationId}/deposit`).catch(() => null))?.deposit ?? null
})
</script>

<template>
  <div
    v-if="deposit"
    class="deposit small"
  >
    <p><b>{{ say('fees.payAtBank') }}</b></p>
    <p>{{ spelling.amountIn(deposit.amount, deposit.currency) }}, {{ say('fees.slipUntil', { lastDay: deposit.lastDay }) }}</p>
    <p>{{ say('fees.payAtBankHow', { account: inFours(deposit.account.number), holder: deposit.account.holder }) }}</p>
    <p>
      <span class="nowrap">{{ say('fees.slipReference', { reference: inFours(deposit.reference) }) }}</span>
    </p>
    <p>
      <a
        :href="`/api/applications/${applicationId}/slip`"
        target="_blank"
      >{{ say('fees.slip') }}</a>
    </p>
  </div>
</template>

<style scoped>
.deposit { margin-top: 12px; }
.deposit p + p { margin-top: 2px; }
</style>
