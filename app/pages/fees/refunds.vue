<script setup lang="ts">
import type { BankAccountView, RefundsPage, RefundView } from '~~/shared/bank'

/** Refunds: whom something is owed, what waits for a second person, what is to be sent and what became of it. */
useHead({ title: titled(say('bank.refunds')) })
const session = useSessionStore()
const spelling = useSpelling()
const shown = shallowRef<RefundsPage | null>(null)
const accounts = shallowRef<BankAccountView[]>([])
const proposing = shallowRef<RefundsPage['owed'][number] | null>(null)
const { busy, refusal, send } = useSubmission()
const { failure, reload } = useLoaded(async () => {
  ;[shown.value, accounts.value] = await Promise.all([callApi<RefundsPage>('/api/bank/refunds'),
    callApi<BankAccountView[]>('/api/bank/accounts')])
})
const mayWork = computed(() => session.may('bank.work'))
const mayApprove = computed(() => session.may('refunds.approve'))
const having = (...states: RefundView['state'][]) => shown.value?.refunds.filter(one => states.includes(one.state)) ?? []
const waiting = computed(() => having('proposed'))
const ready = computed(() => having('approved'))
const past = computed(() => having('sent', 'left', 'returned', 'withdrawn'))
/** Accounts from which something can be sent now. */
const payers = computed(() => accounts.value.filter(account => ready.value.some(one => one.currency === account.currency)))

const answer = (one: RefundView, given: 'approve' | 'withdraw') =>
  send(async () => {
    await callApi(`/api/bank/refunds/${one.id}`, { method: 'POST', body: { answer: given } })
    await reload()
  })
const make = (account: BankAccountView) =>
  send(async () => {
    const { id } = await callApi<{ id: string }>('/api/bank/payment-files', { method: 'POST', body: { account: account.id } })
    await reload()
    window.location.assign(`/api/bank/payment-files/${id}`)
  })
async function proposed() {
  proposing.value = null
  await reload()
}
</script>

<template>
  <div class="page">
    <FeesAreas />
    <div class="page-head">
      <h1>{{ say('bank.refundsTitle') }}</h1>
    </div>
    <HouseAlert
      :text="failure || refusal"
      kind="refusal"
    />
    <template v-if="shown">
      <section>
        <h2 class="section-title">
          {{ say('bank.owedTitle') }}
        </h2>
        <p
          v-if="shown.owed.length === 0"
          class="soft"
        >
          {{ say('bank.nothingOwed') }}
        </p>
        <div
          v-for="owed in shown.owed"
          :key="owed.applicationId + owed.currency"
          class="row"
        >
          <span><NuxtLink :to="`/intake/${owed.applicationId}`">{{ owed.name }}</NuxtLink> <span class="soft small">{{ owed.number }}</span></span>
          <span class="number">{{ spelling.amountIn(owed.amount, owed.currency) }}</span>
          <ElButton
            v-if="mayWork"
            size="small"
            @click="proposing = owed"
          >
            {{ say('bank.propose') }}
          </ElButton>
        </div>
      </section>
      <section v-if="waiting.length > 0">
        <h2 class="section-title">
          {{ say('bank.waitsForSecond') }}
        </h2>
        <BankRefundRow
          v-for="one in waiting"
          :key="one.id"
          :refund="one"
          whole
        >
          <template v-if="mayApprove">
            <ElButton
              size="small"
              :disabled="one.byId === session.principal?.id"
              :title="one.byId === session.principal?.id ? say('bank.notYourself') : ''"
              :loading="busy"
              @click="answer(one, 'approve')"
            >
              {{ say('bank.approve') }}
            </ElButton>
            <ElButton
              size="small"
              :loading="busy"
              @click="answer(one, 'withdraw')"
            >
              {{ say('bank.layAside') }}
            </ElButton>
          </template>
        </BankRefundRow>
      </section>
      <section v-if="ready.length > 0">
        <h2 class="section-title">
          {{ say('bank.toBeSent') }}
        </h2>
        <BankRefundRow
          v-for="one in ready"
          :key="one.id"
          :refund="one"
          whole
        >
          <ElButton
            v-if="mayApprove"
            size="small"
            :loading="busy"
            @click="answer(one, 'withdraw')"
          >
            {{ say('bank.layAside') }}
          </ElButton>
        </BankRefundRow>
        <p
          v-if="mayWork"
          class="send"
        >
          <ElButton
            v-for="account in payers"
            :key="account.id"
            type="primary"
            :loading="busy"
            @click="make(account)"
          >
            {{ say('bank.sendFile', { title: account.title }) }}
          </ElButton>
        </p>
      </section>
      <section v-if="past.length > 0">
        <h2 class="section-title">
          {{ say('bank.sentRefunds') }}
        </h2>
        <BankRefundRow
          v-for="one in past"
          :key="one.id"
          :refund="one"
        >
          <span :class="one.state === 'returned' ? 'attention' : one.state === 'left' ? 'settled' : 'soft'">{{ say('bank.refundState', { state: one.state, way: one.order === null ? 'bank' : 'gateway' }) }}</span>
        </BankRefundRow>
      </section>
      <section v-if="shown.files.length > 0">
        <h2 class="section-title">
          {{ say('bank.paymentFiles') }}
        </h2>
        <div
          v-for="file in shown.files"
          :key="file.id"
          class="row"
        >
          <span>
            <a
              v-if="mayWork"
              :href="`/api/bank/payment-files/${file.id}`"
              download
            >{{ file.reference }}</a><template v-else>{{ file.reference }}</template>
            <span class="soft small">{{ say('bank.readBy', { by: file.by, at: spelling.instant(file.at) }) }}</span>
          </span>
          <span class="number">{{ say('bank.paymentsIn', { payments: file.payments, sum: spelling.amountIn(file.sum, file.currency) }) }}</span>
          <span />
        </div>
      </section>
    </template>
    <BankRefundDialog
      v-if="proposing"
      :owed="proposing"
      @done="proposed"
      @close="proposing = null"
    />
  </div>
</template>

<style scoped>
section { margin-bottom: 28px; max-width: 1000px; }
.row {
  display: grid; grid-template-columns: minmax(0, 1fr) auto 200px; gap: 6px 20px; align-items: start; padding: 8px 0;
  border-bottom: 1px solid var(--line);
}
.row > :last-child { justify-self: end; }
.send { margin-top: 12px; }
@media (max-width: 700px) {
  .row { grid-template-columns: minmax(0, 1fr) auto; }
  .row > :last-child { grid-column: 1 / -1; justify-self: start; }
}
</style>
