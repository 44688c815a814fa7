<script setup lang="ts">
import type { RunRow } from '~~/shared/centres'

/** What is proven of a run, as a word with a shape. */
const props = defineProps<{ standing: RunRow['standing'] }>()
const looks = { 'certified': { shape: '✓', text: 'proven best', tone: 'settled' }, 'by policy': { shape: '≡', text: 'by policy', tone: '' }, 'not certified': { shape: '✕', text: 'not certified', tone: 'refusal' } } as const
const look = computed(() => looks[props.standing])
</script>

<template>
  <span
    :class="look.tone"
    class="nowrap"
  >{{ look.shape }} {{ look.text }}</span>
</template>
