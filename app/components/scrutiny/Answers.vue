<script setup lang="ts">
import type { Dossier } from '~~/shared/applications'
import type { CaseSection } from '~/composables/case-parts'

/** What somebody has answered, with what is doubted of it, what counts otherwise, and what has changed since it was decided last. */
const { dossier } = defineProps<{ dossier: Dossier, sections: readonly CaseSection[] }>()
const spelling = useSpelling()
const { feeStateWords } = useWords().states
const doubtful = (question: string) => dossier.doubts.some(d => d.about === question)

const fallen = (question: string) => JSON.stringify(dossier.counted[question] ?? '') !== JSON.stringify(dossier.answers[question] ?? '')
const changedFrom = (question: string) => {
  const change = dossier.changed.find(c => c.question === question)
  return change ? spelling.answer(question, change.before) : null
}
</script>

<template>
  <section
    v-for="section in sections"
    :key="section.id"
  >
    <h2 class="section-title">
      {{ section.title }}
    </h2>
    <dl>
      <template
        v-for="question in section.questions"
        :key="question.id"
      >
        <dt>{{ question.label }}</dt>
        <dd>
          <span :class="{ doubt: doubtful(question.id), fallen: fallen(question.id) }">
            {{ spelling.answer(question.id, dossier.answers[question.id]) }}
          </span>
          <span
            v-if="fallen(question.id)"
            class="refusal small"
          > {{ say('scrutiny.countsAsClaimFoundFalse', { counted: spelling.answer(question.id, dossier.counted[question.id]) }) }}</span>
          <span
            v-if="changedFrom(question.id) !== null"
            class="attention small"
          > {{ say('scrutiny.wasWhenLastDecided', { id: changedFrom(question.id) }) }}</span>
        </dd>
      </template>
    </dl>
  </section>
  <section>
    <h2 class="section-title">
      {{ say('scrutiny.fee') }}
    </h2>
    <dl>
      <dt>{{ say('scrutiny.assessed') }}</dt><dd>{{ dossier.assessment ? spelling.amount(dossier.assessment.total) : '–' }} · {{ feeStateWords[dossier.tracks.fee] }}</dd>
    </dl>
  </section>
</template>

<style scoped>
section { margin-bottom: 16px; }
dl { display: grid; grid-template-columns: minmax(120px, 190px) minmax(0, 1fr); gap: 3px 12px; margin: 6px 0 0; line-height: 1.3; }
dt { color: var(--ink-soft); }
dd { margin: 0; overflow-wrap: anywhere; }
.fallen { text-decoration: line-through; text-decoration-color: var(--refusal); }
.doubt { border-bottom: 2px solid var(--attention); }
</style>
