<script setup lang="ts">
import { verdictShapes } from '~~/core/words/en/work'
import type { PostVerdict } from '~~/core/eligibility/evaluate'

/** Which posts are open to this person, and why others are not; press a post for its clauses. */
defineProps<{ verdicts: PostVerdict[], chosen: string[] }>()
const words = { pass: 'open', fail: 'not open', unsure: 'not settled yet' }
const shut = ref<Record<string, boolean>>({})
</script>

<template>
  <div>
    <details
      v-for="verdict in verdicts"
      :key="verdict.post"
      :open="!shut[verdict.post] && (chosen.includes(verdict.post) || verdict.verdict !== 'pass')"
      @toggle="shut[verdict.post] = !($event.target as HTMLDetailsElement).open"
    >
      <summary :class="verdict.verdict">
        <span aria-hidden="true">{{ verdictShapes[verdict.verdict] }}</span> {{ verdict.title }}: {{ words[verdict.verdict] }}<span
          v-if="chosen.includes(verdict.post)"
          class="soft"
        > · applied for</span>
      </summary>
      <HouseFindingNote
        v-for="finding in verdict.findings"
        :key="finding.code + finding.about"
        :finding="finding"
      />
    </details>
  </div>
</template>

<style scoped>
details { padding: 4px 0 8px; }
summary { cursor: pointer; font-weight: 600; }
summary .soft { font-weight: 400; }
.pass { color: var(--settled); }
.fail { color: var(--refusal); }
.unsure { color: var(--attention); }
</style>
