<script setup lang="ts">
import { spellAmount } from '~~/core/fees/assess'
import type { WayCost } from '~~/core/fees/channel'
import type { PaidTogether } from '~~/shared/candidates'

/** Several forms of one examination, paid in one payment: each keeps its own receipt. */
const props = defineProps<{ of: PaidTogether }>()
const { busy, refusal, send } = useSubmission()
const amount = (minor: number) => spellAmount(minor, props.of.currency)
const pay = (way?: WayCost['way']) => send(async () => {
  const { page } = await callApi<{ page: string }>('/api/payments/together', { method: 'POST', body: { applications: props.of.applications, way } })
  leaveForGateway(page)
})
</script>

<template>
  <section class="note together">
    <HouseAlert
      :text="refusal"
      kind="refusal"
    />
    <p>{{ say('own.togetherDue', { title: of.title, numbers: of.numbers.join(', '), due: amount(of.due) }) }}</p>
    <p class="presses">
      <ElButton
        v-for="cost in of.costs"
        :key="cost.way"
        type="primary"
        plain
        :disabled="busy"
        @click="pay(cost.way)"
      >
        {{ say('sheet.payBy', { due: amount(of.due + cost.charge + cost.tax), way: cost.way }) }}
      </ElButton>
      <ElButton
        v-if="of.costs.length === 0"
        type="primary"
        :disabled="busy"
        @click="pay()"
      >
        {{ say('own.payTogether', { due: amount(of.due) }) }}
      </ElButton>
    </p>
  </section>
</template>

<style scoped>
.presses { display: flex; flex-wrap: wrap; gap: 8px; padding-top: 6px; }
.presses > .el-button { margin: 0; }
</style>
