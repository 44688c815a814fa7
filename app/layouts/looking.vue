<script setup lang="ts">
/** Somebody of the office looks at what a candidate sees: nothing around it, and nothing in it can be pressed. */
const session = useSessionStore()
const spelling = useSpelling()
const now = new Date().toISOString()
</script>

<template>
  <div class="plain">
    <header>
      <span><b>{{ say('letters.seenAsCandidate', { at: spelling.instant(now) }) }}</b> {{ say('letters.seenAsCandidateHelp') }}</span>
      <NuxtLink
        v-if="session.looksAs"
        :to="`/intake/${session.looksAs}`"
      >{{ say('letters.backToApplication') }}</NuxtLink>
    </header>
    <main>
      <fieldset disabled><slot /></fieldset>
    </main>
  </div>
</template>

<style scoped>
/* The face that candidates have. */
.plain { --serif: Georgia, 'Noto Serif', serif; min-height: 100vh; display: flex; flex-direction: column; }
header {
  display: flex; gap: 4px 24px; align-items: baseline; justify-content: space-between; flex-wrap: wrap; padding: 12px 20px;
  background: var(--accent-soft); border-bottom: 1px solid var(--line-strong);
}
main { flex: 1; display: flex; flex-direction: column; }
fieldset { display: contents; }
</style>
