<script setup lang="ts">
import type { FeesView } from '~~/shared/fees'

/** Accounts: the ledger's balances, where the fees stand, and payments that hang. */
useHead({ title: 'Fees · Lucid Roster' })
const cycle = useCycleStore()
const session = useSessionStore()
const spelling = useSpelling()
const view = shallowRef<FeesView | null>(null)
const busy = ref('')
const words: Record<string, string> = {
  'receivable': 'owed by applicants', 'fee income': 'fees earned', 'gateway clearing': 'received, held by the gateway', 'refunds payable': 'to be paid back',
}
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
    <div class="page-head">
      <h1>Fees</h1>
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
          Ledger
        </h2>
        <table class="plain-table">
          <tbody>
            <tr
              v-for="account in view.accounts"
              :key="account.account"
            >
              <td>{{ account.account }} <span class="soft small">{{ words[account.account] }}</span></td>
              <td class="number">
                {{ spelling.amount(account.balance) }}
              </td>
            </tr>
            <tr class="total">
              <td>Sum of all accounts <span class="soft small">debits less credits; must be zero</span></td>
              <td class="number">
                {{ spelling.amount(view.accounts.reduce((n, a) => n + a.balance, 0)) }}
              </td>
            </tr>
          </tbody>
        </table>
      </section>
      <section>
        <h2 class="section-title">
          Applications by state of the fee
        </h2>
        <table class="plain-table">
          <tbody>
            <tr
              v-for="state in view.states"
              :key="state.fee"
            >
              <td><NuxtLink :to="{ path: '/roster', query: { fee: state.fee } }">{{ state.fee }}</NuxtLink></td><td class="number">
                {{ state.count.toLocaleString('en-GB') }}
              </td>
            </tr>
          </tbody>
        </table>
      </section>
    </div>
    <section v-if="view">
      <h2 class="section-title">
        Payments without a result
      </h2>
      <p
        v-if="view.waiting.length === 0"
        class="soft"
      >
        None. Payments that the gateway has not answered stand here until it does.
      </p>
      <table
        v-else
        class="plain-table"
      >
        <thead><tr><th>order</th><th>applicant</th><th>opened</th><th class="number">amount</th><th /></tr></thead>
        <tbody>
          <tr
            v-for="one in view.waiting"
            :key="one.order"
          >
            <td>{{ one.order }}</td>
            <td><NuxtLink :to="`/intake/${one.applicationId}`">{{ one.name }}</NuxtLink></td>
            <td>{{ spelling.instant(one.openedAt) }}</td>
            <td class="number">
              {{ spelling.amount(one.amount) }}
            </td>
            <td class="number">
              <ElButton
                v-if="session.may('fees.reconcile')"
                size="small"
                :loading="busy === one.applicationId"
                @click="ask(one.applicationId)"
              >
                Ask the gateway
              </ElButton>
            </td>
          </tr>
        </tbody>
      </table>
    </section>
  </div>
</template>

<style scoped>
.columns { display: grid; grid-template-columns: repeat(auto-fit, minmax(320px, 1fr)); gap: 32px; margin-bottom: 28px; }
.total td { font-weight: 600; }
.total .soft { font-weight: 400; }
</style>
