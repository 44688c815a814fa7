<script setup lang="ts">
import '~/words/later'
import { spellAmount } from '~~/core/fees/assess'
import type { WayCost } from '~~/core/fees/channel'
import type { BillView } from '~~/shared/bills'
import type { PaidTogether } from '~~/shared/candidates'

/** Several forms of one examination, paid in one payment: each keeps its own receipt. */
const props = defineProps<{ of: PaidTogether }>()
const { busy, refusal, send } = useSubmission()
const amount = (minor: number) => spellAmount(minor, props.of.currency)
const pay = (way?: WayCost['way']) =>
  send(async () => {
    const { page } = await callApi<{ page: string }>('/api/payments/together', {
      method: 'POST',
      body: { applications: props.of.applications, way },
    })
    leaveForGateway(page)
  })
</script>

<template>
  <section class="note together">
    <HouseAlert
      :text="refusal"
      kind="refusal"
    />
    <p>{{ say('paying.togetherDue', { title: of.title, numbers: of.numbers.join(', '), due: amount(of.due) }) }}</p>
    <p class="presses">
      <FeesPayButtons
        :due="of.due"
        :currency="of.currency"
        :costs="of.costs"
        :busy="busy"
        @pay="pay"
      />
    </p>
    <details>
      <summary>{{ say('paying.billInstead') }}</summary>
      <LazyFeesBillMaker :make="payer => callApi<BillView>('/api/bills', { method: 'POST', body: { applications: of.applications, payer } })" />
    </details>
  </section>
</template>

<style scoped>
summary { padding-top: 6px; cursor: pointer; }
.presses { display: flex; flex-wrap: wrap; gap: 8px; padding-top: 6px; }
</style>
