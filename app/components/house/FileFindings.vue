<script setup lang="ts">
import '~/words/later'
import type { Finding } from '~~/core/finding/finding'

/** Findings on a file; their words come along with them. */
defineProps<{ findings: Finding[], /** Codes whose place on a picture can be shown. */ places?: string[] }>()
const pointed = defineModel<string | null>('pointed', { default: null })
</script>

<template>
  <HouseFindingRows
    v-model:pointed="pointed"
    :findings="findings"
    :places="places"
  />
</template>
