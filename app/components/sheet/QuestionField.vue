<script setup lang="ts">
import { listAnswer, placeOfPostalCode, type Answer } from '~~/core/application/answers'
import { outOfTime } from '~~/core/application/acts/dates'
import { inTheWay } from '~~/core/application/timetable'
import type { Notice, Question } from '~~/core/notice/schema'

/** One question of the sheet with the input that fits its kind. Typing is never blocked: the margin says what is wrong. */
const props = defineProps<{ question: Question, notice: Notice, answer: Answer | undefined, readonly: boolean, flawed: boolean }>()
const emit = defineEmits<{ change: [answer: Answer] }>()
const spelling = useSpelling()
const own = inject('own', false)
/** What is written of home, for how far cities are. */
const postalCode = inject<Ref<string>>('postal code', ref(''))
/** What a candidate's browser may fill in of themself (WCAG 2.2, 1.3.5); whoever writes for somebody else is offered nobody's. */
const filledAs = computed(() =>
  ({ name: 'name', email: 'email', mobile: 'tel', postalCode: 'postal-code' } as Record<string, string>)[props.question.kind] ?? 'off'
)

// Ranking cities takes a part of its own; nobody begins with it.
const isLate = useLate()

const text = computed({
  get: () => typeof props.answer === 'string' ? props.answer : '',
  set: (value: string) => emit('change', value ?? ''),
})
const list = computed({ get: () => listAnswer({ own: props.answer ?? [] }, 'own'), set: (value: string[]) => emit('change', value) })
const rows = computed(() => Array.isArray(props.answer) ? props.answer.filter(member => typeof member !== 'string') : [])
const mode = computed(() =>
  props.question.kind === 'mobile' ? 'tel' : props.question.kind === 'email'
    ? 'email'
    : ['number', 'postalCode', 'marks'].includes(props.question.kind)
    ? 'decimal'
    : 'text'
)

/** What was typed, said back in a form that cannot be misread. */
const echo = computed(() => {
  return props.question.kind === 'postalCode' && text.value.length >= 2 ? placeOfPostalCode(props.notice, text.value) : ''
})
/** Long answers have several lines. */
const isLong = computed(() => props.question.kind === 'text' && props.question.maxLength > 300)
const inputId = computed(() => `q-${props.question.id}`)
const width = computed(() =>
  ({ name: '100%', text: '100%', email: '100%', mobile: '200px', postalCode: '120px', number: '120px', marks: '120px' } as Record<
    string,
    string
  >)[props.question.kind] ?? '100%'
)
</script>

<template>
  <div
    :id="`row-${question.id}`"
    class="question"
  >
    <label :for="inputId">{{ question.label }} <span
      v-if="!question.required"
      class="soft"
    >{{ say('sheet.mayStayBlank') }}</span></label>
    <div class="entry">
      <span
        v-if="readonly || (question.kind === 'cities' && !isLate)"
        class="value"
      >{{ spelling.answer(question.id, answer) }} <span
        v-if="question.kind === 'postalCode'"
        class="soft"
      >{{ echo }}</span></span>
      <FieldChoice
        v-else-if="question.kind === 'choice' && question.options.length <= 4"
        :id="inputId"
        v-model="text"
        :options="question.options"
        :label="question.label"
      />
      <FieldPick
        v-else-if="question.kind === 'choice'"
        :id="inputId"
        v-model="text"
        :options="question.options"
        :class="{ flawed }"
      />
      <div
        v-else-if="question.kind === 'posts'"
        :id="inputId"
        class="options"
        role="group"
        :aria-label="question.label"
      >
        <label
          v-for="post in notice.posts"
          :key="post.id"
        ><input
          v-model="list"
          type="checkbox"
          :value="post.id"
        ><span>{{ post.title }} <span
          v-if="outOfTime(post, new Date()) === 'not yet'"
          class="soft small"
        >{{ say('sheet.postOpens', { opens: spelling.instant(post.opens ?? '') }) }}</span><span
          v-else-if="post.closes"
          class="soft small"
        >{{ say('sheet.postCloses', { closes: spelling.instant(post.closes), isOver: String(outOfTime(post, new Date()) === 'no more') }) }}</span> <span
          v-if="inTheWay(notice, list, post.id)"
          class="soft small"
        >{{ say('sheet.notTogether', { other: inTheWay(notice, list, post.id) ?? '' }) }}</span></span></label>
        <LazySheetRanked
          v-if="question.ranked && list.length > 1"
          v-model="list"
          :title="spelling.post"
          :says="say('sheet.inYourOrder')"
        />
      </div>
      <LazySheetTableField
        v-else-if="question.kind === 'table'"
        :question="question"
        :rows="rows"
        :flawed="flawed"
        @change="emit('change', $event)"
      />
      <LazySheetCityChoices
        v-else-if="question.kind === 'cities'"
        :id="inputId"
        v-model="list"
        :notice="notice"
        :postal-code="postalCode"
        :max="question.max"
      />
      <SheetDateField
        v-else-if="question.kind === 'date'"
        :input-id="inputId"
        :name="question.id"
        :answer="text"
        :flawed="flawed"
        :month-only="question.monthOnly"
        @change="emit('change', $event)"
      />
      <span
        v-else
        class="typed"
      ><textarea
        v-if="isLong"
        :id="inputId"
        v-model="text"
        :name="question.id"
        class="field long"
        rows="2"
        :aria-invalid="flawed"
        :class="{ flawed }"
      /><input
        v-else
        :id="inputId"
        v-model="text"
        :name="question.id"
        class="field"
        :inputmode="mode"
        :style="{ width }"
        :aria-invalid="flawed"
        :class="{ flawed }"
        :autocomplete="own ? filledAs : 'off'"
        spellcheck="false"
      > <span
        v-if="echo"
        class="soft"
      >{{ echo }}</span></span>
      <button
        v-if="!readonly && !question.required && question.kind === 'choice' && text"
        type="button"
        class="press small"
        @click="emit('change', '')"
      >
        {{ say('sheet.clearTheAnswer') }}
      </button>
      <p
        v-if="question.help && !readonly"
        class="soft small help"
      >
        <HouseLinked :text="question.help" />
      </p>
    </div>
  </div>
</template>

<style scoped>
.question { display: grid; grid-template-columns: 220px minmax(0, 1fr); gap: 2px 16px; padding: 5px 0; scroll-margin-top: 170px; }
.question > label { color: var(--ink-soft); padding-top: 7px; line-height: 1.25; }
.value { display: block; padding: 6px 0; overflow-wrap: anywhere; }
.typed { display: flex; gap: 12px; align-items: center; }
.help { padding-top: 2px; }
.long { width: 100%; field-sizing: content; max-height: 15lh; resize: vertical; }
@media (max-width: 900px) {
  .question { grid-template-columns: minmax(0, 1fr); }
  .question > label { padding-top: 2px; color: var(--ink); font-weight: 600; }
}
</style>
