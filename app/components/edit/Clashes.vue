<script setup lang="ts">
import { valueAt } from '~~/core/notice/finding'

/** What came in from somebody else: told, and where both changed the same value, asked. */
const { draft } = useNoticeEditor()
const { placeWords } = useWords().notices
const shown = (value: unknown) =>
  value === undefined ? say('edit.noValue') : typeof value === 'string' ? value : JSON.stringify(value).slice(0, 200)
</script>

<template>
  <p
    v-if="draft.joined.value"
    class="note small came"
    role="status"
  >
    {{ say('edit.cameFromSomebody', { by: draft.joined.value.by, count: draft.joined.value.count }) }}
  </p>
  <div
    v-for="(clash, i) in draft.clashes.value"
    :key="i"
    class="note is-attention small came"
    role="alert"
  >
    <p><b>{{ say('edit.bothChanged') }}</b>: {{ placeWords(draft.document.value, clash.edit.at) }}</p>
    <p>{{ say('edit.yours', { value: shown(clash.edit.after) }) }}</p>
    <p>{{ say('edit.theirs', { value: shown(valueAt(draft.document.value, clash.edit.at)) }) }}</p>
    <p class="acts">
      <button
        class="press"
        @click="draft.settle(clash, true)"
      >
        {{ say('edit.takeMine') }}
      </button>
      <button
        class="press"
        @click="draft.settle(clash, false)"
      >
        {{ say('edit.keepTheirs') }}
      </button>
    </p>
  </div>
</template>

<style scoped>
.came { margin: 8px 24px; }
.acts { display: flex; gap: 16px; padding-top: 4px; }
</style>
