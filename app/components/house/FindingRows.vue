<script setup lang="ts">
import '~/words/later'
import type { Finding } from '~~/core/finding/finding'

/**
 * Findings on a file one under the other, with the words for them; of those measured on a picture the place can be shown by pressing one,
 * and hidden by pressing it again.
 */
defineProps<{ findings: Finding[], /** Codes whose place on a picture can be shown. */ places?: string[] }>()
const pointed = defineModel<string | null>('pointed', { default: null })
</script>

<template>
  <HouseFindingNote
    v-for="finding in findings"
    :key="finding.code"
    :finding="finding"
    :pointable="places?.includes(finding.code) ?? false"
    :pointed="pointed === finding.code"
    @point="pointed = pointed === $event ? null : $event"
  />
</template>
