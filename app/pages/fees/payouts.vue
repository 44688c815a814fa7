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
      <table class="plain-table">
        <thead>
          <tr>
            <th>{{ say('bank.payout') }}</th><th>{{ say('bank.settledOn') }}</th><th class="number">
              {{ say('bank.orders2') }}
            </th><th class="number">
              {{ say('bank.gross') }}
            </th><th class="number">
              {{ say('bank.charges') }}
            </th><th class="number">
              {{ say('bank.net') }}
            </th><th>{{ say('bank.brought') }}</th>
          </tr>
        </thead>
        <tbody>
          <tr
            v-for="row in rows"
            :key="row.id"
          >
            <td>
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
            </td>
            <td class="nowrap">
              {{ row.on }}
            </td>
            <td class="number">
              {{ countText(row.lines) }}
            </td>
            <td class="number">
              {{ spelling.amountIn(row.gross, row.currency) }}
            </td>
            <td class="number">
              {{ spelling.amountIn(row.charges, row.currency) }}
            </td>
            <td class="number">
              {{ spelling.amountIn(row.net, row.currency) }}
            </td>
            <td :class="row.isBrought ? 'settled' : 'soft'">
              {{ say('bank.isBrought', { brought: String(row.isBrought) }) }}
            </td>
          </tr>
        </tbody>
      </table>
    </div>
  </div>
</template>

<style scoped>
.wide { overflow-x: auto; margin-top: 16px; }
</style>
