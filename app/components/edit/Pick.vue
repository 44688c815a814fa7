<script setup lang="ts">
/** One or several members of a list, picked by title. */
withDefaults(
  defineProps<
    {
      value: string | string[],
      members: readonly { id: string, title: string }[],
      label: string,
      placeholder?: string,
      /** Members that the list does not have may be typed. */
      free?: boolean,
    }
  >(),
  { placeholder: undefined, free: false },
)
const emit = defineEmits<{ pick: [value: string | string[]] }>()
</script>

<template>
  <ElSelect
    :model-value="value"
    :multiple="Array.isArray(value)"
    filterable
    :allow-create="free"
    :aria-label="label"
    :placeholder="members.length === 0 && !free ? say('edit.nothingToChooseFrom') : placeholder ?? say('edit.choose')"
    @update:model-value="(to: string | string[]) => emit('pick', to)"
  >
    <ElOption
      v-for="one in members"
      :key="one.id"
      :value="one.id"
      :label="one.title"
    />
  </ElSelect>
</template>
