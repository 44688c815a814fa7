<script setup lang="ts">
import type { RefusalCode } from '~~/core/refusal/codes'
import type { ErasureView } from '~~/shared/records'

/** What becomes of the data of people after a cycle: from when they may be erased, who has released them, and what was erased. */
const cycle = useCycleStore()
const session = useSessionStore()
const spelling = useSpelling()
const { refusalText } = useWords().refusals
const state = shallowRef<ErasureView | null>(null)
const isAsking = ref(false)
const busy = ref(false)
const { failure, reload } = useLoaded(async () => {
  state.value = cycle.code ? await callApi<ErasureView>(cycle.path('erasure')) : null
})
watch(() => cycle.code, reload)
const why = computed(() => state.value?.refusal ? refusalText(state.value.refusal.code as RefusalCode, state.value.refusal.parameters) : '')
async function release(reason: string) {
  busy.value = true
  if (await attempt(() => callApi(cycle.path('erasure'), { method: 'POST', body: { reason } }))) isAsking.value = false
  busy.value = false
  await reload()
}
</script>

<template>
  <section
    v-if="state || failure"
    class="erasing"
  >
    <HouseAlert
      :text="failure"
      kind="refusal"
    />
    <div
      v-if="state"
      class="line"
    >
      <p v-if="state.done">
        <b>{{ say('records.erased', { cycle: cycle.code }) }}</b> {{ say('records.erasedWhat', { at: spelling.instant(state.done.at), applications: state.done.applications, files: state.done.files, accounts: state.done.accounts }) }}
      </p>
      <p v-else-if="state.released">
        <b>{{ say('records.released', { cycle: cycle.code }) }}</b> {{ say('records.releasedBy', { by: state.released.by, at: spelling.instant(state.released.at) }) }}
        <code>npm run erase</code>
      </p>
      <p v-else>
        <b>{{ say('records.kept', { cycle: cycle.code, applications: state.applications }) }}</b> {{ state.proposed ? say('records.releaseProposed', { by: state.proposed.by, reason: state.proposed.reason }) : why || say('records.mayBeErased') }}
      </p>
      <ElButton
        v-if="!state.released && !state.proposed && session.may('records.erase')"
        :disabled="why !== ''"
        :title="why"
        @click="isAsking = true"
      >
        {{ say('records.release') }}
      </ElButton>
    </div>
    <p v-if="state && state.alone.waiting > 0">
      {{ say('records.aloneWaiting', { waiting: state.alone.waiting }) }} <code>npm run erase</code>
      <NuxtLink
        v-for="one in state.alone.first"
        :key="one.id"
        class="number"
        :to="`/intake/${one.id}`"
      >
        {{ one.number }}
      </NuxtLink>
    </p>
    <p
      v-if="state && state.alone.erased > 0"
      class="soft"
    >
      {{ say('records.aloneErased', { erased: state.alone.erased }) }}
    </p>
    <HouseReasonDialog
      v-if="isAsking"
      :title="say('records.releaseTitle', { cycle: cycle.code })"
      :note="say('records.releaseNote', { applications: state?.applications ?? 0 })"
      :placeholder="say('records.releaseReason')"
      :label="say('records.releaseReason')"
      :press="say('records.releasePress')"
      :busy="busy"
      @give="release"
      @close="isAsking = false"
    />
  </section>
</template>

<style scoped>
.erasing { margin-bottom: 20px; padding: 10px 14px; border: 1px solid var(--line); border-radius: 6px; }
.line { display: flex; flex-wrap: wrap; gap: 8px 24px; align-items: center; justify-content: space-between; }
p { margin: 8px 0 0; }
.number { margin-left: 12px; font-variant-numeric: tabular-nums; }
.line p { margin: 0; flex: 1 1 420px; }
.line :deep(.el-button) { margin-top: 0; }
</style>
