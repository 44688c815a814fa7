<script setup lang="ts">
import '~/words/later'
import type { CorrectionPage, WaitingCorrection } from '~~/shared/corrections'

/** Corrections that wait for the office, those first that have waited longest: old beside new, what follows, and the answer. */
useHead({ title: titled(say('correction.corrections')) })
const cycle = useCycleStore()
const rows = shallowRef<WaitingCorrection[]>([])
const next = ref<string | null>(null)
const isRead = ref(false)

async function load(after?: string) {
  const page = await callApi<CorrectionPage>(cycle.path('corrections'), { query: { after } })
  rows.value = after ? [...rows.value, ...page.rows] : page.rows
  next.value = page.next
  isRead.value = true
}
function decided(id: string) {
  rows.value = rows.value.filter(row => row.applicationId !== id)
  if (rows.value.length === 0) void attempt(() => load())
}
const { failure } = useLoaded(() => load())
</script>

<template>
  <div class="page">
    <ScrutinyAreas />
    <div class="page-head">
      <h1>{{ isRead ? say('correction.waiting', { count: rows.length, hasMore: String(next !== null) }) : say('correction.corrections') }}</h1>
    </div>
    <HouseAlert
      :text="failure"
      kind="refusal"
    />
    <CorrectionDecision
      v-for="row in rows"
      :key="row.applicationId"
      :row="row"
      @decided="decided(row.applicationId)"
    />
    <ElButton
      v-if="next"
      @click="attempt(() => load(next ?? undefined))"
    >
      {{ say('band.more') }}
    </ElButton>
  </div>
</template>
