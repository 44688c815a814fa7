<script setup lang="ts">
import '~/words/later'
import { liveSheet } from '~~/core/application/answers'
import { slotOf } from '~~/core/application/slots'
import type { Dossier } from '~~/shared/applications'

/** Items that a correction may change: questions as they would be, with what stands in the form beside them, and files. */
const props = defineProps<
  { correction: Correction, /** The application with the files that are put forward. */ sheet: Dossier, items: readonly string[] }
>()
const cycle = useCycleStore()
const spelling = useSpelling()
const { view, dossier, answers, changes, change, leave, refresh } = props.correction
/** As they are asked of this person; what is not asked of them stands as the notice has it. */
const questions = computed(() => {
  const { notice } = cycle
  const asked = new Map(notice ? liveSheet(notice, answers.value).asked.map(question => [question.id, question]) : [])
  return notice?.sections.flatMap(s => s.questions).filter(q => props.items.includes(q.id)).map(q => asked.get(q.id) ?? q) ?? []
})
const slots = computed(() => props.items.flatMap(item => cycle.notice ? slotOf(cycle.notice, item) ?? [] : []))
const faults = (question: string) => view.value?.faults.filter(f => f.about === question) ?? []
</script>

<template>
  <template v-if="cycle.notice">
    <div
      v-for="question in questions"
      :key="question.id"
      class="sheet-row"
    >
      <div class="body">
        <SheetQuestionField
          :question="question"
          :notice="cycle.notice"
          :answer="answers[question.id]"
          :readonly="false"
          :flawed="faults(question.id).length > 0"
          @change="change(question.id, $event)"
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
          {{ say('correction.inForce', { value: spelling.answer(question.id, dossier?.answers[question.id]) }) }}
          <button
            type="button"
            class="press small"
            @click="leave(question.id)"
          >
            {{ say('correction.asBefore') }}
          </button>
        </p>
      </div>
    </div>
    <SheetFiles
      v-if="slots.length > 0"
      :dossier="sheet"
      :slots="slots"
      :is-open="() => true"
      :eager="false"
      @added="attempt(refresh)"
    />
  </template>
</template>
