<script setup lang="ts">
import { pointer, valueAt } from '~~/core/notice/finding'
import { referenceMembers } from '~~/core/notice/form'

/** What answers become: a question and a value for each. */
const props = defineProps<{ at: string, label: string }>()
const { draft } = useNoticeEditor()
const questions = computed(() => referenceMembers(draft.document.value, 'questions', ''))
const value = computed(() => {
  const held = valueAt(draft.document.value, props.at)
  return typeof held === 'object' && held !== null
    ? Object.entries(held as Record<string, unknown>).map(([question, answer]) => ({ question, answer: String(answer) }))
    : []
})
const options = (question: string) => referenceMembers(draft.document.value, 'options', question)
const rename = (from: string, to: string) =>
  draft.set(props.at, Object.fromEntries(value.value.map(({ question, answer }) => question === from ? [to, ''] : [question, answer])))
const free = computed(() => questions.value.filter(({ id }) => !value.value.some(({ question }) => question === id)))
</script>

<template>
  <div>
    <div
      v-for="{ question, answer } in value"
      :key="question"
      class="row"
    >
      <EditPick
        :value="question"
        :members="questions"
        :label="say('edit.questionOf', { what: label })"
        @pick="to => rename(question, String(to))"
      />
      <span class="soft">{{ say('edit.becomes') }}</span>
      <EditPick
        v-if="options(question).length > 0"
        :value="answer"
        :members="options(question)"
        :label="say('edit.valueOf', { what: label })"
        @pick="to => draft.set(`${at}${pointer(question)}`, to)"
      />
      <ElInput
        v-else
        :model-value="answer"
        :aria-label="say('edit.valueOf', { what: label })"
        @update:model-value="to => draft.set(`${at}${pointer(question)}`, to)"
      />
      <button
        class="press small"
        @click="draft.set(`${at}${pointer(question)}`, undefined)"
      >
        {{ say('edit.takeOut') }}
      </button>
    </div>
    <button
      v-if="free[0]"
      class="press small"
      @click="draft.set(`${at}${pointer(free[0].id)}`, '')"
    >
      {{ say('edit.addAnAnswer') }}
    </button>
    <EditFindings
      :at="at"
      below
    />
  </div>
</template>

<style scoped>
.row { display: grid; grid-template-columns: minmax(0, 1fr) auto minmax(0, 1fr) auto; gap: 8px; align-items: center; padding: 2px 0; }
</style>
