<script setup lang="ts">
import type { DecisionView } from '~~/shared/applications'

/** What was decided before, the newest first, with its reasons. */
defineProps<{ decisions: DecisionView[] }>()
const spelling = useSpelling()
const { decisionWords } = useWords().states
</script>

<template>
  <template v-if="decisions.length > 0">
    <h3>{{ say('scrutiny.decisionsBefore') }}</h3>
    <p
      v-for="decision in decisions"
      :key="decision.at"
      class="small"
    >
      <b>{{ decisionWords[decision.decision] }}</b> {{ say('scrutiny.by', { by: decision.by, at: spelling.instant(decision.at) }) }}
      <span
        v-for="reason in decision.reasons"
        :key="reason.item + reason.reason"
        class="soft"
      ><br>{{ spelling.item(reason.item) }}: {{ reason.reason }}</span>
    </p>
  </template>
</template>
