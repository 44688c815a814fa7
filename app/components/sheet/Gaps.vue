<script setup lang="ts">
import '~/words/later'

/** All that is missing or wrong, each a press away. */
defineProps<{ gaps: readonly { id: string, title: string }[] }>()
const emit = defineEmits<{ go: [id: string] }>()
</script>

<template>
  <section
    class="gaps"
    :aria-label="say('parts.allThatIsMissing')"
  >
    <ol>
      <li
        v-for="(gap, i) in gaps"
        :key="i"
      >
        <button
          type="button"
          class="press"
          @click="emit('go', gap.id)"
        >
          {{ gap.title }}
        </button>
      </li>
    </ol>
  </section>
</template>

<style scoped>
.gaps { flex: 0 0 100%; max-height: 45vh; overflow-y: auto; }
ol { columns: 2; column-gap: 32px; margin: 0; padding-left: 24px; }
li { padding: 2px 0; break-inside: avoid; }
.press { text-align: left; }
@media (max-width: 900px) { ol { columns: 1; } }
</style>
