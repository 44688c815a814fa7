<script setup lang="ts">
import type { LogFault } from '~~/core/records/sealed-log'
import type { SealCheck, SealState } from '~~/shared/records'

/** How far the log is sealed, and whether what was sealed still stood when it was checked last. */
const cycle = useCycleStore()
const spelling = useSpelling()
const { logFaultWords } = useWords().logFaults
const state = shallowRef<SealState | null>(null)
const { failure, reload } = useLoaded(async () => {
  state.value = await callApi<SealState>('/api/records/seal')
})
const { job, live, find, startAt, cancel } = useJob('check-log', reload)
// An office that has opened no cycle yet has no work either.
watch(() => cycle.code, (code) => {
  if (code) void attempt(find)
}, { immediate: true })
const check = () => attempt(() => startAt(cycle.path('jobs/check-log'), {}))
const found = computed<SealCheck | null>(() => {
  const { state: end, result } = job.value ?? {}
  return end === 'done' && typeof result?.rows === 'number'
    ? { rows: result.rows, heads: Number(result.heads), fault: JSON.parse(String(result.fault)) as LogFault | null }
    : null
})
</script>

<template>
  <section class="seal">
    <HouseAlert
      :text="failure"
      kind="refusal"
    />
    <div
      v-if="state"
      class="line"
    >
      <p v-if="state.head">
        <b>{{ say('records.sealed', { count: state.head.size }) }}</b> {{ say('records.headSignedAt', { at: spelling.instant(state.head.at), key: state.head.key }) }}
        <code :title="state.head.root">{{ state.head.root.slice(0, 16) }}…</code>
        <span
          v-if="state.waiting > 0"
          class="soft small"
        >{{ say('records.rowsWait', { count: state.waiting }) }}</span>
      </p>
      <p
        v-else
        class="soft"
      >
        {{ say('records.notSealedYet') }}
      </p>
      <div class="actions">
        <ElButton
          :disabled="!state.head || live || !cycle.code"
          :title="cycle.code ? undefined : say('records.checkNeedsCycle')"
          @click="check"
        >
          {{ say('records.checkIt') }}
        </ElButton>
        <a
          href="/api/records/seal/rows"
          download
        >{{ say('records.sealedRows') }}</a>
        <a
          href="/api/records/seal/heads"
          download
        >{{ say('records.signedHeads') }}</a>
      </div>
    </div>
    <JobsProgress
      :job="job"
      :live="live"
      :what="say('records.checking')"
      @cancel="cancel"
    />
    <HouseAlert
      v-if="found?.fault"
      :text="logFaultWords(found.fault)"
      kind="refusal"
    />
    <p
      v-else-if="found && job"
      class="whole"
      role="status"
    >
      ✓ {{ say('records.whole', { rows: found.rows, heads: found.heads }) }} <span class="soft small">{{ say('records.checkedAt', { at: spelling.instant(job.updatedAt), by: job.by }) }}</span>
    </p>
  </section>
</template>

<style scoped>
.seal { margin-bottom: 20px; padding: 10px 14px; border: 1px solid var(--line); border-radius: 6px; }
.line { display: flex; flex-wrap: wrap; gap: 8px 24px; align-items: center; justify-content: space-between; }
.line p { margin: 0; }
.line .small { margin-left: 8px; }
.whole { margin: 8px 0 0; }
.seal > :deep(.note) { margin: 10px 0 0; }
.actions { display: flex; gap: 16px; align-items: center; }
.seal .actions :deep(.el-button) { margin-top: 0; }
</style>
