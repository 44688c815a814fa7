<script setup lang="ts">
import type { BankAccountView, CsvHead, CsvMapping } from '~~/shared/bank'

/** What the columns of a bank's CSV mean, said once for an account. */
const props = defineProps<{ account: BankAccountView, file: File | null }>()
const emit = defineEmits<{ done: [], close: [] }>()
const { busy, refusal, send } = useSubmission()
const head = shallowRef<CsvHead>({ headings: [], samples: [] })
const mapping = reactive<CsvMapping>({
  bookedOn: '',
  order: 'ymd',
  amount: '',
  mark: '.',
  debit: null,
  valueOn: null,
  reference: null,
  text: [],
  name: null,
  account: null,
  bankReference: null,
  balance: null,
  currency: null,
})
const single = [
  { key: 'bookedOn', title: say('bank.columnBookedOn'), needed: true },
  { key: 'amount', title: say('bank.columnAmount'), needed: true },
  { key: 'debit', title: say('bank.columnDebit'), needed: false },
  { key: 'reference', title: say('bank.columnReference'), needed: false },
  { key: 'name', title: say('bank.columnName'), needed: false },
  { key: 'account', title: say('bank.columnAccount'), needed: false },
  { key: 'bankReference', title: say('bank.columnBankReference'), needed: false },
  { key: 'balance', title: say('bank.columnBalance'), needed: false },
  { key: 'currency', title: say('bank.columnCurrency'), needed: false },
] as const
const orders = ['ymd', 'dmy', 'mdy'] as const
/** Headings of the file, and those that were said before, so that nothing chosen is out of sight. */
const headings = computed(() =>
  [...new Set([...head.value.headings, ...single.flatMap(({ key }) => mapping[key] || []), ...mapping.text])].filter(one => one !== '')
)
const sampleOf = (heading: string | null) =>
  heading ? head.value.samples.map(row => row[head.value.headings.indexOf(heading)] ?? '').filter(cell => cell !== '').join(' · ') : ''
const isReady = computed(() => mapping.bookedOn !== '' && mapping.amount !== '')

const look = (file: File) =>
  send(async () => {
    head.value = await callApi<CsvHead>('/api/bank/head', { method: 'POST', bytes: file })
  })
const save = () =>
  send(async () => {
    await callApi(`/api/bank/accounts/${props.account.id}/columns`, { method: 'PUT', body: mapping })
    emit('done')
  })
onMounted(async () => {
  const kept = await callApi<{ mapping: CsvMapping | null }>(`/api/bank/accounts/${props.account.id}/columns`).catch(() => null)
  if (kept?.mapping) Object.assign(mapping, kept.mapping)
  if (props.file) await look(props.file)
})
</script>

<template>
  <ElDialog
    :model-value="true"
    :title="say('bank.columnsTitle')"
    width="min(760px, 96vw)"
    @close="emit('close')"
  >
    <p class="soft">
      {{ say('bank.columnsHelp') }}
    </p>
    <p class="choose">
      <HouseFileButton
        :title="say('bank.chooseCsv')"
        :label="say('bank.chooseCsv')"
        accept=".csv,.txt,text/csv"
        :busy="busy"
        @choose="look"
      />
    </p>
    <div class="columns">
      <template
        v-for="one in single"
        :key="one.key"
      >
        <label :for="`column-${one.key}`">{{ one.title }}</label>
        <select
          :id="`column-${one.key}`"
          v-model="mapping[one.key]"
          class="field"
        >
          <option
            v-if="!one.needed"
            :value="null"
          >
            {{ say('bank.noColumn') }}
          </option>
          <option
            v-for="heading in headings"
            :key="heading"
            :value="heading"
          >
            {{ heading }}
          </option>
        </select>
        <span class="soft small">{{ sampleOf(mapping[one.key]) }}</span>
      </template>
      <label for="column-text">{{ say('bank.columnText') }}</label>
      <select
        id="column-text"
        v-model="mapping.text"
        class="field"
        multiple
        :size="Math.min(5, Math.max(2, headings.length))"
      >
        <option
          v-for="heading in headings"
          :key="heading"
          :value="heading"
        >
          {{ heading }}
        </option>
      </select>
      <span class="soft small">{{ sampleOf(mapping.text[0] ?? null) }}</span>
      <label for="column-order">{{ say('bank.columnOrder') }}</label>
      <select
        id="column-order"
        v-model="mapping.order"
        class="field"
      >
        <option
          v-for="order in orders"
          :key="order"
          :value="order"
        >
          {{ say('bank.orders', { order }) }}
        </option>
      </select>
      <span class="soft small">{{ sampleOf(mapping.bookedOn) }}</span>
      <label for="column-mark">{{ say('bank.columnMark') }}</label>
      <select
        id="column-mark"
        v-model="mapping.mark"
        class="field"
      >
        <option value=".">
          1234.50
        </option>
        <option value=",">
          1234,50
        </option>
      </select>
      <span class="soft small">{{ sampleOf(mapping.amount) }}</span>
    </div>
    <HouseAlert
      :text="refusal"
      kind="refusal"
    />
    <template #footer>
      <ElButton @click="emit('close')">
        {{ say('bank.cancel') }}
      </ElButton>
      <ElButton
        type="primary"
        :disabled="!isReady"
        :loading="busy"
        @click="save"
      >
        {{ say('bank.saveColumns') }}
      </ElButton>
    </template>
  </ElDialog>
</template>

<style scoped>
.choose { margin: 10px 0; }
.columns { display: grid; grid-template-columns: 210px 230px minmax(0, 1fr); gap: 8px 14px; align-items: center; }
.columns span { overflow: hidden; text-overflow: ellipsis; white-space: nowrap; }
@media (max-width: 700px) { .columns { grid-template-columns: minmax(0, 1fr); gap: 2px; } .columns label { margin-top: 8px; } }
</style>
