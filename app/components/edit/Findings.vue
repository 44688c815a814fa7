<script setup lang="ts">
/** What was found at one place, in words; with `below` also at all places under it. */
const props = defineProps<{ at: string, below?: boolean }>()
const { draft } = useNoticeEditor()
const { noticeFindingWords } = useWords().notices
const here = computed(() => draft.findings.value.filter(f => f.at === props.at || (props.below && f.at.startsWith(`${props.at}/`))))
</script>

<template>
  <span
    v-for="(finding, i) in here"
    :key="i"
    class="said small"
    :class="finding.severity === 'error' ? 'refusal' : 'attention'"
  >{{ noticeFindingWords(draft.readable.value, finding) }}</span>
</template>

<style scoped>
.said { display: block; padding-top: 2px; }
</style>
