<script setup lang="ts">
import type { Finding } from '~~/core/finding/finding'

/** The findings on one thing: those that want a look first and open, those in order folded into a line. */
const props = defineProps<{ findings: Finding[] }>()
const open = computed(() => props.findings.filter(f => f.verdict !== 'pass'))
const inOrder = computed(() => props.findings.filter(f => f.verdict === 'pass'))
</script>

<template>
  <div>
    <HouseFindingNote
      v-for="finding in open"
      :key="finding.code"
      :finding="finding"
    />
    <details
      v-if="inOrder.length > 0"
      :open="inOrder.length < 3 && open.length === 0"
    >
      <summary><span aria-hidden="true">✓</span> {{ inOrder.length }} {{ inOrder.length === 1 ? 'measurement' : 'measurements' }} in order</summary>
      <HouseFindingNote
        v-for="finding in inOrder"
        :key="finding.code"
        :finding="finding"
      />
    </details>
  </div>
</template>

<style scoped>
summary { cursor: pointer; color: var(--settled); padding: 3px 0; }
</style>
