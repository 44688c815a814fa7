<script setup lang="ts">
import '~/words/later'
import type { QuestionView } from '~~/shared/questions'

/** What was asked of the office about this application, what it answered, and a place to ask. */
const props = defineProps<{ applicationId: string, mayAsk: boolean }>()
const cycle = useCycleStore()
const spelling = useSpelling()
const now = useNow()
const rows = shallowRef<QuestionView[] | null>(null)
const about = ref('')
const text = ref('')
const { busy, refusal, send } = useSubmission()
const address = `/api/applications/${props.applicationId}/questions`
const { failure } = useLoaded(async () => {
  rows.value = await callApi<QuestionView[]>(address)
})
const sections = computed(() => cycle.notice?.sections ?? [])
const partOf = (id: string) => sections.value.find(section => section.id === id)?.title ?? ''
const ask = () =>
  send(async () => {
    rows.value = await callApi<QuestionView[]>(address, { method: 'POST', body: { about: about.value, text: text.value.trim() } })
    text.value = ''
  })
</script>

<template>
  <div class="sheet-row head">
    <div class="body">
      <h2 class="section-title">
        {{ say('parts.questions') }}
      </h2>
      <HouseAlert
        :text="failure || refusal"
        kind="refusal"
      />
      <div
        v-for="row in rows ?? []"
        :key="row.id"
        class="one"
      >
        <p class="said">
          {{ row.text }}
        </p>
        <p class="soft small">
          {{ [partOf(row.about), spelling.instant(row.at)].filter(Boolean).join(' · ') }}
        </p>
        <p
          v-if="row.answer"
          class="said answer"
        >
          {{ row.answer.text }}<br><span class="soft small">{{ say('parts.answeredBy', { by: row.answer.by, at: spelling.instant(row.answer.at) }) }}</span>
        </p>
        <p
          v-else
          class="attention small"
        >
          {{ say(row.dueAt < now.toISOString() ? 'parts.answerLate' : 'parts.answerDue', { at: spelling.instant(row.dueAt) }) }}
        </p>
      </div>
      <form
        v-if="mayAsk"
        @submit.prevent="ask"
      >
        <label for="question-about">{{ say('parts.questionAbout') }}</label>
        <select
          id="question-about"
          v-model="about"
          class="field"
        >
          <option value="">
            {{ say('parts.questionAboutAll') }}
          </option>
          <option
            v-for="section in sections"
            :key="section.id"
            :value="section.id"
          >
            {{ section.title }}
          </option>
        </select>
        <label for="question-text">{{ say('parts.yourQuestion') }}</label>
        <textarea
          id="question-text"
          v-model="text"
          class="field"
          rows="4"
          maxlength="2000"
        />
        <HouseButton
          type="submit"
          :busy="busy"
          :disabled="text.trim().length < 5"
        >
          {{ say('sheet.askTheOffice') }}
        </HouseButton>
      </form>
    </div>
    <div class="beside">
      <p
        v-if="mayAsk"
        class="soft small"
      >
        {{ say('parts.questionsHelp') }}
      </p>
    </div>
  </div>
</template>

<style scoped>
.one { padding: 8px 0; border-bottom: 1px solid var(--line); }
.said { white-space: pre-wrap; }
.answer { border-left: 3px solid var(--accent); padding-left: 12px; margin-top: 6px; }
form { max-width: 560px; margin-top: 12px; }
label { display: block; font-size: 14px; font-weight: 600; margin-top: 8px; }
textarea, select { width: 100%; margin-bottom: 10px; }
</style>
