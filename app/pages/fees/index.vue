<script setup lang="ts">
import type { FeesView } from '~~/shared/fees'

/** Accounts: the ledger's balances, where the fees stand, and payments that hang. */
useHead({ title: titled(say('ledger.fees')) })
const cycle = useCycleStore()
const session = useSessionStore()
const spelling = useSpelling()
const view = shallowRef<FeesView | null>(null)
const busy = ref('')
/** Amounts of two currencies are never added up: a ledger for each. */
const ledgers = computed(() => {
  const accounts = view.value?.accounts ?? []
  return [...new Set(accounts.map(account => account.currency))].map(currency =>
    [currency, accounts.filter(account => account.currency === currency)] as const
  )
})
const { accountWords } = useWords().bank
const { feeStateWords } = useWords().states
const { failure, reload: load } = useLoaded(async () => {
  view.value = await callApi<FeesView>(cycle.path('fees'))
})
async function ask(id: string) {
  busy.value = id
  await attempt(() => callApi(`/api/applications/${id}/payments/ask`, { method: 'POST' }))
  busy.value = ''
  await load()
  await cycle.refreshBand().catch(() => undefined)
}
</script>

<template>
  <div class="page">
    <FeesAreas />
    <div class="page-head">
      <h1>{{ say('ledger.fees') }}</h1>
    </div>
    <HouseAlert
      :text="failure"
      kind="refusal"
    />
    <div
      v-if="view"
      class="columns"
    >
      <section>
        <h2 class="section-title">
          {{ say('ledger.ledger') }}
        </h2>
        <table class="plain-table">
          <tbody
            v-for="[currency, accounts] in ledgers"
            :key="currency"
          >
            <tr
              v-for="account in accounts"
              :key="account.account"
            >
              <td>{{ accountWords[account.account].title }} <span class="soft small">{{ accountWords[account.account].says }}</span></td>
              <td class="number">
                {{ spelling.amountIn(account.balance, currency) }}
              </td>
            </tr>
            <tr class="total">
              <td>{{ say('ledger.sumOfAllAccounts') }} <span class="soft small">{{ say('ledger.debitsLessCreditsMustBeZero') }}</span></td>
              <td class="number">
                {{ spelling.amountIn(accounts.reduce((n, a) => n + a.balance, 0), currency) }}
              </td>
            </tr>
          </tbody>
        </table>
      </section>
      <section>
        <h2 class="section-title">
          {{ say('ledger.applicationsByStateOfTheFee') }}
        </h2>
        <HouseTable
          :columns="[{ key: 'state' }, { key: 'count', kind: 'number', text: state => countText(state.count) }]"
          :rows="view.states"
          :row-key="state => state.fee"
        >
          <template #state="{ row: state }">
            <NuxtLink :to="{ path: '/roster', query: { fee: state.fee } }">{{ feeStateWords[state.fee] }}</NuxtLink>
          </template>
        </HouseTable>
      </section>
    </div>
    <section v-if="view">
      <h2 class="section-title">
        {{ say('ledger.paymentsWithoutAResult') }}
      </h2>
      <p
        v-if="view.waiting.length === 0"
        class="soft"
      >
        {{ say('ledger.nonePaymentsThatTheGatewayHas') }}
      </p>
      <HouseTable
        v-else
        :columns="[
          { key: 'order', title: say('ledger.order'), text: one => one.order },
          { key: 'applicant', title: say('ledger.applicant') },
          { key: 'opened', title: say('ledger.opened'), text: one => spelling.instant(one.openedAt) },
          { key: 'amount', title: say('ledger.amount'), kind: 'number', text: one => spelling.amount(one.amount) },
          { key: 'ask', title: say('ledger.askTheGateway'), isQuiet: true, kind: 'number' },
        ]"
        :rows="view.waiting"
        :row-key="one => one.order"
      >
        <template #applicant="{ row: one }">
          <NuxtLink :to="`/intake/${one.applicationId}`">{{ one.name }}</NuxtLink>
        </template>
        <template #ask="{ row: one }">
          <ElButton
            v-if="session.may('fees.reconcile')"
            size="small"
            :loading="busy === one.applicationId"
            @click="ask(one.applicationId)"
          >
            {{ say('ledger.askTheGateway') }}
          </ElButton>
        </template>
      </HouseTable>
    </section>
    <section v-if="view">
      <h2 class="section-title">
        {{ say('ledger.gatewayEventsThatDoNotFit') }}
      </h2>
      <FeesGatewayMisfits
        :misfits="view.misfits"
        @changed="load"
      />
    </section>
  </div>
</template>

<style scoped>
.columns { display: grid; grid-template-columns: repeat(auto-fit, minmax(320px, 1fr)); gap: 32px; margin-bottom: 28px; }
section { margin-bottom: 28px; }
.total td { font-weight: 600; }
.total .soft { font-weight: 400; }
</style>
