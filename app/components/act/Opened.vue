<script setup lang="ts">
/** What is opened for a correction: questions, pictures and papers by their names. */
defineProps<{ items: { id: string, title: string }[] }>()
const opened = defineModel<string[]>({ required: true })
</script>

<template>
  <label for="opened">{{ say('acts.whatIsOpened') }}</label>
  <ElSelect
    id="opened"
    v-model="opened"
    multiple
    filterable
    :placeholder="say('acts.questionsPicturesAndPapers')"
    :aria-label="say('acts.whatIsOpened')"
  >
    <ElOption
      v-for="item in items"
      :key="item.id"
      :value="item.id"
      :label="item.title"
    />
  </ElSelect>
</template>

<style scoped>
label { display: block; font-weight: 600; margin: 12px 0 4px; }
</style>
