<script setup lang="ts">
import { stepsOf, pointer, valueAt } from '~~/core/notice/finding'
import { referenceMembers } from '~~/core/notice/form'
import type { Reference } from '~~/core/notice/questions'

/** An id, or several, taken from one of the notice's own lists. */
const props = defineProps<{ at: string, to: Reference, label: string, several?: boolean }>()
const { draft } = useNoticeEditor()
// Options and columns belong to the question that is named beside the value, one step up for a list.
const beside = computed(() => {
  const steps = stepsOf(props.at)
  const at = pointer(...steps.slice(0, -1), 'question')
  return String(valueAt(draft.document.value, at) ?? '')
})
const members = computed(() => referenceMembers(draft.document.value, props.to, beside.value))
const value = computed(() => valueAt(draft.document.value, props.at))
const list = computed(() => Array.isArray(value.value) ? value.value.map(String) : [])
</script>

<template>
  <EditPick
    :value="several ? list : String(value ?? '')"
    :members="members"
    :label="label"
    @pick="to => draft.set(at, to)"
  />
</template>
