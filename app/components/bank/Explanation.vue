<script setup lang="ts">
import type { LineDetail } from '~~/shared/bank'

/** What a line was explained by, by whom and when. */
const props = defineProps<{ line: LineDetail }>()
const spelling = useSpelling()
const { matchStepWords, matchReasonWords } = useWords().bank
const kind = computed(() =>
  ({
    'dues': 'dues',
    'settlement': 'settlement',
    'bank charge': 'charge',
    'refund': 'refund',
    'refund returned': 'returned',
    'sent back': 'back',
  })[props.line.explained?.explanation ?? ''] ?? 'dues'
)
</script>

<template>
  <div v-if="line.explained">
    <h2 class="section-title">
      {{ say('bank.explainedAs', { as: kind, what: line.explained.settlement ?? '' }) }}
    </h2>
    <BankParts
      v-slot="{ part }"
      :parts="line.explained.parts"
    >
      {{ spelling.amountIn(part.amount, line.currency) }}
    </BankParts>
    <p class="soft small">
      {{ line.explained.step
        ? say('bank.byItself', { step: matchStepWords[line.explained.step], score: Math.round((line.explained.score ?? 0) * 100), at: spelling.instant(line.explained.at) })
        : say('bank.byHand', { by: line.explained.by, at: spelling.instant(line.explained.at) }) }}
    </p>
    <p
      v-if="line.explained.reasons.length > 0"
      class="small last"
    >
      {{ line.explained.reasons.map(reason => matchReasonWords[reason]).join('; ') }}
    </p>
  </div>
</template>

<style scoped>
.last { margin-bottom: 12px; }
</style>
