<script setup lang="ts">
import type { BankAccountView } from '~~/shared/bank'

/** The simulated bank's own page: days pass, and each gives a statement in three formats. */
useHead({ title: titled(say('bank.standinBank')) })
interface Day {
  account: string
  sequence: number
  on: string
  lines: number
}
const bank = shallowRef<{ accounts: BankAccountView[], days: Day[] } | null>(null)
const { busy, refusal, send } = useSubmission()
const formats = [['camt', 'camt.053'], ['mt940', 'MT940'], ['csv', 'CSV']] as const
const { failure, reload } = useLoaded(async () => {
  bank.value = await callApi<{ accounts: BankAccountView[], days: Day[] }>('/api/standins/bank')
})
const passDay = (account: string) =>
  send(async () => {
    await callApi('/api/standins/bank/day', { method: 'POST', body: { account } })
    await reload()
  })
const link = (day: Day, format: string) =>
  `/api/standins/bank/statement?account=${encodeURIComponent(day.account)}&sequence=${day.sequence}&format=${format}`
</script>

<template>
  <div class="page">
    <h1>{{ say('bank.standinBank') }}</h1>
    <p class="note is-attention">
      {{ say('bank.standinHelp') }}
    </p>
    <HouseAlert
      :text="failure || refusal"
      kind="refusal"
    />
    <template v-if="bank">
      <p v-if="bank.accounts.length === 0">
        {{ say('bank.standinNoAccount') }}
      </p>
      <section
        v-for="account in bank.accounts"
        :key="account.id"
      >
        <h2>{{ account.title }}</h2>
        <p class="act">
          <ElButton
            type="primary"
            :loading="busy"
            @click="passDay(account.id)"
          >
            {{ say('bank.passDay') }}
          </ElButton>
        </p>
        <p
          v-for="day in bank.days.filter(one => one.account === account.number)"
          :key="day.sequence"
          class="day"
        >
          {{ say('bank.standinDay', { sequence: day.sequence, on: day.on, lines: day.lines }) }}
          <a
            v-for="[format, title] in formats"
            :key="format"
            :href="link(day, format)"
            download
          >{{ title }}</a>
        </p>
      </section>
      <p class="act">
        <a
          href="/api/standins/bank/settlement"
          download
        >{{ say('bank.standinSettlement') }}</a>
      </p>
      <p><NuxtLink to="/fees/statements">{{ say('bank.backToFees') }}</NuxtLink></p>
    </template>
  </div>
</template>

<style scoped>
h1 { margin-bottom: 12px; }
section { margin: 20px 0; }
.act { margin: 10px 0; }
.day { max-width: 640px; display: flex; gap: 16px; padding: 5px 0; border-bottom: 1px solid var(--line); }
</style>
