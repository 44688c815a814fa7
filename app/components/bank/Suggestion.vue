<script setup lang="ts">
import type { MatchView } from '~~/shared/bank'

/** One guess at whose money a line is, with what speaks for it and against. */
defineProps<{ match: MatchView, number: number, currency: string, busy: boolean, mayTake: boolean }>()
const emit = defineEmits<{ take: [] }>()
const spelling = useSpelling()
const { matchReasonWords } = useWords().bank
</script>

<template>
  <div class="suggestion">
    <kbd>{{ number }}</kbd>
    <div>
      <BankParts
        v-slot="{ part }"
        :parts="match.parts"
      >
        {{ spelling.amountIn(part.amount, currency) }} <span class="soft small">{{ part.due > 0 ? say('bank.due', { due: spelling.amountIn(part.due, currency) }) : say('bank.nothingDue') }}</span>
      </BankParts>
      <p class="small">
        {{ say('bank.surely', { score: Math.round(match.score * 100) }) }}: {{ match.reasons.map(reason => matchReasonWords[reason]).join('; ') }}
      </p>
    </div>
    <ElButton
      v-if="mayTake"
      :loading="busy"
      @click="emit('take')"
    >
      {{ say('bank.takeThis') }}
    </ElButton>
  </div>
</template>

<style scoped>
.suggestion {
  display: grid; grid-template-columns: 22px minmax(0, 1fr) auto; gap: 4px 10px; align-items: start; padding: 8px 0;
  border-bottom: 1px solid var(--line);
}
kbd { margin-top: 4px; text-align: center; }
</style>
