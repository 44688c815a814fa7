<script setup lang="ts">
interface Option {
  id: string
  title: string
}
/**
 * One of several, from the browser's own list, which a telephone shows over its whole screen. Options stand alone or under the title of
 * their group.
 */
defineProps<{ options?: readonly Option[], groups?: readonly { title: string, options: readonly Option[] }[], placeholder?: string }>()
const picked = defineModel<string>({ required: true })
</script>

<template>
  <select
    v-model="picked"
    class="field"
    :class="{ 'is-blank': picked === '' }"
  >
    <option value="">
      {{ placeholder ?? say('sheet.pickOne') }}
    </option>
    <option
      v-for="option in options"
      :key="option.id"
      :value="option.id"
    >
      {{ option.title }}
    </option>
    <optgroup
      v-for="group in groups"
      :key="group.title"
      :label="group.title"
    >
      <option
        v-for="option in group.options"
        :key="option.id"
        :value="option.id"
      >
        {{ option.title }}
      </option>
    </optgroup>
  </select>
</template>

<style scoped>
select { width: 260px; max-width: 100%; }
.is-blank { color: var(--el-text-color-placeholder); }
option, optgroup { color: var(--ink); background: var(--sheet); }
</style>
