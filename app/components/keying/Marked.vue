<script setup lang="ts">
import { differingPart } from '~~/core/application/keying'

/** A text as it was keyed, with what differs from the other one marked. */
const props = defineProps<{ text: string, other: string }>()
const parts = computed(() => {
  const letters = [...props.text]
  const { before, after } = differingPart(props.text, props.other)
  return {
    head: letters.slice(0, before).join(''),
    differs: letters.slice(before, letters.length - after).join(''),
    tail: letters.slice(letters.length - after).join(''),
  }
})
</script>

<template>
  <span class="text">{{ parts.head }}<mark v-if="parts.differs">{{ parts.differs }}</mark>{{ parts.tail }}</span>
</template>

<style scoped>
.text { white-space: pre-wrap; overflow-wrap: anywhere; }
mark { background: color-mix(in srgb, var(--attention) 22%, transparent); color: inherit; padding: 0 1px; }
</style>
