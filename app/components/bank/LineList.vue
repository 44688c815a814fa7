<script setup lang="ts">
import type { LineView } from '~~/shared/bank'

/** Lines of statements, one of which is looked at. */
defineProps<{ lines: readonly LineView[] }>()
const chosen = defineModel<string | null>({ required: true })
const spelling = useSpelling()
</script>

<template>
  <ul>
    <li
      v-for="line in lines"
      :key="line.id"
    >
      <button
        type="button"
        :aria-current="chosen === line.id ? 'true' : undefined"
        @click="chosen = line.id"
      >
        <span class="day">{{ line.bookedOn }}</span>
        <b>{{ line.name ?? say('bank.noName') }}</b>
        <span class="number">{{ spelling.amountIn(line.amount, line.currency) }}</span>
        <span class="soft small said">{{ [line.reference, line.text].filter(Boolean).join(' · ') }}</span>
        <span
          v-if="line.best !== null"
          class="small number guess"
          :title="say('bank.guessOf', { best: line.best })"
        >{{ say('bank.guess', { best: line.best }) }}</span>
      </button>
    </li>
  </ul>
</template>

<style scoped>
ul { list-style: none; padding: 0; margin: 0 0 12px; border-top: 1px solid var(--line); max-height: 640px; overflow-y: auto; }
li button {
  display: grid; grid-template-columns: 92px minmax(0, 1fr) auto; gap: 0 10px; width: 100%; text-align: left; font: inherit; color: inherit;
  background: none; border: 0; border-bottom: 1px solid var(--line); padding: 7px 8px; cursor: pointer;
}
li button[aria-current] { background: var(--accent-soft); box-shadow: inset 3px 0 0 var(--accent); }
.day { color: var(--ink-soft); }
.said { grid-column: 2; overflow: hidden; text-overflow: ellipsis; white-space: nowrap; }
.guess { color: var(--attention); }
</style>
