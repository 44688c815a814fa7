<script setup lang="ts" generic="T extends string">
/** One of a few that are all seen at once. */
defineProps<{ options: readonly { id: T, title: string }[], label: string }>()
const chosen = defineModel<string>({ required: true })
const name = useId()
</script>

<template>
  <div
    class="options"
    role="radiogroup"
    :aria-label="label"
  >
    <label
      v-for="option in options"
      :key="option.id"
    ><input
      v-model="chosen"
      type="radio"
      :name="name"
      :value="option.id"
    ><span>{{ option.title }}</span></label>
  </div>
</template>
