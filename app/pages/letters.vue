<script setup lang="ts">
import type { AnnouncementView } from '~~/shared/announcements'
import type { LetterPage } from '~~/shared/candidates'

/** What went out of the house, the newest first. */
useHead({ title: titled(say('own.outbox')) })
const spelling = useSpelling()
const search = ref('')
const rows = shallowRef<LetterPage['rows']>([])
const next = shallowRef<LetterPage['next']>(null)
async function load(more = false) {
  const page = await callApi<LetterPage>('/api/letters', { query: { search: search.value, ...(more && next.value ? next.value : {}) } })
  rows.value = more ? [...rows.value, ...page.rows] : page.rows
  next.value = page.next
}
const many = shallowRef<AnnouncementView[]>([])
const cycle = useCycleStore()
const again = useDebounced(() => { void attempt(load) }, 300)
watch(search, again)
const { failure } = useLoaded(async () => {
  await load()
  if (cycle.code) many.value = await callApi<AnnouncementView[]>(cycle.path('announcements'))
})
</script>

<template>
  <div class="page">
    <h1>{{ say('own.outbox') }}</h1>
    <p class="soft small">
      {{ say('own.outboxHelp') }}
    </p>
    <HouseAlert
      :text="failure"
      kind="refusal"
    />
    <details v-if="many.length > 0">
      <summary><b>{{ say('questions.toMany', { n: many.length }) }}</b></summary>
      <table class="plain-table">
        <tbody>
          <tr
            v-for="one in many"
            :key="one.id"
          >
            <td class="nowrap">
              {{ spelling.instant(one.at) }}
            </td><td><b>{{ one.subject }}</b><br>{{ one.text }}</td><td>{{ one.by }}</td><td>
              {{ one.isWhole ? say('questions.manyReached', { reached: one.reached, without: one.without }) : say('questions.manyUnderWay') }} {{ one.unsent > 0 ? say('questions.manyUnsent', { unsent: one.unsent }) : '' }}
            </td>
          </tr>
        </tbody>
      </table>
    </details>
    <label
      for="find"
      class="small"
    >{{ say('own.find') }}</label>
    <ElInput
      id="find"
      v-model="search"
      style="max-width: 320px"
      autocomplete="off"
    />
    <table class="plain-table">
      <thead>
        <tr><th>{{ say('own.at') }}</th><th>{{ say('own.address') }}</th><th>{{ say('own.letter') }}</th><th>{{ say('own.state') }}</th></tr>
      </thead>
      <tbody>
        <tr
          v-for="row in rows"
          :key="row.id"
        >
          <td class="nowrap">
            {{ spelling.instant(row.at) || row.at }}
          </td><td class="address">
            {{ row.address }}
          </td><td><b>{{ row.subject }}</b><br>{{ row.body }}</td><td>{{ say('own.letterStates', { state: row.state }) }}</td>
        </tr>
      </tbody>
    </table>
    <button
      v-if="next"
      class="press"
      @click="attempt(() => load(true))"
    >
      {{ say('own.more') }}
    </button>
  </div>
</template>

<style scoped>
.address { overflow-wrap: anywhere; min-width: 160px; }
</style>
