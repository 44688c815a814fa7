<script setup lang="ts">
import type { HistoryRow } from '~~/shared/applications'

const { logWords } = useWords().log
const { recordLines } = useWords().records

/** Who did what to one application, newest first, with the values before and after. */
defineProps<{ history: HistoryRow[] }>()
const cycle = useCycleStore()
const { instant } = useSpelling()
</script>

<template>
  <ol>
    <li
      v-for="(event, i) in history"
      :key="i"
    >
      <span class="soft small nowrap">{{ instant(event.at) }}</span>
      <span><b>{{ event.actor }}</b> {{ logWords[event.act] }} <span
        v-if="event.outsideDates"
        class="attention"
      >{{ say('house.outsideTheDates') }}</span><span v-if="event.reason">: {{ event.reason }}</span>
        <span
          v-if="event.noticeVersion"
          class="soft small nowrap"
        > · {{ say('house.underVersion', { version: event.noticeVersion }) }}</span>
        <span class="soft small block">{{ recordLines(cycle.notice, event.before, event.after).slice(0, 8).join(' · ') }}</span></span>
    </li>
  </ol>
</template>

<style scoped>
ol { list-style: none; margin: 0; padding: 0; }
li { display: grid; grid-template-columns: 172px minmax(0, 1fr); gap: 12px; padding: 5px 0; border-bottom: 1px solid var(--line); }
.block { display: block; overflow-wrap: anywhere; }
@media (max-width: 560px) { li { grid-template-columns: minmax(0, 1fr); gap: 0; } }
</style>
