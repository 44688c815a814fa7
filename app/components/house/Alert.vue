<script setup lang="ts">
/** What went wrong or must be known, in words; nothing while there is nothing to say. */
defineProps<{ text: string, kind: 'refusal' | 'attention' }>()
</script>

<template>
  <p
    v-if="text"
    class="note"
    :class="`is-${kind}`"
    role="alert"
  >
    {{ text }}
  </p>
</template>
