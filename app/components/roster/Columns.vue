<script setup lang="ts" generic="Name extends string">
/** Which columns of the roster are shown; the number always is. */
defineProps<{ columns: readonly Name[], hidden: readonly string[], words: Record<Name, string> }>()
const emit = defineEmits<{ hide: [names: string] }>()
</script>

<template>
  <ElPopover
    trigger="click"
    width="200"
  >
    <template #reference>
      <ElButton>{{ say('roster.columns') }}</ElButton>
    </template>
    <ElCheckbox
      v-for="c in columns"
      :key="c"
      :model-value="!hidden.includes(c)"
      :disabled="c === 'number'"
      class="column"
      @change="emit('hide', columns.filter(o => o === c ? !hidden.includes(c) : hidden.includes(o)).join(',') || ',')"
    >
      {{ words[c] }}
    </ElCheckbox>
  </ElPopover>
</template>

<style scoped>
.column { display: flex; }
</style>
