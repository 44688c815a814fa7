<script setup lang="ts">
import type { Headline } from '~~/core/application/tracks'

const { headlineShapes } = useWords().work
const { headlineWords } = useWords().states

/** A status: its word with its shape, never a colour alone. */
defineProps<{ headline: Headline }>()
const tone: Partial<Record<Headline, string>> = {
  'fee due': 'attention',
  'returned': 'attention',
  'refused': 'refusal',
  'card issued': 'settled',
}
</script>

<template>
  <span
    class="nowrap"
    :class="tone[headline]"
  ><span
    aria-hidden="true"
    class="shape"
  >{{ headlineShapes[headline] }}</span> {{ headlineWords[headline] }}</span>
</template>

<style scoped>
.shape { display: inline-block; width: 1.1em; text-align: center; }
</style>
