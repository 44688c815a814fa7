<script setup lang="ts">
import type { Finding } from '~~/core/finding/finding'

/** The findings on one thing: those that want a look first and open, those in order folded into a line. */
const props = defineProps<{ findings: Finding[], /** Codes whose place on a picture can be shown. */ places?: string[] }>()
const pointed = defineModel<string | null>('pointed', { default: null })
const open = computed(() => props.findings.filter(f => f.verdict !== 'pass'))
const inOrder = computed(() => props.findings.filter(f => f.verdict === 'pass'))
</script>

<template>
  <div>
    <HouseFindingRows
      v-model:pointed="pointed"
      :findings="open"
      :places="places"
    />
    <details
      v-if="inOrder.length > 0"
      :open="inOrder.length < 3 && open.length === 0"
    >
      <summary><span aria-hidden="true">✓</span> {{ say('house.measurementsInOrder', { inOrder: inOrder.length }) }}</summary>
      <HouseFindingRows
        v-model:pointed="pointed"
        :findings="inOrder"
        :places="places"
      />
    </details>
  </div>
</template>

<style scoped>
summary { cursor: pointer; color: var(--settled); padding: 3px 0; }
</style>
