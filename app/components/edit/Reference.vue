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
  <ElSelect
    v-if="several"
    :model-value="list"
    multiple
    filterable
    :aria-label="label"
    :placeholder="members.length === 0 ? say('edit.nothingToChooseFrom') : say('edit.choose')"
    @update:model-value="(to: string[]) => draft.set(at, to)"
  >
    <ElOption
      v-for="one in members"
      :key="one.id"
      :value="one.id"
      :label="one.title"
    />
  </ElSelect>
  <ElSelect
    v-else
    :model-value="String(value ?? '')"
    filterable
    :aria-label="label"
    :placeholder="members.length === 0 ? say('edit.nothingToChooseFrom') : say('edit.choose')"
    @update:model-value="(to: string) => draft.set(at, to)"
  >
    <ElOption
      v-for="one in members"
      :key="one.id"
      :value="one.id"
      :label="one.title"
    />
  </ElSelect>
</template>
