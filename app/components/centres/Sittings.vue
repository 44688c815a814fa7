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
    <table class="plain-table">
      <thead>
        <tr>
          <th>{{ say('centres.testPapers') }}</th><th>{{ say('centres.inTheSessions') }}</th><th class="number">
            {{ say('centres.placed') }}
          </th><th class="number">
            {{ say('centres.withoutASeat') }}
          </th>
        </tr>
      </thead>
      <tbody>
        <tr
          v-for="row in sittings"
          :key="row.papers.join() + row.sessions.join() + row.kept.join()"
        >
          <td>
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
          </td>
          <td class="soft">
            <div
              v-for="(session, i) in row.sessions"
              :key="i"
            >
              {{ session }}
            </div>
          </td>
          <td class="number">
            {{ countText(row.placed) }}
          </td>
          <td
            class="number"
            :class="{ refusal: row.unseated > 0 }"
          >
            {{ countText(row.unseated) }}
          </td>
        </tr>
      </tbody>
    </table>
    <p class="soft small">
      {{ say('centres.whatPeopleSitHelp') }}
    </p>
  </section>
</template>

<style scoped>
section { margin-top: 24px; }
td { vertical-align: top; padding: 4px 16px 4px 0; }
</style>
