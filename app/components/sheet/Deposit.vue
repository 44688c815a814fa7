<script setup lang="ts">
import '~/words/later'
import { inFours } from '~~/core/bank/check-digits'
import type { Dossier } from '~~/shared/applications'
import type { DepositView } from '~~/shared/bank'

/**
 * The other way to pay: where, with which reference, until when, and the slip to print. Nothing is shown where the office takes no
 * deposits.
 */
const props = defineProps<{ dossier: Dossier }>()
const emit = defineEmits<{ changed: [dossier: Dossier] }>()
const spelling = useSpelling()
const deposit = shallowRef<DepositView | null>(null)
async function load() {
  deposit.value =
    (await callApi<{ deposit: DepositView | null }>(`/api/applications/${props.dossier.id}/deposit`).catch(() => null))?.deposit ?? null
}
onMounted(load)
watch(() => props.dossier.tracks.fee, load)
</script>

<template>
  <div
    v-if="deposit && dossier.tracks.fee === 'due'"
    class="deposit small"
  >
    <p
      v-if="deposit.bill"
      class="attention"
    >
      {{ say('paying.onBill', deposit.bill) }}
    </p>
    <p><b>{{ say('paying.payAtBank') }}</b></p>
    <p>{{ spelling.amountIn(deposit.amount, deposit.currency) }}, {{ say('paying.slipUntil', { lastDay: deposit.lastDay }) }}</p>
    <p>{{ say('paying.payAtBankHow', { account: inFours(deposit.account.number), holder: deposit.account.holder }) }}</p>
    <p>
      <span class="nowrap">{{ say('paying.slipReference', { reference: inFours(deposit.reference) }) }}</span>
    </p>
    <p>
      <a
        :href="`/api/applications/${dossier.id}/slip`"
        target="_blank"
      >{{ say('paying.slip') }}</a>
    </p>
  </div>
  <SheetPaidSlip
    :dossier="dossier"
    :deposit="deposit"
    @changed="emit('changed', $event)"
  />
</template>

<style scoped>
.deposit { margin-top: 12px; }
.deposit p + p { margin-top: 2px; }
</style>
