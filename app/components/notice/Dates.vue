<script setup lang="ts">
import { spellDate, spellInstant } from '~~/core/calendar/zone'
import type { Notice } from '~~/core/notice/schema'

/** The days and hours of a notice, one a line. */
const { notice } = defineProps<{ notice: Notice }>()
const lines = computed(() => {
  const { keyDates, posts, sessions, testPapers, body } = notice
  const at = (moment: string) => spellInstant(moment, body.zone)
  const titles = (list: readonly { title: string }[]) => list.map(one => one.title).join(', ')
  return [
    ...keyDateLines(keyDates).map(([title, moment]) => ({ title, says: at(moment) })),
    ...posts.flatMap(({ title: post, opens }) => opens ? [{ title: say('notice.postOpens', { post }), says: at(opens) }] : []),
    ...posts.flatMap(({ title: post, closes }) => closes ? [{ title: say('notice.postCloses', { post }), says: at(closes) }] : []),
    { title: say('notice.ageCountsOn'), says: spellDate(keyDates.ageOn) },
    ...sessions.map(({ title, date, reporting, gateCloses, starts, ends }) => ({
      title,
      says: say('notice.reportGateClosesTo', { date: spellDate(date), reporting, gateCloses, starts, ends }),
    })),
    ...testPapers.map(paper => ({
      title: paper.title,
      says: say('notice.testPaperHeld', {
        sessions: titles(sessions.filter(one => paper.sessions.includes(one.id))),
        posts: titles(posts.filter(post => post.testPapers.includes(paper.id))),
      }),
    })),
  ]
})
</script>

<template>
  <HouseTable
    :columns="[{ key: 'title', look: 'label', text: line => line.title }, { key: 'says', text: line => line.says }]"
    :rows="lines"
    :row-key="line => line.title + line.says"
  />
</template>

<style scoped>
:deep(.label) { width: 200px; }
</style>
