<script setup lang="ts">
import type { RunRow } from '~~/shared/centres'

/** What is proven of a run, as a word with a shape. */
const props = defineProps<{ standing: RunRow['standing'] }>()
const looks = {
  'certified': { shape: '✓', text: say('centres.provenBest'), tone: 'settled' },
  'by policy': { shape: '≡', text: say('centres.byPolicy'), tone: '' },
  'bounded': { shape: '≈', text: say('centres.bounded'), tone: '' },
  'not certified': { shape: '✕', text: say('centres.notCertified'), tone: 'refusal' },
} as const
const look = computed(() => looks[props.standing])
</script>

<template>
  <span
    :class="look.tone"
    class="nowrap"
  >{{ look.shape }} {{ look.text }}</span>
</template>
