<script setup lang="ts">
import { valueAt } from '~~/core/notice/finding'

/** A moment of the draft as day and clock time in the zone of the body. */
const props = defineProps<{ at: string, label: string }>()
const { draft } = useNoticeEditor()
const value = computed({ get: () => String(valueAt(draft.document.value, props.at) ?? ''), set: moment => draft.set(props.at, moment) })
</script>

<template>
  <HouseMomentField
    v-model="value"
    :input-id="`edit${at}`"
    :label="label"
    :zone="draft.readable.value.body.zone"
  />
</template>
