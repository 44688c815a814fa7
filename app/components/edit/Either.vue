<script setup lang="ts">
import type { SchemaNode } from '~~/core/notice/form'
import { valueAt } from '~~/core/notice/finding'

/** A value that is either plain or made of parts: a fixed number or one taken from an answer. */
const props = defineProps<{ node: SchemaNode, at: string, label: string, cell?: boolean }>()
const { draft, forms } = useNoticeEditor()
const choices = computed(() => {
  const form = forms.formOf(props.node)
  return form.kind === 'either' ? form.forms : []
})
const value = computed(() => valueAt(draft.document.value, props.at))
const isParts = (node: SchemaNode) => forms.formOf(node).kind === 'parts'
const hasParts = computed(() => typeof value.value === 'object' && value.value !== null)
// Of several forms with parts the one that knows them all.
const own = computed(() => {
  const fitting = choices.value.filter(node => isParts(node) === hasParts.value)
  return fitting.find(node => Object.keys(value.value ?? {}).every(key => Object.hasOwn(forms.resolve(node).properties ?? {}, key)))
    ?? fitting[0]
})
const other = computed(() => choices.value.find(node => isParts(node) !== hasParts.value))
</script>

<template>
  <div>
    <EditValue
      v-if="own"
      :node="own"
      :at="at"
      :label="label"
      :cell="cell"
    />
    <button
      v-if="other"
      class="press small"
      @click="draft.set(at, forms.blankOf(other))"
    >
      {{ hasParts ? say('edit.aFixedNumberInstead') : say('edit.fromAnAnswerInstead') }}
    </button>
  </div>
</template>
