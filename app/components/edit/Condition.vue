<script setup lang="ts">
import { pointer, valueAt } from '~~/core/notice/finding'
import { referenceMembers } from '~~/core/notice/form'
import { conditionSchema } from '~~/core/notice/questions'

/** For whom something holds: comparisons of answers, joined by and, or and not; said in words as it grows. */
const props = withDefaults(
  defineProps<
    {
      at: string,
      label: string,
      /** Inside another condition. */
      inner?: boolean,
      /** In a cell of a table: in words until it is changed. */
      cell?: boolean,
    }
  >(),
  { inner: false, cell: false },
)
const { draft } = useNoticeEditor()
const { conditionWords } = useWords().conditions
type Held = Record<string, unknown>
const value = computed<Held>(() => {
  const held = valueAt(draft.document.value, props.at)
  return typeof held === 'object' && held !== null ? held as Held : {}
})
const shapes = ['in', 'between', 'all', 'any', 'not'] as const
type Shape = typeof shapes[number]
const shapeTitles: Record<Shape, string> = {
  in: say('edit.anAnswerIsOneOf'),
  between: say('edit.aNumberLiesBetween'),
  all: say('edit.allOf'),
  any: say('edit.anyOf'),
  not: say('edit.not'),
}
const shape = computed<Shape>(() =>
  'all' in value.value
    ? 'all'
    : 'any' in value.value
    ? 'any'
    : 'not' in value.value
    ? 'not'
    : 'in' in value.value
    ? 'in'
    : 'question' in value.value
    ? 'between'
    : 'in'
)
const members = computed(() => {
  const list = value.value[shape.value]
  return Array.isArray(list) ? list : []
})
const question = computed(() => String(value.value.question ?? ''))
const options = computed(() => {
  const document = draft.document.value
  const found = referenceMembers(document, 'options', question.value)
  const of = draft.readable.value.sections.flatMap(s => s.questions).find(q => q.id === question.value)
  return found.length > 0
    ? found
    : of?.kind === 'posts'
    ? referenceMembers(document, 'posts' as 'cities', '')
    : of?.kind === 'cities'
    ? referenceMembers(document, 'cities', '')
    : []
})
const questions = computed(() => referenceMembers(draft.document.value, 'questions', ''))
const words = computed(() => {
  const read = conditionSchema.safeParse(value.value)
  return read.success ? conditionWords(draft.readable.value, read.data) : ''
})
const unfolded = ref(false)
const blank = () => ({ question: '', in: [] })

function reshape(next: Shape) {
  const held = value.value
  const leaf = 'question' in held ? held : blank()
  switch (next) {
    case 'in':
      return draft.set(props.at, { question: question.value, in: Array.isArray(held.in) ? held.in : [] })
    case 'between':
      return draft.set(props.at, { question: question.value, from: '0' })
    case 'not':
      return draft.set(props.at, { not: shape.value === 'all' || shape.value === 'any' ? held : leaf })
    default:
      return draft.set(props.at, { [next]: members.value.length > 0 ? members.value : [shape.value === 'not' ? held : leaf] })
  }
}
const bound = (end: 'from' | 'to', text: string) => draft.set(`${props.at}${pointer(end)}`, text.trim() === '' ? undefined : text.trim())
</script>

<template>
  <span
    v-if="cell && words && !unfolded"
    class="small"
  >{{ words }} <button
    class="press"
    @click="unfolded = true"
  >{{ say('edit.change') }}</button></span>
  <div
    v-else
    class="condition"
  >
    <div class="line">
      <ElSelect
        :model-value="shape"
        :aria-label="say('edit.formOfCondition', { what: label })"
        style="width: 190px"
        @update:model-value="reshape"
      >
        <ElOption
          v-for="one in shapes"
          :key="one"
          :value="one"
          :label="shapeTitles[one]"
        />
      </ElSelect>
      <template v-if="shape === 'in' || shape === 'between'">
        <EditPick
          :value="question"
          :members="questions"
          :placeholder="say('edit.question')"
          :label="say('edit.questionOf', { what: label })"
          class="grow"
          @pick="to => draft.set(at, shape === 'in' ? { question: to, in: [] } : { ...value, question: to })"
        />
        <EditPick
          v-if="shape === 'in'"
          :value="Array.isArray(value.in) ? value.in.map(String) : []"
          :members="options"
          :free="options.length === 0"
          :placeholder="say('edit.isOneOf')"
          :label="say('edit.valueOf', { what: label })"
          class="grow"
          @pick="to => draft.set(`${at}/in`, to)"
        />
        <template v-else>
          <ElInput
            v-for="end in (['from', 'to'] as const)"
            :key="end"
            :model-value="String(value[end] ?? '')"
            :placeholder="end === 'from' ? say('edit.from') : say('edit.to')"
            :aria-label="`${label}, ${end === 'from' ? say('edit.from') : say('edit.to')}`"
            style="width: 80px"
            inputmode="decimal"
            @update:model-value="text => bound(end, text)"
          />
        </template>
      </template>
    </div>
    <div
      v-if="shape === 'not'"
      class="inside"
    >
      <EditCondition
        :at="`${at}/not`"
        :label="label"
        inner
      />
    </div>
    <div
      v-if="shape === 'all' || shape === 'any'"
      class="inside"
    >
      <div
        v-for="(_, i) in members"
        :key="i"
        class="member"
      >
        <EditCondition
          :at="`${at}/${shape}/${i}`"
          :label="label"
          inner
        />
        <button
          v-if="members.length > 1"
          class="press small"
          @click="draft.set(`${at}/${shape}`, members.filter((_one, k) => k !== i))"
        >
          {{ say('edit.takeOut') }}
        </button>
      </div>
      <button
        class="press small"
        @click="draft.set(`${at}/${shape}`, [...members, blank()])"
      >
        {{ say('edit.addAComparison') }}
      </button>
    </div>
    <span
      v-if="!inner && words"
      class="soft small"
    >{{ words }}</span>
  </div>
</template>

<style scoped>
.condition { min-width: 0; flex: 1; }
.line { display: flex; flex-wrap: wrap; gap: 6px; align-items: center; }
.grow { min-width: 180px; flex: 1; }
.inside { padding: 4px 0 4px 12px; border-left: 2px solid var(--line); }
.member { display: flex; gap: 8px; align-items: start; padding: 2px 0; }
</style>
