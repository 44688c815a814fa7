<script setup lang="ts">
import type { SealCheck, SealState } from '~~/shared/records'

/** How far the log is sealed, and whether what was sealed still stands. */
const spelling = useSpelling()
const { logFaultWords } = useWords().logFaults
const state = shallowRef<SealState | null>(null)
const found = shallowRef<SealCheck | null>(null)
const busy = ref(false)
const { failure, reload } = useLoaded(async () => { state.value = await callApi<SealState>('/api/records/seal') })
async function check() {
  busy.value = true
  await attempt(async () => { found.value = await callApi<SealCheck>('/api/records/seal/check', { method: 'POST' }) })
  busy.value = false
  await reload()
}
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
          :loading="busy"
          :disabled="!state.head"
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
    <HouseAlert
      v-if="found?.fault"
      :text="logFaultWords(found.fault)"
      kind="refusal"
    />
    <p
      v-else-if="found"
      class="whole"
      role="status"
    >
      ✓ {{ say('records.whole', { rows: found.rows, heads: found.heads }) }}
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
