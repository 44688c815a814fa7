<script setup lang="ts" generic="T extends string">
/** One of a few views of the same list, chosen by one press. */
defineProps<{ views: readonly { id: T, title: string }[], label: string }>()
const chosen = defineModel<T>({ required: true })
</script>

<template>
  <div
    role="group"
    :aria-label="label"
  >
    <button
      v-for="view in views"
      :key="view.id"
      type="button"
      :aria-pressed="chosen === view.id"
      @click="chosen = view.id"
    >
      {{ view.title }}
    </button>
  </div>
</template>

<style scoped>
button { font: inherit; background: none; border: 1px solid var(--line-strong); padding: 5px 12px; cursor: pointer; color: var(--ink); }
button + button { border-left: 0; }
button[aria-pressed="true"] { background: var(--accent); border-color: var(--accent); color: var(--on-accent); }
</style>
