<script setup lang="ts">
import type { Data } from 'plotly.js-basic-dist-min'
import { exponentOf } from '~~/core/bank/statement'
import type { ClosingPage } from '~~/shared/bank'

/** The day's closing: what came in, and every account with what explains it, to the last unit. */
useHead({ title: titled(say('bank.closing')) })
const cycle = useCycleStore()
const session = useSessionStore()
const spelling = useSpelling()
const { accountWords } = useWords().bank
const { explainedByWords, channelWords } = useWords().bank
const shown = shallowRef<ClosingPage | null>(null)
const on = ref('')
const currency = ref('')
const note = ref('')
const { busy, refusal, send } = useSubmission()
const { failure, reload } = useLoaded(async () => {
  shown.value = await callApi<ClosingPage>(cycle.path('closing'), {
    query: { on: on.value || undefined, currency: currency.value || undefined },
  })
  on.value = shown.value.view.on
  currency.value = shown.value.view.currency
})
/** A closed day shows what was kept; today and open days what the books say now. */
const view = computed(() => shown.value?.closed?.view ?? shown.value?.view ?? null)
const amount = (minor: number) => spelling.amountIn(minor, currency.value)
const isExplained = computed(() => view.value?.accounts.every(account => account.difference === 0) ?? false)
const close = () =>
  send(async () => {
    await callApi(cycle.path('closing'), { method: 'POST', body: { on: on.value, currency: currency.value, note: note.value } })
    note.value = ''
    await reload()
  })
const chart = computed<Data[]>(() =>
  (['gateway', 'bank'] as const).map((channel, i) => {
    const rows = shown.value?.byDay.filter(row => row.channel === channel) ?? []
    return {
      type: 'bar',
      name: channelWords[channel],
      x: rows.map(row => row.on),
      y: rows.map(row => row.amount / 10 ** exponentOf(currency.value)),
      customdata: rows.map(row => amount(row.amount)),
      hovertemplate: `%{x}: %{customdata}<extra>${channelWords[channel]}</extra>`,
      marker: { color: i === 0 ? '#155e75' : '#b9895a' },
    }
  })
)
function pick({ x }: { x: unknown }) {
  if (typeof x !== 'string') return
  on.value = x.slice(0, 10)
  void reload()
}
</script>

<template>
  <div class="page">
    <FeesAreas />
    <div class="page-head">
      <h1>{{ say('bank.closing') }}</h1>
      <div class="actions">
        <label for="closing-day">{{ say('bank.day') }}</label>
        <input
          id="closing-day"
          v-model="on"
          type="date"
          class="field"
          @change="reload"
        >
        <select
          v-if="(shown?.currencies.length ?? 0) > 1"
          v-model="currency"
          class="field"
          :aria-label="say('bank.currency')"
          @change="reload"
        >
          <option
            v-for="one in shown?.currencies"
            :key="one"
          >
            {{ one }}
          </option>
        </select>
        <a
          v-if="on"
          :href="`/api/bank/ledger.csv?from=${on}&to=${on}`"
          download
        >{{ say('bank.exportLedger') }}</a>
      </div>
    </div>
    <HouseAlert
      :text="failure || refusal"
      kind="refusal"
    />
    <template v-if="view && shown">
      <p
        v-if="shown.closed"
        class="note"
      >
        {{ say('bank.closedBy', { by: shown.closed.by, at: spelling.instant(shown.closed.at) }) }} {{ shown.closed.note ? say('bank.closedNote', { note: shown.closed.note }) : '' }}
      </p>
      <div class="two">
        <section>
          <h2 class="section-title">
            {{ say('bank.receiptsOn', { on: view.on }) }}
          </h2>
          <p
            v-if="view.receipts.length === 0"
            class="soft"
          >
            {{ say('bank.receiptsNone') }}
          </p>
          <HouseTable
            v-else
            :columns="[
              { key: 'channel', title: say('bank.channel'), text: row => channelWords[row.channel] },
              { key: 'examination', title: say('bank.examination'), text: row => row.cycle },
              { key: 'category', title: say('bank.category'), text: row => spelling.category(row.category) },
              { key: 'payments', title: say('bank.payments'), kind: 'number', text: row => countText(row.count) },
              { key: 'amount', title: say('bank.amount'), kind: 'number', text: row => amount(row.amount) },
            ]"
            :rows="view.receipts"
            :row-key="row => row.channel + row.cycle + row.category"
          >
            <template #end>
              <tr class="total">
                <td colspan="3">
                  {{ say('bank.total') }}
                </td><td class="number">
                  {{ countText(view.receipts.reduce((n, row) => n + row.count, 0)) }}
                </td><td class="number">
                  {{ amount(view.receipts.reduce((n, row) => n + row.amount, 0)) }}
                </td>
              </tr>
            </template>
          </HouseTable>
          <template v-if="view.papers && view.papers.length > 0">
            <h3>{{ say('bank.receiptsFor') }}</h3>
            <HouseTable
              :columns="[
                { key: 'examination', text: row => row.cycle },
                { key: 'posts', text: row => row.posts || '–' },
                { key: 'count', kind: 'number', text: row => countText(row.count) },
                { key: 'amount', kind: 'number', text: row => amount(row.amount) },
              ]"
              :rows="view.papers"
              :row-key="row => row.cycle + row.posts"
            />
          </template>
        </section>
        <section>
          <h2 class="section-title">
            {{ say('bank.receiptsByDay') }}
          </h2>
          <ChartsPlot
            :data="chart"
            :layout="{ barmode: 'stack', showlegend: true, legend: { orientation: 'h', y: 1.15 }, xaxis: { type: 'date', tickformat: '%d %b' } }"
            :height="220"
            :label="say('bank.chartLabel')"
            @pick="pick"
          />
        </section>
      </div>
      <section>
        <h2 class="section-title">
          {{ say('bank.accountsExplained') }}
        </h2>
        <HouseTable
          :columns="[
            { key: 'account', title: say('bank.account') },
            { key: 'balance', title: say('bank.balance'), kind: 'number', text: one => amount(one.balance) },
            {
              key: 'difference',
              title: say('bank.difference'),
              kind: 'number',
              look: one => one.difference === 0 ? 'settled' : 'refusal',
              text: one => one.difference === 0 ? say('bank.noDifference') : amount(one.difference),
            },
          ]"
          :rows="view.accounts"
          :row-key="one => one.account"
        >
          <template #account="{ row: one }">
            <b>{{ accountWords[one.account].title }}</b> <span class="soft small">{{ accountWords[one.account].says }}</span>
            <div
              v-for="why in one.explained"
              :key="why.by"
              class="why"
            >
              <span>{{ explainedByWords[why.by] }}: {{ amount(why.amount) }}</span>
              <details v-if="why.parts.length > 0">
                <summary>{{ say('bank.parts', { shown: why.parts.length, more: why.count > why.parts.length ? why.count : 0 }) }}</summary>
                <p
                  v-for="part in why.parts"
                  :key="part.title"
                  class="part small"
                >
                  <NuxtLink
                    v-if="part.to"
                    :to="part.to"
                  >{{ part.title }}</NuxtLink><span v-else>{{ part.title }}</span><span class="number">{{ amount(part.amount) }}</span>
                </p>
              </details>
            </div>
          </template>
        </HouseTable>
      </section>
      <section
        v-if="session.may('bank.work') && !shown.closed"
        class="close"
      >
        <label for="closing-note">{{ say('bank.closeNote') }}</label>
        <input
          id="closing-note"
          v-model="note"
          class="field"
          maxlength="1000"
        >
        <ElButton
          type="primary"
          :disabled="!isExplained"
          :loading="busy"
          @click="close"
        >
          {{ say('bank.closeDay', { on: view.on }) }}
        </ElButton>
        <p class="soft small">
          {{ say('bank.closeHelp') }}
        </p>
      </section>
      <section v-if="shown.days.length > 0">
        <h2 class="section-title">
          {{ say('bank.closedDays') }}
        </h2>
        <p>
          <button
            v-for="one in shown.days"
            :key="one.on + one.currency"
            type="button"
            class="press day"
            @click="on = one.on; currency = one.currency; reload()"
          >
            {{ one.on }} <span class="soft small">{{ one.by }}</span>
          </button>
        </p>
      </section>
    </template>
  </div>
</template>

<style scoped>
h3 { margin: 16px 0 2px; }
.page-head .actions { align-items: center; }
.two { display: grid; grid-template-columns: repeat(auto-fit, minmax(380px, 1fr)); gap: 32px; }
section { margin-bottom: 28px; }
.total td { font-weight: 600; }
.why { margin: 4px 0 2px 14px; }
.part { display: flex; justify-content: space-between; gap: 20px; max-width: 560px; margin-left: 14px; }
summary { cursor: pointer; color: var(--accent); font-size: 14px; }
.close label { display: block; font-weight: 600; font-size: 14px; }
.close .field { width: min(480px, 100%); margin-right: 12px; }
.close p { margin-top: 6px; }
.day { margin-right: 18px; }
@media (max-width: 500px) { .two { grid-template-columns: minmax(0, 1fr); } }
</style>
