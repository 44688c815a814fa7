<script setup lang="ts">
import { inFours } from '~~/core/bank/check-digits'
import type { Gap } from '~~/core/bank/statement'
import type { BankAccountView, StatementView, TakenStatements } from '~~/shared/bank'

/**
 * Bank accounts of the office, and the statements that were read of each. A file is taken, and at once looked through for whose money it
 * brings.
 */
useHead({ title: titled(say('bank.statements')) })
const cycle = useCycleStore()
const session = useSessionStore()
const spelling = useSpelling()
const { formatWords } = useWords().bank
const accounts = shallowRef<BankAccountView[]>([])
const statements = shallowRef<Record<string, StatementView[]>>({})
const edited = shallowRef<{ account: BankAccountView | null } | null>(null)
const columnsOf = shallowRef<{ account: BankAccountView, file: File | null } | null>(null)
const told = ref('')
const taking = ref('')
const refusals = ref<Record<string, string>>({})
const mayWork = computed(() => session.may('bank.work'))

const { failure, reload } = useLoaded(async () => {
  accounts.value = await callApi<BankAccountView[]>('/api/bank/accounts')
  const lists = await Promise.all(accounts.value.map(({ id }) => callApi<StatementView[]>(`/api/bank/accounts/${id}/statements`)))
  statements.value = Object.fromEntries(accounts.value.map(({ id }, i) => [id, lists[i] ?? []]))
})
const { job, live, find, startAt, cancel } = useJob('match-lines', async () => {
  await reload()
  if (job.value?.state === 'done') {
    told.value = say('bank.matched', {
      booked: Number(job.value.result?.booked ?? 0),
      waiting: accounts.value.reduce((n, one) => n + one.openLines, 0),
    })
  }
  await cycle.refreshBand().catch(() => undefined)
})
onMounted(() => attempt(find))
const match = () => attempt(() => startAt(cycle.path('match-lines'), {}))

async function take(account: BankAccountView, file: File) {
  taking.value = account.id
  refusals.value = { ...refusals.value, [account.id]: '' }
  told.value = ''
  try {
    const { taken, repeated } = await callApi<TakenStatements>(`/api/bank/accounts/${account.id}/statements`, {
      method: 'POST',
      bytes: file,
      query: { name: file.name },
    })
    told.value = say('bank.taken', { n: taken.length, lines: taken.reduce((n, one) => n + one.lines - one.known, 0), repeated })
    await reload()
    if (taken.length > 0) await match()
  } catch (error) {
    const code = problemCode(error)
    if (code === 'statement.no-mapping' || code === 'statement.headings') columnsOf.value = { account, file }
    refusals.value = { ...refusals.value, [account.id]: problemText(error) }
  }
  taking.value = ''
}
async function saidColumns() {
  const { account, file } = columnsOf.value ?? {}
  columnsOf.value = null
  await reload()
  if (account && file) await take(account, file)
}
async function saidAccount() {
  edited.value = null
  await reload()
}
const balance = (minor: number | null, currency: string) => minor === null ? '–' : spelling.amountIn(minor, currency)
const gapText = (gap: Gap, currency: string) =>
  gap.code === 'sequence'
    ? say('bank.gapSequence', { wanted: gap.wanted })
    : say('bank.gapOpening', { found: balance(gap.found, currency), wanted: balance(gap.wanted, currency) })
</script>

<template>
  <div class="page">
    <FeesAreas />
    <div class="page-head">
      <h1>{{ say('bank.accountsTitle') }}</h1>
      <div class="actions">
        <ElButton
          v-if="mayWork && accounts.length > 0"
          :disabled="live"
          @click="match"
        >
          {{ say('bank.matchAgain') }}
        </ElButton>
        <ElButton
          v-if="mayWork"
          @click="edited = { account: null }"
        >
          {{ say('bank.newAccount') }}
        </ElButton>
      </div>
    </div>
    <HouseAlert
      :text="failure"
      kind="refusal"
    />
    <JobsProgress
      :job="job"
      :live="live"
      :what="say('bank.matchingRuns')"
      @cancel="cancel"
    />
    <p
      v-if="told"
      class="note"
      role="status"
    >
      {{ told }} <NuxtLink to="/fees/matching">{{ say('bank.matching') }}</NuxtLink>
    </p>
    <p
      v-if="!failure && accounts.length === 0"
      class="soft"
    >
      {{ say('bank.noAccounts') }}
    </p>
    <section
      v-for="account in accounts"
      :key="account.id"
    >
      <div class="account">
        <div>
          <h2>{{ account.title }}</h2>
          <p class="soft">
            {{ account.holder }} · {{ account.bank }} · <span
              class="nowrap"
              data-unformatted
            >{{ inFours(account.number) }}</span>
          </p>
          <p>
            {{ account.last ? say('bank.lastStatement', { on: account.last.on, closing: balance(account.last.closing, account.currency) }) : say('bank.noStatement') }} ·
            <NuxtLink :to="{ path: '/fees/matching', query: { account: account.id } }">{{ say('bank.openLines', { n: account.openLines }) }}</NuxtLink>
          </p>
        </div>
        <div
          v-if="mayWork"
          class="acts"
        >
          <HouseFileButton
            :title="say('bank.takeStatement')"
            :label="`${say('bank.takeStatement')}: ${account.title}`"
            accept=".xml,.sta,.mt940,.940,.txt,.csv"
            main
            :busy="taking === account.id"
            @choose="file => take(account, file)"
          />
          <p class="small">
            <span class="soft">{{ say('bank.takesFormats') }}</span><br>
            <button
              type="button"
              class="press"
              @click="columnsOf = { account, file: null }"
            >
              {{ say('bank.columns') }}
            </button> · <button
              type="button"
              class="press"
              @click="edited = { account }"
            >
              {{ say('bank.changeAccount') }}
            </button>
          </p>
        </div>
      </div>
      <HouseAlert
        :text="refusals[account.id] ?? ''"
        kind="refusal"
      />
      <div
        v-if="(statements[account.id] ?? []).length > 0"
        class="wide"
      >
        <HouseTable
          :columns="[
            { key: 'file', title: say('bank.file') },
            {
              key: 'days',
              title: say('bank.days'),
              kind: 'line',
              text: row => row.firstOn === row.lastOn ? row.firstOn : `${row.firstOn} – ${row.lastOn}`,
            },
            { key: 'lines', title: say('bank.lines'), kind: 'number' },
            { key: 'opening', title: say('bank.opening'), kind: 'number', text: row => balance(row.opening, account.currency) },
            { key: 'closing', title: say('bank.closingBalance'), kind: 'number', text: row => balance(row.closing, account.currency) },
            { key: 'waiting', title: say('bank.waiting'), kind: 'number' },
          ]"
          :rows="statements[account.id] ?? []"
          :row-key="row => row.id"
        >
          <template #file="{ row }">
            {{ row.identification || row.name }} <span class="soft small">{{ formatWords[row.format] }} · {{ say('bank.readBy', { by: row.by, at: spelling.instant(row.at) }) }}</span>
            <p
              v-for="gap in row.gaps"
              :key="gap.code"
              class="attention small"
            >
              {{ gapText(gap, account.currency) }}
            </p>
          </template>
          <template #lines="{ row }">
            {{ countText(row.lines) }}<span
              v-if="row.known > 0"
              class="soft small"
            ><br>{{ say('bank.knownLines', { known: row.known }) }}</span>
          </template>
          <template #waiting="{ row }">
            <NuxtLink
              v-if="row.open > 0"
              :to="{ path: '/fees/matching', query: { statement: row.id } }"
            >{{ countText(row.open) }}</NuxtLink><template v-else>
              0
            </template>
          </template>
        </HouseTable>
      </div>
    </section>
    <BankAccountDialog
      v-if="edited"
      :account="edited.account"
      :currency="cycle.notice?.body.currency.code ?? ''"
      @done="saidAccount"
      @close="edited = null"
    />
    <BankColumnsDialog
      v-if="columnsOf"
      :account="columnsOf.account"
      :file="columnsOf.file"
      @done="saidColumns"
      @close="columnsOf = null"
    />
  </div>
</template>

<style scoped>
section { padding: 18px 0 26px; border-top: 1px solid var(--line); }
.account { display: flex; flex-wrap: wrap; gap: 12px 40px; justify-content: space-between; align-items: start; margin-bottom: 10px; }
.acts { text-align: right; }
.acts p { margin-top: 6px; }
.wide { overflow-x: auto; }
@media (max-width: 600px) { .acts { text-align: left; } }
</style>
