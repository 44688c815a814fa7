<script setup lang="ts">
import type { Answer, Answers } from '~~/core/application/answers'
import type { Finding } from '~~/core/finding/finding'
import type { Notice, Question } from '~~/core/notice/schema'

/** Questions that a correction may change: each as it would be, with what stands in the form beside it. */
defineProps<{ questions: Question[], notice: Notice, answers: Answers, /** Answers in the form. */ form: Answers, changes: Record<string, Answer>, faults: (question: string) => Finding[] }>()
const emit = defineEmits<{ change: [question: string, answer: Answer], leave: [question: string] }>()
const spelling = useSpelling()
</script>

<template>
  <div
    v-for="question in questions"
    :key="question.id"
    class="sheet-row"
  >
    <div class="body">
      <SheetQuestionField
        :question="question"
        :notice="notice"
        :answer="answers[question.id]"
        :readonly="false"
        :flawed="faults(question.id).length > 0"
        @change="emit('change', question.id, $event)"
      />
    </div>
    <div class="beside">
      <HouseFindingNote
        v-for="finding in faults(question.id)"
        :key="finding.code"
        :finding="finding"
      />
      <p
        v-if="question.id in changes"
        class="small"
      >
        {{ say('correction.inForce', { value: spelling.answer(question.id, form[question.id]) }) }}
        <button
          type="button"
          class="press small"
          @click="emit('leave', question.id)"
        >
          {{ say('correction.asBefore') }}
        </button>
      </p>
    </div>
  </div>
</template>
