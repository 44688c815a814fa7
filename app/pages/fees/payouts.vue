<script setup lang="ts">
import type { SettlementView, TakenSettlements } from '~~/shared/bank'

/** Payouts of the gateway: what it charged, kept and sent to the bank, order by order held against what it told. */
useHead({ title: titled(say('bank.payouts')) })
const session = useSessionStore()
const spelling = useSpelling()
const { settlementFaultWords } = useWords().bank
const rows = shallowRef<SettlementView[] | null>(null)
const told = ref('')
const { busy, refusal, send } = useSubmission()
const { failure, reload } = useLoaded(async () => {
  rows.value = await callApi<SettlementView[]>('/api/bank/settlements')
})
const take = (file: File) =>
  send(async () => {
    told.value = ''
    const { taken, repeated } = await callApi<TakenSettlements>('/api/bank/settlements', { method: 'POST', bytes: file })
    told.value = say('bank.payoutTaken', { n: taken.length, repeated })
    await reload()
  })
</script>

<template>
  <div class="page">
    <FeesAreas />
    <div class="page-head">
      <h1>{{ say('bank.payoutsTitle') }}</h1>
      <div class="actions">
        <HouseFileButton
          v-if="session.may('bank.work')"
          :title="say('bank.takePayouts')"
          :label="say('bank.takePayouts')"
          accept=".csv,.txt,text/csv"
          main
          :busy="busy"
          @choose="take"
        />
      </div>
    </div>
    <HouseAlert
      :text="failure || refusal"
      kind="refusal"
    />
    <p
      v-if="told"
      class="note"
      role="status"
    >
      {{ told }}
    </p>
    <p class="soft">
      {{ say('bank.payoutsHelp') }}
    </p>
    <p
      v-if="rows && rows.length === 0"
      class="soft"
    >
      {{ say('bank.noPayouts') }}
    </p>
    <div
      v-else-if="rows"
      class="wide"
    >
      <HouseTable
        :columns="[
          { key: 'payout', title: say('bank.payout') },
          { key: 'on', title: say('bank.settledOn'), kind: 'line', text: row => row.on },
          { key: 'orders', title: say('bank.orders2'), kind: 'number', text: row => countText(row.lines) },
          { key: 'gross', title: say('bank.gross'), kind: 'number', text: row => spelling.amountIn(row.gross, row.currency) },
          { key: 'charges', title: say('bank.charges'), kind: 'number', text: row => spelling.amountIn(row.charges, row.currency) },
          { key: 'net', title: say('bank.net'), kind: 'number', text: row => spelling.amountIn(row.net, row.currency) },
          {
            key: 'brought',
            title: say('bank.brought'),
            look: row => row.isBrought ? 'settled' : 'soft',
            text: row => say('bank.isBrought', { brought: String(row.isBrought) }),
          },
        ]"
        :rows="rows"
        :row-key="row => row.id"
      >
        <template #payout="{ row }">
          {{ row.reference }}
          <details v-if="row.faults.length > 0">
            <summary class="attention">
              {{ say('bank.payoutFaults', { n: row.faults.length }) }}
            </summary>
            <p
              v-for="fault in row.faults"
              :key="fault.order + fault.fault"
              class="small"
            >
              {{ fault.order }} · {{ spelling.amountIn(fault.gross, row.currency) }}: {{ settlementFaultWords[fault.fault] }}
            </p>
          </details>
        </template>
      </HouseTable>
    </div>
  </div>
</template>

<style scoped>
.wide { overflow-x: auto; margin-top: 16px; }
</style>
