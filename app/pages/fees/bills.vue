<script setup lang="ts">
import { inFours } from '~~/core/bank/check-digits'
import type { BillPage, BillView, PayerView } from '~~/shared/bills'

/** Bills for several: what waits for payers whom the notice names, and every bill with what is still due on it. */
useHead({ title: titled(say('bank.bills')) })
const cycle = useCycleStore()
const session = useSessionStore()
const spelling = useSpelling()
const bills = shallowRef<BillView[] | null>(null)
const payers = shallowRef<PayerView[]>([])
const next = ref<string | null>(null)
const { busy, refusal, send } = useSubmission()

async function load(after?: string) {
  const page = await callApi<BillPage>(cycle.path('bills'), { query: { after } })
  bills.value = after ? [...bills.value ?? [], ...page.bills] : page.bills
  next.value = page.next
  if (!after) payers.value = page.payers
}
const { failure, reload } = useLoaded(() => load())
const billPayer = (payer: PayerView) =>
  send(async () => {
    await callApi<BillView>(cycle.path('bills'), { method: 'POST', body: { payer: payer.code } })
    await reload()
  })
const withdraw = (bill: BillView) =>
  send(async () => {
    const now = await callApi<BillView>(`/api/bills/${bill.id}/withdraw`, { method: 'POST' })
    bills.value = bills.value?.map(one => one.id === now.id ? now : one) ?? null
  })
</script>

<template>
  <div class="page">
    <FeesAreas />
    <div class="page-head">
      <h1>{{ say('bank.billsTitle') }}</h1>
    </div>
    <HouseAlert
      :text="failure || refusal"
      kind="refusal"
    />
    <p class="soft">
      {{ say('bank.billsHelp') }}
    </p>
    <section v-if="payers.length > 0">
      <h2 class="section-title">
        {{ say('bank.payers') }}
      </h2>
      <HouseTable
        :columns="[
          { key: 'payer', title: say('bank.payer'), text: payer => payer.title },
          { key: 'waits', title: say('bank.payerWaits'), kind: 'number' },
          { key: 'unbilled', title: say('bank.payerUnbilled'), kind: 'number', text: payer => countText(payer.unbilled) },
          { key: 'bill', title: say('bank.billThem'), isQuiet: true, kind: 'number' },
        ]"
        :rows="payers"
        :row-key="payer => payer.code"
      >
        <template #waits="{ row: payer }">
          <NuxtLink to="/roster?is=matter:payer-due|payer&is=fee:due">
            {{ countText(payer.people) }}
          </NuxtLink>
        </template>
        <template #bill="{ row: payer }">
          <ElButton
            v-if="session.may('fees.collect')"
            size="small"
            :disabled="busy || payer.unbilled === 0"
            @click="billPayer(payer)"
          >
            {{ say('bank.billThem') }}
          </ElButton>
        </template>
      </HouseTable>
    </section>
    <h2 class="section-title">
      {{ say('bank.bills') }}
    </h2>
    <p
      v-if="bills && bills.length === 0"
      class="soft"
    >
      {{ say('bank.noBills') }}
    </p>
    <div
      v-else-if="bills"
      class="wide"
    >
      <HouseTable
        :columns="[
          { key: 'bill', title: say('bank.bill') },
          { key: 'payer', title: say('bank.payer') },
          { key: 'people', title: say('bank.billPeople'), kind: 'number', text: bill => countText(bill.people) },
          { key: 'asked', title: say('bank.billAsked'), kind: 'number', text: bill => spelling.amountIn(bill.asked, bill.currency) },
          { key: 'due', title: say('bank.billDue'), kind: 'number' },
          { key: 'withdraw', title: say('bank.withdrawBill'), isQuiet: true, kind: 'number' },
        ]"
        :rows="bills"
        :row-key="bill => bill.id"
      >
        <template #bill="{ row: bill }">
          <a
            :href="`/api/bills/${bill.id}/paper`"
            target="_blank"
            class="nowrap"
          >{{ bill.number }}</a>
          <div class="soft small">
            {{ say('bank.billReference', { reference: inFours(bill.reference) }) }}
          </div>
        </template>
        <template #payer="{ row: bill }">
          {{ bill.payer }}
          <div class="soft small">
            {{ say('bank.billMadeBy', { by: bill.by, at: spelling.instant(bill.at) }) }}
          </div>
        </template>
        <template #due="{ row: bill }">
          <span
            v-if="bill.withdrawn"
            class="soft"
          >{{ say('bank.billWithdrawn', { by: bill.withdrawn.by, at: spelling.instant(bill.withdrawn.at) }) }}</span>
          <span
            v-else-if="bill.due === 0"
            class="settled"
          >{{ say('bank.billSettled') }}</span>
          <template v-else>
            {{ spelling.amountIn(bill.due, bill.currency) }}
          </template>
        </template>
        <template #withdraw="{ row: bill }">
          <ElButton
            v-if="session.may('fees.collect') && !bill.withdrawn && bill.due > 0"
            size="small"
            :disabled="busy"
            @click="withdraw(bill)"
          >
            {{ say('bank.withdrawBill') }}
          </ElButton>
        </template>
      </HouseTable>
      <ElButton
        v-if="next"
        class="more"
        @click="load(next)"
      >
        {{ say('bank.moreBills') }}
      </ElButton>
    </div>
  </div>
</template>

<style scoped>
.wide { overflow-x: auto; }
.more { margin-top: 12px; }
h2 { margin-top: 24px; }
</style>
