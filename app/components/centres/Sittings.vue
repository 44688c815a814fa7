<script setup lang="ts">
import type { RunDetail } from '~~/shared/centres'

/** In cycles with test papers: who sits what, in which sessions, and how many of them have seats. */
defineProps<{ sittings: RunDetail['sittings'] }>()
</script>

<template>
  <section>
    <h2 class="section-title">
      {{ say('centres.whatPeopleSit') }}
    </h2>
    <HouseTable
      :columns="[
        { key: 'papers', title: say('centres.testPapers') },
        { key: 'sessions', title: say('centres.inTheSessions'), look: 'soft' },
        { key: 'placed', title: say('centres.placed'), kind: 'number', text: row => countText(row.placed) },
        {
          key: 'unseated',
          title: say('centres.withoutASeat'),
          kind: 'number',
          look: row => row.unseated > 0 ? 'refusal' : '',
          text: row => countText(row.unseated),
        },
      ]"
      :rows="sittings"
      :row-key="row => row.papers.join() + row.sessions.join() + row.kept.join()"
    >
      <template #papers="{ row }">
        <div
          v-for="paper in row.papers"
          :key="paper"
        >
          {{ paper }}
        </div>
        <div
          v-for="title in row.kept"
          :key="title"
          class="soft small"
        >
          {{ title }}
        </div>
      </template>
      <template #sessions="{ row }">
        <div
          v-for="(session, i) in row.sessions"
          :key="i"
        >
          {{ session }}
        </div>
      </template>
    </HouseTable>
    <p class="soft small">
      {{ say('centres.whatPeopleSitHelp') }}
    </p>
  </section>
</template>

<style scoped>
section { margin-top: 24px; }
</style>
