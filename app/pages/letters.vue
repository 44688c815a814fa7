<script setup lang="ts">
import type { AnnouncementView } from '~~/shared/announcements'
import type { LetterPage } from '~~/shared/candidates'

/** What went out of the house, the newest first. */
useHead({ title: titled(say('letters.outbox')) })
const spelling = useSpelling()
const search = ref('')
const rows = shallowRef<LetterPage['rows']>([])
const next = shallowRef<LetterPage['next']>(null)
const mailFrom = ref<string | null>(null)
const isRead = ref(false)
async function load(more = false) {
  const page = await callApi<LetterPage & { mailFrom: string | null }>('/api/letters', {
    query: { search: search.value, ...(more && next.value ? next.value : {}) },
  })
  rows.value = more ? [...rows.value, ...page.rows] : page.rows
  next.value = page.next
  mailFrom.value = page.mailFrom
  isRead.value = true
}
const session = useSessionStore()
const { busy, refusal, send } = useSubmission()
const sendAgain = (id: string) =>
  send(async () => {
    await callApi(`/api/letters/${id}/again`, { method: 'POST' })
    tell(say('letters.sentAgain'))
    await load()
  })
const many = shallowRef<AnnouncementView[]>([])
const cycle = useCycleStore()
const again = useDebounced(() => {
  void attempt(load)
}, 300)
watch(search, again)
const { failure } = useLoaded(async () => {
  await load()
  if (cycle.code) many.value = await callApi<AnnouncementView[]>(cycle.path('announcements'))
})
</script>

<template>
  <div class="page">
    <h1>{{ say('letters.outbox') }}</h1>
    <p class="soft small">
      {{ say('letters.outboxHelp', { hasMail: String(mailFrom !== null), from: mailFrom ?? '' }) }}
    </p>
    <HouseAlert
      :text="failure || refusal"
      kind="refusal"
    />
    <details v-if="many.length > 0">
      <summary><b>{{ say('questions.toMany', { n: many.length }) }}</b></summary>
      <HouseTable
        :columns="[
          { key: 'at', kind: 'line', text: one => spelling.instant(one.at) },
          { key: 'letter' },
          { key: 'by', text: one => one.by },
          { key: 'reached' },
        ]"
        :rows="many"
        :row-key="one => one.id"
      >
        <template #letter="{ row: one }">
          <b>{{ one.subject }}</b><br>{{ one.text }}
        </template>
        <template #reached="{ row: one }">
          {{ one.isWhole ? say('questions.manyReached', { reached: one.reached, without: one.without }) : say('questions.manyUnderWay') }} {{ one.unsent > 0 ? say('questions.manyUnsent', { unsent: one.unsent }) : '' }}
          <NuxtLink
            v-if="one.isWhole && one.unread > 0"
            :to="`/roster?unread=${one.id}`"
            class="nowrap"
          >{{ say('letters.notReadBy', { n: one.unread }) }}</NuxtLink>
          <template v-else-if="one.isWhole && one.reached > 0">{{ say('letters.readByAll') }}</template>
        </template>
      </HouseTable>
    </details>
    <p class="find">
      <label for="find">{{ say('letters.find') }}</label>
      <ElInput
        id="find"
        v-model="search"
        autocomplete="off"
      />
    </p>
    <p
      v-if="isRead && rows.length === 0"
      class="soft"
    >
      {{ say('own.noLetters') }}
    </p>
    <HouseTable
      v-else
      :columns="[
        { key: 'at', title: say('letters.at'), kind: 'line', text: row => spelling.instant(row.at) || row.at },
        { key: 'address', title: say('letters.address'), look: 'address', text: row => row.address },
        { key: 'letter', title: say('letters.letter') },
        { key: 'state', title: say('letters.state') },
      ]"
      :rows="rows"
      :row-key="row => row.id"
    >
      <template #letter="{ row }">
        <b>{{ row.subject }}</b><br><span class="said">{{ row.body }}</span>
      </template>
      <template #state="{ row }">
        {{ say('own.letterStates', { state: row.state }) }}
        <div
          v-if="row.state === 'waiting' && (row.tries > 0 || row.notBefore)"
          class="soft small"
        >
          {{ [row.tries > 0 ? say('letters.triedInVain', { tries: row.tries }) : '', row.notBefore ? say('letters.waitsUntil', { at: spelling.instant(row.notBefore) || row.notBefore }) : ''].filter(Boolean).join(' · ') }}
        </div>
        <button
          v-if="session.may('letters.announce') && row.isFor && row.state !== 'waiting'"
          type="button"
          class="press small"
          :disabled="busy"
          @click="sendAgain(row.id)"
        >
          {{ say('letters.sendAgain') }}
        </button>
      </template>
    </HouseTable>
    <button
      v-if="next"
      class="press"
      @click="attempt(() => load(true))"
    >
      {{ say('letters.more') }}
    </button>
  </div>
</template>

<style scoped>
.said { white-space: pre-line; }
.find { display: flex; gap: 10px; align-items: center; margin: 14px 0; }
.find :deep(.el-input) { max-width: 320px; }
:deep(.address) { overflow-wrap: anywhere; min-width: 160px; }
</style>
