<script setup lang="ts">
import type { LogRow } from '~~/shared/records'

const { logWords } = useWords().log
const { recordLines } = useWords().records

/** The log: who did what, to what, when, and what it changed. */
useHead({ title: titled(say('records.records')) })
const cycle = useCycleStore()
const spelling = useSpelling()
const route = useRoute()
const router = useRouter()
const rows = shallowRef<LogRow[]>([])
const end = ref(false)
const failure = ref('')
const subject = ref(String(route.query.subject ?? ''))

async function load(before?: number) {
  failure.value = ''
  try {
    const page = await callApi<LogRow[]>('/api/records', { query: { before, subject: String(route.query.subject ?? '') } })
    rows.value = before ? [...rows.value, ...page] : page
    end.value = page.length < 100
  } catch (error) {
    failure.value = problemText(error)
  }
}
watch(() => route.query.subject, () => load(), { immediate: true })
function filter() {
  const text = subject.value.trim()
  router.replace({ query: text ? { subject: text } : {} })
}
const lines = (row: LogRow) => recordLines(row.cycle === cycle.code ? cycle.notice : null, row.before, row.after).join(' · ')
</script>

<template>
  <div class="page">
    <div class="page-head">
      <h1>{{ say('records.records') }}</h1>
      <form
        class="actions"
        @submit.prevent="filter"
      >
        <ElInput
          v-model="subject"
          :placeholder="say('records.applicationNumber')"
          :aria-label="say('records.applicationNumber')"
          clearable
          @clear="filter"
        />
        <ElButton native-type="submit">
          {{ say('records.show') }}
        </ElButton>
      </form>
    </div>
    <template v-if="!route.query.subject">
      <RecordsSeal />
      <RecordsErasing />
    </template>
    <HouseAlert
      v-if="failure"
      :text="failure"
      kind="refusal"
    />
    <p
      v-else-if="rows.length === 0"
      class="soft"
    >
      {{ say('records.nothingIsRecorded', { hasSubject: String(Boolean(route.query.subject)), subject: String(route.query.subject) }) }}
    </p>
    <HouseTable
      v-else
      :columns="[
        { key: 'when', title: say('records.when'), kind: 'line', text: row => spelling.instant(row.at) },
        { key: 'who', title: say('records.who'), kind: 'line', text: row => row.actor },
        { key: 'did', title: say('records.did'), kind: 'line' },
        { key: 'to', title: say('records.to'), kind: 'line' },
        { key: 'changed', title: say('records.whatChanged'), look: 'soft small' },
      ]"
      :rows="rows"
      :row-key="row => row.id"
    >
      <template #did="{ row }">
        {{ logWords[row.act] }}<span
          v-if="row.outsideDates"
          class="attention"
        ><br>{{ say('records.outsideTheDates') }}</span>
      </template>
      <template #to="{ row }">
        <NuxtLink :to="{ query: { subject: row.subject } }">{{ row.shown }}</NuxtLink>
      </template>
      <template #changed="{ row }">
        <template v-if="row.reason">
          <b>{{ row.reason }}</b><br>
        </template>{{ lines(row) }}
      </template>
    </HouseTable>
    <ElButton
      v-if="!end && rows.length > 0"
      @click="load(rows.at(-1)?.id)"
    >
      {{ say('records.hundredMore') }}
    </ElButton>
  </div>
</template>

<style scoped>
:deep(td) { overflow-wrap: anywhere; }
.page :deep(.el-button) { margin-top: 12px; }
.page-head :deep(.el-button) { margin-top: 0; }
</style>
