<script setup lang="ts">
import { recordChanges } from '~~/core/words/en/records'

/** Who did what to one application, newest first, with the values before and after. */
defineProps<{ history: { at: string, actor: string, action: string, before: unknown, after: unknown }[] }>()
const { instant } = useSpelling()
</script>

<template>
  <ol>
    <li
      v-for="(event, i) in history"
      :key="i"
    >
      <span class="soft small nowrap">{{ instant(event.at) }}</span>
      <span><b>{{ event.action }}</b> <span class="soft">by {{ event.actor }}</span>
        <span class="soft small block">{{ recordChanges(event.before, event.after).slice(0, 8).join(' · ') }}</span></span>
    </li>
  </ol>
</template>

<style scoped>
ol { list-style: none; margin: 0; padding: 0; }
li { display: grid; grid-template-columns: 172px minmax(0, 1fr); gap: 12px; padding: 5px 0; border-bottom: 1px solid var(--line); }
.block { display: block; overflow-wrap: anywhere; }
</style>
