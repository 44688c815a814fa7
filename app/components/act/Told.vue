<script setup lang="ts">
import type { ToldView } from '~~/shared/applications'

/** What the people of an application were told, and whether they have looked at it here. */
defineProps<{ told: ToldView[], hasAccount: boolean }>()
const { logWords } = useWords().log
const { instant } = useSpelling()
</script>

<template>
  <p
    v-if="!hasAccount"
    class="soft"
  >
    {{ say('letters.nobodyReads') }}
  </p>
  <ol>
    <li
      v-for="(one, i) in told"
      :key="i"
    >
      <span class="soft small nowrap">{{ instant(one.at) }}</span>
      <span>{{ one.kind === 'announce' ? say('letters.letterToMany', { subject: one.subject ?? '' }) : logWords[one.kind] }}</span>
      <span :class="one.isUnread && hasAccount ? 'attention' : 'soft'">{{ one.isUnread ? say(hasAccount ? 'letters.notRead' : 'letters.toldNobody') : one.seenAt ? say('letters.readAt', { at: instant(one.seenAt) }) : '' }}</span>
    </li>
  </ol>
</template>

<style scoped>
ol { list-style: none; margin: 0 0 24px; padding: 0; }
li { display: grid; grid-template-columns: 172px minmax(0, 1fr) auto; gap: 12px; padding: 5px 0; border-bottom: 1px solid var(--line); }
@media (max-width: 560px) { li { grid-template-columns: minmax(0, 1fr); gap: 0; } }
</style>
