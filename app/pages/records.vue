<script setup lang="ts">
import { recordPairs } from '~~/core/words/en/records'

/** The log: who did what, to what, when, with the state before and after. */
useHead({ title: 'Records · Lucid Roster' })
interface Row { id: number, at: string, actor: string, action: string, subject: string, before: unknown, after: unknown }
const spelling = useSpelling()
const route = useRoute()
const router = useRouter()
const rows = shallowRef<Row[]>([])
const end = ref(false)
const failure = ref('')
const subject = ref(String(route.query.subject ?? ''))

async function load(before?: number) {
  failure.value = ''
  try {
    const page = await callApi<Row[]>('/api/records', { query: { before, subject: String(route.query.subject ?? '') } })
    rows.value = before ? [...rows.value, ...page] : page
    end.value = page.length < 100
  } catch (error) {
    failure.value = problemText(error)
  }
}
watch(() => route.query.subject, () => load(), { immediate: true })
function filter() {
  const text = subject.value.trim()
  router.replace({ query: text ? { subject: /^[A-Z]{2}\d{2}-/i.test(text) ? `application:${text.toUpperCase()}` : text } : {} })
}
const lines = (value: unknown) => recordPairs(value).map(([name, text]) => `${name}: ${text}`).join(' · ')
</script>

<template>
  <div class="page">
    <div class="page-head">
      <h1>Records</h1>
      <form
        class="actions"
        @submit.prevent="filter"
      >
        <ElInput
          v-model="subject"
          placeholder="Application number"
          aria-label="Application number"
          clearable
          @clear="filter"
        />
        <ElButton native-type="submit">
          Show
        </ElButton>
      </form>
    </div>
    <HouseAlert
      v-if="failure"
      :text="failure"
      kind="refusal"
    />
    <p
      v-else-if="rows.length === 0"
      class="soft"
    >
      Nothing is recorded {{ route.query.subject ? `about ${route.query.subject}` : 'yet' }}.
    </p>
    <table
      v-else
      class="plain-table"
    >
      <thead><tr><th>when</th><th>who</th><th>did</th><th>to</th><th>before</th><th>after</th></tr></thead>
      <tbody>
        <tr
          v-for="row in rows"
          :key="row.id"
        >
          <td class="nowrap">
            {{ spelling.instant(row.at) }}
          </td><td class="nowrap">
            {{ row.actor }}
          </td><td class="nowrap">
            {{ row.action }}
          </td>
          <td class="nowrap">
            <NuxtLink :to="{ query: { subject: row.subject } }">{{ row.subject.replace('application:', '') }}</NuxtLink>
          </td>
          <td class="soft small cut">
            {{ lines(row.before) }}
          </td><td class="soft small cut">
            {{ lines(row.after) }}
          </td>
        </tr>
      </tbody>
    </table>
    <ElButton
      v-if="!end && rows.length > 0"
      @click="load(rows.at(-1)?.id)"
    >
      100 more
    </ElButton>
  </div>
</template>

<style scoped>
.cut { max-width: 320px; overflow: hidden; display: -webkit-box; -webkit-line-clamp: 2; -webkit-box-orient: vertical; overflow-wrap: anywhere; }
td.cut { display: table-cell; }
.page :deep(.el-button) { margin-top: 12px; }
.page-head :deep(.el-button) { margin-top: 0; }
</style>
