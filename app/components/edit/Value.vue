<script setup lang="ts">
import type { SchemaNode } from '~~/core/notice/form'
import { valueAt } from '~~/core/notice/finding'

/** One value of the notice, entered in the way that its schema asks for. */
const props = defineProps<
  {
    node: SchemaNode,
    at: string,
    /** What it is, for those who hear the page. */
    label: string,
    /** In a cell of a table. */
    cell?: boolean,
  }
>()
const { draft, forms } = useNoticeEditor()
const { valueTitle } = useWords().noticeParts
const form = computed(() => forms.formOf(props.node))
const value = computed(() => valueAt(draft.document.value, props.at))
const text = computed(() => typeof value.value === 'string' ? value.value : value.value === undefined ? '' : String(value.value))
const exponent = computed(() => draft.readable.value.body.currency.exponent)
const width = computed(() =>
  props.cell
    ? '100%'
    : form.value.kind === 'number' || form.value.kind === 'amount'
    ? '140px'
    : form.value.kind === 'text' && ['time', 'decimal', 'colour'].includes(form.value.form)
    ? '140px'
    : '100%'
)
const set = (after: unknown) => draft.set(props.at, after)

// A number is typed as text: what is none stays as typed, and the margin says so.
const typed = ref(shown())
const focused = ref(false)
watch([value, exponent], () => {
  if (!focused.value) typed.value = shown()
})
function shown(): string {
  if (forms.formOf(props.node).kind !== 'amount' || typeof valueAt(draft.document.value, props.at) !== 'number') {
    return String(valueAt(draft.document.value, props.at) ?? '')
  }
  const digits = draft.readable.value.body.currency.exponent
  return (Number(valueAt(draft.document.value, props.at)) / 10 ** digits).toFixed(digits)
}
function take(typedText: string) {
  typed.value = typedText
  const clean = typedText.trim().replace(',', '.').replace(/\s/g, '')
  if (clean === '') return set(undefined)
  const number = Number(clean)
  if (!Number.isFinite(number)) return set(typedText)
  set(form.value.kind === 'amount' ? Math.round(number * 10 ** exponent.value) : number)
}
function leave() {
  focused.value = false
  typed.value = shown()
}
</script>

<template>
  <EditCondition
    v-if="form.kind === 'condition'"
    :at="at"
    :label="label"
    :cell="cell"
  />
  <EditMoment
    v-else-if="form.kind === 'text' && form.form === 'moment'"
    :at="at"
    :label="label"
  />
  <SheetDateField
    v-else-if="form.kind === 'text' && form.form === 'date'"
    :input-id="`edit${at}`"
    :name="label"
    :answer="text"
    :flawed="false"
    @change="set"
  />
  <EditReference
    v-else-if="form.kind === 'reference'"
    :at="at"
    :to="form.to"
    :label="label"
  />
  <ElSelect
    v-else-if="form.kind === 'choice'"
    :model-value="text"
    :aria-label="label"
    style="max-width: 320px"
    @update:model-value="set"
  >
    <ElOption
      v-for="one in form.values"
      :key="one"
      :value="one"
      :label="valueTitle(one)"
    />
  </ElSelect>
  <ElCheckbox
    v-else-if="form.kind === 'yes-no'"
    :model-value="value === true"
    :aria-label="label"
    @update:model-value="checked => set(checked === true)"
  >
    {{ say('edit.yes') }}
  </ElCheckbox>
  <ElInput
    v-else-if="form.kind === 'number' || form.kind === 'amount'"
    :model-value="typed"
    :aria-label="label"
    inputmode="decimal"
    :style="{ width }"
    autocomplete="off"
    @update:model-value="take"
    @focus="focused = true"
    @blur="leave"
  />
  <EditMap
    v-else-if="form.kind === 'map'"
    :at="at"
    :label="label"
  />
  <EditMembers
    v-else-if="form.kind === 'members'"
    :node="node"
    :at="at"
    :label="label"
  />
  <EditKinds
    v-else-if="form.kind === 'kinds'"
    :node="node"
    :at="at"
    :label="label"
  />
  <EditEither
    v-else-if="form.kind === 'either'"
    :node="node"
    :at="at"
    :label="label"
    :cell="cell"
  />
  <EditParts
    v-else-if="form.kind === 'parts'"
    :node="node"
    :at="at"
    :label="label"
  />
  <ElInput
    v-else
    :model-value="text"
    :type="form.kind === 'text' && form.form === 'long' ? 'textarea' : 'text'"
    :autosize="{ minRows: 2, maxRows: 12 }"
    :aria-label="label"
    :placeholder="form.kind === 'text' && form.form === 'time' ? '09:30' : ''"
    :style="{ width }"
    autocomplete="off"
    @update:model-value="set"
  />
  <EditFindings
    v-if="form.kind !== 'members' && form.kind !== 'parts'"
    :at="at"
    :below="form.kind === 'condition'"
  />
</template>
